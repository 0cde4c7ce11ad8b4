#include "core/clear/creepage.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <numbers>
#include <queue>

#include "core/base/angle.h"

namespace punch {
namespace {

constexpr double kTouching = 1e-9;     // mm; a way may come this near inside a cut's edge
constexpr double kLeastRadius = 1e-6;  // mm; a sharp corner is this round
constexpr double kSagitta = 1e-3;      // mm, of drawn arcs

double upTo(double angle) {
    double a = std::fmod(angle, kTwoPi);
    if (a < 0) a += kTwoPi;
    // Touches that are one place but for rounding have one angle.
    a = std::nearbyint(a * 1e11) / 1e11;
    return a >= kTwoPi - 1e-10 ? 0 : a;
}

}  // namespace

SurfaceMap::Cut SurfaceMap::cutOf(const RoundedPolygon& shape) {
    Cut c;
    for (const Point& p : shape.corners) c.corners.push_back({p.x.mm(), p.y.mm()});
    c.radius = shape.radius.mm();
    c.left = c.bottom = std::numeric_limits<double>::infinity();
    c.right = c.top = -c.left;
    for (const V& v : c.corners) {
        c.left = std::min(c.left, v.x - c.radius);
        c.right = std::max(c.right, v.x + c.radius);
        c.bottom = std::min(c.bottom, v.y - c.radius);
        c.top = std::max(c.top, v.y + c.radius);
    }
    return c;
}

SurfaceMap::SurfaceMap(std::vector<RoundedPolygon> cuts) {
    for (RoundedPolygon& cut : cuts) {
        if (cut.corners.empty()) continue;
        cut.radius = max(cut.radius, Length::fromMm(kLeastRadius));
        cuts_.push_back(cutOf(cut));
    }
    for (std::size_t i = 0; i < cuts_.size(); ++i)
        for (const V& c : cuts_[i].corners) discs_.push_back({c, cuts_[i].radius, i, false, {}});
    for (Disc& d : discs_) addFreeArcs(d);
    for (std::size_t i = 0; i < discs_.size(); ++i)
        for (std::size_t k = i + 1; k < discs_.size(); ++k) addTangents(i, k);
}

bool SurfaceMap::blocked(V a, V b) const {
    const double left = std::min(a.x, b.x);
    const double right = std::max(a.x, b.x);
    const double bottom = std::min(a.y, b.y);
    const double top = std::max(a.y, b.y);
    for (const Cut& c : cuts_) {
        if (left > c.right || right < c.left || bottom > c.top || top < c.bottom) continue;
        if (plane::segmentToConvex(a, b, c.corners) < c.radius - kTouching) return true;
    }
    return false;
}

bool SurfaceMap::covered(V p) const { return blocked(p, p); }

SurfaceMap::V SurfaceMap::on(const Touch& t) const {
    const Disc& d = discs_[t.disc];
    return {d.c.x + d.r * std::cos(t.angle), d.c.y + d.r * std::sin(t.angle)};
}

void SurfaceMap::addFreeArcs(Disc& disc) const {
    // Where the circle meets the edge of another cut, or its own sides, it may pass from free to covered.
    std::vector<double> ends;
    for (std::size_t k = 0; k < cuts_.size(); ++k) {
        const Cut& cut = cuts_[k];
        const std::size_t n = cut.corners.size();
        for (std::size_t i = 0; i < n; ++i) {
            const V a = cut.corners[i];
            if (!(k == disc.cut && a.x == disc.c.x && a.y == disc.c.y))
                plane::circleMeetsCircle(disc.c, disc.r, a, cut.radius, ends);
            if (n < 2) continue;
            const V b = cut.corners[(i + 1) % n];
            const double len = std::hypot(b.x - a.x, b.y - a.y);
            if (len <= 0) continue;
            // The outward normal of a counter-clockwise polygon.
            const V normal{(b.y - a.y) / len, -(b.x - a.x) / len};
            if (k == disc.cut) ends.push_back(std::atan2(normal.y, normal.x));
            plane::circleMeetsLine(disc.c, disc.r, {a.x + normal.x * cut.radius, a.y + normal.y * cut.radius},
                                   {b.x - a.x, b.y - a.y}, ends);
        }
    }
    const auto free = [&](double angle) {
        return !covered({disc.c.x + disc.r * std::cos(angle), disc.c.y + disc.r * std::sin(angle)});
    };
    for (double& e : ends) e = upTo(e);
    std::sort(ends.begin(), ends.end());
    if (ends.empty()) {
        disc.allFree = free(0);
        return;
    }
    bool all = true;
    for (std::size_t i = 0; i < ends.size(); ++i) {
        const double from = ends[i];
        const double to = i + 1 < ends.size() ? ends[i + 1] : ends.front() + kTwoPi;
        // A piece shorter than rounding is as its neighbours are.
        const bool open = to - from < 1e-9 || free((from + to) / 2);
        all = all && open;
        if (!open) continue;
        if (!disc.free.empty() && std::abs(disc.free.back().second - from) < 1e-12)
            disc.free.back().second = to;
        else
            disc.free.emplace_back(from, to);
    }
    disc.allFree = all;
    // Join what runs over the turn's end.
    if (!all && disc.free.size() > 1 && std::abs(disc.free.back().second - kTwoPi - disc.free.front().first) < 1e-12) {
        disc.free.front().first = disc.free.back().first - kTwoPi;
        disc.free.pop_back();
    }
}

bool SurfaceMap::arcFree(const Disc& disc, double from, double sweep) const {
    if (disc.allFree || sweep < 1e-9) return true;
    for (const auto& [a, b] : disc.free)
        for (const double turn : {-kTwoPi, 0.0, kTwoPi})
            if (from + turn >= a - 1e-7 && from + turn + sweep <= b + 1e-7) return true;
    return false;
}

void SurfaceMap::addTangents(std::size_t i, std::size_t k) {
    const Disc& a = discs_[i];
    const Disc& b = discs_[k];
    const double dx = b.c.x - a.c.x;
    const double dy = b.c.y - a.c.y;
    const double d = std::hypot(dx, dy);
    const double toward = std::atan2(dy, dx);
    // Outer tangents touch both on one side (+1, +1), inner ones cross over (+1, -1); the sign says on which side of
    // the line from a to b the disc's middle lies.
    for (const int sa : {1, -1})
        for (const int sb : {1, -1}) {
            const double h = sa * a.r - sb * b.r;
            if (d <= std::abs(h) || d <= 0) continue;
            // The line's direction makes this angle with the line of the middles.
            const double turn = std::asin(std::clamp(h / d, -1.0, 1.0));
            const double direction = toward + turn;
            // The middle lies to the left (sa = 1): the touch is to its right, a quarter turn back.
            const double quarter = std::numbers::pi / 2;
            Touch ta{i, upTo(direction - sa * quarter), sa > 0};
            Touch tb{k, upTo(direction - sb * quarter), sb > 0};
            const V pa = on(ta);
            const V pb = on(tb);
            if (blocked(pa, pb)) continue;
            const double length = std::hypot(pb.x - pa.x, pb.y - pa.y);
            touches_.push_back(ta);
            touches_.push_back(tb);
            lines_.push_back({touches_.size() - 2, touches_.size() - 1, length});
            // And back: the senses turn round.
            ta.ccw = !ta.ccw;
            tb.ccw = !tb.ccw;
            touches_.push_back(tb);
            touches_.push_back(ta);
            lines_.push_back({touches_.size() - 2, touches_.size() - 1, length});
        }
}

std::vector<SurfaceMap::Start> SurfaceMap::starts(const Cut& copper) const {
    std::vector<Start> all;
    const auto offer = [&](std::size_t disc, V core, V touch) {
        const double dx = touch.x - core.x;
        const double dy = touch.y - core.y;
        const double d = std::hypot(dx, dy);
        if (d < copper.radius) return;
        const V at = d > 0 ? V{core.x + dx / d * copper.radius, core.y + dy / d * copper.radius} : core;
        if (blocked(at, touch)) return;
        const Disc& on = discs_[disc];
        const double rx = touch.x - on.c.x;
        const double ry = touch.y - on.c.y;
        all.push_back({{disc, upTo(std::atan2(ry, rx)), rx * dy - ry * dx > 0}, at, d - copper.radius});
    };
    const std::size_t n = copper.corners.size();
    for (std::size_t k = 0; k < discs_.size(); ++k) {
        const Disc& disc = discs_[k];
        for (std::size_t i = 0; i < n; ++i) {
            const V c = copper.corners[i];
            // Tangents from a corner.
            const double dx = disc.c.x - c.x;
            const double dy = disc.c.y - c.y;
            const double d = std::hypot(dx, dy);
            if (d > disc.r) {
                const double toward = std::atan2(dy, dx);
                const double half = std::asin(disc.r / d);
                const double reach = std::sqrt(d * d - disc.r * disc.r);
                for (const double side : {half, -half})
                    offer(k, c, {c.x + reach * std::cos(toward + side), c.y + reach * std::sin(toward + side)});
            }
            if (n < 2) continue;
            // Square to a side, touching the disc.
            const V e = copper.corners[(i + 1) % n];
            const double len = std::hypot(e.x - c.x, e.y - c.y);
            if (len <= 0) continue;
            const V t{(e.x - c.x) / len, (e.y - c.y) / len};
            for (const double side : {disc.r, -disc.r}) {
                const V touch{disc.c.x + side * t.x, disc.c.y + side * t.y};
                const double foot = (touch.x - c.x) * t.x + (touch.y - c.y) * t.y;
                if (foot >= 0 && foot <= len) offer(k, {c.x + foot * t.x, c.y + foot * t.y}, touch);
            }
        }
    }
    return all;
}

SurfaceMap::Arcs SurfaceMap::arcsBetween(const std::vector<Touch>& touches, std::size_t firstOut,
                                         std::size_t firstIn) const {
    // On each disc, for each sense, the touches in the order in which the way passes them.
    std::vector<std::vector<std::size_t>> around(2 * discs_.size());
    for (std::size_t t = 0; t < touches.size(); ++t)
        around[2 * touches[t].disc + (touches[t].ccw ? 1 : 0)].push_back(t);
    // Of the map's lines the even touch is the one where the line sets out.
    const auto leaves = [&](std::size_t t) { return t < firstOut ? t % 2 == 0 : t >= firstIn; };
    Arcs arcs{std::vector<std::size_t>(touches.size(), touches.size()), std::vector<double>(touches.size(), 0)};
    for (std::size_t group = 0; group < around.size(); ++group) {
        auto& list = around[group];
        const bool ccw = group % 2 == 1;
        std::sort(list.begin(), list.end(), [&](std::size_t a, std::size_t b) {
            // At one place, arriving comes before leaving.
            if (touches[a].angle == touches[b].angle) return leaves(a) < leaves(b);
            return ccw ? touches[a].angle < touches[b].angle : touches[a].angle > touches[b].angle;
        });
        const Disc& disc = discs_[group / 2];
        for (std::size_t i = 0; i < list.size() && list.size() > 1; ++i) {
            const std::size_t a = list[i];
            const std::size_t b = list[(i + 1) % list.size()];
            double by = ccw ? touches[b].angle - touches[a].angle : touches[a].angle - touches[b].angle;
            if (by < 0) by += kTwoPi;
            if (!arcFree(disc, ccw ? touches[a].angle : touches[b].angle, by)) continue;
            arcs.next[a] = b;
            arcs.sweep[a] = by;
        }
    }
    return arcs;
}

std::optional<SurfaceWay> SurfaceMap::way(const RoundedPolygon& from, const RoundedPolygon& to) const {
    SurfaceWay result;
    const auto straight = closest(from, to);
    const auto point = [](V v) { return Point{Length::fromMm(v.x), Length::fromMm(v.y)}; };
    const V sa{straight.a.x.mm(), straight.a.y.mm()};
    const V sb{straight.b.x.mm(), straight.b.y.mm()};
    if (straight.gap <= Length() || !blocked(sa, sb)) {
        result.length = max(straight.gap, Length());
        result.path = {straight.a, straight.b};
        result.straight = true;
        return result;
    }
    const std::vector<Start> out = starts(cutOf(from));
    const std::vector<Start> in = starts(cutOf(to));
    // All touches of this query: the map's, those of `from`, and those of `to` with their senses turned round.
    std::vector<Touch> touches = touches_;
    const std::size_t firstOut = touches.size();
    for (const Start& s : out) touches.push_back(s.touch);
    const std::size_t firstIn = touches.size();
    for (const Start& s : in) {
        touches.push_back(s.touch);
        touches.back().ccw = !s.touch.ccw;
    }
    const Arcs arcs = arcsBetween(touches, firstOut, firstIn);
    const std::vector<std::size_t>& next = arcs.next;
    const std::vector<double>& sweep = arcs.sweep;
    std::vector<std::vector<std::size_t>> leaving(touches.size());
    for (std::size_t l = 0; l < lines_.size(); ++l) leaving[lines_[l].from].push_back(l);

    constexpr double kFar = std::numeric_limits<double>::infinity();
    std::vector<double> best(touches.size(), kFar);
    std::vector<std::size_t> before(touches.size(), touches.size());
    using Entry = std::pair<double, std::size_t>;
    std::priority_queue<Entry, std::vector<Entry>, std::greater<>> queue;
    for (std::size_t i = 0; i < out.size(); ++i) {
        best[firstOut + i] = out[i].length;
        queue.emplace(out[i].length, firstOut + i);
    }
    double least = kFar;
    std::size_t last = touches.size();
    while (!queue.empty()) {
        const double at = queue.top().first;
        const std::size_t t = queue.top().second;
        queue.pop();
        if (at > best[t] || at >= least) continue;
        if (t >= firstIn && at + in[t - firstIn].length < least) {
            least = at + in[t - firstIn].length;
            last = t;
        }
        const auto relax = [&](std::size_t to2, double length) {
            if (at + length >= best[to2]) return;
            best[to2] = at + length;
            before[to2] = t;
            queue.emplace(best[to2], to2);
        };
        if (next[t] < touches.size()) relax(next[t], sweep[t] * discs_[touches[t].disc].r);
        for (const std::size_t l : leaving[t]) relax(lines_[l].to, lines_[l].length);
    }
    if (last == touches.size()) return {};

    std::vector<std::size_t> chain;
    for (std::size_t t = last; t < touches.size(); t = before[t]) chain.push_back(t);
    std::reverse(chain.begin(), chain.end());
    result.length = Length::fromMm(least);
    result.path.push_back(point(out[chain.front() - firstOut].at));
    for (std::size_t i = 0; i < chain.size(); ++i) {
        const Touch& t = touches[chain[i]];
        const bool arc = i > 0 && touches[chain[i - 1]].disc == t.disc && next[chain[i - 1]] == chain[i];
        if (arc) {
            const Touch& f = touches[chain[i - 1]];
            const double by = sweep[chain[i - 1]] * (t.ccw ? 1 : -1);
            const double r = discs_[t.disc].r;
            const double chord = r > kSagitta ? 2 * std::acos(1 - kSagitta / r) : 1;
            const int pieces = std::max(1, static_cast<int>(std::ceil(std::abs(by) / chord)));
            for (int k = 1; k < pieces; ++k)
                result.path.push_back(point(on({f.disc, f.angle + by * k / pieces, true})));
        }
        result.path.push_back(point(on(t)));
    }
    result.path.push_back(point(in[last - firstIn].at));
    return result;
}

}  // namespace punch
