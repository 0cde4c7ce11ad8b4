#pragma once
// More or fewer ways: the formation's pins, what stands right of its middle, and what is said of single pins.

#include <optional>
#include <string>

#include "core/family/family.h"

namespace punch {

/// The formation whose ways vary; none when the part has no pins.
const Formation* varyingFormation(const Part& part);
/// Why they cannot.
std::optional<std::string> cannotVary(const Part& part);
/// `made.part` begins as the part itself. `own`: letters are the member's own.
Result<void> giveWays(const Part& part, int ways, bool own, MemberPart& made);

}  // namespace punch
