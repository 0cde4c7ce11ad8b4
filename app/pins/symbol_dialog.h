#pragma once
// What hands add to the symbol: shapes, attributes and what is shown, as lines of words beside the symbol that they
// make. A click on the symbol puts the place into the line that is being typed.

#include <QDialog>
#include <QLabel>
#include <QPlainTextEdit>
#include <QPushButton>

#include "app/pins/symbol_view.h"
#include "app/widgets/wrapped_label.h"
#include "core/part/part.h"

namespace punch {

class SymbolDialog : public QDialog {
    Q_OBJECT
public:
    explicit SymbolDialog(const Part& part, QWidget* parent = nullptr);
    /// As last understood.
    const SymbolDrawing& drawing() const { return part_.symbol; }

private:
    void typed();
    Part part_;
    QPlainTextEdit* text_;
    SymbolView* view_;
    WrappedLabel* words_;
    QPushButton* keep_;
};

}  // namespace punch
