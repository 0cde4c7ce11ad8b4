#pragma once
// A footprint as it lies on a board, or as a receiver wants it turned: everything that is drawn, drilled, cut, kept
// clear or measured moves with it. Numbers, readings, gauges and chains stay those of the part.

#include "core/footprint.h"
#include "core/geometry/frame.h"

namespace punch {

Shape moved(Shape shape, const Frame& frame);
/// The same in space: on the far side turned over, and down by the board's thickness.
Pose poseOf(const Frame& frame, Length boardThickness);

/// On the far side of a board of this thickness what lay on top lies at the bottom. Faces of a panel or of the board's
/// edge stay only under quarter turns: others have no line across or along.
Footprint moved(Footprint footprint, const Frame& frame, Length boardThickness);

}  // namespace punch
