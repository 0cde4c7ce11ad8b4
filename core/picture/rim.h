#pragma once
// Rims: the outline of a pin, pad, hole or lug in a picture, to a fraction of a pixel.
//
// Method   profiles across the rim, averaged along it over three pixels; the edge is where the slope, smoothed over one
//          pixel, is steepest (parabola through the peak). A circle, rectangle or stadium is fitted to the edge points
//          by least squares with Tukey's weights, so that gloss, dust and letters do not pull. A blurred curved rim
//          peaks nearer to its centre by about s²/2r (s the blur that the profiles show); sizes are corrected for it.
//          Blur happens in light, and light is coded afterwards: where the file names its tone curve, sizes are fitted
//          in light; where not, they lie midway between what an uncoded and a usual curve would make of them.
// Doubt    from the scatter of the edge points about the fit, with as many of them counted as independent as pixels of
//          noise separate; never below kLeastPickU. Frame: pixels, y down.

#include <optional>
#include <vector>

#include "core/picture/picture.h"

namespace punch {

inline constexpr double kLeastPickU = 0.03;  ///< pixels, standard uncertainty of what the help found
inline constexpr double kClickU = 0.5;       ///< pixels, of a bare click

enum class RimShape { Round, Rectangular, Oval };

struct Rim {
    RimShape shape = RimShape::Round;
    PixelPoint centre;
    double width = 0, height = 0;  ///< along and across `turn`; round: both the diameter. width >= height
    double turn = 0;               ///< degrees, of `width`, y down, in (-90, 90]; 0 for a round one
    double u = 0;                  ///< standard uncertainty of each coordinate of the centre, pixels
    double uSize = 0;              ///< of width and height by themselves, pixels
    double uTurn = 0;              ///< of `turn`, degrees; 0 for a round one
    double found = 0;              ///< share of the profiles that show the edge
    double scatter = 0;            ///< r.m.s. of the edge points about the fit, pixels
    double contrast = 0;           ///< grey levels, inside less outside
    double blur = 0;               ///< standard deviation of the edge, pixels
    /// Half width, 95 %, of how far the whole rim may lie further out or in, pixels: tone curve, focus and gloss shift
    /// it, alike for all rims of one look in a picture (the rim offset). Not in `uSize`; a size feels it twice.
    double offset = 0;
    double gloss = 0;  ///< taken off inside before the rim was looked for: mean level over the contrast
};

/// Where to look.
struct RimGuess {
    PixelPoint centre;
    double width = 0, height = 0, turn = 0;
    bool bright = true;  ///< inside against outside
};

/// None when most of the rim cannot be found.
std::optional<Rim> fitRim(const Grey& grey, const RimGuess& guess);
/// The same without what the tone curve does, for choosing among many; accountForTone makes it what fitRim gives.
std::optional<Rim> fitRimAsCoded(const Grey& grey, const RimGuess& guess);
void accountForTone(const Grey& grey, Rim& rim, bool bright);
/// Of one shape only.
std::optional<Rim> fitRound(const Grey& grey, const RimGuess& guess);
std::optional<Rim> fitRectangle(const Grey& grey, const RimGuess& guess);

/// The patch around a place, found by itself. None where there is nothing with a rim within `reach` pixels.
std::optional<Rim> rimAround(const Grey& grey, PixelPoint inside, double reach);

/// The circle through three or more points, least squares. None when they lie on a line.
struct Circle {
    PixelPoint centre;
    double radius = 0;
    double scatter = 0;  ///< r.m.s. distance of the points, pixels; 0 of three
    double uCentre = 0;  ///< standard uncertainty of the centre (its worse direction) for places of 1 pixel each
    double uRadius = 0;  ///< of the radius
};
std::optional<Circle> circleThrough(const std::vector<PixelPoint>& points);

/// A straight edge near the line from a to b, as two points on it at the ends of what was found.
struct Edge {
    PixelPoint a, b;
    double u = 0;  ///< standard uncertainty across the edge, pixels
    double found = 0;
};
/// Looks `reach` pixels to both sides. None where no edge goes along.
std::optional<Edge> edgeNear(const Grey& grey, PixelPoint a, PixelPoint b, double reach);
/// Where two edges meet; none when they are parallel.
std::optional<PixelPoint> corner(const Edge& one, const Edge& other);

}  // namespace punch
