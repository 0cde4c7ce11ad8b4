#pragma once
// Nothing on the bench yet: say what you are holding, and it stands there, loose.

#include <QComboBox>
#include <QGridLayout>
#include <QHBoxLayout>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QWidget>

#include "core/part/edit.h"

namespace punch {

/// A formation to choose, drawn as one sees it from the part side.
class FormationCard : public QPushButton {
    Q_OBJECT
public:
    struct Look {
        FormationPlan plan;
        bool ownPitch = false;
        QString title;
        QString words;  ///< what its pins are counted by
        bool pinless = false;
    };
    FormationCard(const Look& look, QWidget* parent);
    const Look& look() const { return look_; }
    QSize sizeHint() const override;

protected:
    void paintEvent(QPaintEvent*) override;

private:
    Look look_;
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
    FormationCard* chosen() const;
    void showChosen();
    QGridLayout* buildCards(QWidget* inner);
    QHBoxLayout* buildCounts(QWidget* inner);
    QWidget* buildFirst(QWidget* inner);
    std::vector<FormationCard*> cards_;
    QComboBox* lead_;
    QLineEdit* pins_;
    QLineEdit* pegs_;
    QLabel* wrong_;
    QWidget* first_;
};

}  // namespace punch
