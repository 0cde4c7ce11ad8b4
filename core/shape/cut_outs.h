#pragma once
// Slots and windows of the board in the frame of the footprint.

#include <vector>

#include "core/footprint.h"

namespace punch {

/// `datum` in the frame of the first formation's origin, in which a part keeps its cut-outs. A window that is as narrow
/// as its corners are round is a slot.
std::vector<CutShape> cutShapes(const Part& part, Point datum);

}  // namespace punch
