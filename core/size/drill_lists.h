#pragma once
// Drill lists, of finished sizes, ascending.
//   metric   0.05 steps from 0.20 to 3.00, then 0.10 to 6.50
//   inch     number drills 80 to 1 (0.0135 to 0.228 in) and 1/64 steps to 1/4 in
//   own      the user's

#include <optional>
#include <vector>

#include "core/part/part.h"

namespace punch {

std::vector<Length> drillList(const Rules& rules);

/// The smallest drill that is not below `least`. None when the list ends before.
std::optional<Length> nextDrillUp(const std::vector<Length>& list, Length least);

}  // namespace punch
