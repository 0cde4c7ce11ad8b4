#include "app/sheet/cut_hand.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "app/qt_text.h"
#include "app/sheet/pens.h"
#include "app/sheet/shape_path.h"
#include "app/sheet/sheet.h"
#include "app/theme.h"
#include "core/advise/slot_for.h"
#include "core/clear/spacing.h"
#include "core/clear/voltage_pairs.h"
#include "core/part/edit.h"
#include "core/shape/cut_outs.h"

namespace punch {
namespace {

constexpr double kStraight = 3;  // degrees

bool isDrawn(const CutOut& c) {
    const Length least = Length::fromMm(0.04);
    const Point d = c.to - c.from;
    if (c.kind == CutOutKind::Window) return abs(d.x) > least && abs(d.y) > least;
    return hypot(d.x, d.y) > least;
}

/// The end turned about the other one so that the slot lies along or across, where it nearly does.
Point straightened(Point fixed, Point end) {
    const Point d = end - fixed;
    const double angle = std::atan2(d.y.mm(), d.x.mm()) * 180 / std::numbers::pi;
    const double off = std::abs(std::remainder(angle, 90));
    if (off > kStraight || off == 0) return end;
    return abs(d.x) > abs(d.y) ? Point{end.x, fixed.y} : Point{fixed.x, end.y};
}

}  // namespace

Point CutHand::onRaster(Point p) const {
    const double step = view_.unit() == Unit::Mm ? 0.05 : 0.0508;
    const auto round = [&](Length l) { return Length::fromMm(std::nearbyint(l.mm() / step) * step); };
    return {round(p.x), round(p.y)};
}

std::vector<CutOut> CutHand::all() const {
    return cutOutsOf(document_.part(), document_.footprint(), document_.footprint().datum);
}

std::optional<CutHand::Held> CutHand::under(Point at) const {
    if (!document_.open()) return {};
    const Point datum = document_.footprint().datum;
    const Length reach = sheet_.reach();
    for (const CutOut& c : all()) {
        Held hand{c, c, Grip::Whole, at, false, {}, true};
        // The ends of a short slot leave its middle to be taken.
        const Length near = c.kind == CutOutKind::Slot
                                ? min(max(reach, c.width / 2), max(0.5 * reach, distance(c.from, c.to) / 3))
                                : reach;
        if (distance(at, c.to - datum) <= near)
            hand.grip = Grip::To;
        else if (distance(at, c.from - datum) <= near)
            hand.grip = Grip::From;
        else {
            if (!contains(*cutShapeOf(c, datum).rounded(), at)) continue;
        }
        return hand;
    }
    return {};
}

bool CutHand::press(const Touch& touch) {
    held_.reset();
    if (!document_.open() || view_.station() != Station::Size || sheet_.pictured() || touch.button != Qt::LeftButton)
        return false;
    const Point at = sheet_.transform().unmap(touch.at);
    if (view_.cutting()) {
        Held hand;
        hand.cut.kind = *view_.cutting();
        hand.cut.name = hand.cut.kind == CutOutKind::Slot ? "slot" : "window";
        hand.cut.width = view_.cutWidth();
        hand.pressed = at;
        hand.cut.from = hand.cut.to = onRaster(at) + document_.footprint().datum;
        hand.before = hand.cut;
        held_ = hand;
        return true;
    }
    held_ = under(at);
    hold(held_ ? held_->cut.id : std::string());
    return held_.has_value();
}

void CutHand::move(const Touch& touch) {
    if (!held_) return;
    const Point at = sheet_.transform().unmap(touch.at);
    const bool anyTurn = touch.keys & Qt::ControlModifier;
    const Point datum = document_.footprint().datum;
    CutOut& c = held_->cut;
    const bool slot = c.kind == CutOutKind::Slot;
    const auto end = [&](Point fixed) {
        Point p = onRaster(at);
        if (slot && !anyTurn) p = straightened(fixed - datum, p);
        return p + datum;
    };
    held_->moved = true;
    switch (held_->grip) {
        case Grip::New:
        case Grip::To: c.to = end(c.from); break;
        case Grip::From: c.from = end(c.to); break;
        case Grip::Whole: {
            const Point by =
                onRaster(held_->before.from - datum + (at - held_->pressed)) - (held_->before.from - datum);
            c.from = held_->before.from + by;
            c.to = held_->before.to + by;
        }
    }
    look();
}

/// What the cut-out in hand is, and what it makes of the worst distance.
void CutHand::look() {
    const Part& part = document_.part();
    const Footprint& f = document_.footprint();
    std::vector<Shape> cuts = f.cutOuts;
    std::erase_if(cuts, [&](const Shape& c) { return c.id == held_->cut.id; });
    cuts.push_back(cutShapeOf(held_->cut, f.datum));
    const Shape& shape = cuts.back();
    const Rect box = shape.box();
    const std::vector<Point>& corners = shape.rounded()->corners;
    const Point along = corners.back() - corners.front();
    held_->words = held_->cut.kind == CutOutKind::Slot
                       ? QObject::tr("slot %1 × %2")
                             .arg(view_.value(shape.milled.width, 2),
                                  view_.length(hypot(along.x, along.y) + shape.milled.width, 2))
                       : QObject::tr("window %1 × %2").arg(view_.value(box.width(), 2), view_.length(box.height(), 2));
    held_->good = true;
    if (const auto copper = nearestCopperTo(shape, f.board().copper());
        copper && copper->gap < part.rules.fab.copperToEdge) {
        held_->words += copper->gap < Length()
                            ? QObject::tr(": cuts into %1").arg(toQt(featureWords(part, copper->a)))
                            : QObject::tr(": %1 to %2, %3 asked")
                                  .arg(view_.value(copper->gap, 2), toQt(featureWords(part, copper->a)),
                                       view_.length(part.rules.fab.copperToEdge, 2));
        held_->good = false;
        return;
    }
    const auto pairs = voltagePairs(part, f.board().with(cuts));
    if (pairs.empty() || !pairs.front().refused.empty() || document_.footprint().voltages.empty()) return;
    const TightestWay now = tightestWay(document_.footprint().voltages.front());
    const TightestWay then = tightestWay(pairs.front());
    if (then.is >= noWay()) return;
    held_->words += QObject::tr(": worst %1 → %2 of %3")
                        .arg(view_.value(now.is, 2), view_.value(then.is, 2), view_.length(then.needs, 2));
    held_->good = then.is >= then.needs - Length::fromNm(1);
}

void CutHand::release(const Touch&, bool) {
    if (!held_) return;
    const Held hand = *held_;
    held_.reset();
    if (!hand.moved || hand.cut == hand.before) return;
    if (!isDrawn(hand.cut)) {
        view_.say(QObject::tr("Cut-out: draw it from one end to the other"));
        return;
    }
    if (hand.grip == Grip::New) {
        view_.setCutting({}, view_.cutWidth());
        view_.say({});
        document_.settle();
        document_.apply(QObject::tr("cut-out"),
                        withCutOut(document_.part(), attachedToNearest(hand.cut, document_.footprint())));
        hold(document_.part().marks.back().id);
        return;
    }
    document_.apply(
        QObject::tr("place of a cut-out"),
        withCutOutMoved(document_.part(), hand.cut.id, hand.cut.from - hand.before.from, hand.cut.to - hand.before.to));
}

void CutHand::hold(const std::string& id) {
    last_ = id;
    lastOf_ = document_.begun();
}

bool CutHand::remove() {
    if (!document_.open() || last_.empty() || lastOf_ != document_.begun()) return false;
    if (markById(document_.part(), last_) == nullptr) return false;
    held_.reset();
    document_.apply(QObject::tr("removal of a cut-out"), withoutMark(document_.part(), last_));
    last_.clear();
    return true;
}

bool CutHand::key(const QKeyEvent& event) {
    if (event.key() == Qt::Key_Delete) return view_.station() == Station::Size && remove();
    if (event.key() == Qt::Key_Escape) {
        held_.reset();
        view_.setCutting({}, view_.cutWidth());
    }
    return false;  // Esc lets go of everything
}

std::optional<Qt::CursorShape> CutHand::cursor(QPointF at) const {
    if (view_.station() != Station::Size || sheet_.pictured()) return {};
    if (view_.cutting()) return Qt::CrossCursor;
    const auto hand = under(sheet_.transform().unmap(at));
    if (!hand) return {};
    return hand->grip == Grip::Whole ? Qt::SizeAllCursor : Qt::PointingHandCursor;
}

void CutHand::paint(QPainter& p) const {
    if (!document_.open() || view_.station() != Station::Size) return;
    const SheetTransform& t = sheet_.transform();
    const Point datum = document_.footprint().datum;
    const auto ends = [&](const CutOut& c, const QColor& color) {
        p.setPen(cosmetic(color, 1.4));
        p.setBrush(theme::kPaper);
        for (const Point& end : {c.from, c.to}) p.drawRect(QRectF(t.map(end - datum) - QPointF(3, 3), QSizeF(6, 6)));
    };
    for (const CutOut& c : all())
        if (!held_ || c.id != held_->cut.id)
            ends(c, c.id == last_ && lastOf_ == document_.begun() ? theme::kPetrol : theme::kQuiet);
    if (!held_ || !held_->moved) return;
    const QColor color = held_->good ? theme::kPetrol : theme::kVermilion;
    QColor fill = color;
    fill.setAlphaF(0.15F);
    p.setPen(cosmetic(color, 1.6));
    p.setBrush(fill);
    const RoundedPolygon shape = *cutShapeOf(held_->cut, datum).rounded();
    p.drawPath(pathOf(shape, t));
    ends(held_->cut, color);
    p.setFont(theme::text(0.95, true));
    const QFontMetricsF metrics(p.font());
    const QRectF box = t.map(boundsOf(shape));
    QRectF words(0, 0, metrics.horizontalAdvance(held_->words) + 12, metrics.height() + 4);
    words.moveCenter(QPointF(box.center().x(), box.top() - metrics.height()));
    const QRectF view = QRectF(p.viewport()).adjusted(4, 4, -4, -4);
    words.moveLeft(std::clamp(words.left(), view.left(), std::max(view.left(), view.right() - words.width())));
    words.moveTop(std::max(words.top(), view.top()));
    p.setPen(Qt::NoPen);
    p.setBrush(theme::through(theme::kPaper, 0.92));
    p.drawRoundedRect(words, 4, 4);
    p.setPen(color);
    p.drawText(words, Qt::AlignCenter, held_->words);
}

}  // namespace punch
