#pragma once
// Gloss taken off a feature, before its rim is looked for. Only the fits of this folder use it.

#include "core/picture/rim.h"

namespace punch {

/// A part of a picture; (0, 0) of it is (left, top) of the picture.
struct Window {
    Grey grey;
    double taken = 0;  ///< mean level taken off as gloss, over the feature
    int left = 0, top = 0;
};

/// The guess's surroundings. What is brighter (of a dark one: darker) than the shade inside is cut off at it: gloss
/// draws edges of its own, which pull the rim when they are near. The shade is a plane, since light comes from one
/// side.
Window withoutGloss(const Grey& grey, const RimGuess& guess);

}  // namespace punch
