#include "app/sheet/cut_hands.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "app/qt_text.h"
#include "app/sheet/pens.h"
#include "app/sheet/shape_path.h"
#include "app/theme.h"
#include "core/clear/spacing.h"
#include "core/clear/voltage_pairs.h"
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

Point CutHands::onRaster(Point p) const {
    const double step = view_.unit() == Unit::Mm ? 0.05 : 0.0508;
    const auto round = [&](Length l) { return Length::fromMm(std::nearbyint(l.mm() / step) * step); };
    return {round(p.x), round(p.y)};
}

std::optional<CutHands::Hand> CutHands::under(Point at, Length reach) const {
    if (!document_.open()) return {};
    const Point datum = document_.footprint().datum;
    for (const CutOut& c : document_.part().cutOuts) {
        Hand hand{c, c, Grip::Whole, at, false, {}, true};
        // The ends of a short slot leave its middle to be taken.
        const Length near = c.kind == CutOutKind::Slot
                                ? min(max(reach, c.width / 2), max(0.5 * reach, distance(c.from, c.to) / 3))
                                : reach;
        if (distance(at, c.to - datum) <= near)
            hand.grip = Grip::To;
        else if (distance(at, c.from - datum) <= near)
            hand.grip = Grip::From;
        else {
            Part one;
            one.cutOuts = {c};
            if (!contains(cutShape(cutShapes(one, datum).front()), at)) continue;
        }
        return hand;
    }
    return {};
}

bool CutHands::press(Point at, Length reach) {
    hand_.reset();
    if (!document_.open() || view_.station() != Station::Size) return false;
    if (view_.cutting()) {
        Hand hand;
        hand.cut.kind = *view_.cutting();
        hand.cut.name = hand.cut.kind == CutOutKind::Slot ? "slot" : "window";
        hand.cut.width = view_.cutWidth();
        hand.pressed = at;
        hand.cut.from = hand.cut.to = onRaster(at) + document_.footprint().datum;
        hand.before = hand.cut;
        hand_ = hand;
        return true;
    }
    hand_ = under(at, reach);
    hold(hand_ ? hand_->cut.id : std::string());
    return hand_.has_value();
}

void CutHands::move(Point at, bool anyTurn) {
    if (!hand_) return;
    const Point datum = document_.footprint().datum;
    CutOut& c = hand_->cut;
    const bool slot = c.kind == CutOutKind::Slot;
    const auto end = [&](Point fixed) {
        Point p = onRaster(at);
        if (slot && !anyTurn) p = straightened(fixed - datum, p);
        return p + datum;
    };
    hand_->moved = true;
    switch (hand_->grip) {
        case Grip::New:
        case Grip::To: c.to = end(c.from); break;
        case Grip::From: c.from = end(c.to); break;
        case Grip::Whole: {
            const Point by =
                onRaster(hand_->before.from - datum + (at - hand_->pressed)) - (hand_->before.from - datum);
            c.from = hand_->before.from + by;
            c.to = hand_->before.to + by;
        }
    }
    look();
}

/// What the cut-out in hand is, and what it makes of the worst distance.
void CutHands::look() {
    Part part = document_.part();
    Footprint f = document_.footprint();
    std::erase_if(part.cutOuts, [&](const CutOut& c) { return c.id == hand_->cut.id; });
    part.cutOuts.push_back(hand_->cut);
    f.cutOuts = cutShapes(part, f.datum);
    const CutShape& shape = f.cutOuts.back();
    const Rect box = boundsOf(cutShape(shape));
    const Point along = shape.corners.back() - shape.corners.front();
    hand_->words = hand_->cut.kind == CutOutKind::Slot
                       ? QObject::tr("slot %1 × %2")
                             .arg(view_.value(shape.width, 2), view_.length(hypot(along.x, along.y) + shape.width, 2))
                       : QObject::tr("window %1 × %2").arg(view_.value(box.width(), 2), view_.length(box.height(), 2));
    hand_->good = true;
    Footprint alone = f;
    alone.cutOuts = {shape};
    alone.bareHoles.clear();
    alone.faces.clear();
    if (const auto copper = nearestCopperToCut(alone); copper && copper->gap < part.rules.fab.copperToEdge) {
        hand_->words += copper->gap < Length()
                            ? QObject::tr(": cuts into %1").arg(toQt(featureWords(part, copper->a)))
                            : QObject::tr(": %1 to %2, %3 asked")
                                  .arg(view_.value(copper->gap, 2), toQt(featureWords(part, copper->a)),
                                       view_.length(part.rules.fab.copperToEdge, 2));
        hand_->good = false;
        return;
    }
    const auto pairs = voltagePairs(part, f);
    if (pairs.empty() || !pairs.front().refused.empty() || document_.footprint().voltages.empty()) return;
    const TightestWay now = tightestWay(document_.footprint().voltages.front());
    const TightestWay then = tightestWay(pairs.front());
    if (then.is >= noWay()) return;
    hand_->words += QObject::tr(": worst %1 → %2 of %3")
                        .arg(view_.value(now.is, 2), view_.value(then.is, 2), view_.length(then.needs, 2));
    hand_->good = then.is >= then.needs - Length::fromNm(1);
}

