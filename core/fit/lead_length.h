#pragma once
// How far a lead sticks out below the board: its length less board thickness and standoff.

#include "core/size/pads.h"

namespace punch {

struct PastBoard {
    Length shortest, mean, longest;  ///< over the 95 % doubt of the lead's length
    bool firm = false;
};

PastBoard pastBoard(const Part& part, const LeadFit& lead);

// House values: solderable from 0.5, clear of the next board up to 2.3.
inline Length leastPastBoard() { return Length::fromMm(0.5); }
inline Length mostPastBoard() { return Length::fromMm(2.3); }

}  // namespace punch
