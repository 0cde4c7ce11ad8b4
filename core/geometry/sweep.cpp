#include "core/geometry/sweep.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace punch {
namespace {

constexpr double kOutside = 3000;  // nm, by which chords lie outside the arcs of a swing

struct SweptPoint {
    double x = 0, y = 0;
};

std::vector<SweptPoint> ringFrom(const std::vector<Point>& ring, Point origin) {
    std::vector<SweptPoint> out;
    for (const Point& p : ring) out.push_back({p.x.nm() - origin.x.nm(), p.y.nm() - origin.y.nm()});
    return out;
}

Point pointAt(SweptPoint v, Point origin) { return {Length::fromNm(v.x) + origin.x, Length::fromNm(v.y) + origin.y}; }

/// The longest runs of edges for which `faces` holds; the ring's places of each run.
template <class Faces>
std::vector<std::vector<SweptPoint>> runsOf(const std::vector<SweptPoint>& ring, Faces faces) {
    const std::size_t n = ring.size();
    std::vector<std::vector<SweptPoint>> runs;
    std::size_t start = 0;
    while (start < n && faces(ring[start], ring[(start + 1) % n])) ++start;
    if (start == n) return {ring};
    for (std::size_t k = 0; k < n; ++k) {
        const SweptPoint a = ring[(start + k) % n], b = ring[(start + k + 1) % n];
        if (!faces(a, b)) continue;
        if (runs.empty() || runs.back().back().x != a.x || runs.back().back().y != a.y) runs.push_back({a});
        runs.back().push_back(b);
    }
    return runs;
}

double r2(SweptPoint v) { return v.x * v.x + v.y * v.y; }

/// With each edge split where it is nearest to the origin, so that distances only grow or only fall along it.
std::vector<SweptPoint> splitAtFeet(const std::vector<SweptPoint>& ring) {
    std::vector<SweptPoint> out;
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const SweptPoint a = ring[i], b = ring[(i + 1) % ring.size()];
        out.push_back(a);
        const double dx = b.x - a.x, dy = b.y - a.y, len2 = dx * dx + dy * dy;
        if (len2 <= 0) continue;
        const double t = -(a.x * dx + a.y * dy) / len2;
        if (t > 1e-9 && t < 1 - 1e-9) out.push_back({a.x + t * dx, a.y + t * dy});
    }
    return out;
}

SweptPoint swungBy(SweptPoint v, double angle, double stretch = 1) {
    const double c = std::cos(angle) * stretch, s = std::sin(angle) * stretch;
    return {v.x * c - v.y * s, v.x * s + v.y * c};
}

/// The strip that a run sweeps: along it, along the arc of its inner end, back along the turned run, and back along
/// the arc of its outer end.
std::vector<SweptPoint> stripOf(const std::vector<SweptPoint>& run, double angle) {
    const bool startsOutside = r2(run.front()) > r2(run.back());
    const SweptPoint outer = startsOutside ? run.front() : run.back(), inner = startsOutside ? run.back() : run.front();
    const double r = std::sqrt(std::max(r2(outer), 1.0));
    const int steps =
        std::max(2, static_cast<int>(std::ceil(std::abs(angle) / std::sqrt(8 * std::min(kOutside / r, 0.02)))));
    const double step = angle / steps;
    std::vector<SweptPoint> strip = run;
    if (!startsOutside) std::reverse(strip.begin(), strip.end());
    for (int i = 1; i < steps; ++i) strip.push_back(swungBy(inner, i * step));
    for (std::size_t i = run.size(); i-- > 0;)
        strip.push_back(swungBy(startsOutside ? run[i] : run[run.size() - 1 - i], angle));
    // Tangents outside, which meet beyond the middles of the chords.
    for (int i = steps; i-- > 0;) strip.push_back(swungBy(outer, (i + 0.5) * step, 1 / std::cos(step / 2)));
    return strip;
}

Polygons fullTurn(const Polygons& shape, Point axis) {
    double most = 0, least = 1e18;
    for (const auto& ring : shape) {
        const std::vector<SweptPoint> v = splitAtFeet(ringFrom(ring, axis));
        for (const SweptPoint& p : v) {
            most = std::max(most, std::sqrt(r2(p)));
            least = std::min(least, std::sqrt(r2(p)));
        }
    }
    Area area{circle(axis, Length::fromNm(2 * most)), {}};
    if (!contains(shape, axis) && least > 1) area.holes.push_back(circle(axis, Length::fromNm(2 * least)));
    return polygonsOf(area, Chords::Outside);
}

}  // namespace

Polygons slid(const Polygons& shape, Point by) {
    Polygons all = shape;
    const double dx = by.x.nm(), dy = by.y.nm();
    if (dx == 0 && dy == 0) return shape;
    for (const auto& ring : shape) {
        // Outwards of an edge is to its right; so it faces the motion where that turns right from it.
        for (const auto& run :
             runsOf(ringFrom(ring, {}), [&](SweptPoint a, SweptPoint b) { return (b.y - a.y) * dx - (b.x - a.x) * dy > 0; })) {
            std::vector<Point> strip;
            for (const SweptPoint& v : run) strip.push_back(pointAt(v, {}));
            for (std::size_t i = run.size(); i-- > 0;) strip.push_back(pointAt(run[i], by));
            all.push_back(strip);
        }
    }
    // Strips run either way round.
    Polygons whole = shape;
    for (std::size_t i = shape.size(); i < all.size(); ++i)
        for (const auto& strip : united({all[i]})) whole.push_back(strip);
    return united(whole);
}

Polygons swung(const Polygons& shape, Point axis, double degrees) {
    if (degrees == 0 || shape.empty()) return shape;
    Polygons full;
    if (std::abs(degrees) >= 360) {
        for (const Area& piece : areasOf(shape))
            for (const auto& ring : fullTurn(polygonsOf(piece), axis)) full.push_back(ring);
        return united(full);
    }
    const double angle = degrees * kPi / 180;
    Polygons all = shape;
    for (const auto& ring : shape) {
        const std::vector<SweptPoint> v = splitAtFeet(ringFrom(ring, axis));
        // The outside of an edge faces a counter-clockwise turn where the edge comes nearer to the axis.
        const double way = angle > 0 ? 1 : -1;
        for (const auto& run : runsOf(v, [&](SweptPoint a, SweptPoint b) { return way * (r2(b) - r2(a)) < 0; })) {
            std::vector<Point> strip;
            for (const SweptPoint& p : stripOf(run, angle)) strip.push_back(pointAt(p, axis));
            for (const auto& simple : united({strip})) all.push_back(simple);
        }
    }
    return united(all);
}

}  // namespace punch
