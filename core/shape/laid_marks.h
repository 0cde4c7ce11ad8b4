#pragma once
// Marks as they lie on the part: places, outlines, what moves, what is cut out. Drawing ink comes later (core/dress).

#include "core/shape/anchors.h"
#include "core/shape/shaped.h"

namespace punch {

/// Every mark of the part, in its order. What cannot be drawn says why.
std::vector<LaidMark> laidMarks(const Part& part, const Anchors& anchors, const std::optional<BodyBox>& body);

/// What keepouts and travel keep clear.
std::vector<KeepoutArea> keepoutAreas(const Part& part, const std::vector<LaidMark>& laid);

/// What marks cut out of the board. `pieces` gets the same as convex shapes, for distances. A window that is as narrow
/// as its corners are round is a slot.
std::vector<CutArea> cutAreas(const Part& part, const std::vector<LaidMark>& laid, std::vector<CutShape>& pieces);

/// The narrowest width of an area: the least distance of two of its edges that face each other over its
/// inside, within 11 degrees. Rounded ends make it up to 2 % of their diameter less than it is.
Length narrowest(const Polygons& area);

}  // namespace punch
