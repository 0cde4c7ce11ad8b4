#pragma once
// The room of a pad: which sizes of land satisfy everything, and what binds at both ends.
//
// Lower end   the ring around its hole at its largest, with the fabrication allowance (core/size/pad_rules, ringOf)
// Upper end   the least of: copper to copper, what voltage asks (through air and over the surface), the web of mask
//             between openings, copper to a bare hole or cut-out
// The pads of one formation that have the same land grow together. A land that may be longer than wide has a room along
// each of its axes, the other one as it is.

#include <vector>

#include "core/base/result.h"
#include "core/clear/board.h"
#include "core/clear/cleared.h"

namespace punch {

/// Steps that a best pad is rounded down to.
inline Length bestStep() { return Length::fromMm(0.05); }
/// No land grows beyond this.
inline Length mostLand() { return Length::fromMm(30); }

/// One or two for each pad (through pads with a measured lead), in the order of the pads.
std::vector<Room> rooms(const Part& part, const Board& board);

/// The land that every pad of a formation can have: the largest least, the smallest most, and what binds there.
/// None when the formation has no room that could be computed.
std::optional<Room> roomOfFormation(const Part& part, const Cleared& cleared, const std::string& formation,
                                    bool across = false);

/// The part with the best land for a pin or a formation, as an override with its reason. For the whole part:
/// core/advise/ways_out (withBestPads).
/// Errors: there is no room, said with what binds.
Result<Part> withBestPad(Part part, const Cleared& cleared, const std::string& target);

/// The part without the overrides that stand at a pin, a formation or the whole part.
Part withoutOverride(Part part, const std::string& target);

}  // namespace punch
