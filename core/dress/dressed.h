#pragma once
// What is printed around the pads, and the room that is the part's alone.
// Frame: mm from the datum, x right, y up, seen from the part side.

#include <string>
#include <vector>

#include "core/base/length.h"

namespace punch {

struct Stroke {
    std::vector<Point> points;  ///< a polyline; closed when first and last are equal
    Length width;
    std::string what;  ///< "outline", "pin 1 mark", "reference"
    bool cut = false;  ///< an end was cut away from an opening
};

struct Dressed {
    Rect courtyard;
    Length courtyardExcess;
    std::vector<Stroke> silkscreen;  ///< top silkscreen
    std::vector<Stroke> assembly;    ///< what only the assembly drawing shows
};

}  // namespace punch
