#pragma once
// Two people's edits of one part, merged by what they say: field by field, and things of a list by what they are
// (their identifier, a pin's number, a variant's name), whatever their lines.

#include <string>
#include <string_view>
#include <vector>

#include "core/base/result.h"

namespace punch {

struct MergedPart {
    std::string text;                    ///< the part's file
    std::vector<std::string> conflicts;  ///< "rules.fab.leastGap: 0.2 here, 0.25 there"; here stands
};

/// What both made under one new identifier is two things: theirs gets another one, wherever it is named. Errors: one of
/// them is no part.
Result<MergedPart> mergedPart(std::string_view base, std::string_view ours, std::string_view theirs);

}  // namespace punch
