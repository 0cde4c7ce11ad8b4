#pragma once
// A symbol and its pins as EDIF 2 0 0 (ANSI/EIA-548-1988): a library of one cell with a schematic view.

#include <string>

#include "core/base/result.h"
#include "core/symbol/block_symbol.h"

namespace punch {

/// A cell for each block. Coordinates in 10 µm. Names that are no identifiers are renamed, their own words kept.
/// `says` stands in comments. Errors: the part has no pins.
Result<std::string> symbolEdif(const Part& part, const std::vector<std::string>& says = {});
/// The same as a picture, 1:1 in mm. Errors: the same.
Result<std::string> symbolSvg(const Part& part);

}  // namespace punch
