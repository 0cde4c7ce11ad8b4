#pragma once
// One profile across an edge. Only the fits of this folder use it.

#include <optional>

#include "core/picture/picture.h"

namespace punch {

inline constexpr double kOwnBlur2 = 1.0 + 0.18;  ///< pixels², of the smoothing and of sampling between pixels

struct EdgePoint {
    double s = 0;      ///< pixels along the profile from its origin
    double slope = 0;  ///< grey levels per pixel at the edge, along the profile
    double blur2 = 0;  ///< pixels², variance of the edge's blur, the picture's own
};

/// The steepest place of the profile from `origin` along the unit direction (dx, dy) between s0 and s1.
/// Where there are several edges, one near `expected` goes before a steeper one further off (`trust` pixels count
/// half); with a sign given, an edge further out that is nearly as steep goes before both. `sign`: -1 for a fall, +1
/// for a rise, 0 for either. None when the steepest place is at an end of the profile.
std::optional<EdgePoint> edgeOnProfile(const Grey& grey, PixelPoint origin, double dx, double dy, double s0, double s1,
                                       int sign, double expected, double trust);

}  // namespace punch
