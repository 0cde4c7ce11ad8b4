#include "core/clear/wall_way.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>
#include <numbers>

#include "core/clear/shapes.h"

namespace punch {
namespace {

using plane::V;

constexpr double kPi = std::numbers::pi;
constexpr double kStep = 0.1;      // mm between the places of a rim that are tried first
constexpr double kBeyond = 20;     // mm that an edge is followed beyond both pieces of copper
constexpr double kOutside = 1e-6;  // mm: a place of a rim is taken that far outside, free of rounding
constexpr double kExact = 1e-8;    // mm of a rim

V vOf(Point p) { return {p.x.mm(), p.y.mm()}; }
Point pointOf(V v) { return {Length::fromMm(v.x), Length::fromMm(v.y)}; }

/// The edge of a cut-out or hole, or the board's edge, by the distance along it.
class Rim {
public:
    explicit Rim(const RoundedPolygon& shape) {
        const std::size_t n = shape.corners.size();
        const double r = shape.radius.mm() + kOutside;
        for (std::size_t i = 0; i < n; ++i) {
            const V before = vOf(shape.corners[(i + n - 1) % n]);
            const V at = vOf(shape.corners[i]);
            const V next = vOf(shape.corners[(i + 1) % n]);
            // Outward normals of the sides before and after a corner of a counter-clockwise polygon.
            const double from = std::atan2(-(at.x - before.x), at.y - before.y);
            double sweep = n == 1 ? 2 * kPi : std::atan2(-(next.x - at.x), next.y - at.y) - from;
            while (sweep < 0) sweep += 2 * kPi;
            pieces_.push_back({at, at, r, from, sweep, r * sweep});
            if (n > 1) {
                const double out = from + sweep;
                const V off{r * std::cos(out), r * std::sin(out)};
                pieces_.push_back({{at.x + off.x, at.y + off.y},
                                   {next.x + off.x, next.y + off.y},
                                   0,
                                   0,
                                   0,
                                   std::hypot(next.x - at.x, next.y - at.y)});
            }
        }
        closed_ = true;
        sum();
    }
    Rim(V a, V b) {
        pieces_.push_back({a, b, 0, 0, 0, std::hypot(b.x - a.x, b.y - a.y)});
        sum();
    }
    double length() const { return length_; }
    V at(double s) const {
        if (closed_) {
            s = std::fmod(s, length_);
            if (s < 0) s += length_;
        } else {
            s = std::clamp(s, 0.0, length_);
        }
        for (const Piece& p : pieces_) {
            if (s <= p.length || &p == &pieces_.back()) {
                const double share = p.length > 0 ? std::min(s / p.length, 1.0) : 0;
                if (p.radius <= 0) return {p.a.x + share * (p.b.x - p.a.x), p.a.y + share * (p.b.y - p.a.y)};
                const double angle = p.from + share * p.sweep;
                return {p.a.x + p.radius * std::cos(angle), p.a.y + p.radius * std::sin(angle)};
            }
            s -= p.length;
        }
        return pieces_.front().a;
    }

