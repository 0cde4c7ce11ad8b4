#pragma once
// Lands, openings and holes as rounded polygons. Bare holes: core/size/pads.h; cut-outs: core/shape/shaped.h.

#include <vector>

#include "core/geometry/conductor.h"
#include "core/geometry/rounded_polygon.h"

namespace punch {

RoundedPolygon copperShape(const Land& land);
/// A convex shape as a land.
Land polygonLand(const RoundedPolygon& shape);
/// The convex shape around several.
RoundedPolygon hullOf(const std::vector<RoundedPolygon>& shapes);
const Land& landOn(const Conductor& metal, CopperLayer layer);
/// Is there a layer that carries copper of both?
bool shareLayer(const Conductor& a, const Conductor& b);
/// Is the land on this outer layer free of solder mask?
bool opensMask(const Conductor& metal, CopperLayer layer);
/// The land of the part side; of a pad that is only below, that one.
const Land& shownLand(const Conductor& metal);
RoundedPolygon landShape(const Conductor& metal);
/// The solder mask opening on the side of the shown land.
RoundedPolygon maskOpening(const Conductor& metal);
/// A land, larger by `by` on every side.
Land grown(Land land, Length by);

/// The finished plated hole or slot, at its least or largest. Only of what has one.
RoundedPolygon holeShape(const Conductor& metal, bool largest = true);

Rect boundsOf(const RoundedPolygon& shape);
/// Its outline, counter-clockwise and not closed, arcs in chords off by at most `sagitta`.
std::vector<Point> outlineOf(const RoundedPolygon& shape, Length sagitta);
/// Is the point inside it or on its edge?
bool contains(const RoundedPolygon& shape, Point p);

/// A slot from middle to middle of its rounded ends.
RoundedPolygon slotShape(Point middle, Length width, Length overEnds, Angle turn);

}  // namespace punch
