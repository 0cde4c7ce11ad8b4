// The sheet under the hand: what clicks, drags, the wheel and keys do.

#include <QGuiApplication>
#include <QKeyEvent>
#include <QMouseEvent>
#include <QWheelEvent>
#include <algorithm>
#include <cmath>

#include "app/pictures/picture_layer.h"
#include "app/qt_text.h"
#include "app/sheet/sheet.h"
#include "core/geometry/shapes.h"

namespace punch {

Length Sheet::reach() const { return Length::fromMm(kReach / t_.scale); }

bool Sheet::isLoose(const FeatureId& id) const {
    if (!document_.open()) return false;
    const Footprint& f = document_.footprint();
    if (const BareHole* hole = f.bareHole(id)) return !hole->firm && spotOf(document_.part(), id)->twinOf.empty();
    for (const MarkPoint& m : f.marks)
        if (m.id == id) return !m.firm;
    const Pad* pad = f.pad(id);
    if (pad == nullptr || pad->firm || pad->formation == 0) return false;
    const Part& part = document_.part();
    if (pad->formation >= part.formations.size()) return false;
    const std::string prefix = parameterPrefix(part, part.formations[pad->formation]);
    for (const char* name : {"x", "y"})
        if (const ParameterValue* p = f.parameter(prefix + name); p != nullptr && !p->firm()) return true;
    return false;
}

void Sheet::mousePressEvent(QMouseEvent* event) {
    setFocus();
    dragFrom_ = event->position();
    dragging_ = false;
    held_.clear();
    heldMoved_ = false;
    heldLine_.clear();
    heldWipe_ = onWipe(dragFrom_);
    if (heldWipe_) return;
    if (event->button() == Qt::LeftButton && !pictured() && cuts_.press(t_.unmap(dragFrom_), reach())) return;
    heldRegion_ = event->button() == Qt::LeftButton && pictured() && pictures_->tool() == PictureWork::Tool::Region &&
                  pictures_->places().empty();
    if (heldRegion_) return;
    for (const Dimension& d : layout_.lines)
        if (d.reading >= 0 && d.tag.contains(dragFrom_)) {
            heldLine_ = d.id;
            heldVertical_ = d.vertical;
            return;
        }
    const FeatureId id = featureAt(dragFrom_);
    if (isLoose(id)) {
        held_ = id;
        heldDatum_ = document_.footprint().datum;
    }
}

void Sheet::mouseMoveEvent(QMouseEvent* event) {
    mouse_ = event->position();
    mouseIn_ = true;
    if (event->buttons() != Qt::NoButton) {
        const QPointF moved = mouse_ - dragFrom_;
        if (cuts_.holding()) {
            dragging_ = dragging_ || moved.manhattanLength() > 4;
            if (dragging_) cuts_.move(t_.unmap(mouse_), event->modifiers() & Qt::ControlModifier);
            update();
            return;
        }
        if (heldWipe_) {
            dragging_ = true;
            pictures_->setWipe(mouse_.x() / std::max(1, width()));
            return;
        }
        if (heldRegion_) {
            // From corner to corner: the first is set once the hand moves, the second where it lets go.
            if (!dragging_ && moved.manhattanLength() > 6) {
                dragging_ = true;
                clickAt(dragFrom_);
            }
            update();
            return;
        }
        if (dragging_ || moved.manhattanLength() > 6) {
            if (!dragging_) sayWhyItStays(featureAt(dragFrom_));
            dragging_ = true;
            setCursor(Qt::ClosedHandCursor);
            if (!held_.empty()) dragHeld();
            if (!heldLine_.empty()) {
                dragLine();
            } else if (held_.empty()) {
                fitted_ = false;
                settle_.start();
                t_.origin += moved;
                dragFrom_ = mouse_;
                layOut();
            }
        }
    } else {
        hovered_ = featureAt(mouse_);
        std::string lit;
        for (const Dimension& d : layout_.lines)
            if (d.reading >= 0 && d.tag.contains(mouse_)) lit = d.id;
        const auto onCut = pictured() ? std::nullopt : cuts_.cursor(t_.unmap(mouse_), reach());
        setCursor(onCut                                   ? *onCut
                  : onWipe(mouse_)                        ? Qt::SplitHCursor
                  : !lit.empty()                          ? Qt::OpenHandCursor
                  : hovered_.empty() || hovered_ == kBody ? Qt::ArrowCursor
                                                          : Qt::PointingHandCursor);
        view_.light(lit);
        view_.hover(hovered_);
    }
    update();
}

void Sheet::sayWhyItStays(const FeatureId& id) {
    if (!held_.empty() || !heldLine_.empty() || id.empty() || !document_.open()) return;
    const bool pin = document_.footprint().pad(id) != nullptr;
    if (!pin && document_.footprint().bareHole(id) == nullptr) return;
    view_.tell(tr("%1 stands where its readings put it: read it again to move it. A drag moves the sheet")
                   .arg(toQt(featureWords(document_.part(), id))));
}

void Sheet::dragLine() {
    for (const Dimension& d : layout_.lines) {
        if (d.id != heldLine_) continue;
        if (d.slanted) {
            const QPointF along = d.anchorB - d.anchorA;
            const double length = std::max(std::hypot(along.x(), along.y()), 1e-6);
            const QPointF off = mouse_ - (d.anchorA + d.anchorB) / 2;
            const double by = (off.y() * along.x() - off.x() * along.y()) / length;
            view_.setLane(heldLine_, static_cast<int>(std::lround(by / layout_.laneHeight)));
        } else {
            view_.setLane(heldLine_, layout_.laneAt(mouse_, heldVertical_));
        }
        return;
    }
}

void Sheet::mouseReleaseEvent(QMouseEvent* event) {
    setCursor(Qt::ArrowCursor);
    const bool dragged = dragging_;
    dragging_ = false;
    if (cuts_.holding()) {
        // A click on a cut-out or with the tool points at nothing.
        cuts_.release();
        update();
        return;
    }
    if (!held_.empty()) {
        held_.clear();
        layOut();
    }
    heldLine_.clear();
    heldWipe_ = false;
    const bool region = heldRegion_;
    heldRegion_ = false;
    if ((!dragged || region) && event->button() == Qt::LeftButton && document_.open()) clickAt(event->position());
    update();
}

void Sheet::clickAt(QPointF at) {
    if (pictured()) {
        const bool shift = QGuiApplication::keyboardModifiers() & Qt::ShiftModifier;
        const FeatureId id = featureAt(at);
        const PictureLayer layer(*pictures_, document_, t_);
        pictures_->setReach(layer.reach());
        if (!pictures_->clickAt(layer.pixelAt(at), shift) && !id.empty()) entry_.pointAt(id);
        return;
    }
    const FeatureId id = featureAt(at);
    if (view_.numbering()) {
        if (document_.footprint().pad(id) != nullptr) emit numbered(id);
        return;
    }
    for (const Dimension& d : layout_.lines)
        if (d.reading >= 0 && d.tag.contains(at)) {
            view_.setStation(Station::Measure);
            emit typed(entry_.edit(d.reading));
            return;
        }
    if (id.empty() || (id == kBody && !view_.first().empty()))
        entry_.clear();
    else
        entry_.pointAt(id);
}

void Sheet::dragHeld() {
    const Part& part = document_.part();
    const Point at = t_.unmap(mouse_) + document_.footprint().datum;
    const QString what = tr("place of %1").arg(toQt(featureWords(part, held_)));
    const Pad* pad = document_.footprint().pad(held_);
    // All that follows from the place follows the hand; the whole drag is one step of undo.
    const auto put = [&](Part next) {
        if (heldMoved_)
            document_.applyTyping(what, std::move(next));
        else
            document_.apply(what, std::move(next));
        heldMoved_ = true;
    };
    if (pad == nullptr) {
        put(withSpotDrawnAt(part, held_, at));
        return;
    }
    // The whole formation moves along with its pin.
    const Formation& f = part.formations[pad->formation];
    const Point by = t_.unmap(mouse_) - pad->at;
    const auto now = [&](const char* name) {
        const ParameterValue* p = document_.footprint().parameter(parameterPrefix(part, f) + name);
        return p == nullptr ? Length() : p->value;
    };
    put(withFormationDrawnAt(part, f.id, {now("x") + by.x, now("y") + by.y}));
}

void Sheet::wheelEvent(QWheelEvent* event) {
    mouse_ = event->position();
    mouseIn_ = true;
    zoom(std::pow(1.0015, event->angleDelta().y()));
}

void Sheet::leaveEvent(QEvent*) {
    mouseIn_ = false;
    hovered_.clear();
    view_.light({});
    view_.hover({});
    update();
}

void Sheet::keyPressEvent(QKeyEvent* event) {
    const QString text = event->text();
    const bool arrow = event->key() == Qt::Key_Left || event->key() == Qt::Key_Right || event->key() == Qt::Key_Up ||
                       event->key() == Qt::Key_Down;
    if (pictured() && arrow) {
        // By a tenth of a pixel, the way that the sheet shows it.
        const QPointF way(event->key() == Qt::Key_Right  ? 1
                          : event->key() == Qt::Key_Left ? -1
                                                         : 0,
                          event->key() == Qt::Key_Down ? 1
                          : event->key() == Qt::Key_Up ? -1
                                                       : 0);
        const QTransform back = PictureLayer(*pictures_, document_, t_).toSheet().inverted();
        const QPointF d = back.map(way) - back.map(QPointF(0, 0));
        const double l = std::max(std::hypot(d.x(), d.y()), 1e-9);
        pictures_->nudge(0.1 * d.x() / l, 0.1 * d.y() / l);
    } else if (pictured() && (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)) {
        pictures_->finish();
    } else if (pictured() && event->key() == Qt::Key_Backspace) {
        pictures_->takeBack();
    } else if (pictured() && event->key() == Qt::Key_Escape) {
        pictures_->setTool(PictureWork::Tool::None);
    } else if (event->key() == Qt::Key_Delete && view_.station() == Station::Size && cuts_.remove()) {
        update();
    } else if (event->key() == Qt::Key_Delete && document_.open()) {
        emit removeWanted();
    } else if (event->key() == Qt::Key_Escape) {
        cuts_.cancel();
        view_.setCutting({}, view_.cutWidth());
        view_.setNumbering(false);
        view_.say({});
        entry_.clear();
    } else if (event->key() == Qt::Key_Up || event->key() == Qt::Key_Down) {
        entry_.cycle(event->key() == Qt::Key_Down ? 1 : -1);
    } else if (pictured()) {
        // The entry line is not to be seen now: nothing may be typed into it unseen.
        QWidget::keyPressEvent(event);
    } else if (document_.open() && !text.isEmpty() && text[0].isPrint() &&
               (event->modifiers() & ~(Qt::ShiftModifier | Qt::KeypadModifier)) == 0) {
        // Pointing at two features and typing a number is making a reading.
        emit typed(text);
    } else {
        QWidget::keyPressEvent(event);
    }
}

}  // namespace punch
