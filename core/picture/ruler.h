#pragma once
// Rulers: the graduations of a ruler in a picture, found at any scale, counted and judged.
//
// Method   thin strokes are traced in ever finer copies of the picture (picture/strokes); ends of strokes that stand at
//          equal steps on a line are a series. It is followed on the full picture: centres of its marks, a straight
//          line through them by number, finer marks between them. What a step is, is said by the order of the marks'
//          lengths (picture/ruler_order): every fifth and tenth longer, every second, or halves of an inch. A series
//          without such an order (a row of blades) is offered, and not believed.
// Body     what the ruler covers is looked for: its edges against the ground, else only its marks and numbers
//          (picture/ruler_body).
// Slant    a camera that looks slantwise widens the steps along the ruler and fans the marks out: both are measured.
//          Frame: pixels, y down.

#include <optional>
#include <string>
#include <vector>

#include "core/model/picture_scale.h"
#include "core/picture/picture.h"

namespace punch {

/// How the scale changes over a picture: by this share for each pixel towards x and y, with standard uncertainties.
struct Slant {
    double x = 0, y = 0;
    double ux = 0, uy = 0;
};

struct Ruler {
    PixelPoint first, last;          ///< on the middles of the outermost marks that were found
    int steps = 0;                   ///< between them
    double step = 0;                 ///< mm
    std::vector<double> otherSteps;  ///< mm, what a step could be as well by the order of lengths
    std::string order;               ///< "every 5th and 10th longer"; empty: all alike
    bool refused = false;            ///< somebody said that it is none
    bool believed = false;           ///< by the order of its marks' lengths
    double scatter = 0;              ///< pixels, r.m.s. of the marks about equal steps
    bool vertical = false;
    PixelPoint inwards;             ///< unit direction from the ends that line up to the ends that differ
    double edge = 0;                ///< pixels from the line of `first` and `last` out to the ends that line up
    double tickLength = 0;          ///< pixels, of the longest
    std::vector<PixelPoint> marks;  ///< middles of the marks that were found
    std::optional<Slant> slant;

    // What it covers, pixels: out from the line of `first` and `last`, in from it, and beyond both ends.
    double bodyOut = 0, bodyIn = 0, bodyBefore = 0, bodyAfter = 0;
    bool bodySeen = false;  ///< its edges were found; else only marks and numbers are covered

    double length() const { return steps * step; }
    ScalePair pair() const { return {first, last, length(), 0.1}; }
    /// Is the place on the ruler?
    bool covers(PixelPoint p) const;
    /// Along and across from `first`, pixels, across towards the body.
    PixelPoint local(PixelPoint p) const;
};

/// Believed ones first, the one with more marks first. `dpi` (of the file) chooses among what a step could be.
std::vector<Ruler> findRulers(const Grey& grey, const std::optional<Dpi>& dpi);

}  // namespace punch
