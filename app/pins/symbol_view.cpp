#include "app/pins/symbol_view.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>
#include <cmath>

#include "app/theme.h"

namespace punch {

SymbolView::SymbolView(QWidget* parent) : QWidget(parent) {
    setObjectName("symbol");
    setAccessibleName(tr("Symbol"));
    setMinimumWidth(theme::em() * 9);
}

void SymbolView::show(const Part& part, std::vector<std::size_t> wrong, int chosen) {
    symbol_ = blockSymbol(part);
    ink_ = symbolInk(symbol_, part);
    wrong_ = std::move(wrong);
    chosen_ = chosen;
    update();
}

std::pair<double, QPointF> SymbolView::scale() const {
    const Rect box = boundsOf(ink_).grown(Length::fromMm(1.5));
    if (ink_.empty() || box.width() <= Length()) return {1, {}};
    const double s = std::min({width() / box.width().mm(), height() / box.height().mm(), theme::em() * 0.62});
    const Point middle = box.middle();
    return {s, {width() / 2.0 - s * middle.x.mm(), height() / 2.0 + s * middle.y.mm()}};
}

QPointF SymbolView::map(Point p) const {
    const auto [s, origin] = scale();
    return {origin.x() + s * p.x.mm(), origin.y() - s * p.y.mm()};
}

QPointF SymbolView::placeOf(std::size_t pin) const {
    for (const SymbolBlock& b : symbol_.blocks)
        for (const SymbolPin& p : b.pins)
            if (p.pin == pin) return map(p.end);
    return {-1, -1};
}

void SymbolView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    p.fillRect(rect(), theme::kPaper);
    if (ink_.empty()) {
        p.setPen(theme::kQuiet);
        p.drawText(rect().adjusted(8, 8, -8, -8), Qt::AlignCenter | Qt::TextWordWrap,
                   tr("The symbol is drawn from the pins"));
        return;
    }
    const auto [s, origin] = scale();
    for (const SymbolBlock& b : symbol_.blocks) {
        QColor fill = theme::kBodySlate;
        fill.setAlphaF(0.08F);
        p.fillRect(QRectF(map({b.box.left, b.box.top}), map({b.box.right, b.box.bottom})), fill);
        for (const SymbolPin& pin : b.pins) {
            const bool bad = std::find(wrong_.begin(), wrong_.end(), pin.pin) != wrong_.end();
            const bool here = static_cast<int>(pin.pin) == chosen_;
            if (!bad && !here) continue;
            p.setPen(QPen(bad ? theme::kVermilion : theme::kPetrol, here ? 5 : 3, Qt::SolidLine, Qt::RoundCap));
            p.drawLine(map(pin.foot), map(pin.end));
            // Wrong is a cross too.
            if (bad) {
                const QPointF at = map(pin.end);
                p.drawLine(at - QPointF(4, 4), at + QPointF(4, 4));
                p.drawLine(at - QPointF(4, -4), at + QPointF(4, -4));
            }
        }
    }
    for (const Shape& shape : ink_) {
        const bool block = shape.name == "block";
        p.setPen(QPen(block ? theme::kPetrol : theme::kInk, std::max(1.0, s * shape.line()->width.mm()), Qt::SolidLine,
                      Qt::RoundCap, Qt::RoundJoin));
        QPolygonF line;
        for (const Point& at : shape.points()) line << map(at);
        p.drawPolyline(line);
    }
}

void SymbolView::mousePressEvent(QMouseEvent* event) {
    double nearest = 14;
    int best = -1;
    for (const SymbolBlock& b : symbol_.blocks)
        for (const SymbolPin& pin : b.pins) {
            const QPointF a = map(pin.end), f = map(pin.foot), at = event->position();
            const QPointF mid = (a + f) / 2;
            for (const QPointF& q : {a, f, mid, map(pin.name.middle)})
                if (const double d = std::hypot(at.x() - q.x(), at.y() - q.y()); d < nearest) {
                    nearest = d;
                    best = static_cast<int>(pin.pin);
                }
        }
    if (best >= 0) emit pinClicked(best);
    if (symbol_.blocks.empty()) return;
    const auto [s, origin] = scale();
    const Point middle = symbol_.blocks.front().box.middle();
    const auto onGrid = [](double mm) { return std::round(mm / (kSymbolGrid / 4)) * (kSymbolGrid / 4) + 0.0; };
    emit placeClicked(onGrid((event->position().x() - origin.x()) / s - middle.x.mm()),
                      onGrid((origin.y() - event->position().y()) / s - middle.y.mm()));
}

}  // namespace punch
