#include "core/geometry/polygons.h"

#include <algorithm>
#include <boost/geometry.hpp>
#include <boost/geometry/geometries/linestring.hpp>
#include <boost/geometry/geometries/point_xy.hpp>
#include <cmath>
#include <limits>
#include <map>
#include <optional>
#include <polyclipping/clipper.hpp>

#include "core/geometry/plane.h"
#include "core/geometry/shapes.h"

namespace punch {
namespace {

namespace cl = ClipperLib;

cl::Path toClipper(const std::vector<Point>& points) {
    cl::Path path;
    path.reserve(points.size());
    for (const Point& p : points) path.emplace_back(std::llround(p.x.nm()), std::llround(p.y.nm()));
    return path;
}

std::vector<Point> fromClipper(const cl::Path& path) {
    std::vector<Point> points;
    points.reserve(path.size());
    for (const auto& p : path)
        points.push_back({Length::fromNm(static_cast<double>(p.X)), Length::fromNm(static_cast<double>(p.Y))});
    return points;
}

cl::Paths toClipper(const Polygons& all) {
    cl::Paths paths;
    for (const auto& p : all) paths.push_back(toClipper(p));
    return paths;
}

Polygons fromClipper(const cl::Paths& paths) {
    Polygons all;
    for (const cl::Path& p : paths)
        if (p.size() > 2) all.push_back(fromClipper(p));
    return all;
}

Polygons combined(const Polygons& a, const Polygons& b, cl::ClipType how) {
    cl::Clipper clipper;
    clipper.AddPaths(toClipper(a), cl::ptSubject, true);
    clipper.AddPaths(toClipper(b), cl::ptClip, true);
    cl::Paths out;
    clipper.Execute(how, out, cl::pftNonZero, cl::pftNonZero);
    return fromClipper(out);
}

std::vector<Point> reversed(std::vector<Point> ring) {
    std::reverse(ring.begin(), ring.end());
    return ring;
}

double signedArea(const std::vector<Point>& ring) {
    double sum = 0;
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const Point &a = ring[i], &b = ring[(i + 1) % ring.size()];
        sum += a.x.mm() * b.y.mm() - b.x.mm() * a.y.mm();
    }
    return sum / 2;
}

}  // namespace

Polygons polygonsOf(const Ring& ring, Chords chords) {
    if (ring.bends.size() < 2) return {};
    return united({flattened(ring, chordError(), chords)});
}

Polygons polygonsOf(const Area& area, Chords chords) {
    Polygons all = polygonsOf(area.outer, chords);
    const Chords other = chords == Chords::Inside ? Chords::Outside : Chords::Inside;
    for (const Ring& hole : area.holes) all = without(all, polygonsOf(hole, other));
    return all;
}

Polygons polygonsOf(const RoundedPolygon& shape, Chords chords) { return polygonsOf(ringOf(shape), chords); }

Polygons united(const Polygons& all) {
    // Alone, a ring that runs clockwise is no hole.
    cl::Paths paths = toClipper(all);
    if (paths.size() == 1 && !cl::Orientation(paths.front())) cl::ReversePath(paths.front());
    cl::Clipper clipper;
    clipper.AddPaths(paths, cl::ptSubject, true);
    cl::Paths out;
    clipper.Execute(cl::ctUnion, out, cl::pftNonZero, cl::pftNonZero);
    return fromClipper(out);
}

Polygons common(const Polygons& a, const Polygons& b) { return combined(a, b, cl::ctIntersection); }
Polygons without(const Polygons& a, const Polygons& b) { return combined(a, b, cl::ctDifference); }

Polygons grown(const Polygons& area, Length by, Chords chords) {
    if (area.empty() || by.nm() == 0) return area;
    // Clipper's arcs lie on chords inside the exact ones by up to the tolerance.
    const double tolerance = 500;
    const double nm = chords == Chords::Outside && by.nm() > 0 ? by.nm() + tolerance : by.nm();
    cl::ClipperOffset offset(2.0, tolerance);
    offset.AddPaths(toClipper(area), cl::jtRound, cl::etClosedPolygon);
    cl::Paths out;
    offset.Execute(out, nm);
    return fromClipper(out);
}

