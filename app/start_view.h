#pragma once
// Nothing on the bench yet: say what you are holding, and it stands there, loose.

#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QWidget>

#include "core/part/edit.h"

namespace punch {

/// How the leads of a row look: a card to choose by its drawing.
class LeadCard : public QPushButton {
    Q_OBJECT
public:
    LeadCard(LeadShape shape, const QString& title, const QString& words, QWidget* parent);
    LeadShape shape() const { return shape_; }
    QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    LeadShape shape_;
    QString title_, words_;
};

class StartView : public QWidget {
    Q_OBJECT
public:
    explicit StartView(QWidget* parent = nullptr);
    void setShowMe(bool possible);
    QLineEdit& pins() { return *pins_; }

signals:
    void partMade(const punch::Part& part);
    void showMe();

protected:
    void paintEvent(QPaintEvent*) override;

private:
    void make();
    std::vector<LeadCard*> cards_;
    QLineEdit* pins_;
    QLineEdit* pegs_;
    QLabel* wrong_;
    QWidget* first_;
};

}  // namespace punch
