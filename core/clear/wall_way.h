#pragma once
// Ways between copper on different faces of the board: down the wall of a cut-out or a bare hole, or around the edge.
//
// Over the surface: on the upper face to a place of the rim, slanting down the wall to another place of it, on the
// lower face on to the copper; the shortest over all rims. Through air: the shortest string, to a place of the rim,
// slanting through the opening, and on from another place of the rim; past other cuts, as through air.
// The wall of any cut serves, however narrow. Source: IEC 60664-1, 4.2 and 6.2.

#include <optional>

#include "core/clear/creepage.h"
#include "core/footprint.h"

namespace punch {

struct WallWays {
    std::optional<SurfaceWay> air, surface;  ///< their paths in the plane; none: no cut and no edge
};

/// `upper` and `lower` are the copper; `surface` the cuts that a way over either face has to go around. Within 0.1 µm.
WallWays wallWays(const Part& part, const Footprint& footprint, const RoundedPolygon& upper,
                  const RoundedPolygon& lower, const SurfaceMap& surface, Length thickness);

}  // namespace punch
