#pragma once
// The dress stage: courtyard, the body's outline, what marks print, texts by rule; and how near ink comes to openings.

#include <optional>

#include "core/dress/ink.h"

namespace punch {

/// The whole stage. `laid` are the part's marks as they lie.
Dressed dressed(const Part& part, const Board& board, const Shaped& shaped);

struct InkGap {
    Length gap;
    std::string stroke;   ///< "outline"
    std::string feature;  ///< the opening's pad, bare hole or cut-out
    bool cut = false;     ///< the stroke was cut to this distance
};

/// The least distance of ink from a mask opening, a bare hole's edge or a cut-out, on either side of the board. None
/// without ink or openings.
std::optional<InkGap> nearestInk(const Board& board, const Dressed& dressed);

}  // namespace punch
