#pragma once
// Laying places in a plane onto others: a turn and a move, never a mirror image. mm.

#include <vector>

#include "core/solid/sections.h"

namespace punch {

struct Flatly {
    double c = 1, s = 0, x = 0, y = 0;
    Flat operator()(Flat p) const { return {c * p.x - s * p.y + x, s * p.x + c * p.y + y}; }
};

inline double far(Flat a, Flat b) { return std::hypot(a.x - b.x, a.y - b.y); }

/// Below it nobody calls a lead bent.
inline constexpr double kLeastOff = 0.10;
/// Above it something is off: by what the better half says.
double offLimit(const std::vector<double>& residuals);

/// Least squares with weights. Of a single place the move alone.
Flatly fitted(const std::vector<Flat>& from, const std::vector<Flat>& to, const std::vector<double>& weights);

struct FlatFit {
    Flatly place;
    std::vector<bool> counted;  ///< by place: it agrees with the others
    double rms = 0;             ///< of those
    std::size_t count() const;
};

/// From a first place: those that agree within what the better half says, and the place of these alone.
FlatFit settled(Flatly first, const std::vector<Flat>& from, const std::vector<Flat>& to);

}  // namespace punch
