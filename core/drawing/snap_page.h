#pragma once
// Clicks on a drawn page that meet what is drawn: the tips of arrows, where lines cross, their ends, the lines
// themselves. A page is only pixels, so lines are looked for around the click.
//
// Method   dark pixels around the click vote for straight lines (Hough transform, a degree and a pixel); the strongest
// are
//          fitted by least squares, weighted by darkness. An arrow's tip lies where its dimension line meets the line
//          it points at, so crossings go before ends, and ends before a line by itself.

#include <optional>

#include "core/drawing/drawing.h"
#include "core/picture/picture.h"

namespace punch {

struct SnappedPlace {
    enum class Kind { Crossing, End, Line };
    Kind kind = Kind::Line;
    PixelPoint at;
    double u = 0;  ///< standard uncertainty of each coordinate, pixels; of a line only across it
};

/// None where no straight line is drawn within `reach` pixels. Frame: pixels of the page.
std::optional<SnappedPlace> snapOnPage(const Grey& page, PixelPoint click, double reach);

}  // namespace punch
