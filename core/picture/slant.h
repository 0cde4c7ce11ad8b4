#pragma once
// A camera that looked slantwise: told by a ruler's marks and by the pins' pattern together. Only find.cpp uses this.

#include "core/picture/find.h"

namespace punch {

/// Sets found.slant where it is sure, widens the scale's doubt by what it may do at the pins, and says so.
void testSlant(Found& found);

}  // namespace punch
