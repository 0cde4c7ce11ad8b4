#pragma once
// Places in a picture. Pixel centres at whole numbers, x to the right, y down, the middle of the top left pixel at 0,0.

#include <cmath>

namespace punch {

/// A place in a picture, pixels.
struct PixelPoint {
    double x = 0, y = 0;
    friend bool operator==(const PixelPoint&, const PixelPoint&) = default;
};

inline double apart(PixelPoint a, PixelPoint b) { return std::hypot(b.x - a.x, b.y - a.y); }

/// Part of a picture, in whole pixels.
struct PixelRegion {
    int x = 0, y = 0, width = 0, height = 0;
    bool contains(double px, double py) const {
        return px >= x - 0.5 && py >= y - 0.5 && px < x + width - 0.5 && py < y + height - 0.5;
    }
    friend bool operator==(const PixelRegion&, const PixelRegion&) = default;
};

/// Pixels per inch along both axes, as a file states them.
struct Dpi {
    double x = 0, y = 0;
    friend bool operator==(const Dpi&, const Dpi&) = default;
};

}  // namespace punch
