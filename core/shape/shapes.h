#pragma once
// The one kind of value for what is drawn, printed, cut, or kept clear: a shape with a purpose. Marks and rules make
// them, and everything downstream reads them: distances, gauges, section, solids, sheet, paper and files.
//
// Frame: mm from the datum, x right, y up, seen from the part side.

#include <string>
#include <variant>
#include <vector>

#include "core/base/value.h"
#include "core/geometry/polygons.h"
#include "core/geometry/rounded_polygon.h"
#include "core/part/cut_out.h"
#include "core/part/mark.h"

namespace punch {

/// What a shape stands for, whatever layer it lies on.
enum class Purpose {
    ComponentPad,  ///< copper around a plated hole
    SurfacePad,
    Fiducial,
    LocalFiducial,
    Figure,   ///< copper that is drawn, a logo
    Opening,  ///< of the solder mask
    Paste,
    Ink,
    Hole,
    Cut,  ///< of the board, or its edge
    PlatedCut,
    Room,  ///< kept clear
    Body,  ///< the part stands there
    Courtyard,
};

/// A line of a width; closed when first and last are equal.
struct Line {
    std::vector<Point> points;
    Length width;
};

/// What may not be where a shape is: over the board and in it.
struct Keeps {
    Length maxHeight;  ///< of parts that may stand there
    Length reaches;    ///< how high what stands or moves there reaches
    bool travel = false;
    bool piece = false;  ///< the part itself stands there
    bool parts = true, copper = false, vias = false, drilling = false;
    bool top = true, bottom = false;  ///< the sides on which it holds
    bool inner = false;               ///< and on inner layers
};

/// How a cut-out is milled.
struct Milled {
    PUNCH_VALUE(Milled)
    CutOutKind kind = CutOutKind::Window;
    Length width;           ///< the cut-out's narrowest
    Length bit;             ///< the widest that mills it
    FeatureId joined = {};  ///< of a plated one: what its copper belongs to, a pad or itself; empty: its wall is bare
    Area outline;           ///< with its arcs
};

struct Shape {
    Purpose purpose = Purpose::Ink;
    FeatureId id;      ///< pad, hole, face or mark; empty: what the rules draw
    std::string name;  ///< the pad's number, "outline", a mark's name
    std::variant<RoundedPolygon, Line, Polygons> form;
    bool firm = true;                         ///< nothing loose moves or shapes it
    bool shortened = false;                   ///< of ink: some was cut away from an opening
    Length doubt = {};                        ///< largest of its places and sizes; of what marks and faces make
    std::vector<Anchored> places = {};        ///< what its points hold on
    std::vector<RoundedPolygon> pieces = {};  ///< of room and cut-outs: the same, convex, for distances
    Keeps keeps = {};                         ///< of room
    Milled milled = {};                       ///< of cut-outs

    const RoundedPolygon* rounded() const { return std::get_if<RoundedPolygon>(&form); }
    const Line* line() const { return std::get_if<Line>(&form); }
    /// Rings with holes in them, arcs as chords off by less than 5 µm.
    const Polygons* polygons() const { return std::get_if<Polygons>(&form); }

    /// Of a line; none of anything else.
    const std::vector<Point>& points() const;
    /// What it covers, arcs as chords outside; of a line nothing.
    Polygons area() const;
    Rect box() const;
    bool plated() const { return purpose == Purpose::PlatedCut; }
};

/// Around all of them.
Rect boundsOf(const std::vector<Shape>& shapes);

/// A line of ink.
Shape inkLine(std::vector<Point> points, Length width, std::string name);
/// Ink all over.
Shape inkArea(Polygons area, std::string name);

/// The shape of this mark or face, or none.
const Shape* shapeOf(const std::vector<Shape>& shapes, const FeatureId& id);

}  // namespace punch