Polygons grownSharp(const Polygons& area, Length by) {
    if (area.empty() || by.nm() == 0) return area;
    cl::ClipperOffset offset(2.0);
    offset.AddPaths(toClipper(area), cl::jtMiter, cl::etClosedPolygon);
    cl::Paths out;
    offset.Execute(out, by.nm());
    return fromClipper(out);
}

std::vector<Area> areasOf(const Polygons& all) {
    cl::Clipper clipper;
    clipper.AddPaths(toClipper(all), cl::ptSubject, true);
    cl::PolyTree tree;
    clipper.Execute(cl::ctUnion, tree, cl::pftNonZero, cl::pftNonZero);
    std::vector<Area> areas;
    for (const cl::PolyNode* node = tree.GetFirst(); node != nullptr; node = node->GetNext()) {
        if (node->IsHole()) continue;
        Area area{ringOf(fromClipper(node->Contour)), {}};
        for (const cl::PolyNode* hole : node->Childs) area.holes.push_back(ringOf(fromClipper(hole->Contour)));
        areas.push_back(std::move(area));
    }
    return areas;
}

double areaOf(const Polygons& all) {
    double sum = 0;
    for (const auto& ring : all) sum += signedArea(ring);
    return sum;
}

Polygons mirroredAbout(const Polygons& all, Length x) {
    Polygons mirrored = all;
    for (auto& ring : mirrored) {
        for (Point& p : ring) p.x = 2.0 * x - p.x;
        std::reverse(ring.begin(), ring.end());  // outer rings stay counter-clockwise
    }
    return mirrored;
}

Rect boundsOf(const Polygons& all) {
    Rect box;
    for (const auto& ring : all)
        for (const Point& p : ring) box.add(p);
    return box;
}

bool contains(const Polygons& all, Point p) {
    const cl::IntPoint at(std::llround(p.x.nm()), std::llround(p.y.nm()));
    bool in = false;
    for (const auto& ring : all) {
        const int where = cl::PointInPolygon(at, toClipper(ring));
        if (where < 0) return true;
        if (where > 0) in = !in;
    }
    return in;
}

Length gap(const Polygons& a, const Polygons& b) {
    double least = std::numeric_limits<double>::infinity();
    if (a.empty() || b.empty()) return Length::fromNm(least);
    if (contains(a, b.front().front()) || contains(b, a.front().front())) return {};
    const auto v = [](Point p) { return plane::V{p.x.nm(), p.y.nm()}; };
    for (const auto& ra : a)
        for (std::size_t i = 0; i < ra.size(); ++i) {
            const plane::V p = v(ra[i]), q = v(ra[(i + 1) % ra.size()]);
            for (const auto& rb : b)
                for (std::size_t k = 0; k < rb.size(); ++k) {
                    const plane::V s = v(rb[k]), t = v(rb[(k + 1) % rb.size()]);
                    if (plane::segmentsCross(p, q, s, t)) return {};
                    least = std::min({least, plane::pointToSegment(p, s, t), plane::pointToSegment(s, p, q)});
                }
        }
    return Length::fromNm(least);
}

Polygons withoutHoles(const Polygons& all) {
    Polygons out;
    for (const Area& area : areasOf(all)) {
        if (area.holes.empty()) {
            out.push_back(flattened(area.outer, chordError()));
            continue;
        }
        Polygons rings = {flattened(area.outer, chordError())};
        for (const Ring& hole : area.holes) rings.push_back(flattened(hole, chordError()));
        const Rect box = boundsOf(area.outer).grown(Length::fromUm(1));
        const Length at = boundsOf(area.holes.front()).middle().x;
        Rect left = box, right = box;
        left.right = at + Length::fromUm(1);
        right.left = at;
        for (const Rect& half : {left, right})
            for (auto& ring : withoutHoles(common(rings, polygonsOf(rectangleRing(half)))))
                out.push_back(std::move(ring));
    }
    return out;
}

std::vector<std::vector<Point>> outside(const std::vector<Point>& line, const Polygons& area) {
    if (line.size() < 2 || area.empty()) return {line};
    cl::Clipper clipper;
    clipper.AddPath(toClipper(line), cl::ptSubject, false);
    clipper.AddPaths(toClipper(area), cl::ptClip, true);
    cl::PolyTree tree;
    clipper.Execute(cl::ctDifference, tree, cl::pftNonZero, cl::pftNonZero);
    cl::Paths paths;
    cl::OpenPathsFromPolyTree(tree, paths);
    std::vector<std::vector<Point>> pieces;
    for (const cl::Path& p : paths)
        if (p.size() > 1) pieces.push_back(fromClipper(p));
    return pieces;
}

