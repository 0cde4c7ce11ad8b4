#pragma once
// derive: the whole flow from what was said to what follows.

#include "core/footprint.h"

namespace punch {

/// Pure: the same part gives the same footprint, on any thread. Never fails; what is missing reads "not measured".
Footprint derive(const Part& part);

}  // namespace punch
