#include "core/solid/shadows.h"

#include <algorithm>
#include <cmath>

namespace punch {
namespace {

constexpr double kUsual[] = {0.05, 0.1, 0.2, 0.5, 1, 2, 5, 10, 20};  // mm above the seating plane
constexpr double kUsualBelow[] = {-0.2, -1, -2, -5};
constexpr std::size_t kMostHeights = 40;
constexpr double kSameLevel = 1e-3;        // mm
constexpr double kAside = 1e-5;            // mm: sections are taken beside level faces, not in them
constexpr double kSameArea = 1e-3;         // mm²
const Length kPlain = Length::fromUm(10);  // of outlines: less nobody needs

Point pointOf(double x, double y) { return {Length::fromMm(x), Length::fromMm(y)}; }

/// Counter-clockwise: rings that run either way would cancel each other.
std::vector<Point> upwards(std::vector<Point> ring) {
    double twice = 0;
    for (std::size_t i = 0; i < ring.size(); ++i) {
        const Point &a = ring[i], &b = ring[(i + 1) % ring.size()];
        twice += a.x.mm() * b.y.mm() - b.x.mm() * a.y.mm();
    }
    if (twice < 0) std::reverse(ring.begin(), ring.end());
    return ring;
}

/// Between two heights; the rest of a triangle is cut off.
std::vector<Vec3> clipped(std::vector<Vec3> ring, double low, double high) {
    for (const double sense : {1.0, -1.0}) {
        const double limit = sense > 0 ? low : -high;
        std::vector<Vec3> out;
        for (std::size_t i = 0; i < ring.size(); ++i) {
            const Vec3 a = ring[i], b = ring[(i + 1) % ring.size()];
            const double da = sense * a.z - limit, db = sense * b.z - limit;
            if (da >= 0) out.push_back(a);
            if ((da > 0 && db < 0) || (da < 0 && db > 0)) out.push_back(a + (da / (da - db)) * (b - a));
        }
        ring = std::move(out);
    }
    return ring;
}

/// Fewer corners: larger by half of what is left out, so that nothing of it is lost.
Polygons plain(const Polygons& area) { return simplified(grown(area, kPlain / 2, Chords::Outside), kPlain / 2); }

std::vector<double> heightsOf(const std::vector<Vec3>& corners, const Solid& solid, const Pose& pose, double low,
                              double high) {
    std::vector<double> all = {low, 0, high};
    for (const SolidFace& face : solid.faces)
        if (face.kind == SurfaceKind::Plane && std::abs(pose.turned(face.axis).z) > 1 - 1e-9 && face.count > 0)
            all.push_back(corners[static_cast<std::size_t>(solid.triangles[static_cast<std::size_t>(face.first)].a)].z);
    std::sort(all.begin(), all.end());
    const auto close = [](double a, double b) { return b - a < kSameLevel; };
    all.erase(std::unique(all.begin(), all.end(), close), all.end());
    for (const auto& usual : {std::vector<double>(std::begin(kUsual), std::end(kUsual)),
                              std::vector<double>(std::begin(kUsualBelow), std::end(kUsualBelow))})
        for (const double z : usual)
            if (z > low && z < high && all.size() < kMostHeights) all.push_back(z);
    std::sort(all.begin(), all.end());
    all.erase(std::unique(all.begin(), all.end(), close), all.end());
    while (all.size() > kMostHeights) {
        // The two that are nearest to each other are told apart least.
        std::size_t least = 1;
        for (std::size_t i = 1; i + 1 < all.size(); ++i)
            if (all[i + 1] - all[i - 1] < all[least + 1] - all[least - 1]) least = i;
        all.erase(all.begin() + static_cast<long>(least));
    }
    return all;
}

/// A place of a lead or peg, below the seating plane.
bool ofLead(const std::vector<SolidLead>& leads, double x, double y) {
    return std::any_of(leads.begin(), leads.end(), [&](const SolidLead& l) {
        const double reach = std::hypot(l.section.along, l.section.across) / 2 + std::hypot(l.lean.x, l.lean.y) + 0.05;
        return std::hypot(x - l.at.x, y - l.at.y) < reach;
    });
}

}  // namespace

SolidRings ringsOf(const Polygons& area) {
    SolidRings rings;
    for (const auto& ring : area) {
        auto& to = rings.emplace_back();
        for (const Point& p : ring) to.push_back({p.x.mm(), p.y.mm()});
    }
    return rings;
}

std::vector<SolidShadow> shadowsOf(const Solid& solid, const Standing& standing) {
    if (solid.triangles.empty()) return {};
    std::vector<Vec3> corners;
    for (const Vec3& c : solid.corners) corners.push_back(standing.pose(c));
    const Sections sections(solid, standing.pose);
    double low = 0;
    for (const Vec3& c : corners)
        if (c.z < low && !ofLead(standing.leads, c.x, c.y)) low = c.z;
    const std::vector<double> heights = heightsOf(corners, solid, standing.pose, low, sections.high());
    // Triangles by the slabs that they reach into.
    std::vector<std::vector<const Triangle*>> bySlab(heights.size());
    for (const Triangle& t : solid.triangles) {
        const Vec3 a = corners[static_cast<std::size_t>(t.a)], b = corners[static_cast<std::size_t>(t.b)],
                   c = corners[static_cast<std::size_t>(t.c)];
        // Upright ones pass over nothing.
        const Vec3 across = cross(b - a, c - a);
        if (std::abs(across.z) < 1e-9 * std::max(norm(across), 1e-12)) continue;
        const double least = std::min({a.z, b.z, c.z}), most = std::max({a.z, b.z, c.z});
        for (std::size_t k = 0; k + 1 < heights.size(); ++k)
            if (least < heights[k + 1] - kAside && most > heights[k] + kAside) bySlab[k].push_back(&t);
    }
    std::vector<SolidShadow> all;
    Polygons before;
    for (std::size_t k = 0; k + 1 < heights.size(); ++k) {
        const double from = heights[k], to = heights[k + 1];
        const bool below = to <= kSameLevel;
        Polygons area;
        for (const double z : {from + kAside, to - kAside}) {
            // Outer lines and holes of all bodies: what is around something counts.
            Polygons loops, holes;
            for (const SectionLoop& loop : sections.at(z)) {
                if (below && ofLead(standing.leads, (loop.low.x + loop.high.x) / 2, (loop.low.y + loop.high.y) / 2))
                    continue;
                std::vector<Point> ring;
                for (const Flat& p : loop.points) ring.push_back(pointOf(p.x, p.y));
                if (ring.size() > 2) (loop.area >= 0 ? loops : holes).push_back(std::move(ring));
            }
            const Polygons section = without(united(loops), united(holes));
            area.insert(area.end(), section.begin(), section.end());
        }
        area = united(area);
        Polygons passed;
        for (const Triangle* t : bySlab[k]) {
            const std::vector<Vec3> ring =
                clipped({corners[static_cast<std::size_t>(t->a)], corners[static_cast<std::size_t>(t->b)],
                         corners[static_cast<std::size_t>(t->c)]},
                        from, to);
            if (ring.size() < 3) continue;
            if (below && ofLead(standing.leads, ring[0].x, ring[0].y)) continue;
            std::vector<Point> flat;
            for (const Vec3& p : ring) flat.push_back(pointOf(p.x, p.y));
            passed.push_back(upwards(std::move(flat)));
        }
        if (!passed.empty()) {
            passed = united(passed);
            passed.insert(passed.end(), area.begin(), area.end());
            area = united(passed);
        }
        area = plain(area);
        if (areaOf(area) < kSameArea) {
            before.clear();
            continue;
        }
        const bool same = !all.empty() && std::abs(all.back().high - from) < kSameLevel && !before.empty() &&
                          areaOf(without(area, before)) + areaOf(without(before, area)) < kSameArea;
        if (same) {
            all.back().high = to;
            continue;
        }
        all.push_back({from, to, ringsOf(area)});
        before = area;
    }
    return all;
}

void sweep(const Solid& solid, const Standing& standing, SolidMotion& motion) {
    // Seen from above: the body at places so near to each other that its farthest corner moves by less than a step,
    // each grown by what it moves between them.
    const Motion how = moved(motion.motion, standing.pose);
    std::vector<std::array<Vec3, 3>> triangles;
    double far = 0;
    for (const SolidFace& face : solid.faces) {
        if (face.body != motion.body) continue;
        for (int i = face.first; i < face.first + face.count; ++i) {
            const Triangle& t = solid.triangles[static_cast<std::size_t>(i)];
            auto& to = triangles.emplace_back();
            std::size_t k = 0;
            for (const int c : {t.a, t.b, t.c}) {
                to[k] = standing.pose(solid.corners[static_cast<std::size_t>(c)]);
                const Vec3 from = to[k] - how.at;
                far = std::max(far, norm(from - dot(from, unit(how.axis)) * unit(how.axis)));
                ++k;
            }
        }
    }
    motion.swept.clear();
    if (triangles.empty()) return;
    const double length = how.turns ? std::abs(how.to - how.from) * M_PI / 180 * far : std::abs(how.to - how.from);
    constexpr double kTallyStep = 0.1;
    const int steps = std::clamp(static_cast<int>(std::ceil(length / kTallyStep)), 1, 720);
    const Length between = Length::fromMm(length / steps / 2);
    motion.low = 1e9;
    motion.high = -1e9;
    Polygons all;
    for (int i = 0; i <= steps; ++i) {
        const Pose pose = how.pose(how.from + (how.to - how.from) * i / steps);
        Polygons here;
        for (const auto& t : triangles) {
            std::vector<Point> ring;
            for (const Vec3& c : t) {
                const Vec3 p = pose(c);
                motion.low = std::min(motion.low, p.z);
                motion.high = std::max(motion.high, p.z);
                ring.push_back(pointOf(p.x, p.y));
            }
            here.push_back(upwards(std::move(ring)));
        }
        here = united(here);
        all.insert(all.end(), here.begin(), here.end());
        if (all.size() > 64) all = united(all);
    }
    motion.swept = ringsOf(plain(grown(united(all), between, Chords::Outside)));
}

}  // namespace punch
