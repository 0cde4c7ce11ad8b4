#pragma once
// The footprint as DXF for mechanics: a layer for each layer of the board, spelled out; circles, arcs and lines, no
// splines; millimetres, origin at the datum, seen from the part side.

#include <string>

#include "core/approval/approval.h"
#include "core/base/result.h"
#include "core/footprint.h"

namespace punch {

/// ASCII DXF of AutoCAD 2000 (AC1015), its unit set to mm. Errors: a place that is no number, no room for a
/// temporary file.
Result<std::string> footprintDxf(const Part& part, const Footprint& footprint, const Stamp& stamp = {});

}  // namespace punch
