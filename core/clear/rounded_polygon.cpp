#include "core/clear/rounded_polygon.h"

#include <algorithm>
#include <limits>

namespace punch {
namespace {

double cross(Point o, Point a, Point b) {
    return (a.x - o.x).nm() * (b.y - o.y).nm() - (a.y - o.y).nm() * (b.x - o.x).nm();
}

double pointToSegment(Point p, Point a, Point b) {
    const double dx = (b.x - a.x).nm();
    const double dy = (b.y - a.y).nm();
    const double len2 = dx * dx + dy * dy;
    const double px = (p.x - a.x).nm();
    const double py = (p.y - a.y).nm();
    const double t = len2 > 0 ? std::clamp((px * dx + py * dy) / len2, 0.0, 1.0) : 0.0;
    return std::hypot(px - t * dx, py - t * dy);
}

bool inside(const std::vector<Point>& polygon, Point p) {
    if (polygon.size() < 3) return false;
    for (std::size_t i = 0; i < polygon.size(); ++i)
        if (cross(polygon[i], polygon[(i + 1) % polygon.size()], p) < 0) return false;
    return true;
}

bool segmentsCross(Point a, Point b, Point c, Point d) {
    const double d1 = cross(a, b, c);
    const double d2 = cross(a, b, d);
    const double d3 = cross(c, d, a);
    const double d4 = cross(c, d, b);
    return ((d1 > 0) != (d2 > 0)) && ((d3 > 0) != (d4 > 0)) && d1 != 0 && d2 != 0 && d3 != 0 && d4 != 0;
}

double coreDistance(const std::vector<Point>& a, const std::vector<Point>& b) {
    if (inside(a, b.front()) || inside(b, a.front())) return 0;
    double least = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < a.size(); ++i) {
        const Point a2 = a[(i + 1) % a.size()];
        for (std::size_t k = 0; k < b.size(); ++k) {
            const Point b2 = b[(k + 1) % b.size()];
            if (segmentsCross(a[i], a2, b[k], b2)) return 0;
            least = std::min({least, pointToSegment(b[k], a[i], a2), pointToSegment(a[i], b[k], b2)});
        }
    }
    return least;
}

}  // namespace

Length gap(const RoundedPolygon& a, const RoundedPolygon& b) {
    return Length::fromNm(coreDistance(a.corners, b.corners)) - a.radius - b.radius;
}

}  // namespace punch
