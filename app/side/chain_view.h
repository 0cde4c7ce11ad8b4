#pragma once
// "Where does this number come from?": the chain of a chosen number, down to readings and rules. Each step is a link.

#include <QButtonGroup>
#include <QLabel>
#include <QScrollArea>
#include <QVBoxLayout>
#include <QWidget>

#include "app/document.h"
#include "app/view_state.h"

namespace punch {

class ChainView : public QWidget {
    Q_OBJECT
public:
    ChainView(Document& document, ViewState& view, QWidget* parent = nullptr);

signals:
    void readingWanted(const QString& id);
    void ruleWanted(const QString& field);
    void parameterWanted(const QString& name);

protected:
    void showEvent(QShowEvent* event) override;

private:
    /// What the rows show.
    struct Shown {
        Chain steps;
        Unit unit = Unit::Mm;
        friend bool operator==(const Shown&, const Shown&) = default;
    };
    void refresh();
    /// Of the mark that is worked on; false where there is none.
    bool showMark(Shown& now);
    Document& document_;
    ViewState& view_;
    QLabel* title_;
    QButtonGroup* choice_;
    QVBoxLayout* steps_;
    Shown shown_;
};

}  // namespace punch
