#pragma once
// Bodies: what stands on the ground of a picture. Only find.cpp uses this.

#include <vector>

#include "core/picture/picture.h"
#include "core/picture/ruler.h"

namespace punch {

/// Which body each place stands on, by a number; the ground is what reaches the picture's edges at their usual level.
/// Empty when ground and bodies cannot be told apart, or when most places stand alone on what is none.
std::vector<int> bodiesUnder(const Grey& grey, const std::vector<PixelPoint>& places, double mmPerPixel,
                             const std::vector<Ruler>& rulers);

}  // namespace punch
