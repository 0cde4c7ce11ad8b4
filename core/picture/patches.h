#pragma once
// Where a picture may show features: stable patches of a coarse copy, without those of the ground the part lies on.

#include <vector>

#include "core/picture/find_features.h"

namespace punch {

struct Patches {
    std::vector<RimGuess> guesses;  ///< in pixels of the whole picture, several to a rim
    int ground = 0;                 ///< patches of a pattern up to the picture's edges, left out
    bool more = false;              ///< than can be looked at; the most stable stay
};

/// `toEdges`: the whole picture is looked at, so that a pattern up to its edges is the ground.
Patches patchesIn(const Grey& grey, const FeatureSearch& search, bool toEdges);

/// Weights 1 2 1 along both axes, against noise where averaging did not take it away.
Grey softened(const Grey& in);
/// Grey levels of noise: from differences that smooth shading does not reach.
double noiseOf(const Grey& grey);

}  // namespace punch
