#pragma once
// The footprint as JSON for other programs (docs/derive-json.md). Lengths in mm from the datum, x right, y up, seen
// from the part side; rotation in degrees counter-clockwise; null where something is loose.

#include <string>

#include "core/footprint.h"

namespace punch {

std::string deriveJson(const Part& part, const Footprint& footprint);

}  // namespace punch
