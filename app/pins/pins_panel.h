#pragma once
// Pins and symbol, under the sheet in Release: a table typed with the keyboard, joined by number or by dragging a pin
// onto a pad of the sheet, pasted from a spreadsheet or a drawing's text, with the symbol beside it.

#include <QComboBox>
#include <QLabel>
#include <QLineEdit>
#include <QPushButton>
#include <QTableWidget>
#include <map>

#include "app/document.h"
#include "app/pins/bench_note_line.h"
#include "app/pins/symbol_view.h"
#include "app/sheet/sheet.h"
#include "app/view_state.h"
#include "app/widgets/wrapped_label.h"
#include "core/pins/pin_table.h"

namespace punch {

class PinsPanel : public QWidget {
    Q_OBJECT
public:
    PinsPanel(Document& document, ViewState& view, Sheet& sheet, QWidget* parent = nullptr);
    void refresh();
    /// Text from the clipboard or a file: shown before it is taken.
    void offer(const QString& text);
    QTableWidget& table() { return *table_; }
    SymbolView& symbol() { return *symbol_; }
    /// Joins the pin of a row to the pad under this place of the sheet, if there is one.
    void joinAt(QPointF at, int row);

protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

private:
    /// Columns of the table.
    struct Col {
        enum : int { Number, Names, Kind, Side, Group, Element, Pads, Note, Count };
    };
    void buildTop();
    static QString cellOf(const Pin& pin, int column);
    void fillRow(int row, const Pin& pin, const QString& joined, const QString& trouble);
    /// A cell was typed: into the pins, or marked with what is wrong.
    void typed(int row, int column);
    void typedNew(const QString& number, const QString& names);
    void setPins(const QString& what, std::vector<Pin> pins);
    void removeRows();
    /// Up or down in the order of the symbol.
    void movePin(int row, int by);
    void chooseRow();
    void makeVariant();
    /// The pins that are shown: those of the part, of its chosen variant, or what is offered.
    const std::vector<Pin>& pins() const;

    Document& document_;
    ViewState& view_;
    Sheet& sheet_;
    QTableWidget* table_;
    SymbolView* symbol_;
    QComboBox* variant_;
    QPushButton* forPads_;
    QPushButton* draw_;
    QPushButton* differs_;
    QPushButton* paste_;
    QPushButton* take_;
    QPushButton* leave_;
    WrappedLabel* words_;
    BenchNoteLine* notes_;
    QPushButton* dropPinout_;
    std::optional<ReadPins> offered_;
    /// What was typed and means nothing, by pin and column: it stays until it is right.
    std::map<std::pair<std::string, int>, QString> wrong_;
    int begun_ = 0;
    bool filling_ = false;
};

}  // namespace punch
