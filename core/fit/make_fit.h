#pragma once
// Whether each of several makes goes into the holes that they share: drop-in of the make's own leads, with its own
// doubt and spread, in the part's holes.

#include <string>
#include <vector>

#include "core/fit/drop_in_share.h"
#include "core/part/part.h"
#include "core/size/pads.h"

namespace punch {

struct MakeFit {
    std::string name;
    std::string why;      ///< nothing can be said; empty when it can
    DropInShare dropIn;   ///< coarse
};

/// One for each of `sized.makes`.
std::vector<MakeFit> makeFits(const Part& part, const Sized& sized);

}  // namespace punch
