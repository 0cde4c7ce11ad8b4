// The sheet under the hand: mouse and keys go to its hands, the wheel zooms.

#include <QKeyEvent>
#include <QMouseEvent>
#include <QWheelEvent>
#include <cmath>

#include "app/sheet/cut_hand.h"
#include "app/sheet/mark_hand.h"
#include "app/sheet/part_hands.h"
#include "app/sheet/picture_hands.h"
#include "app/sheet/sheet.h"

namespace punch {
namespace {

constexpr double kDrag = 5;  // px, from which a press is no click

Touch touchOf(const QMouseEvent& event) { return {event.position(), event.button(), event.modifiers()}; }

}  // namespace

/// In the order in which they are asked.
void Sheet::makeHands() {
    hands_.push_back(std::make_unique<WipeHand>(*this));
    hands_.push_back(std::make_unique<CutHand>(*this, document_, view_));
    hands_.push_back(std::make_unique<MarkHand>(*this, document_, view_));
    hands_.push_back(std::make_unique<RegionHand>(*this));
    hands_.push_back(std::make_unique<PictureHand>(*this));
    hands_.push_back(std::make_unique<LineHand>(*this));
    hands_.push_back(std::make_unique<GroupHand>(*this));
    hands_.push_back(std::make_unique<PlaceHand>(*this));
    hands_.push_back(std::make_unique<PointHand>(*this));
}

Length Sheet::reach() const { return Length::fromMm(kReach / t_.scale); }

void Sheet::pointAt(const FeatureId& id) {
    if (id.empty() || (id == kBody && !view_.first().empty()))
        entry_.clear();
    else
        entry_.pointAt(id);
}

void Sheet::pan(QPointF by) {
    fitted_ = false;
    settle_.start();
    t_.origin += by;
    layOut();
}

void Sheet::letGo() {
    still_.reset();
    layOut();
}

void Sheet::mousePressEvent(QMouseEvent* event) {
    setFocus();
    pressed_ = event->position();
    dragging_ = false;
    holding_ = nullptr;
    for (const auto& hand : hands_)
        if (hand->press(touchOf(*event))) {
            holding_ = hand.get();
            break;
        }
}

void Sheet::mouseMoveEvent(QMouseEvent* event) {
    mouse_ = event->position();
    mouseIn_ = true;
    if (event->buttons() != Qt::NoButton && holding_ != nullptr) {
        dragging_ = dragging_ || (mouse_ - pressed_).manhattanLength() > kDrag;
        if (dragging_) holding_->move(touchOf(*event));
    } else {
        hovered_ = featureAt(mouse_);
        std::string lit;
        for (const Dimension& d : layout_.lines)
            if (d.reading >= 0 && d.tag.contains(mouse_)) lit = d.id;
        setCursor(cursorAt(mouse_));
        view_.light(lit);
        view_.hover(hovered_);
    }
    update();
}

Qt::CursorShape Sheet::cursorAt(QPointF at) const {
    for (const auto& hand : hands_)
        if (const auto shape = hand->cursor(at)) return *shape;
    const FeatureId id = featureAt(at);
    return id.empty() || id == kBody ? Qt::ArrowCursor : Qt::PointingHandCursor;
}

void Sheet::mouseReleaseEvent(QMouseEvent* event) {
    setCursor(Qt::ArrowCursor);
    const bool dragged = std::exchange(dragging_, false);
    if (Hand* hand = std::exchange(holding_, nullptr)) hand->release(touchOf(*event), dragged);
    update();
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
    for (const auto& hand : hands_)
        if (hand->key(*event)) {
            update();
            return;
        }
    QWidget::keyPressEvent(event);
}

}  // namespace punch
