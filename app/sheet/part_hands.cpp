#include "app/sheet/part_hands.h"

#include <algorithm>
#include <cmath>

#include "app/qt_text.h"
#include "app/sheet/picture_hands.h"
#include "app/sheet/sheet.h"
#include "app/theme.h"
#include "core/part/numbering.h"

namespace punch {

// ------------------------------------------------------------------ dimension lines

namespace {

const Dimension* lineAt(const DimensionLayout& layout, QPointF at) {
    for (const Dimension& d : layout.lines)
        if (d.reading >= 0 && d.tag.contains(at)) return &d;
    return nullptr;
}

}  // namespace

bool LineHand::press(const Touch& touch) {
    const Dimension* d = sheet_.pictured() ? nullptr : lineAt(sheet_.dimensionLayout(), touch.at);
    if (d == nullptr) return false;
    line_ = d->id;
    vertical_ = d->vertical;
    return true;
}

void LineHand::move(const Touch& touch) {
    const DimensionLayout& layout = sheet_.dimensionLayout();
    for (const Dimension& d : layout.lines) {
        if (d.id != line_) continue;
        if (!d.slanted) return sheet_.view().setLane(line_, layout.laneAt(touch.at, vertical_));
        const QPointF along = d.anchorB - d.anchorA;
        const double length = std::max(std::hypot(along.x(), along.y()), 1e-6);
        const QPointF off = touch.at - (d.anchorA + d.anchorB) / 2;
        const double by = (off.y() * along.x() - off.x() * along.y()) / length;
        return sheet_.view().setLane(line_, static_cast<int>(std::lround(by / layout.laneHeight)));
    }
}

void LineHand::release(const Touch& touch, bool dragged) {
    const Dimension* d = lineAt(sheet_.dimensionLayout(), touch.at);
    if (dragged || d == nullptr || touch.button != Qt::LeftButton) return;
    const int reading = d->reading;
    sheet_.view().setStation(Station::Measure);
    emit sheet_.typed(sheet_.entry().edit(reading));
}

std::optional<Qt::CursorShape> LineHand::cursor(QPointF at) const {
    const bool here = !sheet_.pictured() && lineAt(sheet_.dimensionLayout(), at) != nullptr;
    return here ? std::optional(Qt::OpenHandCursor) : std::nullopt;
}

// ------------------------------------------------------------------ places

bool PlaceHand::isLoose(const FeatureId& id) const {
    if (!sheet_.document().open()) return false;
    const Part& part = sheet_.document().part();
    const Footprint& f = sheet_.document().footprint();
    if (const BareHole* hole = f.bareHole(id)) return !hole->firm && spotOf(part, id)->twinOf.empty();
    for (const MarkPoint& m : f.marks)
        if (m.id == id) return !m.firm;
    const Pad* pad = f.pad(id);
    if (pad == nullptr || pad->firm || pad->formation == 0 || pad->formation >= part.formations.size()) return false;
    const std::string prefix = parameterPrefix(part, part.formations[pad->formation]);
    for (const char* name : {"x", "y"})
        if (const ParameterValue* p = f.parameter(prefix + name); p != nullptr && !p->firm()) return true;
    return false;
}

bool PlaceHand::press(const Touch& touch) {
    held_.clear();
    moved_ = false;
    const FeatureId id = sheet_.featureAt(touch.at);
    if (sheet_.pictured() || touch.button != Qt::LeftButton || !isLoose(id)) return false;
    held_ = id;
    return true;
}

void PlaceHand::move(const Touch& touch) {
    Document& document = sheet_.document();
    if (!moved_) sheet_.holdStill(document.footprint().datum);
    at_ = touch.at;
    const Part& part = document.part();
    const Footprint& footprint = document.footprint();
    const QString what = QObject::tr("place of %1").arg(toQt(featureWords(part, held_)));
    // All that follows from the place follows the hand; the whole drag is one step of undo.
    const auto put = [&](Part next) {
        if (moved_)
            document.applyTyping(what, std::move(next));
        else
            document.apply(what, std::move(next));
        moved_ = true;
    };
    const Pad* pad = footprint.pad(held_);
    const Point at = sheet_.transform().unmap(touch.at);
    if (pad == nullptr) return put(withSpotDrawnAt(part, held_, at + footprint.datum));
    // The whole formation moves along with its pin.
    const Formation& f = part.formations[pad->formation];
    const Point by = at - pad->at;
    const auto now = [&](const char* name) {
        const ParameterValue* p = footprint.parameter(parameterPrefix(part, f) + name);
        return p == nullptr ? Length() : p->value;
    };
    put(withFormationDrawnAt(part, f.id, {now("x") + by.x, now("y") + by.y}));
}

void PlaceHand::release(const Touch& touch, bool dragged) {
    const FeatureId id = std::exchange(held_, {});
    sheet_.letGo();
    if (!dragged && touch.button == Qt::LeftButton) sheet_.pointAt(id);
    moved_ = false;
}

void PlaceHand::paint(QPainter& painter) const {
    if (!moved_ || held_.empty()) return;
    painter.setPen(QPen(theme::kMarigold, 2, Qt::DashLine));
    painter.setBrush(theme::through(Qt::white, 0.63));
    const BareHole* hole = sheet_.document().footprint().bareHole(held_);
    const double r = std::max(8.0, hole == nullptr ? 8.0 : sheet_.transform().px(hole->size) / 2);
    painter.drawEllipse(at_, r, r);
}

// ------------------------------------------------------------------ several

std::vector<FeatureId> GroupHand::within(const QRectF& box) const {
    std::vector<FeatureId> all;
    const Footprint& f = sheet_.document().footprint();
    for (const Pad& p : f.pads)
        if (box.contains(sheet_.transform().map(p.at))) all.push_back(p.id);
    for (const BareHole& h : f.bareHoles)
        if (box.contains(sheet_.transform().map(h.at))) all.push_back(h.id);
    return all;
}

bool GroupHand::press(const Touch& touch) {
    around_ = false;
    from_ = to_ = touch.at;
    const bool free = !sheet_.pictured() && !sheet_.view().numbering() && sheet_.document().open();
    return free && touch.button == Qt::LeftButton && (touch.keys & Qt::ShiftModifier);
}

void GroupHand::move(const Touch& touch) {
    around_ = true;
    to_ = touch.at;
}

void GroupHand::release(const Touch& touch, bool dragged) {
    ViewState& view = sheet_.view();
    std::vector<FeatureId> all = view.group();
    // What was pointed at before belongs to it.
    if (all.empty())
        for (const FeatureId& id : {view.first(), view.second()})
            if (!id.empty() && !isFace(sheet_.document().part(), id) && id != kBody) all.push_back(id);
    const auto add = [&](const FeatureId& id) {
        if (std::find(all.begin(), all.end(), id) == all.end()) all.push_back(id);
    };
    if (dragged) {
        for (const FeatureId& id : within(QRectF(from_, touch.at).normalized())) add(id);
    } else {
        const FeatureId id = sheet_.featureAt(touch.at);
        if (id.empty() || id == kBody || isFace(sheet_.document().part(), id)) return;
        if (std::find(all.begin(), all.end(), id) != all.end())
            std::erase(all, id);
        else
            all.push_back(id);
    }
    around_ = false;
    view.setGroup(std::move(all));
}

void GroupHand::paint(QPainter& painter) const {
    if (!around_) return;
    painter.setPen(QPen(theme::kPetrol, 1.4, Qt::DashLine));
    painter.setBrush(theme::through(theme::kPetrol, 0.08));
    painter.drawRect(QRectF(from_, to_).normalized());
}

// ------------------------------------------------------------------ pointing

bool PointHand::press(const Touch& touch) {
    last_ = touch.at;
    begun_ = false;
    return true;
}

void PointHand::move(const Touch& touch) {
    if (!begun_) sayWhyItStays(sheet_.featureAt(last_));
    begun_ = true;
    sheet_.setCursor(Qt::ClosedHandCursor);
    sheet_.pan(touch.at - last_);
    last_ = touch.at;
}

void PointHand::release(const Touch& touch, bool dragged) {
    if (dragged || touch.button != Qt::LeftButton || !sheet_.document().open()) return;
    click(touch.at, touch.keys & Qt::ShiftModifier);
}

void PointHand::click(QPointF at, bool shift) {
    if (PictureHand::click(sheet_, at, shift)) return;
    const FeatureId id = sheet_.featureAt(at);
    if (sheet_.view().numbering()) {
        if (sheet_.document().footprint().pad(id) != nullptr) emit sheet_.numbered(id);
        return;
    }
    sheet_.pointAt(id);
}

void PointHand::sayWhyItStays(const FeatureId& id) {
    if (id.empty() || !sheet_.document().open()) return;
    const Footprint& f = sheet_.document().footprint();
    if (f.pad(id) == nullptr && f.bareHole(id) == nullptr) return;
    sheet_.view().tell(QObject::tr("%1 stands where its readings put it: read it again to move it. A drag moves the "
                                   "sheet")
                           .arg(toQt(featureWords(sheet_.document().part(), id))));
}

bool PointHand::key(const QKeyEvent& event) {
    const QString text = event.text();
    if (event.key() == Qt::Key_Delete && sheet_.document().open()) {
        emit sheet_.removeWanted();
    } else if (event.key() == Qt::Key_Escape) {
        sheet_.view().setNumbering(false);
        sheet_.view().setGroup({});
        sheet_.view().say({});
        sheet_.entry().clear();
    } else if (event.key() == Qt::Key_Up || event.key() == Qt::Key_Down) {
        sheet_.entry().cycle(event.key() == Qt::Key_Down ? 1 : -1);
    } else if (!sheet_.pictured() && sheet_.document().open() && !text.isEmpty() && text[0].isPrint() &&
               (event.modifiers() & ~(Qt::ShiftModifier | Qt::KeypadModifier)) == 0) {
        // Pointing at two features and typing a number is making a reading; over a picture the entry line is not seen.
        emit sheet_.typed(text);
    } else {
        return false;
    }
    return true;
}

}  // namespace punch
