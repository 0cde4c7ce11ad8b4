#pragma once
// What is there besides pads: the body, the room above the board that is kept free, what is cut out of the board.
// Frame: mm from the datum, x right, y up, seen from the part side.

#include <optional>
#include <string>
#include <vector>

#include "core/geometry/rounded_polygon.h"
#include "core/part/part.h"

namespace punch {

struct BodyBox {
    Rect rect;
    bool firm[4] = {false, false, false, false};  ///< by Side
    bool allFirm() const { return firm[0] && firm[1] && firm[2] && firm[3]; }
    Length height;
    bool heightFirm = false;
    std::vector<Point> outline;  ///< traced, a closed ring without its first point again; empty for the rectangle
};

struct KeepoutArea {
    std::string id, name;
    Rect rect;
    Length maxHeight;
    bool firm = false;
};

/// A cut-out of the board in the frame of the footprint.
struct CutShape {
    std::string id, name;
    CutOutKind kind = CutOutKind::Slot;
    std::vector<Point> corners;  ///< of its core: two of a slot, four of a window, counter-clockwise
    Length radius;               ///< around the core
    Length width;                ///< its narrowest
};

struct Shaped {
    std::optional<BodyBox> body;
    std::vector<KeepoutArea> keepouts;
    std::vector<CutShape> cutOuts;
};

inline RoundedPolygon cutShape(const CutShape& cut) { return {cut.corners, cut.radius}; }

}  // namespace punch
