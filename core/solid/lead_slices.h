#pragma once
// The sections of a lead on its way down, as far as a board is thick: what has to pass through its hole.
//
// Between two heights without a corner of the solid between them every point of a lead lies on a straight line from
// the upper section to the lower: what is kept at such heights says exactly where the lead is at all of them.

#include "core/part/solid_file.h"
#include "core/solid/sections.h"

namespace punch {

inline constexpr std::size_t kMostLeadSlices = 24;

/// From the seating plane downwards to the lead's end, in the frame of what was found; where there are more heights
/// than kMostLeadSlices neighbours become one around both. Curved walls count as far out as their circle goes.
std::vector<LeadSlice> leadSlices(const Solid& solid, const Pose& pose, const Sections& sections,
                                  const SolidLeadFound& lead);

/// Around what passes between two depths, convex; empty when the lead does not reach there.
std::vector<LeadSlice> between(const std::vector<LeadSlice>& slices, double from, double to);

}  // namespace punch
