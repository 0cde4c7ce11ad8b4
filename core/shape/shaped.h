#pragma once
// What is there besides pads: the body, the room above the board that is kept free, what is cut out of the board.
// Frame: mm from the datum, x right, y up, seen from the part side.

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/base/chain.h"
#include "core/base/value.h"
#include "core/geometry/polygons.h"
#include "core/geometry/rounded_polygon.h"
#include "core/part/part.h"
#include "core/shape/shapes.h"

namespace punch {

struct BodyBox {
    PUNCH_VALUE(BodyBox)
    Rect rect;
    bool firm[4] = {false, false, false, false};  ///< by Side
    bool allFirm() const { return firm[0] && firm[1] && firm[2] && firm[3]; }
    Length height;
    bool heightFirm = false;
    Shape shape;  ///< as it was traced, a ring either way round; else its rectangle; held on its faces
    bool traced() const { return shape.polygons() != nullptr; }
    /// Closed, without its first point again.
    std::vector<Point> ring() const { return traced() ? shape.polygons()->front() : shape.rounded()->corners; }
};

/// A mark as it lies on the part.
struct LaidMark {
    PUNCH_VALUE(LaidMark)
    std::string id, name;
    MarkKind kind = MarkKind::Landmark;
    std::vector<Point> points;
    std::map<std::string, Length> lengths;  ///< those of its fields that apply
    std::map<std::string, double> angles;   ///< degrees
    std::optional<Area> area;               ///< its outline; of a cut-out what the bit leaves
    std::vector<Bend> line;                 ///< in place of an outline
    std::vector<RoundedPolygon> cores;      ///< the outline where it is one rounded polygon
    std::optional<Rect> upright;            ///< the outline where it is an upright rectangle, its corners sharp
    Polygons swept;                         ///< of travel
    Polygons figure;                        ///< of a logo, as simple as its thinnest line asks
    double leftOut = 0;                     ///< share of a logo's area that was too thin
    std::optional<Point> axis;              ///< of what turns
    bool firm = true;                       ///< nothing loose moves or shapes it
    Length doubt;                           ///< largest of its places and sizes
    std::string wrong;                      ///< why it cannot be drawn; empty when it can

    /// 0 for a field that does not apply.
    Length length(const char* field) const {
        const auto it = lengths.find(field);
        return it == lengths.end() ? Length() : it->second;
    }
    double angle(const char* field) const {
        const auto it = angles.find(field);
        return it == angles.end() ? 0 : it->second;
    }
};

struct Shaped {
    PUNCH_VALUE(Shaped)
    std::optional<BodyBox> body;
    std::vector<LaidMark> laid;  ///< in the order of the part's marks
    std::vector<Mark> ruled;     ///< marks that the rules ask for (core/part/ruled_marks.h)
    std::vector<LaidMark> ruledLaid;
    std::vector<Shape> keepouts;  ///< what is kept clear around the part, and pieces of it
    std::vector<Shape> cutOuts;   ///< what is cut out of the board
    Chains markChains;            ///< "x:m7.0", "y:m7.0": the places of marks
};

}  // namespace punch
