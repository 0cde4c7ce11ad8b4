#pragma once
// The footprint for people: a coordinate table (CSV, RFC 4180) and the sheet at 1:1 (SVG in mm).

#include <string>

#include "core/approval/approval.h"
#include "core/base/result.h"
#include "core/footprint.h"

namespace punch {

/// One line for each pad and bare hole: number, kind, x, y, doubts, hole, land; mm from the datum, y up; the version
/// and digest of the part where `stamp` says them.
/// Errors: a place that is no number.
Result<std::string> coordinateTable(const Part& part, const Footprint& footprint, const Stamp& stamp = {});

/// The sheet at true scale, seen from the part side, with a 10 mm bar to check the print.
/// Errors: a place that is no number.
Result<std::string> sheetSvg(const Part& part, const Footprint& footprint, const Stamp& stamp = {});

}  // namespace punch
