#pragma once
// The marks of one ruler, followed on the full picture. Only ruler.cpp uses this.

#include <optional>

#include "core/picture/ruler.h"
#include "core/picture/strokes.h"

namespace punch {

/// A grey picture as it is, or with x and y exchanged, without copying it.
struct Seen {
    const Grey& grey;
    bool swapped = false;
    int width() const { return swapped ? grey.height : grey.width; }
    int height() const { return swapped ? grey.width : grey.height; }
    double at(double x, double y) const { return swapped ? grey.sample(y, x) : grey.sample(x, y); }
};

/// `series` in pixels of the full picture, its marks running down as `seen`. The result is in the frame of `seen`
/// too, without its body. None when they are no marks.
std::optional<Ruler> followed(const Seen& seen, const StrokeSeries& series, double dpi);

/// Looks for the edges of what the marks stand on. Frame: the picture's own.
void findBody(const Grey& grey, Ruler& ruler);

}  // namespace punch
