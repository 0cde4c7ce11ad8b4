#pragma once
// Values as a drawing states them, and the letter table that gives them by variant.
//
//   20.3             a nominal alone
//   20.3 ±0.2        also +-0.2, or +0.2 -0.1: nominal with tolerance
//   20.1..20.5       also "20.1 to 20.5": limits
//   20.3 exact       a nominal that is called exact
// Every number may carry its unit and be arithmetic, as in base/quantity.h.

#include <optional>
#include <string>
#include <string_view>

#include "core/base/result.h"
#include "core/part/reading.h"

namespace punch {

/// Errors: as parseLength; limits in the wrong order; a negative tolerance.
Result<DrawingValue> parseDrawingValue(std::string_view typed, Unit bareUnit);

/// The letter's value in the chosen variant. None for an unknown letter, variant, or an empty cell.
std::optional<DrawingValue> letterValue(const LetterTable& table, std::string_view letter);

}  // namespace punch
