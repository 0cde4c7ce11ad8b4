#pragma once
// Sides that nobody said: a peg or formation whose readings carry no sign fits on the other side of what it was read
// from as well. It is drawn where it is assumed; which side is right only the user can say.
//
// A side is said when the place was put there by hand, further from the middle than the doubt of the distance, or when a
// reading has a sign: a coordinate, a distance from a face, a place in a picture. Several distances may settle it too; so
// the other side is tried by adjusting anew.

#include <string>
#include <vector>

#include "core/base/value.h"
#include "core/part/part.h"

namespace punch {

class Adjustment;

struct OpenSide {
    PUNCH_VALUE(OpenSide)
    FeatureId feature;        ///< spot, or first pin of a formation
    std::string parameter;    ///< "peg5.y"
    std::string words;        ///< "peg: 5.12 mm in front of pin 1 or 5.12 mm behind it, both fit"
    std::string here, there;  ///< "in front", "behind"
    Part asDrawn, other;      ///< with the side said
};

std::vector<OpenSide> openSides(const Part& part, const Adjustment& adjustment);

}  // namespace punch
