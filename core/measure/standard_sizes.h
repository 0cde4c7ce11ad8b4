#pragma once
// Standard sizes: which of them the readings allow.
//
//   k = |value - standard| / sqrt(u² + t²), t the make's own tolerance: from a drawing where there is one, else 0.1 %
//   of the length, at least 0.005 mm.  k <= 2 fits, to 3.3 unlikely, above excluded.
// To tell two neighbours apart, read across n pins with (n - 1) |s1 - s2| > 6.6 sqrt(u(span)² + t²).

#include <optional>
#include <string>
#include <vector>

#include "core/base/value.h"
#include "core/part/part.h"

namespace punch {

class Adjustment;

enum class Fit { Fits, Unlikely, Excluded };

struct StandardJudgement {
    Length standard;
    double k = 0;
    Fit fit = Fit::Excluded;
};

struct SizeAdvice {
    PUNCH_VALUE(SizeAdvice)
    std::string parameter;
    std::string name;   ///< "pitch", "row gap", "lead width", "peg diameter"
    double asRead = 0;  ///< mm, by the readings alone
    double u = 0;       ///< mm, standard uncertainty of it
    double span = 0;    ///< mm, between the ways to explain contradicting readings
    bool firm = false;
    std::optional<Length> taken;
    double takenK = 0;                       ///< how far the readings are from the taken value
    std::vector<StandardJudgement> nearest;  ///< the likeliest first, at most three
    std::string words;                       ///< "5.08 fits (0.3 σ). 5.00 does not (12 σ)."
    bool contradict = false;                 ///< the readings contradict each other: they speak for nothing
    /// The readings speak against the taken value.
    bool speaksAgainst() const { return taken && firm && !contradict && takenK > 3.3; }
};

/// Standard uncertainty of the make itself.
double makeTolerance(double mm);
Fit fitOf(double k);

enum class SizeKind { Pitch, RowGap, Lead, Hole };
/// The sizes people recognise, in rising order.
const std::vector<Length>& standardSizes(SizeKind kind);
inline const std::vector<Length>& standardPitches() { return standardSizes(SizeKind::Pitch); }

/// How many pins to read across to tell two pitches apart, when the span between centres has the uncertainty `u`, mm.
/// None when no row of 200 pins is long enough.
std::optional<int> pinsToTellApart(Length s1, Length s2, double u);

/// Every pitch, row gap, lead and peg size of the part, judged by the readings alone, whether or not one was taken.
/// `adjusted`: the part's own adjustment, which serves for all that is not taken.
std::vector<SizeAdvice> sizeAdvice(const Part& part, const Adjustment& adjusted);

}  // namespace punch
