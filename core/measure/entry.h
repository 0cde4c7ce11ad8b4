#pragma once
// The entry line: a reading typed as words, or values alone for the reading that is asked for.
//
//   reading  = feature [feature] (contact | direction)... value...
//   feature  = pin number | peg name | left | right | front | rear | body
//   contact  = outside | inside | centres | width | thickness | diameter | length | height | near | far | middle
//   direction = along | across | direct
//   value    = a length with unit and arithmetic, as in quantity.h
//
// Words may be cut to three letters ("out"). Examples: "1 4 outside 16.25 16.23", "1 width 1.00",
// "peg 1 across inside 2.86", "left 1 near 2.23", "body along 20.70".

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/result.h"
#include "core/part/part.h"

namespace punch {

struct Entry {
    Reading reading;     ///< without an identifier
    bool named = false;  ///< the text names the features itself
};

/// Reads the entry line. `asked` is the reading that values alone belong to; none when nothing is asked for.
/// Errors name the word or value that is not understood. Values that no jaws can show are refused.
Result<Entry> parseEntry(const Part& part, const std::optional<Reading>& asked, std::string_view typed, Unit bareUnit);

/// The raw values of a typed list. Errors as parseLength; an empty list is an error.
Result<std::vector<RawValue>> parseRawValues(std::string_view typed, Unit bareUnit);

/// What the last word of the text could become, the likeliest first; empty when a value is due.
std::vector<std::string> completeEntry(const Part& part, std::string_view typed);

}  // namespace punch
