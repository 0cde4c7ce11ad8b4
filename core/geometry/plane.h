#pragma once
// Plain geometry of the plane, in doubles of any one unit: what the shapes of core/clear share.

#include <algorithm>
#include <cmath>
#include <limits>
#include <vector>

namespace punch::plane {

struct V {
    double x = 0, y = 0;
};

inline double cross(V o, V a, V b) { return (a.x - o.x) * (b.y - o.y) - (a.y - o.y) * (b.x - o.x); }

/// The place on the segment that is nearest to p.
inline V nearestOn(V p, V a, V b) {
    const double dx = b.x - a.x;
    const double dy = b.y - a.y;
    const double len2 = dx * dx + dy * dy;
    const double t = len2 > 0 ? std::clamp(((p.x - a.x) * dx + (p.y - a.y) * dy) / len2, 0.0, 1.0) : 0.0;
    return {a.x + t * dx, a.y + t * dy};
}

inline double pointToSegment(V p, V a, V b) {
    const V n = nearestOn(p, a, b);
    return std::hypot(p.x - n.x, p.y - n.y);
}

/// Inside a convex, counter-clockwise polygon of three or more corners, or on its edge.
inline bool inside(const std::vector<V>& polygon, V p) {
    if (polygon.size() < 3) return false;
    for (std::size_t i = 0; i < polygon.size(); ++i)
        if (cross(polygon[i], polygon[(i + 1) % polygon.size()], p) < 0) return false;
    return true;
}

/// Do they cross in a point that is no end of either?
inline bool segmentsCross(V a, V b, V c, V d) {
    const double d1 = cross(a, b, c);
    const double d2 = cross(a, b, d);
    const double d3 = cross(c, d, a);
    const double d4 = cross(c, d, b);
    return ((d1 > 0) != (d2 > 0)) && ((d3 > 0) != (d4 > 0)) && d1 != 0 && d2 != 0 && d3 != 0 && d4 != 0;
}

/// The nearest two places of two convex polygons (points and lines too); their distance is 0 where they overlap.
struct Nearest {
    double distance = std::numeric_limits<double>::infinity();
    V a, b;
};

inline Nearest nearest(const std::vector<V>& a, const std::vector<V>& b) {
    if (inside(a, b.front())) return {0, b.front(), b.front()};
    if (inside(b, a.front())) return {0, a.front(), a.front()};
    Nearest best;
    const auto offer = [&](V p, V q) {
        const double d = std::hypot(p.x - q.x, p.y - q.y);
        if (d < best.distance) best = {d, p, q};
    };
    for (std::size_t i = 0; i < a.size(); ++i) {
        const V a2 = a[(i + 1) % a.size()];
        for (std::size_t k = 0; k < b.size(); ++k) {
            const V b2 = b[(k + 1) % b.size()];
            if (segmentsCross(a[i], a2, b[k], b2)) return {0, a[i], a[i]};
            offer(nearestOn(b[k], a[i], a2), b[k]);
            offer(a[i], nearestOn(a[i], b[k], b2));
        }
    }
    return best;
}

inline double segmentToConvex(V a, V b, const std::vector<V>& polygon) {
    if (polygon.size() == 1) return pointToSegment(polygon.front(), a, b);
    if (inside(polygon, a) || inside(polygon, b)) return 0;
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < polygon.size(); ++i) {
        const V c = polygon[i];
        const V d = polygon[(i + 1) % polygon.size()];
        if (segmentsCross(a, b, c, d)) return 0;
        least = std::min({least, pointToSegment(c, a, b), pointToSegment(a, c, d), pointToSegment(b, c, d)});
    }
    return least;
}

/// Adds the angles on the circle around c at which it meets the other circle.
inline void circleMeetsCircle(V c, double r, V other, double otherR, std::vector<double>& angles) {
    const double dx = other.x - c.x;
    const double dy = other.y - c.y;
    const double d = std::hypot(dx, dy);
    if (d <= 0 || d > r + otherR || d < std::abs(r - otherR)) return;
    const double cosine = (r * r + d * d - otherR * otherR) / (2 * r * d);
    const double half = std::acos(std::clamp(cosine, -1.0, 1.0));
    const double toward = std::atan2(dy, dx);
    angles.push_back(toward + half);
    angles.push_back(toward - half);
}

/// The same for an unbounded line.
inline void circleMeetsLine(V c, double r, V at, V along, std::vector<double>& angles) {
    const double len = std::hypot(along.x, along.y);
    const V normal{-along.y / len, along.x / len};
    const double off = (at.x - c.x) * normal.x + (at.y - c.y) * normal.y;
    if (std::abs(off) > r) return;
    const double toward = std::atan2(normal.y, normal.x);
    const double half = std::acos(std::clamp(off / r, -1.0, 1.0));
    angles.push_back(toward + half);
    angles.push_back(toward - half);
}

}  // namespace punch::plane
