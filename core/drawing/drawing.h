#pragma once
// Drawing: what a page of a vector file draws, laid into the frame of a picture, so that scale, picks, finding and
// readings work on it as they do on a scan.
//
// Frame: pixels of `dpi` to the inch of the page, y down (base/pixel.h). A DXF has 0.01 mm to the pixel at drawn size,
// a page of a PDF 600 pixels to the inch. Places are exact, not rounded to whole pixels.

#include <optional>
#include <string>
#include <vector>

#include "core/base/packed.h"
#include "core/base/pixel.h"

namespace punch {

inline constexpr double kDxfDpi = 2540;  ///< 0.01 mm a pixel
inline constexpr double kPageDpi = 600;  ///< of a PDF

/// A polyline of straight pieces. What bends other than in a circle comes as chords.
struct DrawnPath {
    std::vector<PixelPoint> points;
    bool closed = false;
    bool chords = false;  ///< stands for a curve: its corners are none
};

/// A circle or an arc: the place at angle t is centre + radius (cos t, sin t), y down, from `from` on by `sweep`.
struct DrawnArc {
    PixelPoint centre;
    double radius = 0;
    double from = 0, sweep = 360;  ///< degrees
    bool whole() const { return sweep > 359.999; }
    PixelPoint at(double degrees) const;
};

/// A line of text; of a dimension also what it measures.
struct DrawnText {
    PixelPoint middle;
    double width = 0, height = 0;  ///< pixels, along and across the line
    double turn = 0;               ///< degrees, y down: clockwise as seen
    std::string text;
    std::optional<std::pair<PixelPoint, PixelPoint>> spans;  ///< the two places that a dimension is taken between
};

struct Drawing {
    int width = 0, height = 0;  ///< pixels
    double dpi = kDxfDpi;
    std::vector<DrawnPath> paths;
    std::vector<DrawnArc> arcs;
    std::vector<DrawnText> texts;
    std::optional<double> mmPerUnit;  ///< of a DXF, as the file states it; none when it states none
    std::vector<std::string> notes;   ///< for people
};

void pack(Packed& to, const Drawing& drawing);
void unpack(Packed& from, Drawing& drawing);

/// The text under a place, or the nearest within `reach` pixels of its box; -1 for none.
int textNear(const Drawing& drawing, PixelPoint at, double reach);

/// Something that has one exact place: a circle's or arc's middle, an end, a corner, the middle of a piece.
struct DrawnPlace {
    enum class Kind { Centre, End, Middle };
    Kind kind = Kind::End;
    PixelPoint at;
    double diameter = 0;  ///< of a circle
};
/// A click on or inside a circle gives its middle (of several the smallest), else the nearest end within `reach`.
std::optional<DrawnPlace> placeNear(const Drawing& drawing, PixelPoint at, double reach);

/// The straight piece nearest to a place, within `reach`.
std::optional<std::pair<PixelPoint, PixelPoint>> pieceNear(const Drawing& drawing, PixelPoint at, double reach);

}  // namespace punch
