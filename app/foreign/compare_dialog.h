#pragma once
// The part laid over another one, or over the files of a board: where each pad is off, as arrows and as a table.

#include <QDialog>
#include <QTableWidget>

#include "app/foreign/foreign_choice.h"
#include "app/foreign/pattern_view.h"
#include "app/view_state.h"

namespace punch {

class CompareDialog : public QDialog {
    Q_OBJECT
public:
    /// `own`: the pattern of the part on the bench.
    CompareDialog(PadPattern own, const ViewState& view, QWidget* parent = nullptr);
    /// Opens another part or files of a board. False: it says why.
    bool open(const QStringList& files);

private:
    void again();
    void choosePad(int row);
    PadPattern own_, there_;
    Comparison how_;
    ForeignFile file_;
    const ViewState& view_;
    QComboBox *pattern_, *by_;
    PatternView* drawing_;
    QTableWidget* table_;
    WrappedLabel *words_, *differs_;
};

}  // namespace punch
