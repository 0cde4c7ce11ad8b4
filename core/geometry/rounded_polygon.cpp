#include "core/geometry/rounded_polygon.h"

#include "core/geometry/plane.h"

namespace punch {
namespace {

std::vector<plane::V> coreOf(const RoundedPolygon& shape) {
    std::vector<plane::V> core;
    core.reserve(shape.corners.size());
    for (const Point& p : shape.corners) core.push_back({p.x.nm(), p.y.nm()});
    return core;
}

}  // namespace

Length gap(const RoundedPolygon& a, const RoundedPolygon& b) {
    if (a.corners.size() == 1 && b.corners.size() == 1)
        return distance(a.corners.front(), b.corners.front()) - a.radius - b.radius;
    return Length::fromNm(plane::nearest(coreOf(a), coreOf(b)).distance) - a.radius - b.radius;
}

Closest closest(const RoundedPolygon& a, const RoundedPolygon& b) {
    const auto n = plane::nearest(coreOf(a), coreOf(b));
    const auto point = [](double x, double y) { return Point{Length::fromNm(x), Length::fromNm(y)}; };
    Closest c{Length::fromNm(n.distance) - a.radius - b.radius, point(n.a.x, n.a.y), point(n.b.x, n.b.y)};
    if (n.distance <= 0) return c;
    // From the cores out to the rounded edges.
    const double ux = (n.b.x - n.a.x) / n.distance;
    const double uy = (n.b.y - n.a.y) / n.distance;
    c.a = point(n.a.x + ux * a.radius.nm(), n.a.y + uy * a.radius.nm());
    c.b = point(n.b.x - ux * b.radius.nm(), n.b.y - uy * b.radius.nm());
    return c;
}

}  // namespace punch
