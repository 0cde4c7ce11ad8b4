#pragma once
// Creepage: the shortest way over one face of the board, around what is cut out of it.
//
// Cuts are rounded polygons: slots, windows, bare holes. The shortest way between two pieces of copper is made of
// straight lines that touch the rounded corners of cuts, and of arcs on those corners; it leaves the copper from a
// corner or square to a side. SurfaceMap finds all such lines between the corners once; a query adds those of its two
// pieces of copper and takes the shortest chain (Dijkstra). Exact but for rounding; cuts may overlap.
// Source: IEC 60664-1, 4.2 and 6.2; what counts as a cut is decided in core/clear/spacing.

#include <optional>
#include <vector>

#include "core/geometry/plane.h"
#include "core/geometry/rounded_polygon.h"

namespace punch {

struct SurfaceWay {
    Length length;
    std::vector<Point> path;  ///< arcs in chords off by less than 1 µm
    bool straight = false;    ///< no cut is in the way
};

class SurfaceMap {
public:
    explicit SurfaceMap(std::vector<RoundedPolygon> cuts);

    /// None: cuts close one of them off altogether. Length 0: they touch.
    std::optional<SurfaceWay> way(const RoundedPolygon& from, const RoundedPolygon& to) const;
    bool empty() const { return cuts_.empty(); }

private:
    using V = plane::V;  ///< mm
    struct Cut {
        std::vector<V> corners;
        double radius = 0;
        double left = 0, right = 0, bottom = 0, top = 0;  ///< its box
    };
    /// A rounded corner of a cut, and the parts of its circle that no cut covers: from angle to angle,
    /// counter-clockwise.
    struct Disc {
        V c;
        double r = 0;
        std::size_t cut = 0;
        bool allFree = false;
        std::vector<std::pair<double, double>> free;
    };
    /// A place on a disc where a line touches it, and the sense in which the way goes on around it.
    struct Touch {
        std::size_t disc = 0;
        double angle = 0;
        bool ccw = false;
    };
    struct Line {
        std::size_t from = 0, to = 0;  ///< touches
        double length = 0;
    };
    struct Start {
        Touch touch;
        V at;               ///< on the copper's edge
        double length = 0;  ///< from there to the touch
    };

    /// On each disc, for each sense, the touch that the way comes to next, and by which angle; none where a cut covers
    /// the arc between them.
    struct Arcs {
        std::vector<std::size_t> next;
        std::vector<double> sweep;
    };
    /// `touches`: the map's, from `firstOut` those of the one piece of copper, from `firstIn` those of the other.
    Arcs arcsBetween(const std::vector<Touch>& touches, std::size_t firstOut, std::size_t firstIn) const;

    bool blocked(V a, V b) const;
    bool covered(V p) const;
    void addFreeArcs(Disc& disc) const;
    void addTangents(std::size_t i, std::size_t k);
    /// Ways from a piece of copper to every disc. The senses are those of leaving it.
    std::vector<Start> starts(const Cut& copper) const;
    bool arcFree(const Disc& disc, double from, double sweep) const;
    V on(const Touch& t) const;
    static Cut cutOf(const RoundedPolygon& shape);

    std::vector<Cut> cuts_;
    std::vector<Disc> discs_;
    std::vector<Touch> touches_;
    std::vector<Line> lines_;
};

}  // namespace punch
