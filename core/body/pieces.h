#pragma once
// The part as solids, as it was measured: its block, its leads, and the pieces that were put on it (core/marks/piece).
// Frame: mm from the datum, x right, y up, z away from the board towards the part, the board's upper face at 0.

#include <optional>
#include <string>
#include <vector>

#include "core/base/motion.h"
#include "core/footprint.h"
#include "core/solid/shapes_to_make.h"

namespace punch {

/// Its block between its faces, over the standoff; none while a face or the height is loose.
std::vector<MadeBody> measuredBlock(const Part& part, const Footprint& footprint);
/// Leads with their section and length, as far as they were read.
std::vector<MadeBody> measuredLeads(const Part& part, const Footprint& footprint);

/// All that marks put on the part: pieces and package bodies, each under the identifier of its mark.
struct MarkedBody {
    std::string mark;
    MadeBody body;
    std::optional<Motion> motion;  ///< of what moves, on the board
};
std::vector<MarkedBody> markedBodies(const Part& part, const Footprint& footprint);

/// What colours and looks are called in marks, as colours.
Colour colourOf(const std::string& words, Look look);
Look lookOf(const std::string& words);
inline constexpr Colour kMetalColour = 0xB4BCC2;

/// Corners and bulges as the kernel takes them.
std::vector<FlatBend> flatRing(const Ring& ring);
FlatArea flatArea(const Area& area);

}  // namespace punch
