#pragma once
// Which pin is the first, what may be taken for it, and where a mark for it stands.

#include <optional>
#include <string>
#include <vector>

#include "core/clear/board.h"

namespace punch {

struct First {
    std::string number;
    Point at;
    Length above;               ///< from its middle to the rear end of its opening
    std::vector<Point> others;  ///< all other pads and lands
};

/// The first pin; of a part without pins the surface land with the lowest number.
std::optional<First> firstOf(const Board& board);

/// Beside the first pin, outside all that is there, on the side that the pin is nearest to.
struct Beside {
    Point at;               ///< on the edge of what is there
    double dx = 0, dy = 0;  ///< from there to the pin
};

/// Where no mark is met before the pin by what points at it. `rowsFirst`: the ends of the row come before its sides.
Beside besideFirst(const First& first, const Rect& box, bool rowsFirst);

}  // namespace punch
