#pragma once
// Pins, pads, holes, pegs and lugs in a picture: patches with a rim, proposed with a confidence.

#include <optional>
#include <vector>

#include "core/picture/picture.h"
#include "core/picture/rim.h"

namespace punch {

struct FeatureSearch {
    double mmPerPixel = 0;            ///< roughly; 0 when nothing is known
    double least = 0.35, most = 7.0;  ///< mm, shorter and longer side
    double leastConfidence = 0.5;
};

/// One patch that looks like a feature. Frame: pixels of the whole picture.
struct SeenFeature {
    Rim rim;
    bool bright = true;           ///< inside against what is around it
    std::optional<double> inner;  ///< of a pad with a hole: the hole's diameter, pixels
    double confidence = 0;        ///< 0 to 1
};

/// `grey` is searched whole; places count from its own corner. The most confident first.
std::vector<SeenFeature> findFeatures(const Grey& grey, const FeatureSearch& search);

}  // namespace punch
