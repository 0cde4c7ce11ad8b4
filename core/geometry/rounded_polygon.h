#pragma once
// A convex polygon with rounded corners: the one shape behind lands, openings, holes and strokes.
//
// One corner and a radius is a disc, two are a stroke or an oval, four a rectangle. The gap between two of them is
// the distance of their cores less both radii; negative when they overlap.

#include <vector>

#include "core/base/length.h"

namespace punch {

struct RoundedPolygon {
    std::vector<Point> corners;  ///< convex, counter-clockwise
    Length radius;

    static RoundedPolygon disc(Point c, Length diameter) { return {{c}, diameter / 2}; }
    static RoundedPolygon rectangle(const Rect& r) {
        return {{{r.left, r.bottom}, {r.right, r.bottom}, {r.right, r.top}, {r.left, r.top}}, Length()};
    }
    static RoundedPolygon stroke(Point a, Point b, Length width) { return {{a, b}, width / 2}; }
};

/// Least distance between the edges, exact. Negative: the shapes overlap (for overlapping cores: minus both radii).
Length gap(const RoundedPolygon& a, const RoundedPolygon& b);

/// The two places where they are nearest.
struct Closest {
    Length gap;
    Point a, b;
};
Closest closest(const RoundedPolygon& a, const RoundedPolygon& b);

}  // namespace punch
