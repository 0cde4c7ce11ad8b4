#pragma once
// What is printed around the pads, and the room that is the part's alone.
// Frame: mm from the datum, x right, y up, seen from the part side.

#include <map>
#include <string>
#include <vector>

#include "core/base/length.h"
#include "core/geometry/polygons.h"

namespace punch {

struct Stroke {
    std::vector<Point> points;  ///< a polyline; closed when first and last are equal
    Length width;
    std::string what;       ///< "outline", "pin 1 mark", "reference", a mark's name
    bool cut = false;       ///< an end was cut away from an opening
    std::string mark = {};  ///< of which mark; empty: what the rules draw
    bool firm = true;       ///< nothing loose moves it
};

/// Ink all over.
struct InkArea {
    Polygons area;
    std::string what;
    bool cut = false;
    std::string mark = {};
    bool firm = true;
};

struct Dressed {
    Rect courtyard;  ///< around both sides
    Length courtyardExcess;
    Polygons courtyardTop, courtyardBottom;  ///< hugging what is on each side; empty where nothing is
    std::vector<Stroke> silkscreen;          ///< top silkscreen
    std::vector<Stroke> bottomSilkscreen;
    std::vector<Stroke> assembly;  ///< what only the assembly drawing shows
    std::vector<InkArea> silkscreenAreas, bottomSilkscreenAreas, assemblyAreas;
    std::map<std::string, std::string> inkWords;  ///< by mark: what of it could not be printed as asked
};

}  // namespace punch
