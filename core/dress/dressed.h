#pragma once
// What is printed around the pads, and the room that is the part's alone.
// Frame: mm from the datum, x right, y up, seen from the part side.

#include <map>
#include <string>
#include <vector>

#include "core/base/length.h"
#include "core/base/value.h"
#include "core/geometry/polygons.h"
#include "core/shape/shapes.h"

namespace punch {

struct Dressed {
    PUNCH_VALUE(Dressed)
    Rect courtyard;  ///< around both sides
    Length courtyardExcess;
    Polygons courtyardTop, courtyardBottom;  ///< hugging what is on each side; empty where nothing is
    std::vector<Shape> silkscreen;           ///< top silkscreen: lines and areas of ink
    std::vector<Shape> bottomSilkscreen;
    std::vector<Shape> assembly;                  ///< what only the assembly drawing shows
    std::map<std::string, std::string> inkWords;  ///< by mark: what of it could not be printed as asked
};

}  // namespace punch
