#pragma once
// The courtyard: the room that is the part's alone.
//
// A rectangle around the larger of body, lands, bare holes and travel, wider by the excess on every side.
// IPC-7351 density (not the producibility levels of the holes): A 0.50, B 0.25, C 0.10; connectors 0.50.

#include "core/clear/board.h"

namespace punch {

Length courtyardExcessOf(Density density);

/// What the courtyard has to go around.
Rect courtyardContent(const Board& board, const std::optional<BodyBox>& body);

/// The part's own, else the density's.
Length courtyardExcess(const Dress& dress);

}  // namespace punch
