#pragma once
// Fewest different drills: formations share a drill wherever the limits of each one's lead allow it.

#include "core/size/pads.h"

namespace punch {

/// Gives the leads the least number of different round holes. Each hole grows at most until its largest finished size
/// reaches `LeadFit::largestAllowed` (a lead without that limit stays as it is), and lands grow with their holes.
void shareDrills(const Rules& rules, std::vector<LeadFit>& leads);

}  // namespace punch
