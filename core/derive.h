#pragma once
// derive: the whole flow from what was said to what follows.

#include "core/fit/drop_in.h"
#include "core/footprint.h"

namespace punch {

/// Pure: the same part gives the same footprint, on any thread. Never fails; what is missing reads "not measured".
Footprint derive(const Part& part);

/// The next reading when some are put off: `footprint` is that of the part, `putOff` what is not to be asked for.
NextReading nextReadingBut(const Part& part, const Footprint& footprint, const std::vector<Reading>& putOff);

/// Drop-in with all its trials. `footprint` is the part's; it gets the share and its gauge.
DropInReport dropIn(const Part& part, Footprint& footprint, const DropInOptions& options);

}  // namespace punch
