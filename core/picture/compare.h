#pragma once
// Comparing a footprint with what a picture or drawing shows: how far each pad is off, without taking anything over.
//
// Two ways. Where the picture was read, the adjustment has placed it: the deviation of a feature is what was read less
// what the part says. Where only proposals were found, they are laid on the pads by the shift and turn (no scale) that
// fit best, least squares over all pairs, after trying which of them belongs to which.

#include <optional>
#include <vector>

#include "core/footprint.h"
#include "core/picture/find.h"

namespace punch {

struct Deviation {
    FeatureId id;
    double x = 0, y = 0;         ///< mm, the picture less the footprint; x right, y up, seen from the part side
    std::optional<double> size;  ///< mm, lead or peg: the picture less the part, where both are known
    double off() const;
};

/// Of everything that was read in the picture, in the part's order. Empty when nothing was.
std::vector<Deviation> deviationsRead(const Part& part, const Footprint& footprint, const std::string& source);

/// What was found laid over the footprint.
struct Laid {
    double turn = 0;      ///< degrees, counter-clockwise, of the found places (straightened) onto the footprint
    double x = 0, y = 0;  ///< mm, then shifted by this
    double rms = 0;       ///< mm, of the pairs' distances
    std::vector<Deviation> pairs;      ///< of pads and bare holes, worst first
    std::vector<FeatureId> alone;      ///< pads and holes that nothing was found for
    std::vector<std::size_t> surplus;  ///< features found that belong to no pad
    /// A place of the straightened frame on the footprint, mm from the datum.
    std::pair<double, double> map(double px, double py) const;
};

/// What was found, at the scale that the adjustment gave the picture: known lengths and calipers together. As it was
/// where nothing was read in the picture yet.
Found atAdjustedScale(Found found, const Footprint& footprint, const Source& source);

/// None when fewer than two pads or features, or no way to lay them that brings half of the pads to a feature nearer
/// than a millimetre.
std::optional<Laid> layOver(const Footprint& footprint, const Found& found);

}  // namespace punch
