#pragma once
// The body's outline as ink: whole or its corners only.

#include <vector>

#include "core/dress/dressed.h"
#include "core/shape/shaped.h"

namespace punch {

/// As it was traced, else its rectangle; larger by `by`. A ring of its own for each part.
std::vector<Shape> bodyOutline(const BodyBox& body, Length by, Length width, const std::string& what);

/// Of a closed line only what lies within `length` of its corners, along it; a line without corners stays whole.
std::vector<Shape> cornersOf(const Shape& whole, Length length);

}  // namespace punch
