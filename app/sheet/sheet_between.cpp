// Coordinates under the mouse, and the distance between two features pointed at.

#include <QPainter>
#include <algorithm>

#include "app/qt_text.h"
#include "app/sheet/sheet.h"
#include "app/theme.h"
#include "core/measure/between.h"

namespace punch {
namespace {

QString signedValue(const ViewState& view, Length l) {
    const QString v = view.value(l);
    return v.startsWith('-') ? v : "+" + v;
}

}  // namespace

QString Sheet::statusText() const {
    if (!view_.group().empty() && (!mouseIn_ || hovered_.empty() || hovered_ == kBody))
        return tr("%1 chosen: Size gives them one land or potential, Delete takes them out").arg(view_.group().size());
    const Footprint& f = document_.footprint();
    const auto pair = [&](Point p) { return tr("x %1  y %2").arg(signedValue(view_, p.x), signedValue(view_, p.y)); };
    const QString unit = view_.unitText();
    Point here;
    QString what;
    if (mouseIn_) {
        here = t_.unmap(mouse_);
        // On a feature its true centre counts, not the pixel under the mouse.
        if (const auto place = f.place(hovered_); place && !isFace(document_.part(), hovered_) && hovered_ != kBody) {
            here = *place;
            what = toQt(featureWords(document_.part(), hovered_)) + "  ";
        }
    } else if (const auto place = f.place(view_.first()); place) {
        here = *place;
        what = toQt(featureWords(document_.part(), view_.first())) + "  ";
    } else {
        return {};
    }
    QString text = what + pair(here) + " " + unit;
    const FeatureId from = view_.first();
    if (const auto place = f.place(from); place && mouseIn_ && from != hovered_)
        text += tr("   from %1: %2, %3 %4")
                    .arg(toQt(featureWords(document_.part(), from)), signedValue(view_, here.x - place->x),
                         signedValue(view_, here.y - place->y), unit);
    else
        text += tr("  from the datum");
    return text;
}

void Sheet::updateBetween() {
    between_.clear();
    if (!document_.open() || view_.second().empty()) return;
    const Part& part = document_.part();
    const auto b = between(part, view_.first(), view_.second());
    if (!b) return;
    const auto line = [&](const QString& words, const std::optional<DoubtfulLength>& d, bool sign) {
        if (!d) return;
        between_.push_back(
            QStringLiteral("%1 %2 %3")
                .arg(words, sign ? signedValue(view_, d->value) : view_.value(d->value),
                     d->doubt ? QStringLiteral("± ") + view_.length(*d->doubt) : view_.unitText() + tr(", loose")));
    };
    between_.push_back(
        tr("%1 to %2").arg(toQt(featureWords(part, view_.first())), toQt(featureWords(part, view_.second()))));
    line(tr("distance"), b->direct, false);
    line(tr("along"), b->along, true);
    line(tr("across"), b->across, true);
    line(tr("inside"), b->inside, false);
    line(tr("outside"), b->outside, false);
}

void Sheet::paintBetween(QPainter& painter) const {
    if (between_.empty()) return;
    painter.setFont(theme::digits(0.95));
    const QFontMetricsF metrics(painter.font());
    double w = 0;
    for (const QString& l : between_) w = std::max(w, metrics.horizontalAdvance(l));
    const double h = metrics.height() * 1.15;
    QRectF box(0, 0, w + 20, h * static_cast<double>(between_.size()) + 12);
    box.moveBottomRight(QPointF(width() - 8.0, height() - theme::em() * 2.6));
    painter.setPen(QPen(theme::kPetrol, 1.2));
    painter.setBrush(theme::through(Qt::white, 0.94));
    painter.drawRoundedRect(box, 5, 5);
    double y = box.top() + 6;
    for (std::size_t i = 0; i < between_.size(); ++i) {
        painter.setPen(i == 0 ? theme::kPetrol : theme::kInk);
        painter.drawText(QRectF(box.left() + 10, y, w + 4, h), Qt::AlignLeft | Qt::AlignVCenter, between_[i]);
        y += h;
    }
}

}  // namespace punch
