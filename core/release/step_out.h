#pragma once
// The part as solids: alone, and standing on a small board with its holes and copper. STEP AP214, names and colours.
// Frame: mm from the datum, x right, y up, z away from the board towards the part; the board's upper face at 0.

#include <string>
#include <vector>

#include "core/base/atomic_file.h"
#include "core/footprint.h"
#include "core/solid/shapes_to_make.h"

namespace punch {

/// `home` is the folder of the part's file, beside which its bodies lie. Without a body from a file the body is the
/// block that was measured, its leads as they were read; what is loose or not measured is left out.
SolidsToMake partAsSolids(const Part& part, const Footprint& footprint, const std::string& home);
/// The same on a board as large as its courtyard and a little more.
SolidsToMake boardAsSolids(const Part& part, const Footprint& footprint, const std::string& home);

/// Bodies whose files are not beside the part, in words: without them no STEP is written.
std::vector<std::string> missingBodies(const Part& part, const std::string& home);

/// `turn`: of all of it about the datum. `says` is kept with their names. Both as files, "NAME.step" and "NAME-on-board.step". What there is nothing of is left out; where a body is missing
/// all of it. Errors: a body's file is broken, punch-solid is missing.
Result<std::vector<NamedContent>> stepFiles(const Part& part, const Footprint& footprint, const std::string& stem,
                                            const std::string& home, const std::string& says = {}, Angle turn = {});

}  // namespace punch
