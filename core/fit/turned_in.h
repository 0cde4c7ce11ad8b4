#pragma once
// Could the part be put in turned, or mirrored? Which turns and mirrors of its leads lay each into a hole that it fits.
//
// Leads and holes are as many, so such a way lays the middle of all leads onto the middle of all holes; what is left is
// a turn about it, or a mirror through it. Candidates come from one lead and the holes as far from the middle as it;
// each is fitted to all pairs (least squares) and then every lead is tried in its hole.

#include <vector>

#include "core/size/pads.h"

namespace punch {

/// A lead or peg and the hole that was made for it.
struct LeadAndHole {
    Point lead, hole;
    Length wide, thick;            ///< section of the lead, longer side first
    Length across;                 ///< its diameter or over its corners
    Length holeWidth, holeLength;  ///< equal for a round hole
    double slotTurn = 0;           ///< degrees, of a slot's length
    bool onSurface = false;        ///< a terminal on its land: it goes into no hole, and no lead onto it
    bool isSlot() const { return holeLength > holeWidth; }
};

/// Another way in.
struct OtherWay {
    bool mirrored = false;
    double degrees = 0;  ///< by which it is turned; of a mirror the direction of its line, 0 to 180
    Point about;
    Point map(Point p) const;
};

/// All other ways, turns first. A way that lays every lead into its own hole is none. Empty for fewer than two seats
/// and for leads that all stand on one place.
std::vector<OtherWay> otherWays(const std::vector<LeadAndHole>& seats);

/// Of the footprint's pads with holes, pegs, locks and lugs at their mean sizes and largest holes, and of surface
/// lands, on which a terminal stands that is half as large (house value).
std::vector<LeadAndHole> leadsAndHoles(const Sized& sized);

}  // namespace punch
