#pragma once
// Drill files in XNC (the XNC Format Specification, revision 2021): plated and bare holes apart, finished sizes.

#include <string>

#include "core/footprint.h"

namespace punch {

enum class Plating { Plated, Bare };

std::string drill(const Part& part, const Footprint& footprint, Plating plating);

}  // namespace punch
