#pragma once
// Standard sizes: which of them the readings allow.
//
//   k = |value - standard| / sqrt(u² + t²), t the make's own tolerance: 0.1 % of the length, at least 0.005 mm.
//   k <= 2 fits, to 3.3 unlikely, above excluded.
// To tell two neighbours apart, read across n pins with (n - 1) |s1 - s2| > 6.6 sqrt(u(span)² + t²).

#include <optional>
#include <string>
#include <vector>

#include "core/part/part.h"

namespace punch {

enum class Fit { Fits, Unlikely, Excluded };

struct StandardJudgement {
    Length standard;
    double k = 0;
    Fit fit = Fit::Excluded;
};

struct SizeAdvice {
    std::string parameter;
    double asRead = 0;  ///< mm, by the readings alone
    double u = 0;       ///< mm, standard uncertainty of it
    bool firm = false;
    std::optional<Length> taken;
    std::vector<StandardJudgement> nearest;  ///< the likeliest first, at most three
    std::string words;                       ///< "5.08 fits (0.3 σ). 5.00 does not (12 σ)."
};

/// Standard uncertainty of the make itself.
double makeTolerance(double mm);
Fit fitOf(double k);

const std::vector<Length>& standardPitches();

/// The pitch of a formation, judged by the readings alone, whether or not a value was taken.
SizeAdvice advicePitch(const Part& part, const Formation& formation);

}  // namespace punch
