#pragma once
// From formations to places: position from the datum, number, and how well the place is known.

#include <map>
#include <utility>
#include <vector>

#include "core/base/chain.h"
#include "core/model/expr.h"
#include "core/place/placed.h"

namespace punch {

class Adjustment;
class ChainReadings;

struct Places : Placed {
    std::vector<PlacedPin> pins;            ///< in the order of their numbers
    std::map<FeatureId, PlacedSpot> holes;  ///< of pegs, locks, lugs and screws
    Chains chains;                          ///< "x:p1", "y:p1", "at:face", "pitch"
};

Places places(const Part& part, const Adjustment& adjustment, const ChainReadings& chains);

/// A datum of the part as expressions in the frame of the first pin.
std::pair<Expr, Expr> datumOf(const Part& part, const Adjustment& adjustment, const Datum& datum);

}  // namespace punch
