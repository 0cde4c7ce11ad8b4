#pragma once
// Approval in Release: how far the part has come, who checked it, gauges that are let pass and why, its versions.

#include <QLineEdit>
#include <QPushButton>
#include <QVBoxLayout>
#include <map>

#include "app/document.h"
#include "app/view_state.h"
#include "app/widgets/wrapped_label.h"
#include "core/approval/approval.h"

namespace punch {

class ApprovalCard : public QWidget {
    Q_OBJECT
public:
    ApprovalCard(Document& document, ViewState& view, QWidget* parent = nullptr);

protected:
    void showEvent(QShowEvent* event) override;

private:
    void refresh();
    void addBlocking(const Blocking& blocking);
    void addPass(const LetPass& pass);
    QLabel* line(const QString& words, const char* colour);
    /// Makes the edit, or says why not.
    void edit(const QString& what, const Result<Part>& next);
    std::string who() const;
    Document& document_;
    ViewState& view_;
    WrappedLabel* state_;
    WrappedLabel* since_;
    QLineEdit* who_;
    QLineEdit* note_;
    QPushButton *check_, *release_;
    QWidget* gauges_;
    QVBoxLayout* rows_;
    std::map<std::string, QString> reasons_;  ///< typed and not yet taken
};

}  // namespace punch
