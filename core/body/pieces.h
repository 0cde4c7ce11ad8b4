#pragma once
// The part as solids, as it was measured: its block, its leads, and the pieces that were put on it (core/marks/piece).
// Frame: mm from the datum, x right, y up, z away from the board towards the part, the board's upper face at 0.

#include <vector>

#include "core/footprint.h"
#include "core/solid/shapes_to_make.h"

namespace punch {

/// What stands for marks of the kind "piece", in their order; those that are wrong are left out. They stand on the
/// seating plane, the standoff above the board.
std::vector<MadeBody> markedPieces(const Part& part, const Footprint& footprint);
/// Its block between its faces, over the standoff; none while a face or the height is loose.
std::vector<MadeBody> measuredBlock(const Part& part, const Footprint& footprint);
/// Leads with their section and length, as far as they were read.
std::vector<MadeBody> measuredLeads(const Part& part, const Footprint& footprint);

/// Corners and bulges as the kernel takes them.
std::vector<FlatBend> flatRing(const Ring& ring);
FlatArea flatArea(const Area& area);

}  // namespace punch
