#pragma once
// Feature: what a reading can touch, as expressions of the unknowns.

#include <optional>

#include "core/model/expr.h"
#include "core/part/part.h"

namespace punch {

enum class FeatureKind { Pin, Spot, Face, Body };

/// Frame: the first formation's origin; x along the row that gives the direction, y across it, seen from the part side.
struct Feature {
    FeatureId id;
    FeatureKind kind = FeatureKind::Pin;
    Expr x, y;                   ///< centre; for a face the coordinate that it has, the others 0
    Expr halfX, halfY;           ///< half extents along the feature's own axes
    std::optional<Expr> height;  ///< lead length below the seating plane, or body height
    std::optional<Expr> z;       ///< level of its end above the seating plane: a lead's tip is below 0
    std::optional<Expr> turn;    ///< degrees, of its own axes; none when they are those of the frame
    bool round = false;
    bool oval = false;               ///< rounded to its shorter side, wherever that lies
    std::optional<Expr> endX, endY;  ///< half extents of a lead's formed end, along its own axes
    int side = 0;                    ///< of a face: +1 when its outside is towards +x, +y or up, else -1
    Axis faceAxis = Axis::Along;     ///< the axis that a face stands across

    /// Where it is along an axis. Direct counts as along.
    Expr coordinate(Axis axis) const;
    /// Half extent along an axis of the frame: half of what flat jaws span over a turned rectangle or oval.
    Expr half(Axis axis) const;
    /// The same along a direction of the feature's own axes: `alongX` and `alongY` are the absolute values of its
    /// components.
    Expr halfAlong(const Expr& alongX, const Expr& alongY) const;
};

}  // namespace punch
