#pragma once
// What is there besides pads: the body, the room above the board that is kept free, what is cut out of the board.
// Frame: mm from the datum, x right, y up, seen from the part side.

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/base/chain.h"
#include "core/geometry/polygons.h"
#include "core/geometry/rounded_polygon.h"
#include "core/part/cut_out.h"
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

/// What is kept clear around the part, as an area on the board and a height over it.
struct KeepoutArea {
    std::string id, name;
    Polygons area;                       ///< arcs as chords outside by less than 5 µm
    std::vector<RoundedPolygon> pieces;  ///< the same, convex, for distances
    Rect rect;                           ///< around it
    Length maxHeight;                    ///< of parts that may stand there
    Length reaches;                      ///< of travel: how high what moves stands
    bool firm = false;
    bool travel = false;
    bool piece = false;  ///< the part itself stands there
    bool parts = true, copper = false, vias = false, drilling = false;
    bool top = true, bottom = false;  ///< the sides on which it holds
    bool inner = false;               ///< and on inner layers
};

/// A mark as it lies on the part.
struct LaidMark {
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

/// What is cut out of the board; its convex pieces stand among the cut-outs.
struct CutArea {
    std::string id, name;
    CutOutKind kind = CutOutKind::Window;
    Area area;
    bool plated = false;
    bool firm = true;
    Length width;                       ///< its narrowest
    std::optional<RoundedPolygon> one;  ///< where it is one of these, as slots and windows are
    FeatureId joined = {};              ///< of a plated one: what its copper belongs to, a pad or itself
    Length bit = {};                    ///< the widest that mills it
};

/// A convex piece of a cut-out, in the frame of the footprint; a slot or a window is one.
struct CutShape {
    std::string id, name;
    CutOutKind kind = CutOutKind::Slot;
    std::vector<Point> corners;  ///< of its core: two of a slot, four of a window, counter-clockwise
    Length radius;               ///< around the core
    Length width;                ///< the cut-out's narrowest
    bool piece = false;          ///< one of several
    FeatureId joined = {};       ///< of a plated one: what its copper belongs to; empty: its wall is bare
    bool plated() const { return !joined.empty(); }
};

struct Shaped {
    std::optional<BodyBox> body;
    std::vector<LaidMark> laid;  ///< in the order of the part's marks
    std::vector<Mark> ruled;     ///< marks that the rules ask for (core/part/ruled_marks.h)
    std::vector<LaidMark> ruledLaid;
    std::vector<KeepoutArea> keepouts;
    std::vector<CutArea> cutAreas;
    std::vector<CutShape> cutOuts;  ///< their pieces, in the same order
    Chains markChains;              ///< "x:m7.0", "y:m7.0": the places of marks
};

inline RoundedPolygon cutShape(const CutShape& cut) { return {cut.corners, cut.radius}; }

}  // namespace punch
