#pragma once
// The stage of distances: what each two potentials are apart and ask, what stands near live copper, the room of pads.

#include "core/clear/board.h"
#include "core/clear/cleared.h"

namespace punch {

Cleared cleared(const Part& part, const Board& board);

}  // namespace punch
