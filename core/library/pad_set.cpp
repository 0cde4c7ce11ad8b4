#include "core/library/pad_set.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>
#include <tuple>

#include "core/geometry/shapes.h"

namespace punch {
namespace {

struct At {
    double x = 0, y = 0;
};

At middleOf(const PadPattern& p) {
    At m;
    for (const PatternPad& pad : p.pads) {
        m.x += pad.x;
        m.y += pad.y;
    }
    const auto n = static_cast<double>(std::max<std::size_t>(p.pads.size(), 1));
    return {m.x / n, m.y / n};
}

double mostDoubt(const PadPattern& p) {
    double most = 0;
    for (const PatternPad& pad : p.pads) most = std::max(most, pad.doubt);
    return most;
}

/// A turn by c, s after mirroring left to right, then a shift.
struct Laying {
    bool mirrored = false;
    double c = 1, s = 0, x = 0, y = 0;
    At operator()(const PatternPad& p) const {
        const double px = mirrored ? -p.x : p.x;
        return {c * px - s * p.y + x, s * px + c * p.y + y};
    }
};

bool sameKind(const PatternPad& a, const PatternPad& b) {
    return (a.hole > 0) == (b.hole > 0) && (a.land > 0) == (b.land > 0);
}

/// The nearest of the other's pads for each, each once; empty where one has none within `reach`.
std::vector<PadPair> paired(const PadPattern& one, const PadPattern& other, const Laying& lay, double reach) {
    // By their place from left to right, so that few are looked at.
    std::vector<std::size_t> order(other.pads.size());
    for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
    std::sort(order.begin(), order.end(),
              [&](std::size_t a, std::size_t b) { return other.pads[a].x < other.pads[b].x; });
    std::vector<bool> taken(other.pads.size(), false);
    std::vector<PadPair> pairs;
    for (std::size_t i = 0; i < one.pads.size(); ++i) {
        const At at = lay(one.pads[i]);
        auto it = std::lower_bound(order.begin(), order.end(), at.x - reach,
                                   [&](std::size_t k, double x) { return other.pads[k].x < x; });
        std::size_t best = other.pads.size();
        double least = reach;
        for (; it != order.end() && other.pads[*it].x <= at.x + reach; ++it) {
            if (taken[*it] || !sameKind(one.pads[i], other.pads[*it])) continue;
            const double d = std::hypot(other.pads[*it].x - at.x, other.pads[*it].y - at.y);
            if (d <= least) {
                least = d;
                best = *it;
            }
        }
        if (best == other.pads.size()) return {};
        taken[best] = true;
        pairs.push_back({i, best, least});
    }
    return pairs;
}

/// Least squares over the pairs: the turn and shift that lay one onto the other.
Laying fittedTo(const PadPattern& one, const PadPattern& other, const std::vector<PadPair>& pairs, bool mirrored) {
    At a, b;
    const auto n = static_cast<double>(pairs.size());
    const auto px = [&](const PatternPad& p) { return mirrored ? -p.x : p.x; };
    for (const PadPair& pair : pairs) {
        a.x += px(one.pads[pair.one]) / n;
        a.y += one.pads[pair.one].y / n;
        b.x += other.pads[pair.other].x / n;
        b.y += other.pads[pair.other].y / n;
    }
    double cross = 0, dot = 0;
    for (const PadPair& pair : pairs) {
        const double x = px(one.pads[pair.one]) - a.x, y = one.pads[pair.one].y - a.y;
        const double u = other.pads[pair.other].x - b.x, v = other.pads[pair.other].y - b.y;
        dot += x * u + y * v;
        cross += x * v - y * u;
    }
    const double angle = dot == 0 && cross == 0 ? 0 : std::atan2(cross, dot);
    Laying lay{mirrored, std::cos(angle), std::sin(angle), 0, 0};
    lay.x = b.x - (lay.c * a.x - lay.s * a.y);
    lay.y = b.y - (lay.s * a.x + lay.c * a.y);
    return lay;
}

std::vector<std::string> differences(const PadPattern& one, const PadPattern& other,
                                     const std::vector<PadPair>& pairs) {
    std::vector<std::string> words;
    if (!one.whole || !other.whole) {
        // Of some pads, or of what a picture shows, sizes and numbers say nothing.
        if (one.pads.size() < other.pads.size())
            words.push_back(fmt::format("{} of its {} pads and holes", one.pads.size(), other.pads.size()));
        return words;
    }
    std::size_t renumbered = 0;
    std::string first;
    struct Sizes {
        double a = 0, b = 0;
        std::size_t count = 0;
    };
    std::vector<Sizes> holes, lands;
    const auto note = [](std::vector<Sizes>& all, double a, double b) {
        if (std::abs(a - b) < 0.0005) return;
        for (Sizes& s : all)
            if (std::abs(s.a - a) < 0.0005 && std::abs(s.b - b) < 0.0005) {
                ++s.count;
                return;
            }
        all.push_back({a, b, 1});
    };
    for (const PadPair& pair : pairs) {
        const PatternPad &a = one.pads[pair.one], &b = other.pads[pair.other];
        if (a.number != b.number) {
            if (renumbered++ == 0) first = fmt::format("{} is {} there", a.number, b.number);
        }
        note(holes, a.hole, b.hole);
        note(lands, a.land, b.land);
    }
    if (renumbered == 1) words.push_back(first);
    if (renumbered > 1) words.push_back(fmt::format("{} numbers differ: {}", renumbered, first));
    for (const Sizes& s : holes)
        words.push_back(fmt::format("hole {:.2f} is {:.2f} there ({} of them)", s.a, s.b, s.count));
    for (const Sizes& s : lands)
        words.push_back(fmt::format("land {:.2f} is {:.2f} there ({} of them)", s.a, s.b, s.count));
    for (const auto& [these, those, where] : {std::tuple(&one.keepouts, &other.keepouts, "is not there"),
                                              std::tuple(&other.keepouts, &one.keepouts, "is there alone")})
        for (const std::string& k : *these)
            if (std::find(those->begin(), those->end(), k) == those->end())
                words.push_back(fmt::format("keepout {} {}", k, where));
    return words;
}

}  // namespace

std::optional<PadPattern> patternOf(const Part& part, const Footprint& f) {
    PadPattern p;
    p.name = part.name;
    const auto mm = [](Length a, Length b) { return (b > Length() ? std::min(a, b) : a).mm(); };
    for (const Pad& pad : f.pads) {
        if (!pad.firm || !pad.doubt.fitted) return {};
        const Land& land = shownLand(pad);
        p.pads.push_back({pad.number, pad.at.x.mm(), pad.at.y.mm(), pad.hole.mm(), mm(land.width, land.length),
                          pad.doubt.fitted->mm()});
    }
    for (const BareHole& hole : f.bareHoles) {
        // What is for another make alone has no doubt of this one.
        if (!hole.firm || (!hole.doubt.fitted && hole.make.empty())) return {};
        p.pads.push_back({hole.name, hole.at.x.mm(), hole.at.y.mm(), hole.size.mm(),
                          hole.plated ? hole.land.width.mm() : 0, hole.doubt.fitted.value_or(Length()).mm()});
    }
    for (const Conductor& c : f.attached.lands)
        if (c.hole <= Length() && !c.fiducial && c.firm) {
            const Rect box = boundsOf(copperShape(c.top.there() ? c.top : c.bottom));
            p.pads.push_back(
                {c.number, box.middle().x.mm(), box.middle().y.mm(), 0, std::min(box.width(), box.height()).mm(), 0});
        }
    for (const Shape& k : f.keepouts)
        if (!k.keeps.piece) p.keepouts.push_back(k.name);
    if (p.pads.empty()) return {};
    return p;
}

namespace {

/// Layings that are tried, and the best of them.
class Tries {
public:
    Tries(const PadPattern& one, const PadPattern& other)
        : within(mostDoubt(one) + mostDoubt(other) + kPatternSlack), one_(one), other_(other) {}

