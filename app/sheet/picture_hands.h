#pragma once
// Hands for the picture under the part: the border between picture and footprint, the region, and the picture's tools.

#include "app/pictures/picture_work.h"
#include "app/sheet/hand.h"

namespace punch {

/// The border between picture and footprint, dragged along.
class WipeHand : public Hand {
public:
    using Hand::Hand;
    bool press(const Touch& touch) override;
    void move(const Touch& touch) override;
    std::optional<Qt::CursorShape> cursor(QPointF at) const override;

private:
    bool on(QPointF at) const;
};

/// A drag marks the region in which pins are found, from corner to corner.
class RegionHand : public Hand {
public:
    using Hand::Hand;
    bool press(const Touch& touch) override;
    void move(const Touch& touch) override;
    void release(const Touch& touch, bool dragged) override;

private:
    QPointF from_;
    bool begun_ = false;
};

/// What the picture's tools do where they are clicked, and their keys. A drag is left to moving the sheet.
class PictureHand : public Hand {
public:
    using Hand::Hand;
    bool press(const Touch&) override { return false; }
    bool key(const QKeyEvent& event) override;
    /// A click, when the picture is what one looks at. False: it is not.
    static bool click(Sheet& sheet, QPointF at, bool shift);
};

}  // namespace punch
