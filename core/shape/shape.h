#pragma once
// The stage of shapes: the body as a block of its measured faces, what lies beyond them, cut-outs.

#include "core/shape/shaped.h"

namespace punch {

class Adjustment;

/// `datum` in the frame of the first formation's origin.
Shaped shaped(const Part& part, const Adjustment& adjustment, Point datum);

/// The body's box from the datum. None when the part has no body.
std::optional<BodyBox> bodyBox(const Part& part, const Adjustment& adjustment, Point datum);

/// Rectangles beyond the body's faces, over their whole width. Without a body there are none.
std::vector<KeepoutArea> keepoutAreas(const Part& part, const std::optional<BodyBox>& body);

/// A slot or window. `datum` in the frame in which a part keeps its cut-outs. A window that is as narrow as its corners
/// are round is a slot.
CutShape cutShapeOf(const CutOut& cut, Point datum);
std::vector<CutShape> cutShapes(const Part& part, Point datum);

}  // namespace punch
