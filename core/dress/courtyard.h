#pragma once
// The courtyard: the room that is the part's alone, on each side of the board.
//
// It hugs the larger of body, lands, bare holes and travel, wider by the excess; gaps between lands of less than 2 mm
// (house value) and holes are closed, so that it stays an outline that people can read.
// IPC-7351 density (not the producibility levels of the holes): A 0.50, B 0.25, C 0.10; connectors 0.50.

#include "core/clear/board.h"

namespace punch {

Length courtyardExcessOf(Density density);
/// What the rule asks of a part: by its density, and where it has surface lands by their lead form (IPC-7351, chips and
/// flat leads less than others). Of both the larger; a connector's is the same at every level.
Length ruledExcess(const Part& part, const AttachedCopper& attached);

/// What the courtyard has to go around, as a rectangle around both sides.
Rect courtyardContent(const Board& board, const std::optional<BodyBox>& body);
/// The same of one side, as an area: the body and travel stand on the part side.
Polygons courtyardContent(const Board& board, const std::optional<BodyBox>& body, bool top);

/// Around an area at an excess; empty around nothing.
Polygons courtyardAround(const Polygons& content, Length excess);

/// The part's own, else the rule's.
Length courtyardExcess(const Part& part, const AttachedCopper& attached);

}  // namespace punch
