#pragma once
// From features to a proposal: formations, kinds, frame. Only find.cpp uses this.

#include "core/picture/find.h"

namespace punch {

/// Works out formation, kinds, places and notes about them anew from found.features (and what was left out for not
/// belonging to anything) at found.scale. Notes about the formation are replaced.
void propose(Found& found, bool fromBelow);

}  // namespace punch
