#pragma once
// Areas as sets of polygons, for cutting and joining: whole nanometres, outer rings counter-clockwise, holes clockwise.
//
// Where a shape has arcs they become chords off by at most 1 µm, on the side that is asked for.

#include <vector>

#include "core/geometry/outline.h"

namespace punch {

using Polygons = std::vector<std::vector<Point>>;

inline Length chordError() { return Length::fromUm(1); }

Polygons polygonsOf(const Area& area, Chords chords = Chords::Inside);
Polygons polygonsOf(const Ring& ring, Chords chords = Chords::Inside);
Polygons polygonsOf(const RoundedPolygon& shape, Chords chords = Chords::Inside);

/// What any of them covers; rings may overlap, cross themselves and run either way (nothing is a hole of itself).
Polygons united(const Polygons& all);
/// What both cover, what the first covers alone.
Polygons common(const Polygons& a, const Polygons& b);
Polygons without(const Polygons& a, const Polygons& b);
/// Larger by `by` with round corners, or smaller below 0; with Outside the result holds all within `by`.
Polygons grown(const Polygons& area, Length by, Chords chords = Chords::Inside);
/// Larger with corners that stay sharp up to twice the growth.
Polygons grownSharp(const Polygons& area, Length by);

/// Outer rings with the holes in each.
std::vector<Area> areasOf(const Polygons& all);
/// mm².
double areaOf(const Polygons& all);
Rect boundsOf(const Polygons& all);
bool contains(const Polygons& all, Point p);
/// Left and right exchanged about an upright line.
Polygons mirroredAbout(const Polygons& all, Length x);
/// Least distance of the two areas' edges; 0 where they overlap. Infinite when one of them is empty.
Length gap(const Polygons& a, const Polygons& b);

/// The same as rings without holes: an area with holes is split through them, its parts overlapping by 1 µm.
Polygons withoutHoles(const Polygons& all);

/// With fewer corners: none that is left out lies further than `by` from what remains. Rings that vanish are left out.
Polygons simplified(const Polygons& area, Length by);

/// What remains of a line outside an area, in pieces; whole when it does not meet it.
std::vector<std::vector<Point>> outside(const std::vector<Point>& line, const Polygons& area);

/// Convex pieces that together cover the area, but for `slack` at its sharp corners, and nothing beyond it; neighbours
/// overlap, so that nothing passes between them. Each is a rounded polygon of the radius `slack`. Parts of the area
/// that are thinner than twice the slack are lost.
std::vector<RoundedPolygon> convexPieces(const Polygons& area, Length slack);

}  // namespace punch
