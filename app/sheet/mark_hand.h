#pragma once
// Marks under the hand: chosen by a click, their places dragged by handles, given new places by pointing at features.
//
// A dragged place keeps what it holds on; its typed lengths change, to 0.01 mm. Pointing at a feature makes a place
// hold on it; where nothing is pointed at a place is free, and holds on the datum.

#include "app/document.h"
#include "app/sheet/hand.h"
#include "app/view_state.h"

namespace punch {

class MarkHand : public Hand {
public:
    MarkHand(Sheet& sheet, Document& document, ViewState& view) : Hand(sheet), document_(document), view_(view) {}

    bool press(const Touch& touch) override;
    void move(const Touch& touch) override;
    void release(const Touch& touch, bool dragged) override;
    /// Enter and Esc end pointing; Delete takes the chosen mark off the part.
    bool key(const QKeyEvent& event) override;
    std::optional<Qt::CursorShape> cursor(QPointF at) const override;
    void paint(QPainter& painter) const override;

private:
    const LaidMark* chosen() const;
    /// A place of the chosen mark there.
    std::optional<std::size_t> handleAt(QPointF at) const;
    /// What is drawn, kept clear or cut there.
    std::string markAt(QPointF at) const;
    void point(const Touch& touch);
    bool here() const;

    Document& document_;
    ViewState& view_;
    std::optional<std::size_t> held_;
    std::vector<Anchored> before_;
    Point pressed_;
    std::string under_;
    bool moved_ = false;
};

}  // namespace punch
