#pragma once
// What of a lead or peg has to go through the board: its sides and its extent over the corners, least and most.
//
// Where a drawing states a side, with limits, a tolerance or as a plain nominal (ISO 2768-1 m), its limits hold for
// every part of the kind, and are what holes are made for. Else least and most are the ends of the 95 % doubt of what
// was measured. A size beyond its drawing's limits keeps the ends of its doubt.
// A formed end (flattened, swaged) goes through as it is: each side is the larger of shank and end. A sprung end
// (kinked) springs together and does not count.

#include "core/size/pads.h"

namespace punch {

class Adjustment;

LeadSection leadSection(const Part& part, const Formation& formation, const Adjustment& adjustment);
LeadSection spotSection(const Part& part, const Spot& spot, const Adjustment& adjustment);

}  // namespace punch
