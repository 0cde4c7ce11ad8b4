#pragma once
// Text as strokes, for silkscreen: the single-stroke Hershey letters of the hershey-fonts package.

#include <string>
#include <vector>

#include "core/dress/dressed.h"

namespace punch {

/// The strokes of `text` around `middle`, capital letters `height` tall. Letters outside ASCII become "?".
std::vector<Stroke> strokeText(const std::string& text, Point middle, Length height, Length line,
                               const std::string& what);

/// Width of the text between the outer edges of its strokes' centre lines.
Length strokeTextWidth(const std::string& text, Length height);

}  // namespace punch
