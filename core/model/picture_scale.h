#pragma once
// The scale of a picture along both axes, from known lengths in it.
//
// Each pair of places a known length apart gives  L = hypot(sx dx, sy dy);  all pairs are adjusted together.
//   a ruler's graduations   limit 0.05 mm for the distance of any two, rectangular
//   the ends                their standard uncertainty in pixels, by the pick
//   the other axis          scanners differ by up to half a percent between axes: until pairs measure an axis better
//                           than that, sy/sx = 1 ± 0.5 % (95 %) is one more observation
//   dpi                     ± 0.5 % (95 %) on each axis, a fallback

#include <array>
#include <optional>
#include <string>
#include <vector>

#include "core/base/pixel.h"
#include "core/base/result.h"

namespace punch {

inline constexpr double kRulerLimit = 0.05;      ///< mm, rectangular, for the distance of any two graduations
inline constexpr double kAxesDoubt = 0.005;      ///< relative, 95 %: how scales differ between the axes of a scanner
inline constexpr double kLeastPairPixels = 2.0;  ///< pairs nearer than this say nothing

struct ScalePair {
    PixelPoint a, b;
    double length = 0;  ///< mm
    double u = 0.5;     ///< pixels, standard uncertainty of each end
    friend bool operator==(const ScalePair&, const ScalePair&) = default;
};

enum class ScaleFrom { Pairs, Ruler, Dpi, Drawing, None };

struct PictureScale {
    double x = 0, y = 0;    ///< mm per pixel
    double ux = 0, uy = 0;  ///< standard uncertainties, mm per pixel
    ScaleFrom from = ScaleFrom::None;
    std::vector<double> residuals;  ///< of each pair: what it is off by, mm
    std::vector<double> w;          ///< the same over its standard uncertainty
    double doubt() const { return 1.96 * (ux > uy ? ux : uy); }
};

/// Standard uncertainty of a pair's length at a scale of `mmPerPixel`, mm.
double pairU(const ScalePair& pair, double mmPerPixel);

/// Do the pairs alone measure both axes better than scanners differ?
bool pairsMeasureBothAxes(const std::vector<ScalePair>& pairs);

/// Errors: no pair, ends that coincide, a length that is not above 0.
Result<PictureScale> scaleByPairs(const std::vector<ScalePair>& pairs);
PictureScale scaleByDpi(const Dpi& dpi);

/// "ruler", "pairs", "dpi", "drawing", "none", as punch find says it.
std::string scaleFromWords(ScaleFrom from);

}  // namespace punch
