#pragma once
// What the library that reads DXF cannot bear, found beforehand: lines longer than its buffer, and counts of points,
// knots and edges that a file claims without holding them.

#include <string>
#include <string_view>

namespace punch::dxf {

/// In words, with the number of the line: "line 12 claims -1 points". Empty when all is well.
std::string whatBreaksTheReader(std::string_view bytes);

}  // namespace punch::dxf