namespace {

using plane::V;

bool inTriangle(V a, V b, V c, V p) {
    return plane::cross(a, b, p) >= 0 && plane::cross(b, c, p) >= 0 && plane::cross(c, a, p) >= 0;
}

/// An outer ring and its holes as one ring, by bridges from each hole to the ring around it.
std::vector<V> bridged(const Area& area) {
    const auto corners = [](const Ring& ring, bool ccw) {
        std::vector<Point> points;
        for (const Bend& b : ring.bends) points.push_back(b.at);
        if ((signedArea(points) > 0) != ccw) points = reversed(points);
        std::vector<V> v;
        for (const Point& p : points) v.push_back({p.x.nm(), p.y.nm()});
        return v;
    };
    std::vector<V> ring = corners(area.outer, true);
    std::vector<std::vector<V>> holes;
    for (const Ring& hole : area.holes) holes.push_back(corners(hole, false));
    const auto rightmost = [](const std::vector<V>& h) {
        return std::max_element(h.begin(), h.end(), [](V a, V b) { return a.x < b.x; });
    };
    std::sort(holes.begin(), holes.end(),
              [&](const auto& a, const auto& b) { return rightmost(a)->x > rightmost(b)->x; });
    for (const std::vector<V>& hole : holes) {
        const auto at = static_cast<std::size_t>(rightmost(hole) - hole.begin());
        const V m = hole[at];
        // The corner of the ring that the hole's rightmost corner sees: the nearest whose bridge crosses nothing.
        std::vector<std::size_t> order(ring.size());
        for (std::size_t i = 0; i < ring.size(); ++i) order[i] = i;
        std::sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) {
            return std::hypot(ring[a].x - m.x, ring[a].y - m.y) < std::hypot(ring[b].x - m.x, ring[b].y - m.y);
        });
        const auto crossed = [&](const std::vector<V>& by, V to) {
            for (std::size_t i = 0; i < by.size(); ++i) {
                const V s = by[i], t = by[(i + 1) % by.size()];
                if (plane::segmentsCross(m, to, s, t)) return true;
                const auto between = [&](V p) {
                    return (p.x != m.x || p.y != m.y) && (p.x != to.x || p.y != to.y) &&
                           plane::pointToSegment(p, m, to) < 0.5;
                };
                if (between(s)) return true;
            }
            return false;
        };
        for (const std::size_t i : order) {
            if (crossed(ring, ring[i])) continue;
            if (std::any_of(holes.begin(), holes.end(), [&](const auto& h) { return crossed(h, ring[i]); })) continue;
            std::vector<V> joined(ring.begin(), ring.begin() + static_cast<std::ptrdiff_t>(i) + 1);
            for (std::size_t k = 0; k <= hole.size(); ++k) joined.push_back(hole[(at + k) % hole.size()]);
            joined.insert(joined.end(), ring.begin() + static_cast<std::ptrdiff_t>(i), ring.end());
            ring = std::move(joined);
            break;
        }
    }
    return ring;
}

/// Triangles by cutting ears, as indices.
std::vector<std::vector<std::size_t>> triangles(const std::vector<V>& ring) {
    std::vector<std::size_t> left(ring.size());
    for (std::size_t i = 0; i < ring.size(); ++i) left[i] = i;
    std::vector<std::vector<std::size_t>> out;
    std::size_t i = 0, tried = 0;
    while (left.size() > 3 && tried < left.size()) {
        const std::size_t n = left.size();
        const std::size_t ia = left[(i + n - 1) % n], ib = left[i % n], ic = left[(i + 1) % n];
        const V a = ring[ia], b = ring[ib], c = ring[ic];
        bool ear = plane::cross(a, b, c) > 0;
        for (std::size_t k = 0; ear && k < n; ++k) {
            const V p = ring[left[k]];
            const auto is = [&](V q) { return p.x == q.x && p.y == q.y; };
            if (!is(a) && !is(b) && !is(c) && inTriangle(a, b, c, p)) ear = false;
        }
        if (ear || plane::cross(a, b, c) == 0) {
            if (ear) out.push_back({ia, ib, ic});
            left.erase(left.begin() + static_cast<std::ptrdiff_t>(i % n));
            tried = 0;
            if (i > 0) --i;
        } else {
            ++i;
            ++tried;
        }
        if (!left.empty()) i %= left.size();
    }
    if (left.size() == 3) out.push_back(left);
    return out;
}

