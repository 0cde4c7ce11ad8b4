#pragma once
// What was found in a picture or drawing as a pattern to look for in a library, before anything is taken into a part.

#include "core/library/pad_set.h"
#include "core/picture/find.h"

namespace punch {

/// Pins, pads, pegs and holes with the doubts of their places, the scale's among them. None with fewer than two.
std::optional<PadPattern> patternOf(const Found& found);

}  // namespace punch