    const double within;

    void offer(const Laying& lay) {
        // First as near as this turn can say, then as near as their doubts allow.
        auto pairs = paired(one_, other_, lay, 4 * within);
        if (pairs.empty()) return;
        const Laying fit = fittedTo(one_, other_, pairs, lay.mirrored);
        pairs = paired(one_, other_, fit, 4 * within);
        if (pairs.empty()) return;
        Coincidence c;
        c.mirrored = fit.mirrored;
        c.turn = std::atan2(fit.s, fit.c) * 180 / std::numbers::pi;
        c.x = fit.x;
        c.y = fit.y;
        std::size_t renumbered = 0;
        for (const PadPair& pair : pairs) {
            const PatternPad &p = one_.pads[pair.one], &q = other_.pads[pair.other];
            if (pair.off > p.doubt + q.doubt + kPatternSlack) return;
            c.worst = std::max(c.worst, pair.off);
            renumbered += p.number != q.number ? 1 : 0;
        }
        // What a person would call the same: not mirrored, with its numbers, not turned, and near.
        const double cost = (c.mirrored ? 1000 : 0) + (renumbered > 0 ? 100 : 0) + std::abs(c.turn) / 10 + c.worst;
        if (best_ && cost >= bestCost_) return;
        bestCost_ = cost;
        c.pairs = std::move(pairs);
        best_ = std::move(c);
    }

