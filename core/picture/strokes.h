#pragma once
// Thin strokes that run roughly down a picture: candidates for the marks of a ruler. Only ruler.cpp uses this.

#include <vector>

#include "core/picture/picture.h"

namespace punch {

/// Pixels of the grey picture it was traced in.
struct ThinStroke {
    PixelPoint top, bottom;
    double length() const { return bottom.y - top.y; }
};

/// Strokes up to about three pixels wide and at least four long, leaning up to 40 degrees; dark on light, or light on
/// dark.
std::vector<ThinStroke> strokesDown(const Grey& grey, bool dark);

/// Ends of strokes at equal steps on a line.
struct StrokeSeries {
    PixelPoint first;   ///< end of the first stroke
    PixelPoint step;    ///< to the next
    int count = 0;      ///< steps plus one
    int there = 0;      ///< strokes among them that were found
    double length = 0;  ///< pixels, median of the strokes
    bool tops = true;   ///< the upper ends line up
    bool dark = true;
};

/// Series of at least `least` strokes, those with more first. Steps of 3.5 to 10.5 pixels.
std::vector<StrokeSeries> seriesOf(const std::vector<ThinStroke>& strokes, bool dark, int least);

}  // namespace punch
