#pragma once
// Text as strokes, for silkscreen and drawings: the letters of core/dress/stroke_font.

#include <string>
#include <vector>

#include "core/dress/dressed.h"

namespace punch {

/// The strokes of `text` (UTF-8) around `middle`, capital letters `height` tall. Letters that the font does not have
/// become boxes.
std::vector<Shape> strokeText(const std::string& text, Point middle, Length height, Length line,
                              const std::string& what);

/// Width of the text between the outer edges of its strokes' centre lines.
Length strokeTextWidth(const std::string& text, Length height);

}  // namespace punch
