#pragma once
// How a footprint lies on a board: mirrored left to right where it lies on the far side, then turned, then moved.
// Frame of the result: mm from the board's corner, x right, y up, seen from the board's top. Quarter turns are exact.

#include "core/geometry/conductor.h"
#include "core/geometry/polygons.h"

namespace punch {

struct Frame {
    Point at;               ///< where the footprint's datum goes
    Angle turn;             ///< counter-clockwise, seen from the board's top
    bool mirrored = false;  ///< on the board's bottom
    friend bool operator==(const Frame&, const Frame&) = default;

    Point operator()(Point p) const;
    /// Of a direction or of an upright shape's axis.
    Angle operator()(Angle a) const;
    /// A way without a place.
    Point along(Point way) const;
    bool quarterTurn() const;
};

std::vector<Point> moved(std::vector<Point> points, const Frame& frame);
RoundedPolygon moved(RoundedPolygon shape, const Frame& frame);
Polygons moved(Polygons area, const Frame& frame);
Ring moved(Ring ring, const Frame& frame);
Area moved(Area area, const Frame& frame);
Land moved(Land land, const Frame& frame);
/// Places, lands and slot; top and bottom change places on the far side.
Conductor moved(Conductor metal, const Frame& frame);
/// The upright rectangle around it.
Rect moved(const Rect& r, const Frame& frame);

}  // namespace punch
