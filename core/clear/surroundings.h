#pragma once
// What stands around live copper without a potential of its own: keepouts, the board's edge, cut-outs, metal.
//
// Nothing is asked of a thing whose voltage nobody named. How near it is, and what would be asked if it stood at 0 V
// (earth, a hand, a screwdriver), is worth knowing all the same; who wants it checked gives it a potential.

#include <vector>

#include "core/clear/board.h"
#include "core/clear/cleared.h"

namespace punch {

/// One for each of them, with the live pad that has the least to spare. Empty while no pad carries a potential.
std::vector<Surrounding> surroundings(const Part& part, const Board& board);

}  // namespace punch
