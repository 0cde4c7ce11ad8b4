#pragma once
// Pins, pads, holes, pegs and lugs in a picture: patches with a rim, proposed with a confidence.

#include <functional>
#include <optional>
#include <vector>

#include "core/picture/picture.h"
#include "core/picture/rim.h"

namespace punch {

struct FeatureSearch {
    double mmPerPixel = 0;            ///< roughly; 0 when nothing is known
    double least = 0.35, most = 7.0;  ///< mm, shorter and longer side
    double leastConfidence = 0.5;
    bool faint = false;  ///< also what is hardly lighter or darker than what is around it; costs twice the time
    /// What nobody wants to know of, by its centre and shorter side in pixels, such as the marks of a ruler.
    std::function<bool(PixelPoint, double)> skip = {};
};

/// One patch that looks like a feature. Frame: pixels of the whole picture.
struct SeenFeature {
    Rim rim;
    bool bright = true;            ///< inside against what is around it
    std::optional<double> inner;   ///< of a pad with a hole: the hole's diameter, pixels
    double confidence = 0;         ///< 0 to 1
    double level = 0, around = 0;  ///< grey levels inside and beside it; 0 of what is drawn
    bool lined = false;            ///< only a line runs around it, and beyond it is as inside: lettering
    bool onRuler = false;          ///< where a ruler whose edges were not found may have its numbers
};

/// What the search met.
struct SeenFeatures {
    std::vector<SeenFeature> features;  ///< the most confident first
    int ground = 0;                     ///< patches of a pattern that goes on to the picture's edges: no features
    bool more = false;                  ///< there were more patches than could be looked at
};

/// `grey` is searched whole; places count from its own corner. `toEdges`: it is a whole picture, not a chosen region,
/// and a pattern that reaches its edges is the ground.
SeenFeatures findFeatures(const Grey& grey, const FeatureSearch& search, bool toEdges = true);

}  // namespace punch