    /// The way along it from one place to another, the shorter way round; signed, forwards is positive.
    double along(double s, double t) const {
        double d = t - s;
        if (closed_) d = std::remainder(d, length_);
        return d;
    }
    /// Places between the two, near enough to each other to be drawn.
    std::vector<double> between(double s, double t) const {
        const double d = along(s, t);
        const int pieces = static_cast<int>(std::abs(d) / 0.05);
        std::vector<double> all;
        for (int i = 1; i < pieces; ++i) all.push_back(s + d * i / pieces);
        return all;
    }

private:
    struct Piece {
        V a, b;  ///< ends of a side, or the middle of an arc
        double radius = 0, from = 0, sweep = 0, length = 0;
    };
    void sum() {
        for (const Piece& p : pieces_) length_ += p.length;
    }
    std::vector<Piece> pieces_;
    double length_ = 0;
    bool closed_ = false;
};

/// By how far to go from 0, at most `reach` to either side, to where f is least (golden section).
double least(const std::function<double(double)>& f, double reach) {
    const double golden = (std::sqrt(5.0) - 1) / 2;
    double a = -reach;
    double b = reach;
    double c = b - golden * (b - a);
    double d = a + golden * (b - a);
    double fc = f(c);
    double fd = f(d);
    while (b - a > kExact) {
        if (fc <= fd) {
            b = d;
            d = c;
            fd = fc;
            c = b - golden * (b - a);
            fc = f(c);
        } else {
            a = c;
            c = d;
            fc = fd;
            d = a + golden * (b - a);
            fd = f(d);
        }
    }
    return (a + b) / 2;
}

/// Two places of one rim: where the way leaves the upper face, and where it comes to the lower one.
struct Places {
    double s = 0, t = 0;
};

/// Down from a place near the least of f, along both coordinates, their sum and their difference in turn.
Places descend(const std::function<double(Places)>& f, Places at, double reach) {
    constexpr Places kWays[] = {{1, 0}, {0, 1}, {1, 1}, {1, -1}};
    for (int round = 0; round < 40; ++round) {
        double moved = 0;
        for (const Places& way : kWays) {
            const double by = least([&](double x) { return f({at.s + x * way.s, at.t + x * way.t}); }, reach);
            if (f({at.s + by * way.s, at.t + by * way.t}) >= f(at)) continue;
            at = {at.s + by * way.s, at.t + by * way.t};
            moved = std::max(moved, std::abs(by));
        }
        if (moved < 20 * kExact) break;
        reach = std::clamp(4 * moved, 1e-4, reach);
    }
    return at;
}

std::vector<Rim> rimsOf(const Part& part, const Footprint& f, const RoundedPolygon& a, const RoundedPolygon& b) {
    std::vector<Rim> rims;
    for (const CutShape& c : f.cutOuts) rims.emplace_back(cutShape(c));
    for (const BareHole& h : f.bareHoles)
        if (!h.plated) rims.emplace_back(holeShape(h, false));
    Rect box = boundsOf(a);
    box.add(boundsOf(b));
    for (const Face& face : part.faces) {
        if (face.kind != FaceKind::BoardEdge || face.axis == Axis::Height) continue;
        for (const FaceLine& line : f.faces) {
            if (line.id != face.id) continue;
            const double at = line.at.mm();
            if (face.axis == Axis::Along)
                rims.emplace_back(V{at, box.bottom.mm() - kBeyond}, V{at, box.top.mm() + kBeyond});
            else
                rims.emplace_back(V{box.left.mm() - kBeyond, at}, V{box.right.mm() + kBeyond, at});
        }
    }
    return rims;
}

struct Best {
    double length = std::numeric_limits<double>::infinity();
    std::vector<Point> path;
};

RoundedPolygon dot(V v) { return {{pointOf(v)}, Length()}; }

/// Straight to the rim, slanting through, straight on. Convex in both places, so that going down ends at the least.
void throughAir(const Rim& rim, const RoundedPolygon& upper, const RoundedPolygon& lower, double thickness,
                Best& best) {
    const auto from = [](const RoundedPolygon& copper, V p) {
        std::vector<V> core;
        for (const Point& c : copper.corners) core.push_back(vOf(c));
        const double d = plane::inside(core, p) ? 0 : plane::nearest(core, {p}).distance;
        return std::max(d - copper.radius.mm(), 0.0);
    };
    const auto length = [&](Places at) {
        const V p = rim.at(at.s);
        const V q = rim.at(at.t);
        return from(upper, p) + std::hypot(thickness, p.x - q.x, p.y - q.y) + from(lower, q);
    };
    const int n = std::clamp(static_cast<int>(rim.length() / (4 * kStep)), 16, 200);
    const double step = rim.length() / n;
    Places at;
    double shortest = std::numeric_limits<double>::infinity();
    for (int i = 0; i <= n; ++i)
        for (int k = 0; k <= n; ++k)
            if (const double l = length({i * step, k * step}); l < shortest) {
                shortest = l;
                at = {i * step, k * step};
            }
    at = descend(length, at, 2 * step);
    shortest = length(at);
    if (shortest >= best.length) return;
    const V p = rim.at(at.s);
    const V q = rim.at(at.t);
    best = {shortest, {closest(upper, dot(p)).a, pointOf(p), pointOf(q), closest(lower, dot(q)).a}};
}

/// Over the face to the rim, slanting down the wall, over the other face on.
void overSurface(const Rim& rim, const RoundedPolygon& upper, const RoundedPolygon& lower, const SurfaceMap& surface,
                 double thickness, Best& best) {
    const auto to = [&](const RoundedPolygon& copper, double s) {
        const RoundedPolygon p = dot(rim.at(s));
        // No way over a face is shorter than the straight one.
        if (const double bound = gap(copper, p).mm() + thickness; bound > best.length) return bound + 1e3;
        const auto way = surface.way(copper, p);
        return way ? way->length.mm() : 1e6;
    };
    const auto wall = [&](double s, double t) { return std::hypot(thickness, rim.along(s, t)); };
    const auto length = [&](Places at) { return to(upper, at.s) + wall(at.s, at.t) + to(lower, at.t); };
    const int n = std::clamp(static_cast<int>(rim.length() / kStep), 24, 600);
    const double step = rim.length() / n;
    std::vector<double> above;
    std::vector<double> below;
    for (int i = 0; i <= n; ++i) {
        above.push_back(to(upper, i * step));
        below.push_back(to(lower, i * step));
    }
    const auto tried = [&](int i, int k) {
        if (i < 0 || k < 0 || i > n || k > n) return std::numeric_limits<double>::infinity();
        const auto at = [](int v) { return static_cast<std::size_t>(v); };
        return above[at(i)] + wall(i * step, k * step) + below[at(k)];
    };
    // Every place lower than its neighbours may lead to the least.
    std::vector<std::pair<double, Places>> valleys;
    for (int i = 0; i <= n; ++i)
        for (int k = 0; k <= n; ++k) {
            const double l = tried(i, k);
            bool lowest = l < 1e3 && l < best.length + step;
            for (int di = -1; lowest && di <= 1; ++di)
                for (int dk = -1; lowest && dk <= 1; ++dk) lowest = tried(i + di, k + dk) >= l;
            if (lowest) valleys.emplace_back(l, Places{i * step, k * step});
        }
    std::sort(valleys.begin(), valleys.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    for (const auto& [l, start] : valleys) {
        // No way changes by more than the places change.
        if (l > valleys.front().first + 2 * step) break;
        const Places at = descend(length, start, 1.5 * step);
        const double shortest = length(at);
        if (shortest >= best.length) continue;
        const auto a = surface.way(upper, dot(rim.at(at.s)));
        const auto b = surface.way(lower, dot(rim.at(at.t)));
        if (!a || !b) continue;
        best.length = shortest;
        best.path = a->path;
        for (const double s : rim.between(at.s, at.t)) best.path.push_back(pointOf(rim.at(s)));
        best.path.insert(best.path.end(), b->path.rbegin(), b->path.rend());
    }
}

std::optional<SurfaceWay> wayOf(const Best& best) {
    if (!std::isfinite(best.length)) return {};
    return SurfaceWay{Length::fromMm(best.length), best.path, false};
}

}  // namespace

WallWays wallWays(const Part& part, const Footprint& f, const RoundedPolygon& upper, const RoundedPolygon& lower,
                  const SurfaceMap& surface, Length thickness) {
    Best air;
    Best over;
    for (const Rim& rim : rimsOf(part, f, upper, lower)) {
        throughAir(rim, upper, lower, thickness.mm(), air);
        overSurface(rim, upper, lower, surface, thickness.mm(), over);
    }
    return {wayOf(air), wayOf(over)};
}

}  // namespace punch
