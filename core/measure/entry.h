#pragma once
// The entry line: a reading typed as words, or values alone for the reading that is asked for.
//
//   reading  = [name =] feature [feature [feature]] (contact | direction | remark)... value...
//   feature  = pin number | name of a peg, lock, hole, mark or face | left right front rear top seat | body
//   contact  = outside inside centres width thickness diameter length height depth near far middle angle rim
//   direction = along | across | direct
//   remark   = coordinate (signed, B from A) | below (the drawing shows the part from below) | specimen N |
//              N steps GRID (counted steps of a known grid) | same N (found equal to reading N of the notebook) |
//              letter B (the table's value) | drawing (what follows is a drawing's value)
//   value    = a length with unit and arithmetic, as in quantity.h; degrees for an angle; as in drawing_value.h after
//              "drawing" or when it carries a tolerance or limits
// A named value of no feature: "A = 20.3 ±0.2".
//
// Words may be cut to three letters ("out"). Examples: "1 4 outside 16.25 16.23", "1 width 1.00",
// "peg across 1 inside 2.86", "left 1 near 2.23", "1 10 centres 9 steps 0.1in", "1 2 angle 30".

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
/// `drawn`: what is typed is read off a drawing, so that values are those of drawing_value.h.
/// Errors name the word or value that is not understood. Values that no jaws can show are refused.
Result<Entry> parseEntry(const Part& part, const std::optional<Reading>& asked, std::string_view typed, Unit bareUnit,
                         bool drawn = false);

/// The values of a reading as they would be typed again, for changing them.
std::string typedValues(const Reading& reading, Unit bareUnit);

/// The raw values of a typed list. Errors as parseLength; an empty list is an error.
Result<std::vector<RawValue>> parseRawValues(std::string_view typed, Unit bareUnit);

/// What the last word of the text could become, the likeliest first; empty when a value is due.
std::vector<std::string> completeEntry(const Part& part, std::string_view typed);

}  // namespace punch
