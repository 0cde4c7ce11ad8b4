#pragma once
// What the fits of rims share: edge points, robust weights, and what the points say besides where they lie. Only the
// fits of this folder use it. Pixels, y down; grey levels.

#include <algorithm>
#include <numbers>
#include <vector>

#include "core/picture/rim.h"

namespace punch {

inline constexpr double kDegrees = 180 / std::numbers::pi;
inline constexpr double kNoiseLength = 3.0;  ///< pixels along a rim from which edge points err independently
/// On a small rim neighbouring rays share more of their pixels.
inline double noiseLength(double radius) { return kNoiseLength * (1 + 26 / std::max(radius * radius, 4.0)); }
inline constexpr double kShading =
    6.0;  ///< pixels², by the radius: what slopes that differ by their mean pull an edge off
inline constexpr double kFarPoint = 1.5;  ///< pixels: points farther off than this count as if they were at it

/// A point of an edge: how steep it is there, and the square of its blur.
struct RimPoint {
    double x, y;
    double slope, blur2;
};

double median(std::vector<double> v);
/// Tukey's biweight: 1 at 0, 0 from 4.685 scales.
double tukey(double residual, double scale);
/// 1.4826 times the median size, at least 0.04 pixels, so that the weights do not chase rounding.
double robustScale(const std::vector<double>& residuals);

/// Edge points on rays from the centre of an ellipse, searched between `inner` and `outer` pixels about its radius.
std::vector<RimPoint> castRays(const Grey& grey, const RimGuess& guess, double inner, double outer, int rays);

/// The radius of a disc whose rim, blurred by `blur2` (pixels²), is steepest at `steepest`: for a Gaussian of σ the
/// steepest place is where r = R (I0(x)/I1(x) - 1/x), x = rR/σ², of modified Bessel functions.
double unblurredRadius(double steepest, double blur2);

double meanBlur2(const std::vector<RimPoint>& points);
/// Grey levels inside less outside, just beyond the blur on both sides.
double contrastAcross(const Grey& grey, const std::vector<RimPoint>& points, PixelPoint centre, double blur);
/// How unevenly bright it is along the rim just inside and just outside (first harmonic), by the contrast: a highlight
/// that touches the rim on one side pulls the centre, unseen by scatter and slopes.
double unevennessOf(const Grey& grey, const std::vector<RimPoint>& points, PixelPoint centre, double blur,
                    double contrast);
inline constexpr double kUneven = 0.4;  ///< pixels for each pixel of blur, standard uncertainty; from hard pictures
/// How much steeper the edge is on one side than on the other, by its mean: shading and gloss, which pull the edge and
/// with it the centre, unseen by the scatter about the fit.
double shadingOf(const std::vector<RimPoint>& points, PixelPoint centre);

}  // namespace punch
