#pragma once
// What is there besides pads: the body, as a block of its measured faces.

#include "core/footprint.h"

namespace punch {

class Adjustment;

/// The body's box from the datum. None when the part has no body.
std::optional<BodyBox> bodyBox(const Part& part, const Adjustment& adjustment, Point datum);

}  // namespace punch
