#pragma once
// Rulers: the ticks of a ruler in a picture, found and counted.
//
// Method   lines are laid over the picture at small tilts; along each, thin dark (or light) marks at equal steps are
//          looked for. The longest such series is followed on the full picture: centres of its ticks, a straight line
//          through them by number. How long the ticks are says what a step is: every fifth and tenth longer means
//          millimetres; where the picture's dpi is known it must agree (else it decides between mm, half mm and parts
//          of an inch). Marks that are not at least three times as long as wide are no ticks (a row of pins).

#include <optional>
#include <vector>

#include "core/model/picture_scale.h"
#include "core/picture/picture.h"

namespace punch {

struct Ruler {
    PixelPoint first, last;  ///< on the middles of the outermost ticks that were found
    int steps = 0;           ///< between them
    double step = 0;         ///< mm
    double scatter = 0;      ///< pixels, r.m.s. of the ticks about equal steps
    bool vertical = false;
    PixelPoint inwards;     ///< unit direction from the ends that line up to the ends that differ
    double edge = 0;        ///< pixels from the line of `first` and `last` out to the ends that line up
    double tickLength = 0;  ///< pixels, of the longest

    double length() const { return steps * step; }
    ScalePair pair() const { return {first, last, length(), 0.1}; }
    /// Is the place on the ruler: beyond the ends that line up, within its length and some margin?
    bool covers(PixelPoint p) const;
};

/// At most one along each axis, the one with more ticks first. `dpi` may be none.
std::vector<Ruler> findRulers(const Grey& grey, const std::optional<Dpi>& dpi);

}  // namespace punch
