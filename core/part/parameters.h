#pragma once
// What the parameters of a formation are called, in files, formulas and on the bench.

#include <string>

#include "core/part/part.h"

namespace punch {

/// Stands before the names of a formation's parameters: empty for the first formation, "f2." for others.
std::string parameterPrefix(const Part& part, const Formation& formation);
/// The same for its lead: that of the formation whose shape a twin mirrors.
std::string leadPrefix(const Part& part, const Formation& formation);

}  // namespace punch
