#pragma once
// What a potential is given to, as people type it: "1 2", "1-4, screw", "3 plug travel", "board edge".

#include <string_view>
#include <vector>

#include "core/base/result.h"
#include "core/part/part.h"

namespace punch {

/// Pin numbers, ranges of whole numbers, and names of pegs, screws, cut-outs, keepouts and board edges
/// (carriesVoltage). Blanks or commas stand between; a name may hold blanks. Each once, in the order typed. Errors:
/// what nothing is called.
Result<std::vector<FeatureId>> carriersByWords(const Part& part, std::string_view typed);

}  // namespace punch
