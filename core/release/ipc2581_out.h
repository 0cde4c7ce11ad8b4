#pragma once
// The land pattern as IPC-2581 revision C: padstacks, lands on each layer, the package's outline, pin 1, courtyard,
// keepouts, and one component of it on its proof board, with its kind for the bill of material.
//
// Coordinates in mm, six digits; origin at the datum, seen from the part side. What the standard has no element for
// stands in comments of its elements.

#include <string>

#include "core/base/result.h"
#include "core/footprint.h"

namespace punch {

/// Errors: a place or size that is no number.
Result<std::string> ipc2581(const Part& part, const Footprint& footprint);

}  // namespace punch
