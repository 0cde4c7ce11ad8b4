#pragma once
// Rings around what is dark in a picture: the line along which the level is half way, between pixel centres.

#include <vector>

#include "core/base/pixel.h"
#include "core/picture/picture.h"

namespace punch {

/// Closed rings along `level`, what is darker on their left as one sees them (so outer rings run counter-clockwise for
/// an eye, holes clockwise). What is dark at the picture's edge is closed along it. Frame: pixels, y down.
std::vector<std::vector<PixelPoint>> darkOutlines(const Grey& grey, double level);

/// The level that parts the picture's dark from its light best (Otsu 1979: least variance within both).
double partingLevel(const Grey& grey);

}  // namespace punch
