#pragma once
// Two footprints laid onto each other: how far each pad is off, which sizes and numbers differ.

#include <string>
#include <vector>

#include "core/library/pad_set.h"

namespace punch {

enum class AlignBy {
    Pads,   ///< turned and shifted so that equal pads lie as near as they can, by least squares
    Datum,  ///< as they stand
};

struct PadDeviation {
    std::string one, other;  ///< numbers
    double x = 0, y = 0;     ///< where the first's pad lies, in the second's frame, mm
    double dx = 0, dy = 0;   ///< from there to the second's, mm
    double off = 0;
    double doubt = 0;  ///< 95 % of both
    double hole = 0, otherHole = 0, land = 0, otherLand = 0;
};

struct Comparison {
    double turn = 0, x = 0, y = 0;   ///< of the first, degrees and mm
    bool byNumber = true;            ///< else pads are paired by where they lie: their numbers differ
    std::vector<PadDeviation> pads;  ///< the worst first
    std::vector<std::string> alone, otherAlone;
    double worst = 0, rms = 0;
    /// "pad 3: hole 1.40 → 1.50", "pad 5 is there alone".
    std::vector<std::string> differs;
};

/// Pads are the same by their numbers; where no number is in both, by where they lie: as they coincide
/// (core/library/pad_set.h), else each with the nearest that is less than 1.5 mm away once the middles lie on each other.
Comparison compared(const PadPattern& one, const PadPattern& other, AlignBy align);

/// The overlay at 1:1: the second's pads filled, the first's as outlines, and arrows from one to the other, `times`
/// larger than they are.
std::string comparisonSvg(const PadPattern& one, const PadPattern& other, const Comparison& how, double times);

}  // namespace punch
