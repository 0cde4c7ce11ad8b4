#pragma once
// Typed lengths: "16.25", "0.1in", "254 mil", "(33.3-19.4)/2".
//
// A number without a unit is in the unit that the reader names (the display unit, or mm in a file). Units stand
// behind a number or a bracket: mm, cm, um, µm, mil, thou, in, inch. Arithmetic is muParser's: + - * / ^ ( ).
// A sum of a length and a bare number ("0.1in + 5") is refused, because nobody can know what was meant.

#include <functional>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/angle.h"
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

/// Evaluates a typed angle in degrees: "30", "30deg", "30°", "360/7".
Result<Angle> parseAngle(std::string_view typed);

/// A formula on names: "A - 2*edge", "(body.left + body.right)/2", "360/7" or a plain value.
class Formula {
public:
    /// What a name stands for: a length, or an angle in degrees.
    enum class Kind { Length, Angle };
    /// `kindOf` says what a name stands for. `wanted`: what the formula has to give. Bare numbers are in `bareUnit`
    /// when the formula names nothing; beside names every length needs its unit, as in "A - 2mm".
    /// Errors: as parseLength; a length where an angle is wanted, and the other way round.
    static Result<Formula> parse(std::string_view typed, Unit bareUnit, Kind wanted,
                                 const std::function<Kind(const std::string&)>& kindOf);
    /// The names in a typed text, in alphabetical order; empty for what cannot be read.
    static std::vector<std::string> namesIn(std::string_view typed);

    const std::vector<std::string>& names() const { return names_; }
    /// In mm or degrees, at the names' values in mm or degrees. May be infinite or no number.
    double value(const std::vector<double>& values) const;
    /// Derivative by name `index`. Exact to rounding for polynomials up to the fourth degree.
    double derivative(const std::vector<double>& values, std::size_t index) const;

private:
    struct Compiled;
    std::vector<std::string> names_;
    double factor_ = 1;
    std::shared_ptr<Compiled> compiled_;
};

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
