#include "core/solid/lead_slices.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace punch {
namespace {

constexpr double kJust = 2e-4;        // mm beside a height where corners lie
constexpr double kSameHeight = 1e-3;  // mm
constexpr double kThickestBoard = 6;  // mm: no board is thicker
constexpr double kBeside = 0.3;       // mm: what stands further away is not this lead
constexpr double kSmooth = 35;        // degrees from one chord of an arc to the next
constexpr double kLikeItsNeighbours = 1.5;
constexpr double kSameSlice = 5e-4;   // mm
constexpr double kSameCorner = 1e-6;  // mm

using Corner = std::array<double, 2>;

double turnOf(const Corner& a, const Corner& b, const Corner& c) {
    return (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0]);
}

std::vector<Corner> hull(std::vector<Corner> points) {
    std::sort(points.begin(), points.end());
    std::vector<Corner> out;
    const auto chain = [&](auto from, auto to) {
        const std::size_t base = out.size();
        for (auto it = from; it != to; ++it) {
            while (out.size() >= base + 2 && turnOf(out[out.size() - 2], out.back(), *it) <= kSameCorner * kSameCorner)
                out.pop_back();
            out.push_back(*it);
        }
        if (out.size() > 1) out.pop_back();
    };
    chain(points.begin(), points.end());
    chain(points.rbegin(), points.rend());
    return out;
}

/// How far an arc through corners of a line stands out over its chords, at most. A chord turns little against both of
/// its neighbours and is not much longer than they are.
double bulge(const std::vector<Corner>& ring) {
    double most = 0;
    const std::size_t n = ring.size();
    const auto edge = [&](std::size_t i) {
        const Corner &a = ring[i % n], &b = ring[(i + 1) % n];
        return Flat{b[0] - a[0], b[1] - a[1]};
    };
    const auto turned = [](Flat a, Flat b) {
        return std::abs(std::atan2(a.x * b.y - a.y * b.x, a.x * b.x + a.y * b.y));
    };
    constexpr double limit = kSmooth * std::numbers::pi / 180;
    for (std::size_t i = 0; i < n && n > 4; ++i) {
        const Flat before = edge(i), chord = edge(i + 1), after = edge(i + 2);
        const double length = std::hypot(chord.x, chord.y),
                     beside = std::max(std::hypot(before.x, before.y), std::hypot(after.x, after.y));
        const double in = turned(before, chord), out = turned(chord, after);
        if (std::min(in, out) > limit || length > kLikeItsNeighbours * beside) continue;
        most = std::max(most, length / 2 * std::tan(std::min(std::max(in, out), limit) / 4));
    }
    return most;
}

LeadSlice around(const LeadSlice& a, const LeadSlice& b) {
    LeadSlice both{b.depth, a.corners, std::max(a.radius, b.radius)};
    both.corners.insert(both.corners.end(), b.corners.begin(), b.corners.end());
    both.corners = hull(std::move(both.corners));
    return both;
}

/// Does it lie between both, as its depth says?
bool liesBetween(const LeadSlice& s, const LeadSlice& a, const LeadSlice& b) {
    if (s.corners.size() != a.corners.size() || s.corners.size() != b.corners.size() || !(b.depth > a.depth))
        return false;
    const double t = (s.depth - a.depth) / (b.depth - a.depth);
    const auto off = [&](double is, double from, double to) { return std::abs(is - ((1 - t) * from + t * to)); };
    if (off(s.radius, a.radius, b.radius) > kSameSlice) return false;
    for (std::size_t i = 0; i < s.corners.size(); ++i)
        for (const std::size_t k : {0U, 1U})
            if (off(s.corners[i][k], a.corners[i][k], b.corners[i][k]) > kSameSlice) return false;
    return true;
}

/// Without those that lie between others.
std::vector<LeadSlice> needed(const std::vector<LeadSlice>& all) {
    std::vector<LeadSlice> kept;
    for (std::size_t from = 0; from < all.size();) {
        kept.push_back(all[from]);
        std::size_t to = from + 1;
        for (std::size_t next = to + 1; next < all.size(); ++next) {
            bool straight = true;
            for (std::size_t i = from + 1; i < next && straight; ++i)
                straight = liesBetween(all[i], all[from], all[next]);
            if (!straight) break;
            to = next;
        }
        from = to;
    }
    return kept;
}

