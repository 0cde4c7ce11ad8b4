#pragma once
// From formations to pads: position from the datum, number, and how well the place is known.

#include <utility>

#include "core/footprint.h"
#include "core/model/expr.h"

namespace punch {

class Adjustment;
class ChainReadings;

/// Fills pads and bare holes with places, numbers and doubts; sizes come from size/. Sets datum, chains of the
/// coordinates and the loose movements.
void addPlaces(const Part& part, const Adjustment& adjustment, const ChainReadings& chains, Footprint& footprint);

/// The datum as expressions in the frame of the first pin.
std::pair<Expr, Expr> datumOf(const Part& part, const Adjustment& adjustment);

}  // namespace punch
