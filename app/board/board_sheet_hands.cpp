// Mouse and keys on the trial board: taking, moving, turning, dropping parts.

#include <QDragEnterEvent>
#include <QMimeData>
#include <QMouseEvent>
#include <QUrl>
#include <cmath>

#include "app/board/board_sheet.h"
#include "app/qt_text.h"
#include "core/base/find_in.h"

namespace punch {

Point BoardSheet::placeOf(const std::string& id) const {
    if (const Placing* p = placingById(model_.board(), id)) return p->at;
    for (const BoardHole& h : model_.board().holes)
        if (h.id == id) return h.at;
    return {};
}

std::string BoardSheet::thingAt(QPointF at) const {
    const Point p = unmap(at);
    for (const BoardHole& h : model_.board().holes)
        if (distance(h.at, p) <= h.diameter / 2) return h.id;
    std::string found;
    double least = 1e300;
    for (std::size_t i = 0; i < model_.board().placings.size() && i < model_.parts().size(); ++i) {
        const Placing& placing = model_.board().placings[i];
        const Footprint& f = model_.parts()[i]->footprint;
        Polygons all = moved(f.courtyardTop, placing.frame());
        for (auto& ring : moved(f.courtyardBottom, placing.frame())) all.push_back(ring);
        const bool trouble = !model_.parts()[i]->trouble.empty();
        const bool in = trouble ? QLineF(map(placing.at), at).length() < 22
                                : std::any_of(all.begin(), all.end(),
                                              [&](const auto& ring) { return contains(Polygons{ring}, p); });
        // Of several the smallest: what lies within a larger one can be reached.
        const double area = trouble ? 1 : areaOf(united(all));
        if (in && area < least) {
            least = area;
            found = placing.id;
        }
    }
    return found;
}

void BoardSheet::moveTo(const std::string& id, Point at, bool dragging) {
    TrialBoard next = model_.board();
    // To hundredths of a millimetre: a hand is no finer, and numbers stay readable. Typed places are kept as typed.
    const auto whole = [](Length l) { return Length::fromMm(std::round(l.mm() * 100) / 100); };
    at = {whole(at.x), whole(at.y)};
    for (Placing& p : next.placings)
        if (p.id == id) p.at = at;
    for (BoardHole& h : next.holes)
        if (h.id == id) h.at = at;
    const QString what = tr("move");
    dragging ? model_.applyMoving(what + QString(" %1").arg(drags_), std::move(next))
             : model_.apply(what, std::move(next));
}

void BoardSheet::nudge(double dx, double dy) {
    if (chosen_.empty()) return;
    const Point at = placeOf(chosen_);
    moveTo(chosen_, {at.x + Length::fromMm(below_ ? -dx : dx), at.y + Length::fromMm(dy)}, true);
}

void BoardSheet::turnChosen(double degrees) {
    TrialBoard next = model_.board();
    for (Placing& p : next.placings)
        if (p.id == chosen_) {
            double turn = std::fmod(p.turn.degrees() + (below_ ? -degrees : degrees), 360);
            if (turn < 0) turn += 360;
            p.turn = Angle::fromDegrees(turn);
        }
    model_.apply(tr("turn"), std::move(next));
}

void BoardSheet::turnOver() {
    TrialBoard next = model_.board();
    for (Placing& p : next.placings)
        if (p.id == chosen_) p.bottom = !p.bottom;
    model_.apply(tr("other side"), std::move(next));
}

void BoardSheet::removeChosen() {
    if (!chosen_.empty()) model_.apply(tr("removal"), withoutThing(model_.board(), chosen_));
}

void BoardSheet::mousePressEvent(QMouseEvent* e) {
    setFocus();
    press_ = last_ = e->position();
    if (e->button() != Qt::LeftButton) {
        panning_ = true;
        return;
    }
    choose(thingAt(e->position()));
    moving_ = !chosen_.empty();
    panning_ = !moving_;
    ++drags_;
    if (moving_) grabbed_ = unmap(e->position()) - placeOf(chosen_);
}

void BoardSheet::mouseMoveEvent(QMouseEvent* e) {
    if (panning_) {
        shift_ += e->position() - last_;
        update();
    } else if (moving_ && (e->position() - press_).manhattanLength() > 3) {
        moveTo(chosen_, unmap(e->position()) - grabbed_, true);
    }
    last_ = e->position();
}

void BoardSheet::mouseReleaseEvent(QMouseEvent*) { moving_ = panning_ = false; }

void BoardSheet::mouseDoubleClickEvent(QMouseEvent* e) {
    if (const std::string id = thingAt(e->position()); placingById(model_.board(), id) != nullptr) emit partWanted(id);
}

void BoardSheet::wheelEvent(QWheelEvent* e) {
    const double steps = e->angleDelta().y() / 120.0;
    if ((e->modifiers() & Qt::ShiftModifier) != 0) {
        if (!chosen_.empty() && steps != 0) turnChosen(steps > 0 ? 5 : -5);
        return;
    }
    const double by = std::pow(1.15, steps);
    if (scale_ * by < 0.2 || scale_ * by > 400) return;
    shift_ = e->position() + (shift_ - e->position()) * by;
    scale_ *= by;
    update();
}

void BoardSheet::keyPressEvent(QKeyEvent* e) {
    const double step = (e->modifiers() & Qt::ShiftModifier) != 0 ? 1 : 0.1;
    switch (e->key()) {
        case Qt::Key_Left: return nudge(-step, 0);
        case Qt::Key_Right: return nudge(step, 0);
        case Qt::Key_Up: return nudge(0, step);
        case Qt::Key_Down: return nudge(0, -step);
        case Qt::Key_PageUp: return turnChosen(90);
        case Qt::Key_PageDown: return turnChosen(-90);
        case Qt::Key_Delete: return removeChosen();
        case Qt::Key_Escape: return choose({});
        default: QWidget::keyPressEvent(e);
    }
}

void BoardSheet::resizeEvent(QResizeEvent*) { fit(); }

void BoardSheet::dragEnterEvent(QDragEnterEvent* e) {
    if (e->mimeData()->hasUrls()) e->acceptProposedAction();
}

void BoardSheet::dropEvent(QDropEvent* e) {
    for (const QUrl& url : e->mimeData()->urls())
        if (url.isLocalFile()) emit partDropped(url.toLocalFile(), unmap(e->position()));
}

}  // namespace punch
