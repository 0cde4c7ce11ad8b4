#pragma once
// Drill files in XNC (the XNC Format Specification, revision 2021): plated and bare holes apart, finished sizes.

#include <string>

#include "core/approval/approval.h"
#include "core/base/result.h"
#include "core/footprint.h"

namespace punch {

enum class Plating { Plated, Bare };

/// Errors: a hole without a size or 10 m or more away.
Result<std::string> drill(const Part& part, const Footprint& footprint, Plating plating,
                         const Stamp& stamp = {});

}  // namespace punch
