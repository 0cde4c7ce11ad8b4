#pragma once
// Marks as they lie on the part: places, outlines, what moves, what is cut out. Drawing ink comes later (core/dress).

#include "core/shape/anchors.h"
#include "core/shape/shaped.h"

namespace punch {

/// Every mark, in their order. What cannot be drawn says why.
std::vector<LaidMark> laidMarks(const std::vector<Mark>& marks, const Anchors& anchors,
                                const std::optional<BodyBox>& body);

/// What marks keep clear. Their kind sets the area, or the pieces of it too, and what it holds for.
std::vector<Shape> keepoutAreas(const Part& part, const std::vector<LaidMark>& laid);

/// What marks cut out of the board; the kind says what it is and how narrow. A window that is as narrow as its corners
/// are round is a slot.
std::vector<Shape> cutAreas(const Part& part, const std::vector<LaidMark>& laid);

/// The narrowest width of an area: the least distance of two of its edges that face each other over its
/// inside, within 11 degrees. Rounded ends make it up to 2 % of their diameter less than it is.
Length narrowest(const Polygons& area);

}  // namespace punch
