#pragma once
// The stage of shapes: the body as a block of its measured faces, marks and what they keep clear or cut, cut-outs.

#include "core/shape/shaped.h"

namespace punch {

class Adjustment;
class ChainReadings;

/// `datum` in the frame of the first formation's origin.
Shaped shaped(const Part& part, const Adjustment& adjustment, const ChainReadings& chains, Point datum);

/// The body's box from the datum. None when the part has no body.
std::optional<BodyBox> bodyBox(const Part& part, const Adjustment& adjustment, Point datum);

}  // namespace punch
