#pragma once
// The trial board's window: parts of the library and the chosen thing's numbers at the left, the board in the middle,
// space and what is judged at the right.

#include <QListWidget>
#include <QMainWindow>
#include <QPushButton>

#include "app/board/board_model.h"
#include "app/board/board_sheet.h"
#include "app/board/board_space.h"
#include "app/widgets/length_edit.h"
#include "app/widgets/wrapped_label.h"

class QCheckBox;
class QLabel;
class QVBoxLayout;

namespace punch {

class BoardWindow : public QMainWindow {
    Q_OBJECT
public:
    /// `library`: the folder whose parts are offered.
    BoardWindow(const QString& library, QWidget* parent = nullptr);
    Result<void> open(const QString& path) { return model_.open(path); }
    BoardModel& model() { return model_; }
    BoardSheet& sheet() { return *sheet_; }
    BoardSpace& space() { return *space_; }
    /// A part's file, its datum there; in a free place near the middle without one.
    void addPart(const QString& file, std::optional<Point> at = {});
    /// All files into a folder, or none.
    void exportTo(const QString& folder);
    /// Edge and cut-outs from a DXF; asks for its unit where it does not say it.
    void takeOutline(const QString& file, std::optional<double> mmPerUnit = {});
    QString message() const { return message_->text(); }

signals:
    void partWanted(const QString& file);  ///< on the bench

private:
    QWidget* buildColumn();
    QWidget* buildSide();
    void buildChosen(QVBoxLayout* box);  // this and the next: board_chosen.cpp
    void refreshChosen();
    void buildKeys();
    LengthEdit* length(const char* name, const QString& words, std::function<void(TrialBoard&, Length)> set,
                       Length least, Length most);
    void edit(const QString& what, const std::function<void(TrialBoard&)>& change);
    void fillParts();
    void refresh();
    void refreshFindings();
    void say(const QString& words, bool good = false);
    void offerFiducials();
    void addHole();
    BoardModel model_;
    ViewState view_;
    QString library_;
    BoardSheet* sheet_;
    BoardSpace* space_;
    QLineEdit *name_, *search_, *designator_, *corners_;
    QListWidget *parts_, *findings_;
    LengthEdit *width_, *height_, *corner_, *thickness_, *x_, *y_, *hole_, *clear_;
    QLineEdit* turn_;
    QCheckBox* bottom_;
    QWidget *chosen_, *partRows_, *holeRows_;
    WrappedLabel *chosenWords_, *outlineWords_;
    QPushButton* side_;
    QLabel* state_;
    WrappedLabel* message_;
};

}  // namespace punch
