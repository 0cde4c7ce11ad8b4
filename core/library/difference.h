#pragma once
// What differs between two versions of a part, or two parts, in words: "pitch 5.000 → 5.080", "hole of pin 1 1.40
// → 1.50".

#include <string>
#include <vector>

#include "core/footprint.h"

namespace punch {

/// What the part says of itself, what was read, what follows, and what the gauges make of it; nothing where they agree
/// to a thousandth of a millimetre. Numbers that every pad shares are said once.
std::vector<std::string> differenceWords(const Part& a, const Footprint& fa, const Part& b, const Footprint& fb);

}  // namespace punch
