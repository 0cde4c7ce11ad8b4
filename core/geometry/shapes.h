#pragma once
// The shapes of a footprint as rounded polygons: lands on each layer, mask openings, holes, slots, cut-outs, hardware.

#include <vector>

#include "core/geometry/rounded_polygon.h"
#include "core/footprint.h"

namespace punch {

enum class CopperLayer { Top, Inner, Bottom };

RoundedPolygon copperShape(const Land& land);
const Land& landOn(const Pad& pad, CopperLayer layer);
/// Is there a layer that carries copper of both?
bool shareLayer(const Pad& a, const Pad& b);
/// Is the pad's land on this outer layer free of solder mask?
bool opensMask(const Pad& pad, CopperLayer layer);
/// The land of the part side; of a pad that is only below, that one.
const Land& shownLand(const Pad& pad);
RoundedPolygon landShape(const Pad& pad);
/// The pad's solder mask opening on the side of its shown land.
RoundedPolygon maskOpening(const Pad& pad);
/// A land, larger by `by` on every side.
Land grown(Land land, Length by);

/// The finished hole or slot, at its least or largest. Only of a pad that has one.
RoundedPolygon holeShape(const Pad& pad, bool largest = true);
RoundedPolygon holeShape(const BareHole& hole, bool largest = true);
RoundedPolygon cutShape(const CutShape& cut);

/// Pads, and the lands of soldered lugs as pads that are numbered by their name and belong to no formation. Metal,
/// keepouts and edges that carry a potential: core/clear/conductors.
std::vector<Pad> copperPads(const Footprint& footprint);
inline constexpr std::size_t kNoFormation = static_cast<std::size_t>(-1);

Rect boundsOf(const RoundedPolygon& shape);
/// Its outline, counter-clockwise and not closed, arcs in chords off by at most `sagitta`.
std::vector<Point> outlineOf(const RoundedPolygon& shape, Length sagitta);
/// Is the point inside it or on its edge?
bool contains(const RoundedPolygon& shape, Point p);

/// A slot from middle to middle of its rounded ends.
RoundedPolygon slotShape(Point middle, Length width, Length overEnds, Angle turn);

}  // namespace punch