void CutHands::release() {
    if (!hand_) return;
    const Hand hand = *hand_;
    hand_.reset();
    if (!hand.moved || hand.cut == hand.before) return;
    if (!isDrawn(hand.cut)) {
        view_.say(QObject::tr("Cut-out: draw it from one end to the other"));
        return;
    }
    Part next = document_.part();
    if (hand.grip == Grip::New) {
        view_.setCutting({}, view_.cutWidth());
        view_.say({});
        document_.apply(QObject::tr("cut-out"), withCutOut(std::move(next), hand.cut));
        hold(document_.part().cutOuts.back().id);
        return;
    }
    for (CutOut& c : next.cutOuts)
        if (c.id == hand.cut.id) c = hand.cut;
    document_.apply(QObject::tr("place of a cut-out"), std::move(next));
}

void CutHands::hold(const std::string& id) {
    last_ = id;
    lastOf_ = document_.begun();
}

bool CutHands::remove() {
    if (!document_.open() || last_.empty() || lastOf_ != document_.begun()) return false;
    const auto& all = document_.part().cutOuts;
    if (std::none_of(all.begin(), all.end(), [&](const CutOut& c) { return c.id == last_; })) return false;
    hand_.reset();
    document_.apply(QObject::tr("removal of a cut-out"), withoutCutOut(document_.part(), last_));
    last_.clear();
    return true;
}

std::optional<Qt::CursorShape> CutHands::cursor(Point at, Length reach) const {
    if (view_.station() != Station::Size) return {};
    if (view_.cutting()) return Qt::CrossCursor;
    const auto hand = under(at, reach);
    if (!hand) return {};
    return hand->grip == Grip::Whole ? Qt::SizeAllCursor : Qt::PointingHandCursor;
}

void CutHands::paint(QPainter& p, const SheetTransform& t) const {
    if (!document_.open() || view_.station() != Station::Size) return;
    const Point datum = document_.footprint().datum;
    const auto ends = [&](const CutOut& c, const QColor& color) {
        p.setPen(cosmetic(color, 1.4));
        p.setBrush(theme::kPaper);
        for (const Point& end : {c.from, c.to}) p.drawRect(QRectF(t.map(end - datum) - QPointF(3, 3), QSizeF(6, 6)));
    };
    for (const CutOut& c : document_.part().cutOuts)
        if (!hand_ || c.id != hand_->cut.id)
            ends(c, c.id == last_ && lastOf_ == document_.begun() ? theme::kPetrol : theme::kQuiet);
    if (!hand_ || !hand_->moved) return;
    Part one;
    one.cutOuts = {hand_->cut};
    const QColor color = hand_->good ? theme::kPetrol : theme::kVermilion;
    QColor fill = color;
    fill.setAlphaF(0.15F);
    p.setPen(cosmetic(color, 1.6));
    p.setBrush(fill);
    const RoundedPolygon shape = cutShape(cutShapes(one, datum).front());
    p.drawPath(pathOf(shape, t));
    ends(hand_->cut, color);
    p.setFont(theme::text(0.95, true));
    const QFontMetricsF metrics(p.font());
    const QRectF box = t.map(boundsOf(shape));
    QRectF words(0, 0, metrics.horizontalAdvance(hand_->words) + 12, metrics.height() + 4);
    words.moveCenter(QPointF(box.center().x(), box.top() - metrics.height()));
    const QRectF view = QRectF(p.viewport()).adjusted(4, 4, -4, -4);
    words.moveLeft(std::clamp(words.left(), view.left(), std::max(view.left(), view.right() - words.width())));
    words.moveTop(std::max(words.top(), view.top()));
    p.setPen(Qt::NoPen);
    p.setBrush(QColor(250, 247, 239, 235));
    p.drawRoundedRect(words, 4, 4);
    p.setPen(color);
    p.drawText(words, Qt::AlignCenter, hand_->words);
}

}  // namespace punch
