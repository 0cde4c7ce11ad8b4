#pragma once
// The scale of a view as a page's title block states it (ISO 5455: drawn to true, "4:1", "1:2").

#include <string>
#include <vector>

#include "core/drawing/drawing.h"

namespace punch {

/// A scale that a page states in words, "scale 4:1".
struct StatedScale {
    double ratio = 1;   ///< drawn by true
    std::string words;  ///< "4:1"
};

/// Every different one, in the order of the texts: beside the word for scale, or alone.
std::vector<StatedScale> scalesStated(const Drawing& texts);

}  // namespace punch
