#pragma once
// Slots and windows between two places, as they lie on the board and as a hand takes them.

#include "core/shape/shaped.h"

namespace punch {

/// `datum` in the frame in which a cut-out is given. A window that is as narrow as its corners are round is a slot.
Shape cutShapeOf(const CutOut& cut, Point datum);

/// Those cut-outs of the part that are slots or windows and lie on the board.
std::vector<CutOut> cutOutsOf(const Part& part, const Shaped& shaped, Point datum);

}  // namespace punch
