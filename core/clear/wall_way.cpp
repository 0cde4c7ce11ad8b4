#include "core/clear/wall_way.h"

#include <algorithm>
#include <cmath>
#include <functional>
#include <limits>

#include "core/geometry/shapes.h"

namespace punch {
namespace {

using plane::V;

constexpr double kStep = 0.1;        // mm between the places of a rim that are tried, up to some 16 mm of rim
constexpr double kMostPlaces = 160;  // about; longer rims are tried at longer steps
constexpr double kBeyond = 20;       // mm that an edge is followed beyond all copper
constexpr double kNoWay = 1e6;       // mm
constexpr double kNever = std::numeric_limits<double>::infinity();

Point pointOf(V v) { return {Length::fromMm(v.x), Length::fromMm(v.y)}; }
RoundedPolygon dot(V v) { return {{pointOf(v)}, Length()}; }

/// Straight distances from one piece of copper, mm.
class Straight {
public:
    explicit Straight(const RoundedPolygon& copper) : radius_(copper.radius.mm()) {
        for (const Point& c : copper.corners) core_.push_back({c.x.mm(), c.y.mm()});
    }
    double to(V p) const {
        const double d =
            core_.size() == 1 ? std::hypot(p.x - core_[0].x, p.y - core_[0].y) : plane::segmentToConvex(p, p, core_);
        return std::max(d - radius_, 0.0);
    }

private:
    std::vector<V> core_;
    double radius_;
};

/// By how far to go from 0, at most `reach` to either side, to where f is least (golden section), within `exact`.
double leastAt(const std::function<double(double)>& f, double reach, double exact) {
    const double golden = (std::sqrt(5.0) - 1) / 2;
    double a = -reach;
    double b = reach;
    double c = b - golden * (b - a);
    double d = a + golden * (b - a);
    double fc = f(c);
    double fd = f(d);
    while (b - a > exact) {
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

/// Down from a place near the least of f, along both coordinates, their sum and their difference in turn, until a round
/// gains less than a hundredth of a nanometre. At its least f is flat, so that places within `exact` are near enough.
Places descend(const std::function<double(Places)>& f, Places at, double reach, double exact) {
    constexpr Places kWays[] = {{1, 0}, {0, 1}, {1, 1}, {1, -1}};
    double now = f(at);
    for (int round = 0; round < 40; ++round) {
        const double before = now;
        double moved = 0;
        for (const Places& way : kWays) {
            const double by = leastAt([&](double x) { return f({at.s + x * way.s, at.t + x * way.t}); }, reach, exact);
            const Places next{at.s + by * way.s, at.t + by * way.t};
            const double there = f(next);
            if (there >= now) continue;
            now = there;
            at = next;
            moved = std::max(moved, std::abs(by));
        }
        if (before - now < 1e-8) break;
        reach = std::clamp(4 * moved, 20 * exact, reach);
    }
    return at;
}

std::vector<CutRim> rimsOf(const Part& part, const Board& board) {
    std::vector<CutRim> rims;
    for (const Shape& c : board.cutOuts)
        for (const RoundedPolygon& piece : c.pieces) rims.emplace_back(piece);
    for (const BareHole& h : board.bareHoles)
        if (!h.plated) rims.emplace_back(holeShape(h, false));
    Rect box;
    for (const Conductor& p : board.copper()) box.add(boundsOf(landShape(p)));
    for (const Shape& k : board.keepouts) box.add(k.box());
    for (const FaceLine& edge : board.faces) {
        if (!carriesVoltage(part, edge.id)) continue;
        const double at = edge.at.mm();
        if (edge.axis == Axis::Along)
            rims.emplace_back(V{at, box.bottom.mm() - kBeyond}, V{at, box.top.mm() + kBeyond});
        else
            rims.emplace_back(V{box.left.mm() - kBeyond, at}, V{box.right.mm() + kBeyond, at});
    }
    return rims;
}

}  // namespace

struct WallWays::Best {
    double length = kNever;
    std::vector<Point> path;
    std::optional<SurfaceWay> way() const {
        if (length >= kNoWay) return {};
        return SurfaceWay{Length::fromMm(length), path, false};
    }
};

WallWays::WallWays(const Part& part, const Board& board) : thickness_(part.rules.boardThickness.mm()) {
    for (CutRim& rim : rimsOf(part, board)) {
        std::vector<double> places = rim.places(std::max(kStep, rim.length() / kMostPlaces));
        rims_.push_back({std::move(rim), std::move(places)});
    }
}

WallWays::Reach& WallWays::reachOf(const std::string& name, const RoundedPolygon& copper, std::size_t rim) {
    Reach& reach = reaches_[{name, rim}];
    if (!reach.straight.empty() && reach.copper.corners == copper.corners && reach.copper.radius == copper.radius)
        return reach;
    reach = {copper, {}, {}, nullptr, kNever};
    const Straight straight(copper);
    for (const double s : rims_[rim].places) {
        reach.straight.push_back(straight.to(rims_[rim].rim.at(s)));
        reach.least = std::min(reach.least, reach.straight.back());
    }
    return reach;
}

void WallWays::fillOver(Reach& reach, const Tried& tried, const SurfaceMap& surface) const {
    if (reach.surface == &surface) return;
    reach.surface = &surface;
    reach.over.clear();
    for (const double s : tried.places) {
        const auto way = surface.way(reach.copper, dot(tried.rim.at(s)));
        reach.over.push_back(way ? way->length.mm() : kNoWay);
    }
}

/// Straight to the rim, slanting through, straight on. Convex in both places, so that going down ends at the least.
void WallWays::throughAir(const Tried& tried, const Reach& a, const Reach& b, Best& best) const {
    const std::size_t n = tried.places.size();
    std::vector<V> at;
    for (const double s : tried.places) at.push_back(tried.rim.at(s));
    Places start;
    double shortest = kNever;
    for (std::size_t i = 0; i < n; ++i)
        for (std::size_t k = 0; k < n; ++k) {
            const double flat = a.straight[i] + b.straight[k];
            if (flat + thickness_ >= shortest) continue;
            const double l = flat + std::hypot(thickness_, at[i].x - at[k].x, at[i].y - at[k].y);
            if (l >= shortest) continue;
            shortest = l;
            start = {tried.places[i], tried.places[k]};
        }
    const Straight upper(a.copper);
    const Straight lower(b.copper);
    const auto length = [&](Places p) {
        const V s = tried.rim.at(p.s);
        const V t = tried.rim.at(p.t);
        return upper.to(s) + std::hypot(thickness_, s.x - t.x, s.y - t.y) + lower.to(t);
    };
    const Places found = descend(length, start, 2 * std::max(kStep, tried.rim.length() / kMostPlaces), 1e-8);
    shortest = length(found);
    if (shortest >= best.length) return;
    const V p = tried.rim.at(found.s);
    const V q = tried.rim.at(found.t);
    best = {shortest, {closest(a.copper, dot(p)).a, pointOf(p), pointOf(q), closest(b.copper, dot(q)).a}};
}

/// Over the face to the rim, slanting down the wall, over the other face on.
void WallWays::overSurface(const Tried& tried, Reach& a, Reach& b, const SurfaceMap& surface, double exactTo,
                           Best& best) const {
    fillOver(a, tried, surface);
    fillOver(b, tried, surface);
    const auto n = static_cast<std::ptrdiff_t>(tried.places.size());
    const auto place = [&](std::ptrdiff_t i) { return tried.places[static_cast<std::size_t>(i)]; };
    const auto over = [](const Reach& r, std::ptrdiff_t i) { return r.over[static_cast<std::size_t>(i)]; };
    const auto tryAt = [&](std::ptrdiff_t i, std::ptrdiff_t k) {
        if (i < 0 || k < 0 || i >= n || k >= n) return kNever;
        return over(a, i) + std::hypot(thickness_, tried.rim.along(place(i), place(k))) + over(b, k);
    };
    double least = kNever;
    for (std::ptrdiff_t i = 0; i < n; ++i)
        for (std::ptrdiff_t k = 0; k < n; ++k)
            if (over(a, i) + over(b, k) + thickness_ < least) least = std::min(least, tryAt(i, k));
    const double step = std::max(kStep, tried.rim.length() / kMostPlaces);
    if (least >= kNoWay || least > best.length + 2 * step) return;
    const auto wayTo = [&](const Reach& r, double s) { return surface.way(r.copper, dot(tried.rim.at(s))); };
    const auto offer = [&](Places p) {
        const auto up = wayTo(a, p.s);
        const auto down = wayTo(b, p.t);
        if (!up || !down) return;
        const double length = (up->length + down->length).mm() + std::hypot(thickness_, tried.rim.along(p.s, p.t));
        if (length >= best.length) return;
        best.length = length;
        best.path = up->path;
        for (const double s : tried.rim.between(p.s, p.t)) best.path.push_back(pointOf(tried.rim.at(s)));
        best.path.insert(best.path.end(), down->path.rbegin(), down->path.rend());
    };
    // Of the last place on each face its way is kept: only one of both moves in half of the steps.
    double lastS = kNever, overS = 0, lastT = kNever, overT = 0;
    const auto length = [&](Places p) {
        if (p.s != lastS) {
            const auto way = wayTo(a, p.s);
            lastS = p.s;
            overS = way ? way->length.mm() : kNoWay;
        }
        if (p.t != lastT) {
            const auto way = wayTo(b, p.t);
            lastT = p.t;
            overT = way ? way->length.mm() : kNoWay;
        }
        return overS + std::hypot(thickness_, tried.rim.along(p.s, p.t)) + overT;
    };
    // Every tried place that is lower than its neighbours may lead to the least; no way changes by more than twice what
    // its places do.
    std::vector<Places> found;
    for (std::ptrdiff_t i = 0; i < n; ++i)
        for (std::ptrdiff_t k = 0; k < n; ++k) {
            if (over(a, i) + over(b, k) + thickness_ > least + 2 * step) continue;
            const double l = tryAt(i, k);
            bool lowest = l <= least + 2 * step;
            for (std::ptrdiff_t di = -1; lowest && di <= 1; ++di)
                for (std::ptrdiff_t dk = -1; lowest && dk <= 1; ++dk) lowest = tryAt(i + di, k + dk) >= l;
            if (!lowest) continue;
            const bool known = std::any_of(found.begin(), found.end(), [&](const Places& p) {
                return tried.rim.along(p.s, place(i)) < 2 * step && tried.rim.along(p.t, place(k)) < 2 * step;
            });
            if (known) continue;
            Places at{place(i), place(k)};
            if (l <= exactTo) at = descend(length, at, 1.5 * step, 1e-4);
            found.push_back(at);
            offer(at);
        }
}

WallWay WallWays::between(const std::string& upper, const RoundedPolygon& upperCopper, const std::string& lower,
                          const RoundedPolygon& lowerCopper, const SurfaceMap& surface, Length exactTo) {
    // The nearest rims first: no way over a rim is shorter than straight to it, down, and straight on.
    std::vector<std::pair<double, std::size_t>> order;
    for (std::size_t r = 0; r < rims_.size(); ++r)
        order.emplace_back(reachOf(upper, upperCopper, r).least + thickness_ + reachOf(lower, lowerCopper, r).least, r);
    std::sort(order.begin(), order.end());
    Best air;
    Best over;
    for (const auto& [bound, r] : order) {
        // Places that were tried stand apart: the true least may be nearer by a step on each face.
        const double sure = bound - 2 * std::max(kStep, rims_[r].rim.length() / kMostPlaces);
        Reach& a = reachOf(upper, upperCopper, r);
        Reach& b = reachOf(lower, lowerCopper, r);
        if (sure < air.length) throughAir(rims_[r], a, b, air);
        if (sure < over.length) overSurface(rims_[r], a, b, surface, exactTo.mm(), over);
    }
    return {air.way(), over.way()};
}

}  // namespace punch
