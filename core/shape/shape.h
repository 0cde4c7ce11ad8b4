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

/// A slot or window. `datum` in the frame in which a part keeps its cut-outs. A window that is as narrow as its corners
/// are round is a slot.
CutShape cutShapeOf(const CutOut& cut, Point datum);
std::vector<CutShape> cutShapes(const Part& part, Point datum);

}  // namespace punch
