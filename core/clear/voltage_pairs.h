#pragma once
// Which pieces of metal have to keep apart for their voltage, the tightest first. Distances and ways: core/clear/ways;
// what may carry a potential: core/clear/conductors.

#include <vector>

#include "core/clear/spacing.h"
#include "core/clear/ways.h"

namespace punch {

/// Pairs of different potentials, one of them metal, the tightest margin first. Up to kAllPairs of them all are
/// measured; beyond that those that are near enough to matter (less than a tenth over what they need), and always the
/// worst, of those that share a face.
std::vector<VoltagePair> voltagePairs(const Part& part, const Board& board);
inline constexpr std::size_t kAllPairs = 600;

/// The listed pair of these two, either way round. None when it is not listed.
const VoltagePair* pairOf(const Cleared& cleared, const FeatureId& a, const FeatureId& b);

/// How many exact distances the last voltagePairs() of this thread took.
std::size_t exactDistancesTaken();

/// What each named pin asks of its surroundings.
std::vector<Halo> halos(const Part& part);

}  // namespace punch
