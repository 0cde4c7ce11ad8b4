#pragma once
// Typed lengths: "16.25", "0.1in", "254 mil", "(33.3-19.4)/2".
//
// A number without a unit is in the unit that the reader names (the display unit, or mm in a file). Units stand
// behind a number or a bracket: mm, cm, um, µm, mil, thou, in, inch. Arithmetic is muParser's: + - * / ^ ( ).
// A sum of a length and a bare number ("0.1in + 5") is refused, because nobody can know what was meant.

#include <string>
#include <string_view>
#include <vector>

#include "core/base/length.h"
#include "core/base/result.h"

namespace punch {

enum class Unit { Mm, Mil, Inch };

std::string_view unitName(Unit unit);
/// Empty when `name` is none of mm, mil, inch, in.
Result<Unit> unitFromName(std::string_view name);

Length inUnit(double value, Unit unit);
double valueIn(Length length, Unit unit);

/// Evaluates one typed length. Errors: empty, not a number, mixed, not finite.
Result<Length> parseLength(std::string_view typed, Unit bareUnit);

/// Evaluates a typed number without a unit, with arithmetic.
Result<double> parseNumber(std::string_view typed);

/// Splits "5.14 5.13 254 mil (1+2)/2" into its values: white space separates, except before a unit, inside
/// brackets and around an operator.
std::vector<std::string> splitValues(std::string_view typed);

/// Does the typed text name a unit itself?
bool namesUnit(std::string_view typed);

/// A length for people: "16.247 mm", "639.6 mil", "0.6396 in"; `digits` are decimals in mm.
std::string formatLength(Length length, Unit unit, int digits = 3);
/// The same without the unit, for columns whose head names it.
std::string formatValue(Length length, Unit unit, int digits = 3);

}  // namespace punch