    std::optional<Coincidence> best() {
        if (best_) best_->differs = differences(one_, other_, best_->pairs);
        return std::move(best_);
    }

private:
    const PadPattern &one_, &other_;
    std::optional<Coincidence> best_;
    double bestCost_ = 0;
};

/// Turned so that `a` lies where `b` does as seen from their middles.
Laying turnedTo(At a, At from, At b, At to, bool mirrored) {
    const double ax = mirrored ? -a.x : a.x, fx = mirrored ? -from.x : from.x;
    const double angle = std::atan2(to.y - b.y, to.x - b.x) - std::atan2(from.y - a.y, fx - ax);
    const double c = std::cos(angle), s = std::sin(angle);
    return {mirrored, c, s, b.x - (c * ax - s * a.y), b.y - (s * ax + c * a.y)};
}

At at(const PatternPad& p) { return {p.x, p.y}; }

}  // namespace

std::optional<Coincidence> coincide(const PadPattern& one, const PadPattern& other) {
    if (one.pads.empty() || one.pads.size() != other.pads.size()) return {};
    Tries tries(one, other);
    const At a = middleOf(one), b = middleOf(other);
    // The pad that lies farthest out, and those of the other that lie as far.
    std::size_t far = 0;
    const auto radius = [](const PatternPad& p, At m) { return std::hypot(p.x - m.x, p.y - m.y); };
    for (std::size_t i = 1; i < one.pads.size(); ++i)
        if (radius(one.pads[i], a) > radius(one.pads[far], a) + 1e-12) far = i;
    const double r = radius(one.pads[far], a);
    for (const bool mirrored : {false, true}) {
        if (r < 4 * tries.within) {
            tries.offer({mirrored, 1, 0, b.x - (mirrored ? -a.x : a.x), b.y - a.y});
            continue;
        }
        for (const PatternPad& q : other.pads)
            if (std::abs(radius(q, b) - r) <= 2 * tries.within && sameKind(q, one.pads[far]))
                tries.offer(turnedTo(a, at(one.pads[far]), b, at(q), mirrored));
    }
    return tries.best();
}

std::optional<Coincidence> contained(const PadPattern& one, const PadPattern& other) {
    if (one.pads.size() < 2 || one.pads.size() > other.pads.size()) return {};
    Tries tries(one, other);
    // The two that lie farthest apart, on any two of the other that are as far.
    const auto apart = [](const PatternPad& p, const PatternPad& q) { return std::hypot(p.x - q.x, p.y - q.y); };
    std::size_t first = 0, second = 1;
    for (std::size_t i = 0; i < one.pads.size(); ++i)
        for (std::size_t k = i + 1; k < one.pads.size(); ++k)
            if (apart(one.pads[i], one.pads[k]) > apart(one.pads[first], one.pads[second]) + 1e-12)
                first = i, second = k;
    const double d = apart(one.pads[first], one.pads[second]);
    if (d < 4 * tries.within) return {};
    for (const PatternPad& p : other.pads)
        for (const PatternPad& q : other.pads) {
            if (&p == &q || std::abs(apart(p, q) - d) > 2 * tries.within) continue;
            if (!sameKind(p, one.pads[first]) || !sameKind(q, one.pads[second])) continue;
            for (const bool mirrored : {false, true})
                tries.offer(turnedTo(at(one.pads[first]), at(one.pads[second]), at(p), at(q), mirrored));
        }
    return tries.best();
}

std::optional<PadPattern> firmPatternOf(const Part& part, const Footprint& f) {
    PadPattern p;
    p.name = part.name;
    p.whole = false;
    for (const Pad& pad : f.pads)
        if (pad.firm && pad.doubt.fitted)
            p.pads.push_back({pad.number, pad.at.x.mm(), pad.at.y.mm(), pad.hole.mm(), 1, pad.doubt.fitted->mm()});
    for (const BareHole& hole : f.bareHoles)
        if (hole.firm && hole.doubt.fitted)
            p.pads.push_back({hole.name, hole.at.x.mm(), hole.at.y.mm(), hole.size.mm(), hole.plated ? 1.0 : 0.0,
                              hole.doubt.fitted->mm()});
    // How many it has is known too.
    p.pins = f.pads.size();
    if (p.pads.size() < 2) return {};
    return p;
}

}  // namespace punch
