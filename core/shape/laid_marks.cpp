#include "core/shape/laid_marks.h"

#include <cmath>
#include <limits>

#include "core/geometry/plane.h"
#include "core/part/mark_kinds.h"
#include "core/shape/mark_laying.h"

namespace punch {
namespace {

constexpr double kFacing = 0.98;  // cosine, of edges that face each other

}  // namespace

std::vector<LaidMark> laidMarks(const std::vector<Mark>& marks, const Anchors& anchors,
                                const std::optional<BodyBox>& body) {
    std::vector<LaidMark> all;
    for (const Mark& m : marks) all.push_back(MarkLaying(anchors, body, m).run());
    return all;
}

namespace {

/// With what its points hold on.
Shape shapeOf(Purpose purpose, const Mark& mark, const LaidMark& laid) {
    Shape s{purpose, laid.id, laid.name, Polygons(), laid.firm};
    s.doubt = laid.doubt;
    s.places = mark.points;
    return s;
}

}  // namespace

std::vector<Shape> keepoutAreas(const Part& part, const std::vector<LaidMark>& laid) {
    std::vector<Shape> all;
    for (std::size_t i = 0; i < laid.size(); ++i) {
        const LaidMark& m = laid[i];
        const auto keep = markKind(m.kind).acts.keep;
        if (keep == nullptr || !m.wrong.empty()) continue;
        Shape room = shapeOf(Purpose::Room, part.marks[i], m);
        keep(part.marks[i], m, room);
        if (room.polygons()->empty()) continue;
        // Pieces stand on the seating plane, keepouts on the board.
        if (room.keeps.piece) {
            room.purpose = Purpose::Body;
            room.keeps.maxHeight = room.keeps.maxHeight + part.body.standoff;
            room.keeps.reaches = room.keeps.reaches + part.body.standoff;
        }
        if (room.pieces.empty()) room.pieces = convexPieces(*room.polygons(), Length::fromUm(0.5));
        all.push_back(std::move(room));
    }
    return all;
}

std::vector<Shape> cutAreas(const Part& part, const std::vector<LaidMark>& laid) {
    std::vector<Shape> all;
    for (std::size_t i = 0; i < laid.size(); ++i) {
        const LaidMark& m = laid[i];
        const auto how = markKind(m.kind).acts.cut;
        if (how == nullptr || !m.wrong.empty()) continue;
        Shape cut = shapeOf(Purpose::Cut, part.marks[i], m);
        cut.form = polygonsOf(*m.area, Chords::Outside);
        cut.milled.outline = *m.area;
        how(part.marks[i], m, cut);
        cut.pieces = cut.rounded() != nullptr ? m.cores : convexPieces(*cut.polygons(), Length::fromUm(0.5));
        all.push_back(std::move(cut));
    }
    return all;
}

Length narrowest(const Polygons& area) {
    struct Edge {
        plane::V a, b, in;  // its ends, and a unit step inwards
    };
    std::vector<Edge> edges;
    for (const auto& ring : area)
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Point a = ring[i], b = ring[(i + 1) % ring.size()];
            const double l = distance(a, b).nm();
            if (l < 1) continue;
            // Outer rings run counter-clockwise: inwards is to the left.
            edges.push_back(
                {{a.x.nm(), a.y.nm()}, {b.x.nm(), b.y.nm()}, {-(b.y - a.y).nm() / l, (b.x - a.x).nm() / l}});
        }
    double least = std::numeric_limits<double>::infinity();
    const auto offer = [&](plane::V from, const Edge& e, const Edge& f) {
        const plane::V to = plane::nearestOn(from, f.a, f.b);
        const double dx = to.x - from.x, dy = to.y - from.y, d = std::hypot(dx, dy);
        if (d < 1 || d >= least) return;
        // They face each other over the inside.
        if (e.in.x * dx + e.in.y * dy > kFacing * d && -(f.in.x * dx + f.in.y * dy) > kFacing * d) least = d;
    };
    for (const Edge& e : edges)
        for (const Edge& f : edges)
            if (&e != &f) {
                offer(e.a, e, f);
                offer(e.b, e, f);
            }
    return std::isfinite(least) ? Length::fromNm(least) : Length();
}

}  // namespace punch