using Piece = std::vector<std::size_t>;

/// Two polygons joined over the edge from `from` to `to` of the first; none where the result is not convex.
std::optional<Piece> joined(const std::vector<V>& ring, const Piece& a, const Piece& b, std::size_t from,
                            std::size_t to) {
    const auto at = [](const Piece& p, std::size_t i) {
        return static_cast<std::size_t>(std::find(p.begin(), p.end(), i) - p.begin());
    };
    Piece all;
    for (std::size_t n = 0; n < a.size(); ++n) all.push_back(a[(at(a, to) + n) % a.size()]);
    for (std::size_t n = 1; n + 1 < b.size(); ++n) all.push_back(b[(at(b, from) + n) % b.size()]);
    for (std::size_t n = 0; n < all.size(); ++n)
        if (plane::cross(ring[all[n]], ring[all[(n + 1) % all.size()]], ring[all[(n + 2) % all.size()]]) < 0) return {};
    return all;
}

/// Fewer pieces: over each diagonal once, where both sides together are convex (Hertel and Mehlhorn).
std::vector<Piece> merged(const std::vector<V>& ring, std::vector<Piece> pieces) {
    std::map<std::pair<std::size_t, std::size_t>, std::size_t> owner;  // of directed edges, of the first triangles
    for (std::size_t k = 0; k < pieces.size(); ++k)
        for (std::size_t i = 0; i < pieces[k].size(); ++i)
            owner[{pieces[k][i], pieces[k][(i + 1) % pieces[k].size()]}] = k;
    std::vector<std::size_t> into(pieces.size());
    for (std::size_t k = 0; k < into.size(); ++k) into[k] = k;
    const auto root = [&](std::size_t k) {
        while (into[k] != k) k = into[k] = into[into[k]];
        return k;
    };
    for (const auto& [edge, k] : owner) {
        const auto back = owner.find({edge.second, edge.first});
        if (edge.first > edge.second || back == owner.end()) continue;
        const std::size_t a = root(k), b = root(back->second);
        if (a == b) continue;
        if (auto all = joined(ring, pieces[a], pieces[b], edge.first, edge.second)) {
            pieces[a] = std::move(*all);
            pieces[b].clear();
            into[b] = a;
        }
    }
    std::erase_if(pieces, [](const Piece& p) { return p.empty(); });
    return pieces;
}

}  // namespace

std::vector<RoundedPolygon> convexPieces(const Polygons& area, Length slack) {
    std::vector<RoundedPolygon> out;
    for (const Area& part : areasOf(grown(area, -slack))) {
        const std::vector<V> ring = bridged(part);
        for (const Piece& piece : merged(ring, triangles(ring))) {
            RoundedPolygon p;
            p.radius = slack;
            for (const std::size_t i : piece)
                p.corners.push_back({Length::fromNm(ring[i].x), Length::fromNm(ring[i].y)});
            out.push_back(std::move(p));
        }
    }
    return out;
}

Polygons simplified(const Polygons& area, Length by) {
    namespace bg = boost::geometry;
    using At = bg::model::d2::point_xy<double>;
    Polygons out;
    for (const auto& ring : area) {
        bg::model::linestring<At> line, less;
        // It begins at a far corner, which is surely one.
        std::size_t first = 0;
        for (std::size_t i = 0; i < ring.size(); ++i)
            if (ring[i].x > ring[first].x) first = i;
        for (std::size_t i = 0; i <= ring.size() && !ring.empty(); ++i) {
            const Point& p = ring[(first + i) % ring.size()];
            bg::append(line, At(p.x.nm(), p.y.nm()));
        }
        bg::simplify(line, less, by.nm());
        std::vector<Point> kept;
        for (std::size_t i = 0; i + 1 < less.size(); ++i)
            kept.push_back({Length::fromNm(less[i].x()), Length::fromNm(less[i].y())});
        if (kept.size() > 2) out.push_back(std::move(kept));
    }
    return out;
}

}  // namespace punch