LeadSlice sectionOf(const SectionLoop& loop, double depth) {
    const SectionShape shape = shapeOf(loop);
    if (shape.round) return {depth, {{shape.middle.x, shape.middle.y}}, shape.along / 2};
    LeadSlice s{depth, {}, 0};
    for (const Flat& p : loop.points) s.corners.push_back({p.x, p.y});
    s.radius = bulge(s.corners);
    s.corners = hull(std::move(s.corners));
    return s;
}

}  // namespace

std::vector<LeadSlice> leadSlices(const Solid& solid, const Pose& pose, const Sections& sections,
                                  const SolidLeadFound& lead) {
    const double deepest = std::min(lead.length, kThickestBoard), middle = std::min(0.8, lead.length / 2);
    const auto axis = [&](double depth) {
        const double k = lead.length > 0 ? (depth - middle) / lead.length : 0;
        return Flat{lead.x + k * lead.leanX, lead.y + k * lead.leanY};
    };
    const double reach = std::hypot(lead.along, lead.across) / 2 + kBeside;
    std::vector<double> heights = {kSameHeight, deepest};
    for (const Vec3& corner : solid.corners) {
        const Vec3 p = pose(corner);
        if (p.z >= -kSameHeight || p.z <= -deepest) continue;
        const Flat at = axis(-p.z);
        if (std::hypot(p.x - at.x, p.y - at.y) < 3 * reach) heights.push_back(-p.z);
    }
    std::sort(heights.begin(), heights.end());
    std::vector<LeadSlice> all;
    const auto add = [&](double depth, double at) {
        const Flat mid = axis(depth);
        const SectionLoop* best = nullptr;
        double nearest = reach;
        const auto loops = sections.at(-depth);
        for (const SectionLoop& loop : loops) {
            if (loop.area <= 0 || loop.high.x - loop.low.x > 3 * lead.along + kBeside ||
                loop.high.y - loop.low.y > 3 * lead.along + kBeside)
                continue;
            const double off =
                std::hypot((loop.low.x + loop.high.x) / 2 - mid.x, (loop.low.y + loop.high.y) / 2 - mid.y);
            if (off < nearest) {
                nearest = off;
                best = &loop;
            }
        }
        if (best != nullptr) all.push_back(sectionOf(*best, at));
    };
    double last = -1;
    for (const double h : heights) {
        if (h - last < kSameHeight) continue;
        last = h;
        // On both sides of a shoulder.
        if (h > 2 * kJust) add(h - kJust, h);
        if (h < deepest - kJust) add(h + kJust, h);
    }
    all = needed(all);
    // Of two neighbours with least between them one around both.
    while (all.size() > kMostLeadSlices) {
        std::size_t least = 0;
        for (std::size_t i = 0; i + 1 < all.size(); ++i)
            if (all[i + 1].depth - all[i].depth < all[least + 1].depth - all[least].depth) least = i;
        LeadSlice both = around(all[least], all[least + 1]);
        both.depth = (all[least].depth + all[least + 1].depth) / 2;
        all[least] = std::move(both);
        all.erase(all.begin() + static_cast<std::ptrdiff_t>(least) + 1);
    }
    return all;
}

std::vector<LeadSlice> between(const std::vector<LeadSlice>& slices, double from, double to) {
    std::vector<LeadSlice> out;
    const auto at = [&](double depth) {
        for (std::size_t i = 0; i + 1 < slices.size(); ++i) {
            const LeadSlice &a = slices[i], &b = slices[i + 1];
            if (depth <= a.depth || depth >= b.depth) continue;
            const double t = (depth - a.depth) / (b.depth - a.depth);
            LeadSlice s{depth, {}, (1 - t) * a.radius + t * b.radius};
            for (const auto& p : a.corners)
                for (const auto& q : b.corners)
                    s.corners.push_back({(1 - t) * p[0] + t * q[0], (1 - t) * p[1] + t * q[1]});
            s.corners = hull(std::move(s.corners));
            out.push_back(std::move(s));
        }
    };
    if (slices.empty() || slices.back().depth < from || slices.front().depth > to) return out;
    at(from);
    for (const LeadSlice& s : slices)
        if (s.depth >= from && s.depth <= to) out.push_back(s);
    at(to);
    return out;
}

}  // namespace punch
