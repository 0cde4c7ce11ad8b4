#pragma once
// The stage of sizes: what each lead and peg needs and gets, what each pad gets, and where each of these numbers comes
// from. Places (core/place) come before, distances (core/clear) after.

#include "core/place/place.h"
#include "core/shape/shaped.h"
#include "core/size/pads.h"

namespace punch {

class Adjustment;
class ChainReadings;

struct Sizes : Sized {
    Chains chains;  ///< "hole:p1", "land:p1", "hole:peg5"
};

/// With the fewest different drills where the rules ask for that. `makes`: what the holes shall take besides.
Sizes sizes(const Part& part, const Adjustment& adjustment, const ChainReadings& chains, const Places& places,
            const Shaped& shaped, std::vector<MakeOver> makes = {});

}  // namespace punch
