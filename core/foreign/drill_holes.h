#pragma once
// Drill files (XNC, and the older dialects that it came from: inches, left-out zeros): hits, canned slots (G85) and
// straight routs as holes.

#include <string_view>

#include "core/foreign/foreign_pads.h"

namespace punch {

struct DrilledHole {
    double x = 0, y = 0;    ///< middle
    double size = 0;        ///< of its tool
    double length = 0;      ///< of a slot, over its rounded ends; 0: round
    double turn = 0;        ///< degrees, of a slot
    bool plated = true;
};

struct DrilledHoles {
    std::vector<DrilledHole> holes;
    std::vector<std::string> notes;
};

/// `bare`: its holes are unplated where the file does not say. Errors: no drill file, a hit without a tool, no unit.
Result<DrilledHoles> holesFromDrill(std::string_view text, bool bare, const std::string& where);

}  // namespace punch
