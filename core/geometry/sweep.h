#pragma once
// What a moving shape passes over: slid along a direction, or turned about a point.
//
// A point that is passed over and was not covered at the start is entered through an edge that faces the motion. Those
// edges, run by run, sweep a strip each; the start and the strips together are all of it. Exact but for arcs, whose
// chords lie outside by less than 5 µm: what is swept is held, and little more.

#include "core/geometry/polygons.h"

namespace punch {

/// Straight on, by `by`.
Polygons slid(const Polygons& shape, Point by);

/// About `axis` by `degrees`, counter-clockwise above 0; a full turn and more is a full turn.
Polygons swung(const Polygons& shape, Point axis, double degrees);

}  // namespace punch
