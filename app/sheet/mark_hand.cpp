#include "app/sheet/mark_hand.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "app/qt_text.h"
#include "app/sheet/pens.h"
#include "app/sheet/shape_path.h"
#include "app/sheet/sheet.h"
#include "app/theme.h"
#include "core/measure/adjust.h"
#include "core/part/cut_out.h"
#include "core/part/mark_kinds.h"
#include "core/shape/anchors.h"

namespace punch {
namespace {

constexpr double kHandle = 4.5;  // px, half a handle

/// To a hundredth of a millimetre.
Length rounded(Length l) { return Length::fromMm(std::nearbyint(l.mm() * 100) / 100); }

}  // namespace

bool MarkHand::here() const { return document_.open() && view_.station() == Station::Dress && !sheet_.pictured(); }

const LaidMark* MarkHand::chosen() const {
    return findIn(document_.footprint().laid, [&](const LaidMark& m) { return m.id == view_.mark(); });
}

std::optional<std::size_t> MarkHand::handleAt(QPointF at) const {
    const LaidMark* m = chosen();
    if (m == nullptr) return {};
    for (std::size_t i = m->points.size(); i-- > 0;) {
        const QPointF d = sheet_.transform().map(m->points[i]) - at;
        if (std::hypot(d.x(), d.y()) <= 2 * kHandle) return i;
    }
    return {};
}

std::string MarkHand::markAt(QPointF at) const {
    const Footprint& f = document_.footprint();
    const Point p = sheet_.transform().unmap(at);
    const Length reach = 0.5 * sheet_.reach();
    // Ink is thin and lies over areas.
    for (const auto* ink : {&f.silkscreen, &f.assembly, &f.bottomSilkscreen})
        for (const Shape& s : *ink)
            for (std::size_t i = 0; !s.id.empty() && i + 1 < s.points().size(); ++i)
                if (gap(RoundedPolygon::disc(p, Length()),
                        RoundedPolygon::stroke(s.points()[i], s.points()[i + 1], s.line()->width)) < reach)
                    return s.id;
    for (const auto* shapes : {&f.silkscreen, &f.assembly, &f.bottomSilkscreen, &f.cutOuts, &f.keepouts})
        for (const Shape& s : *shapes)
            if (!s.id.empty() && contains(s.area(), p)) return s.id;
    return {};
}

bool MarkHand::press(const Touch& touch) {
    held_.reset();
    moved_ = false;
    under_.clear();
    if (!here() || touch.button != Qt::LeftButton) return false;
    pressed_ = sheet_.transform().unmap(touch.at);
    if (view_.placing()) return true;
    held_ = handleAt(touch.at);
    if (held_) {
        before_ = markById(document_.part(), view_.mark())->points;
        view_.setMarkPlace(static_cast<int>(*held_));
        return true;
    }
    under_ = markAt(touch.at);
    // Pads and features before what lies around them.
    if (!under_.empty() && sheet_.featureAt(touch.at).empty()) return true;
    under_.clear();
    return false;
}

void MarkHand::move(const Touch& touch) {
    if (!held_) return;
    const Point at = sheet_.transform().unmap(touch.at);
    Part next = document_.part();
    for (Mark& m : next.marks) {
        if (m.id != view_.mark() || *held_ >= m.points.size()) continue;
        m.points[*held_].x.off = movedBy(before_[*held_].x.off, rounded(at.x - pressed_.x));
        m.points[*held_].y.off = movedBy(before_[*held_].y.off, rounded(at.y - pressed_.y));
    }
    const QString what = QObject::tr("place of a mark");
    if (moved_)
        document_.applyTyping(what, std::move(next));
    else
        document_.apply(what, std::move(next));
    moved_ = true;
}

void MarkHand::point(const Touch& touch) {
    const Part& part = document_.part();
    const Mark* mark = markById(part, view_.mark());
    if (mark == nullptr) return view_.setPlacing(false);
    const FeatureId id = sheet_.featureAt(touch.at);
    const Point at = sheet_.transform().unmap(touch.at);
    const auto typed = [](Length l) { return fmt::format("{:g}", std::nearbyint(l.mm() * 100) / 100); };
    Anchored place;
    place.x.off = typed(at.x);
    place.y.off = typed(at.y);
    if (const auto& body = document_.footprint().body; body && (id.empty() || id == kBody)) {
        // A body is large: what is meant is a place on it or beside it.
        place = heldOnBody(body->rect, at, Length::fromMm(2 * kHandle / sheet_.transform().scale));
    } else if (!id.empty()) {
        // A face gives the coordinate that it has; the other one is free.
        const bool face = isFace(part, id);
        if (!face || faceAxis(part, id) == Axis::Along) place.x = {id, HoldAt::Middle, {}};
        if (!face || faceAxis(part, id) == Axis::Across) place.y = {id, HoldAt::Middle, {}};
    }
    Part next = part;
    bool full = false;
    for (Mark& m : next.marks)
        if (m.id == mark->id) {
            m.points.push_back(place);
            const std::string form = markKind(m.kind).points.area ? valueOf(m, "form") : std::string();
            const int most = form == "rectangle" ? 2 : form == "circle" ? 1 : markKind(m.kind).points.most;
            // A rectangle has two corners: the oldest goes.
            if (static_cast<int>(m.points.size()) > most) m.points.erase(m.points.begin());
            full = static_cast<int>(m.points.size()) >= most && form != "rectangle";
        }
    document_.apply(QObject::tr("place of a mark"), std::move(next));
    if (full) view_.setPlacing(false);
}

void MarkHand::release(const Touch& touch, bool dragged) {
    if (view_.placing()) {
        if (!dragged) point(touch);
        return;
    }
    if (held_) {
        held_.reset();
        sheet_.letGo();
        return;
    }
    if (!dragged && !under_.empty()) view_.setMark(under_ == view_.mark() ? std::string() : under_);
}

bool MarkHand::key(const QKeyEvent& event) {
    if (!here()) return false;
    if ((event.key() == Qt::Key_Return || event.key() == Qt::Key_Enter) && view_.placing()) {
        view_.setPlacing(false);
        return true;
    }
    if (event.key() == Qt::Key_Escape && (view_.placing() || !view_.mark().empty())) {
        if (view_.placing())
            view_.setPlacing(false);
        else
            view_.setMark({});
        return true;
    }
    if (event.key() == Qt::Key_Delete && markById(document_.part(), view_.mark()) != nullptr) {
        const std::string id = view_.mark();
        view_.setMark({});
        document_.apply(QObject::tr("removal of a mark"), withoutMark(document_.part(), id));
        return true;
    }
    return false;
}

std::optional<Qt::CursorShape> MarkHand::cursor(QPointF at) const {
    if (!here()) return {};
    if (view_.placing()) return Qt::CrossCursor;
    if (handleAt(at)) return Qt::SizeAllCursor;
    return {};
}

void MarkHand::paint(QPainter& p) const {
    if (!here()) return;
    const LaidMark* m = chosen();
    if (m == nullptr) return;
    const SheetTransform& t = sheet_.transform();
    p.setBrush(Qt::NoBrush);
    p.setPen(m->firm ? cosmetic(theme::kPetrol, 1.6, Qt::DashLine) : looseSide());
    if (m->area) p.drawPath(pathOf(polygonsOf(*m->area), t));
    if (!m->line.empty()) {
        QPolygonF line;
        for (const Point& at : flattened(m->line, Length::fromUm(5))) line << t.map(at);
        p.drawPolyline(line);
    }
    if (m->axis) {
        const QPointF c = t.map(*m->axis);
        p.drawEllipse(c, 6, 6);
        p.drawLine(c - QPointF(9, 0), c + QPointF(9, 0));
        p.drawLine(c - QPointF(0, 9), c + QPointF(0, 9));
    }
    p.setPen(cosmetic(theme::kPetrol, 1.4));
    p.setBrush(theme::kPaper);
    for (std::size_t i = 0; i < m->points.size(); ++i) {
        const QPointF c = t.map(m->points[i]);
        p.drawRect(QRectF(c.x() - kHandle, c.y() - kHandle, 2 * kHandle, 2 * kHandle));
        if (m->points.size() < 2) continue;
        p.setFont(theme::digits(0.8));
        p.drawText(c + QPointF(kHandle + 3, -kHandle), QString::number(i + 1));
    }
}

}  // namespace punch
