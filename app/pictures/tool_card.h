#pragma once
// What the tool in hand wants next, and the fields that go with it: a length, a rectangle's size, what is read and how,
// what a dimension is the dimension of, how an outline is traced.

#include <QCheckBox>
#include <QComboBox>
#include <QFrame>
#include <QLineEdit>
#include <QPushButton>
#include <QStackedWidget>

#include "app/pictures/picture_work.h"
#include "app/widgets/length_edit.h"
#include "app/widgets/wrapped_label.h"

namespace punch {

class ToolCard : public QFrame {
    Q_OBJECT
public:
    ToolCard(Document& document, ViewState& view, PictureWork& work, QWidget* parent = nullptr);
    /// The tool's name in the bar over the sheet, and what it does.
    static QString name(PictureWork::Tool tool);
    static QString purpose(PictureWork::Tool tool);

private:
    QWidget* buildRead();
    QWidget* buildDimension();
    QWidget* buildOutline();
    QWidget* page(PictureWork::Tool tool) const;
    void refresh();
    void refreshTargets();
    void refreshDimension();
    void giveLength();
    void giveSquare();
    void giveDimension();
    void said(const Result<void>& done, QLineEdit* field);
    Document& document_;
    ViewState& view_;
    PictureWork& work_;
    WrappedLabel* title_;
    WrappedLabel* words_;
    QWidget* lengthRow_;
    QLineEdit* length_;
    QWidget* squareRow_;
    QLineEdit* square_;
    QWidget* read_;
    QComboBox* target_;
    QComboBox* how_;
    QWidget* dimension_;
    QLineEdit* value_;
    QComboBox* contact_;
    QComboBox* first_;
    QComboBox* second_;
    QWidget* outline_;
    QCheckBox* half_;
    LengthEdit* leaveOut_;
    QPushButton* closeOutline_;
    QPushButton* removeOutline_;
    bool filling_ = false;
};

}  // namespace punch
