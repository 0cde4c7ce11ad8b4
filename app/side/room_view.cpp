#include "app/side/room_view.h"

#include <QPainter>

#include "app/qt_text.h"
#include "app/side/section_view.h"
#include "app/theme.h"
#include "core/clear/room.h"
#include "core/part/numbering.h"

namespace punch {

RoomView::RoomView(Document& document, ViewState& view, QWidget* parent)
    : QWidget(parent), document_(document), view_(view) {
    setObjectName("room");
    setAccessibleName(tr("Room of the lands"));
    setFixedHeight(sizeHint().height());
    connect(&document_, &Document::changed, this, &RoomView::refresh);
    connect(&view_, &ViewState::chosenChanged, this, &RoomView::refresh);
    connect(&view_, &ViewState::unitChanged, this, &RoomView::refresh);
}

QSize RoomView::sizeHint() const {
    const int em = theme::em();
    return {17 * em, rooms_.size() > 1 ? 2 * em + 2 * 11 * em / 2 : 7 * em};
}

void RoomView::refresh() {
    rooms_.clear();
    title_.clear();
    if (document_.open()) {
        const Pad* pad = document_.footprint().pad(shownFeature(document_, view_));
        if (pad == nullptr && !document_.footprint().pads.empty()) pad = &document_.footprint().pads.front();
        if (pad != nullptr) {
            const Formation& formation = document_.part().formations[pad->formation];
            for (const bool across : {false, true})
                if (const auto room = roomOfFormation(document_.part(), document_.footprint(), formation.id, across))
                    rooms_.push_back(*room);
            const auto [low, high] = std::pair{pinNumber(document_.part(), formation.pins.front()),
                                               pinNumber(document_.part(), formation.pins.back())};
            title_ = low == high ? tr("Room for land %1").arg(toQt(low))
                                 : tr("Room for lands %1 to %2").arg(toQt(low), toQt(high));
        }
    }
    setFixedHeight(sizeHint().height());
    update();
}

void RoomView::paintEvent(QPaintEvent*) {
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const double em = theme::em();
    p.setFont(theme::text(1.1, true));
    p.setPen(theme::kInk);
    p.drawText(QRectF(0, 0, width(), 1.5 * em), Qt::AlignLeft | Qt::AlignVCenter,
               title_.isEmpty() ? tr("Room of the lands") : title_ + " · " + view_.unitText());
    p.setFont(theme::text(0.9));
    if (rooms_.empty()) {
        p.setPen(theme::kQuiet);
        p.drawText(QRectF(0, 1.6 * em, width(), 3 * em), Qt::TextWordWrap,
                   tr("Known once leads and places are measured."));
        return;
    }
    for (std::size_t i = 0; i < rooms_.size(); ++i)
        paintRoom(p, rooms_[i], 1.4 * em + static_cast<double>(i) * 5.5 * em);
}

void RoomView::paintRoom(QPainter& p, const Room& r, double top) const {
    const double em = theme::em();
    if (rooms_.size() > 1) {
        p.setFont(theme::text(0.85));
        p.setPen(theme::kQuiet);
        p.drawText(QRectF(0, top, width(), 1.2 * em), Qt::AlignLeft | Qt::AlignVCenter,
                   r.across ? tr("length") : tr("width"));
    }
    if (r.least > mostLand()) {
        p.setFont(theme::text(0.9));
        p.setPen(theme::kVermilion);
        p.drawText(QRectF(0, top + 1.4 * em, width(), 3 * em), Qt::TextWordWrap,
                   tr("%1: no size helps, the ring is too thin along the other side.").arg(view_.value(r.now, 2)));
        return;
    }
    const bool none = r.most < r.least;
    const bool open = r.most >= mostLand();
    const double low = std::min({r.least.mm(), r.now.mm(), none ? r.most.mm() : r.least.mm()});
    const double high = std::max({r.least.mm(), r.now.mm(), open ? r.least.mm() * 1.8 : r.most.mm()});
    const double span = std::max(high - low, 0.2);
    const double from = low - 0.3 * span;
    const double to = high + 0.3 * span;
    const QRectF bar(em * 0.4, top + 2 * em, width() - em * 0.8, em * 0.8);
    const auto x = [&](double mm) { return bar.left() + (mm - from) / (to - from) * bar.width(); };
    p.setPen(Qt::NoPen);
    p.setBrush(theme::kRoomBad);
    p.drawRoundedRect(bar, em * 0.4, em * 0.4);
    if (!none) {
        p.setBrush(theme::kRoomGood);
        p.drawRect(
            QRectF(QPointF(x(r.least.mm()), bar.top()), QPointF(open ? bar.right() : x(r.most.mm()), bar.bottom())));
    }
    const bool inside = !none && r.now >= r.least - Length::fromNm(500) && r.now <= r.most + Length::fromNm(500);
    const double at = x(r.now.mm());
    p.setBrush(inside ? theme::kInk : theme::kVermilion);
    p.drawPolygon(QPolygonF({QPointF(at, bar.top()), QPointF(at - em * 0.45, bar.top() - em * 0.6),
                             QPointF(at + em * 0.45, bar.top() - em * 0.6)}));
    p.setFont(theme::digits(0.95, true));
    p.setPen(inside ? theme::kInk : theme::kVermilion);
    const double half = em * 3;
    const double centre = std::clamp(at, half, width() - half);
    p.drawText(QRectF(centre - half, top + 0.1 * em, 2 * half, 1.2 * em), Qt::AlignCenter, view_.value(r.now, 2));
    // The two ends with what binds there: one to the left, one to the right, so that they never meet.
    const auto words = [](const std::string& gauge) {
        return gauge == "ring"               ? QObject::tr("ring too thin")
               : gauge == "voltage"          ? QObject::tr("voltage")
               : gauge == "mask web"         ? QObject::tr("mask web")
               : gauge == "copper-to-copper" ? QObject::tr("copper too near")
                                             : toQt(gauge);
    };
    const QRectF left(0, bar.bottom() + em * 0.2, width() * 0.44, 1.2 * em);
    const QRectF right(width() * 0.36, bar.bottom() + em * 0.2, width() * 0.64, 1.2 * em);
    p.setFont(theme::digits(0.9));
    p.setPen(theme::kGo);
    p.drawText(left, Qt::AlignLeft | Qt::AlignVCenter, view_.value(r.least, 2));
    p.drawText(right, Qt::AlignRight | Qt::AlignVCenter, open ? tr("no limit near") : view_.value(r.most, 2));
    p.setFont(theme::text(0.85));
    p.setPen(theme::kVermilion);
    p.drawText(left.translated(0, 1.15 * em), Qt::AlignLeft | Qt::AlignVCenter, words(r.leastBy));
    QString who = open ? QString() : words(r.mostBy);
    for (const FeatureId& id : r.about)
        if (!open) who += tr(" to %1").arg(toQt(featureWords(document_.part(), id)));
    p.drawText(right.translated(0, 1.15 * em), Qt::AlignRight | Qt::AlignVCenter,
               p.fontMetrics().elidedText(who, Qt::ElideRight, static_cast<int>(right.width())));
}

}  // namespace punch
