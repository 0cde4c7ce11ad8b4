#pragma once
// Hands for the part itself: dimension lines, features that are dragged to where they are seen, several chosen at once,
// numbering, and pointing, which everything falls back to.

#include <vector>

#include "app/sheet/hand.h"
#include "core/part/part.h"

namespace punch {

/// A dimension line: dragged to another lane; a click on its tag changes its reading.
class LineHand : public Hand {
public:
    using Hand::Hand;
    bool press(const Touch& touch) override;
    void move(const Touch& touch) override;
    void release(const Touch& touch, bool dragged) override;
    std::optional<Qt::CursorShape> cursor(QPointF at) const override;

private:
    std::string line_;  ///< id of its reading
    bool vertical_ = false;
};

/// A loose peg, mark or further formation is dragged to where it is seen on the part.
class PlaceHand : public Hand {
public:
    using Hand::Hand;
    bool press(const Touch& touch) override;
    void move(const Touch& touch) override;
    void release(const Touch& touch, bool dragged) override;
    void paint(QPainter& painter) const override;

private:
    /// May a feature be dragged to where it is seen?
    bool isLoose(const FeatureId& id) const;
    FeatureId held_;
    bool moved_ = false;
    QPointF at_;
};

/// Several features: Shift and a drag around them, or Shift and a click on each.
class GroupHand : public Hand {
public:
    using Hand::Hand;
    bool press(const Touch& touch) override;
    void move(const Touch& touch) override;
    void release(const Touch& touch, bool dragged) override;
    void paint(QPainter& painter) const override;

private:
    std::vector<FeatureId> within(const QRectF& box) const;
    QPointF from_, to_;
    bool around_ = false;
};

/// Points at a feature, or gives the next number while pins are numbered; a drag moves the sheet.
class PointHand : public Hand {
public:
    using Hand::Hand;
    bool press(const Touch& touch) override;
    void move(const Touch& touch) override;
    void release(const Touch& touch, bool dragged) override;
    bool key(const QKeyEvent& event) override;

private:
    void click(QPointF at, bool shift);
    /// A firm pin or peg is not dragged: says so.
    void sayWhyItStays(const FeatureId& id);
    QPointF last_;
    bool begun_ = false;
};

}  // namespace punch
