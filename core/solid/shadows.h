#pragma once
// What a solid takes between two heights above its seating plane, seen from above: what gauges need of it when neither
// its file nor the kernel is at hand.
//
// Between two heights it takes its sections there and what its surface passes over between them: exact where walls
// stand upright, never less where they do not. Heights are those at which the solid has level faces, and some usual
// ones. Corners are as the triangles', off by their deflection where faces are round.

#include "core/geometry/polygons.h"
#include "core/part/solid_file.h"
#include "core/solid/leads.h"

namespace punch {

/// Leads and pegs below the seating plane are left out.
std::vector<SolidShadow> shadowsOf(const Solid& solid, const Standing& standing);
/// All that one body of it passes over as it moves, its low and high; in the frame of the standing.
void sweep(const Solid& solid, const Standing& standing, SolidMotion& motion);

using SolidRings = std::vector<std::vector<std::array<double, 2>>>;
SolidRings ringsOf(const Polygons& area);

}  // namespace punch
