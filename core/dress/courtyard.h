#pragma once
// The courtyard: the room that is the part's alone.
//
// A rectangle around the larger of body, lands, bare holes and travel, wider by the excess on every side.
// IPC-7351 density (not the producibility levels of the holes): A 0.50, B 0.25, C 0.10; connectors 0.50.

#include "core/footprint.h"

namespace punch {

Length courtyardExcessOf(Density density);

/// What the courtyard has to go around.
Rect courtyardContent(const Footprint& footprint);

/// Sets courtyard and courtyardExcess.
void addCourtyard(const Part& part, Footprint& footprint);

/// Rectangles beyond the body's faces, over their whole width. Without a body there are none.
void addKeepouts(const Part& part, Footprint& footprint);

}  // namespace punch
