#include "core/solid/sections.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <numbers>
#include <unordered_map>

namespace punch {
namespace {

constexpr double kSame = 1e-5;      // mm: ends of lines that meet
constexpr double kNoCorner = 1e-7;  // mm: a corner that is none
constexpr double kRound = 5e-4;     // mm
constexpr double kFills = 0.995;    // of its rectangle

double turnOf(Flat a, Flat b, Flat c) { return (b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x); }

/// Where the edge from a to b meets the height; the same whichever way it runs.
Flat crossing(Vec3 a, Vec3 b, double z) {
    if (b.z < a.z || (b.z == a.z && (b.x < a.x || (b.x == a.x && b.y < a.y)))) std::swap(a, b);
    const double k = (z - a.z) / (b.z - a.z);
    return {a.x + k * (b.x - a.x), a.y + k * (b.y - a.y)};
}

struct PieceOfRing {
    Flat from, to;
    bool used = false;
};

/// Ends of lines by where they are; a place is looked for in its square and those beside it.
class Ends {
public:
    void add(Flat at, int part) { map_[key(cell(at.x), cell(at.y))].push_back({at, part}); }
    int near(Flat at, const std::vector<PieceOfRing>& parts) const {
        const long x = cell(at.x), y = cell(at.y);
        int best = -1;
        double least = 4 * kSame;
        look(x, y, at, parts, best, least);
        // Mostly it is right there.
        if (least < kSame) return best;
        for (long i = x - 1; i <= x + 1; ++i)
            for (long k = y - 1; k <= y + 1; ++k)
                if (i != x || k != y) look(i, k, at, parts, best, least);
        return best;
    }

private:
    void look(long x, long y, Flat at, const std::vector<PieceOfRing>& parts, int& best, double& least) const {
        const auto it = map_.find(key(x, y));
        if (it == map_.end()) return;
        for (const auto& [p, part] : it->second)
            if (const double d = std::hypot(p.x - at.x, p.y - at.y);
                d < least && !parts[static_cast<std::size_t>(part)].used) {
                least = d;
                best = part;
            }
    }
    static long cell(double v) { return std::lround(v / (2 * kSame)); }
    static std::uint64_t key(long a, long b) {
        return static_cast<std::uint64_t>(a) * 0x9E3779B97F4A7C15ULL ^ static_cast<std::uint64_t>(b);
    }
    std::unordered_map<std::uint64_t, std::vector<std::pair<Flat, int>>> map_;
};

void finish(SectionLoop& loop) {
    // Corners on straight lines are left out.
    std::vector<Flat> kept;
    const std::size_t n = loop.points.size();
    for (std::size_t i = 0; i < n; ++i) {
        const Flat a = kept.empty() ? loop.points[(i + n - 1) % n] : kept.back(), b = loop.points[i],
                   c = loop.points[(i + 1) % n];
        if (std::hypot(b.x - a.x, b.y - a.y) < kSame && !kept.empty()) continue;
        const double l = std::hypot(c.x - a.x, c.y - a.y);
        if (l > kSame && std::abs(turnOf(a, b, c)) / l < kNoCorner) continue;
        kept.push_back(b);
    }
    loop.points = std::move(kept);
    loop.low = {std::numeric_limits<double>::infinity(), std::numeric_limits<double>::infinity()};
    loop.high = {-loop.low.x, -loop.low.y};
    for (std::size_t i = 0; i < loop.points.size(); ++i) {
        const Flat a = loop.points[i], b = loop.points[(i + 1) % loop.points.size()];
        loop.area += (a.x * b.y - b.x * a.y) / 2;
        loop.low = {std::min(loop.low.x, a.x), std::min(loop.low.y, a.y)};
        loop.high = {std::max(loop.high.x, a.x), std::max(loop.high.y, a.y)};
    }
}

std::vector<Flat> hull(std::vector<Flat> points) {
    std::sort(points.begin(), points.end(), [](Flat a, Flat b) { return a.x < b.x || (a.x == b.x && a.y < b.y); });
    std::vector<Flat> out;
    const auto chain = [&](auto from, auto to) {
        const std::size_t base = out.size();
        for (auto it = from; it != to; ++it) {
            while (out.size() >= base + 2 && turnOf(out[out.size() - 2], out.back(), *it) <= 0) out.pop_back();
            out.push_back(*it);
        }
        out.pop_back();
    };
    chain(points.begin(), points.end());
    chain(points.rbegin(), points.rend());
    return out;
}

Flat middleOfArea(const SectionLoop& loop) {
    // About its first corner, so that nothing is lost far from the origin.
    const Flat o = loop.points.front();
    double area = 0, x = 0, y = 0;
    for (std::size_t i = 0; i < loop.points.size(); ++i) {
        const Flat p = loop.points[i], q = loop.points[(i + 1) % loop.points.size()];
        const Flat a{p.x - o.x, p.y - o.y}, b{q.x - o.x, q.y - o.y};
        const double k = a.x * b.y - b.x * a.y;
        area += k / 2;
        x += k * (a.x + b.x) / 6;
        y += k * (a.y + b.y) / 6;
    }
    return {o.x + x / area, o.y + y / area};
}

/// Least squares: the middle and radius of a circle.
std::array<double, 3> circleThrough(const std::vector<Flat>& points) {
    Flat m;
    const auto n = static_cast<double>(points.size());
    for (const Flat& p : points) m = {m.x + p.x / n, m.y + p.y / n};
    double uu = 0, uv = 0, vv = 0, uuu = 0, vvv = 0, uvv = 0, vuu = 0;
    for (const Flat& p : points) {
        const double u = p.x - m.x, v = p.y - m.y;
        uu += u * u;
        uv += u * v;
        vv += v * v;
        uuu += u * u * u;
        vvv += v * v * v;
        uvv += u * v * v;
        vuu += v * u * u;
    }
    const double d = uu * vv - uv * uv;
    if (std::abs(d) < 1e-18) return {m.x, m.y, 0};
    const double a = (uuu + uvv) / 2, b = (vvv + vuu) / 2;
    const double u = (a * vv - b * uv) / d, v = (b * uu - a * uv) / d;
    return {m.x + u, m.y + v, std::sqrt(u * u + v * v + (uu + vv) / n)};
}

}  // namespace

Sections::Sections(const Solid& solid, const Pose& pose) {
    std::vector<Vec3> corners;
    corners.reserve(solid.corners.size());
    low_ = std::numeric_limits<double>::infinity();
    high_ = -low_;
    for (const Vec3& p : solid.corners) {
        corners.push_back(pose(p));
        low_ = std::min(low_, corners.back().z);
        high_ = std::max(high_, corners.back().z);
    }
    if (corners.empty()) low_ = high_ = 0;
    for (const SolidFace& f : solid.faces)
        for (int i = f.first; i < f.first + f.count; ++i) {
            const Triangle& t = solid.triangles[static_cast<std::size_t>(i)];
            pieces_.push_back({corners[static_cast<std::size_t>(t.a)], corners[static_cast<std::size_t>(t.b)],
                               corners[static_cast<std::size_t>(t.c)], f.body});
        }
    constexpr int kSlices = 200;
    slice_ = std::max((high_ - low_) / kSlices, 1e-6);
    slices_.resize(kSlices + 1);
    const auto slice = [&](double z) {
        return static_cast<std::size_t>(std::clamp((z - low_) / slice_, 0.0, static_cast<double>(kSlices)));
    };
    for (std::size_t i = 0; i < pieces_.size(); ++i) {
        const auto [least, most] = std::minmax({pieces_[i].a.z, pieces_[i].b.z, pieces_[i].c.z});
        if (least == most) continue;
        for (std::size_t k = slice(least); k <= slice(most); ++k) slices_[k].push_back(static_cast<int>(i));
    }
}

double Sections::lowestOver(Flat low, Flat high) const {
    double least = std::numeric_limits<double>::infinity();
    for (const Piece& p : pieces_)
        for (const Vec3& c : {p.a, p.b, p.c})
            if (c.x >= low.x && c.x <= high.x && c.y >= low.y && c.y <= high.y) least = std::min(least, c.z);
    return least;
}

std::vector<SectionLoop> Sections::at(double z) const {
    std::vector<SectionLoop> loops;
    if (!(z >= low_ && z <= high_)) return loops;
    std::unordered_map<int, std::vector<PieceOfRing>> byBody;
    const auto slice = static_cast<std::size_t>(std::min((z - low_) / slice_, static_cast<double>(slices_.size() - 1)));
    for (const int i : slices_[slice]) {
        const Piece& p = pieces_[static_cast<std::size_t>(i)];
        // What lies on the height counts as above it.
        const bool a = p.a.z >= z, b = p.b.z >= z, c = p.c.z >= z;
        if (a == b && b == c) continue;
        // The corner that is alone, and the two others in order.
        const Vec3 corner[3] = {p.a, p.b, p.c};
        const int alone = b == c ? 0 : a == c ? 1 : 2;
        const Vec3 q = corner[alone], r = corner[(alone + 1) % 3], s = corner[(alone + 2) % 3];
        const Flat first = crossing(q, r, z), second = crossing(q, s, z);
        const bool up = q.z >= z;
        const Flat from = up ? second : first, to = up ? first : second;
        // A corner just beside the height: what it cuts off has no length.
        if (std::hypot(from.x - to.x, from.y - to.y) < kNoCorner) continue;
        // The triangle's outside lies to the right.
        byBody[p.body].push_back({to, from});
    }
    for (auto& [body, parts] : byBody) {
        Ends starts;
        for (std::size_t i = 0; i < parts.size(); ++i) starts.add(parts[i].from, static_cast<int>(i));
        for (std::size_t i = 0; i < parts.size(); ++i) {
            if (parts[i].used) continue;
            SectionLoop loop;
            loop.body = body;
            int now = static_cast<int>(i);
            while (now >= 0) {
                PieceOfRing& p = parts[static_cast<std::size_t>(now)];
                p.used = true;
                loop.points.push_back(p.from);
                now = starts.near(p.to, parts);
            }
            if (loop.points.size() < 3) continue;
            finish(loop);
            if (loop.points.size() >= 3 && std::abs(loop.area) > 1e-8) loops.push_back(std::move(loop));
        }
    }
    return loops;
}

SectionShape shapeOf(const SectionLoop& loop) {
    SectionShape shape;
    const std::vector<Flat> around = hull(loop.points);
    if (around.size() >= 8) {
        const auto [x, y, r] = circleThrough(around);
        const bool round = std::all_of(loop.points.begin(), loop.points.end(), [&, cx = x, cy = y, cr = r](Flat p) {
            return std::abs(std::hypot(p.x - cx, p.y - cy) - cr) < kRound;
        });
        if (round) {
            shape.middle = {x, y};
            shape.along = shape.across = 2 * r;
            shape.round = true;
            return shape;
        }
    }
    // The smallest rectangle has a side along one of the hull's.
    double best = std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < around.size(); ++i) {
        const Flat a = around[i], b = around[(i + 1) % around.size()];
        const double l = std::hypot(b.x - a.x, b.y - a.y);
        if (l < kSame) continue;
        const double ux = (b.x - a.x) / l, uy = (b.y - a.y) / l;
        double low = 0, high = 0, deep = 0;
        for (const Flat& p : around) {
            const double along = (p.x - a.x) * ux + (p.y - a.y) * uy, off = -(p.x - a.x) * uy + (p.y - a.y) * ux;
            low = std::min(low, along);
            high = std::max(high, along);
            deep = std::max(deep, off);
        }
        const double area = (high - low) * deep;
        if (area >= best - 1e-12) continue;
        best = area;
        const double m = (low + high) / 2;
        shape.middle = {a.x + m * ux - deep / 2 * uy, a.y + m * uy + deep / 2 * ux};
        const bool longer = high - low >= deep;
        shape.along = longer ? high - low : deep;
        shape.across = longer ? deep : high - low;
        shape.turn = std::atan2(longer ? uy : ux, longer ? ux : -uy) * 180 / std::numbers::pi;
    }
    shape.turn = std::remainder(shape.turn, 180.0);
    shape.rectangle = std::abs(loop.area) > kFills * best;
    if (!shape.rectangle) shape.middle = middleOfArea(loop);
    return shape;
}

}  // namespace punch
