#pragma once
// The block symbol of a part's pins, drawn as it is released; a click on a pin chooses it.

#include <QWidget>

#include "app/view_state.h"
#include "core/symbol/block_symbol.h"

namespace punch {

class SymbolView : public QWidget {
    Q_OBJECT
public:
    explicit SymbolView(QWidget* parent = nullptr);
    /// `wrong`: pins with something wrong, by their place in the list; `chosen`: -1 for none.
    void show(const Part& part, std::vector<std::size_t> wrong, int chosen);
    /// Where the end of a pin is drawn. For tests and the mouse.
    QPointF placeOf(std::size_t pin) const;

signals:
    void pinClicked(int pin);
    /// mm from the middle of the first block, on a quarter of the grid.
    void placeClicked(double x, double y);

protected:
    void paintEvent(QPaintEvent*) override;
    void mousePressEvent(QMouseEvent*) override;

private:
    /// px per mm, and where the symbol's 0, 0 lies.
    std::pair<double, QPointF> scale() const;
    QPointF map(Point p) const;
    BlockSymbol symbol_;
    std::vector<Shape> ink_;
    std::vector<std::size_t> wrong_;
    int chosen_ = -1;
};

}  // namespace punch
