#pragma once
// Outlines of lines and arcs: what is drawn, printed, cut or kept clear and is no rounded polygon.
//
// A ring is closed. Each of its bends says where it stands and how the edge to the next one runs: its bulge is the
// tangent of a quarter of the arc's angle, above 0 counter-clockwise, 0 for a straight edge, 1 for half a circle.
// Frame: x right, y up.

#include <vector>

#include "core/base/length.h"
#include "core/geometry/rounded_polygon.h"
#include "core/part/mark.h"

namespace punch {

struct Bend {
    Point at;
    double bulge = 0;
    friend bool operator==(const Bend&, const Bend&) = default;
};

struct Ring {
    std::vector<Bend> bends;
    friend bool operator==(const Ring&, const Ring&) = default;
};

/// An outer ring and the holes in it. Rings may run either way round.
struct Area {
    Ring outer;
    std::vector<Ring> holes;
    friend bool operator==(const Area&, const Area&) = default;
};

Ring ringOf(const std::vector<Point>& corners);
Ring circle(Point middle, Length diameter);
Ring rectangleRing(const Rect& r);
/// A rounded polygon's outline, its arcs exact.
Ring ringOf(const RoundedPolygon& shape);

struct Corner {
    Point at;
    CornerForm turn = CornerForm::Sharp;
    Length size;  ///< radius of a round one; of a bevel how much it takes off each edge
    Length arc;   ///< rise of the arc to the next corner over its chord, above 0 outwards
};
/// A closed ring through corners; a round one or a bevel never takes more than its edges leave. A corner beside an arc
/// stays sharp.
Ring ringThrough(const std::vector<Corner>& corners);
/// The same for a line with two ends: its last bend has no bulge. Above 0 is to the right of its direction.
std::vector<Bend> lineThrough(const std::vector<Corner>& corners);

/// On which side of an arc its chords lie.
enum class Chords {
    Inside,   ///< corners on the arc, the polygon within a disc
    Outside,  ///< corners beyond the arc, the disc within the polygon
};
/// A ring as corners, off its arcs by at most `sagitta` and only to that side of a counter-clockwise ring's arcs that
/// bulge outwards (and the other way round where they bulge inwards): with Outside what the ring holds is held.
std::vector<Point> flattened(const Ring& ring, Length sagitta, Chords chords = Chords::Inside);
/// The same for a line; chords have their corners on its arcs.
std::vector<Point> flattened(const std::vector<Bend>& line, Length sagitta);

/// Signed, above 0 counter-clockwise; mm².
double areaOf(const Ring& ring);
/// mm², its holes taken off.
double areaOf(const Area& area);
Rect boundsOf(const Ring& ring);
/// Inside or on its edge.
bool contains(const Ring& ring, Point p);
bool contains(const Area& area, Point p);
/// Does it cross or touch itself other than at the ends of neighbouring edges? Found on chords of 1 µm.
bool crossesItself(const Ring& ring);

/// About a point, counter-clockwise.
Point turned(Point p, Point about, double degrees);
Ring turned(Ring ring, Point about, double degrees);

}  // namespace punch
