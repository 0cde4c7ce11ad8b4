#include "core/picture/compare.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>

namespace punch {

namespace {

constexpr double kDegrees = 180 / std::numbers::pi;
constexpr double kFarthest = 1.0;  // mm: farther than this is another pad

struct Spot2 {
    double x = 0, y = 0;
};

struct Pair {
    std::size_t pad, feature;
};

struct Pads {
    std::vector<FeatureId> ids;
    std::vector<Spot2> at;
    std::vector<std::optional<double>> sizes;
};

Pads padsOf(const Footprint& f) {
    Pads out;
    for (const Pad& p : f.pads) {
        out.ids.push_back(p.id);
        out.at.push_back({p.at.x.mm(), p.at.y.mm()});
        out.sizes.push_back(p.sized && p.leadRound ? std::optional(p.leadX.mm()) : std::nullopt);
    }
    for (const BareHole& h : f.bareHoles) {
        out.ids.push_back(h.id);
        out.at.push_back({h.at.x.mm(), h.at.y.mm()});
        out.sizes.push_back(h.sized && !h.flat ? std::optional(h.peg.across.mean.mm()) : std::nullopt);
    }
    return out;
}

struct Turned {
    double c = 1, s = 0, x = 0, y = 0;
    Spot2 map(Spot2 p) const { return {c * p.x - s * p.y + x, s * p.x + c * p.y + y}; }
};

/// The turn and shift that bring the features nearest to their pads.
Turned fit(const std::vector<Pair>& pairs, const Pads& pads, const std::vector<Spot2>& seen) {
    Spot2 mp, ms;
    const double n = static_cast<double>(pairs.size());
    for (const Pair& p : pairs) {
        mp.x += pads.at[p.pad].x / n;
        mp.y += pads.at[p.pad].y / n;
        ms.x += seen[p.feature].x / n;
        ms.y += seen[p.feature].y / n;
    }
    double dot = 0, cross = 0;
    for (const Pair& p : pairs) {
        const double ax = seen[p.feature].x - ms.x, ay = seen[p.feature].y - ms.y;
        const double bx = pads.at[p.pad].x - mp.x, by = pads.at[p.pad].y - mp.y;
        dot += ax * bx + ay * by;
        cross += ax * by - ay * bx;
    }
    const double h = std::hypot(dot, cross);
    Turned t;
    if (h > 1e-12) {
        t.c = dot / h;
        t.s = cross / h;
    }
    t.x = mp.x - (t.c * ms.x - t.s * ms.y);
    t.y = mp.y - (t.s * ms.x + t.c * ms.y);
    return t;
}

/// Each pad's nearest feature within reach, each feature once: nearest pairs first.
std::vector<Pair> nearest(const Turned& t, const Pads& pads, const std::vector<Spot2>& seen, double reach) {
    struct Near {
        double d;
        Pair pair;
    };
    std::vector<Near> all;
    for (std::size_t f = 0; f < seen.size(); ++f) {
        const Spot2 p = t.map(seen[f]);
        for (std::size_t i = 0; i < pads.at.size(); ++i)
            if (const double d = std::hypot(p.x - pads.at[i].x, p.y - pads.at[i].y); d < reach)
                all.push_back({d, {i, f}});
    }
    std::stable_sort(all.begin(), all.end(), [](const Near& a, const Near& b) { return a.d < b.d; });
    std::vector<bool> pad(pads.at.size(), false), feature(seen.size(), false);
    std::vector<Pair> out;
    for (const Near& n : all) {
        if (pad[n.pair.pad] || feature[n.pair.feature]) continue;
        pad[n.pair.pad] = feature[n.pair.feature] = true;
        out.push_back(n.pair);
    }
    return out;
}

double sumOfSquares(const Turned& t, const std::vector<Pair>& pairs, const Pads& pads, const std::vector<Spot2>& seen) {
    double sum = 0;
    for (const Pair& p : pairs) {
        const Spot2 q = t.map(seen[p.feature]);
        sum += std::pow(q.x - pads.at[p.pad].x, 2) + std::pow(q.y - pads.at[p.pad].y, 2);
    }
    return sum;
}

}  // namespace

double Deviation::off() const { return std::hypot(x, y); }

std::pair<double, double> Laid::map(double px, double py) const {
    const double c = std::cos(turn / kDegrees), s = std::sin(turn / kDegrees);
    return {c * px - s * py + x, s * px + c * py + y};
}

std::vector<Deviation> deviationsRead(const Part& part, const Footprint& footprint, const std::string& source) {
    const Source* from = nullptr;
    for (const Source& s : part.sources)
        if (s.id == source) from = &s;
    const ParameterValue* angle = footprint.parameter(source + ".angle");
    if (from == nullptr || angle == nullptr || !angle->angle) return {};
    const auto scale = [&](const char* name) {
        const ParameterValue* p = footprint.parameter(source + name);
        return p == nullptr ? 1.0 : p->value.mm();
    };
    const double sx = scale(".scaleX"), sy = scale(".scaleY");
    const double c = std::cos(angle->angle->degrees() / kDegrees), s = std::sin(angle->angle->degrees() / kDegrees);
    struct Seen {
        double x = 0, y = 0;
        std::optional<double> size;
        bool place = false;
    };
    std::map<FeatureId, Seen> seen;
    std::vector<FeatureId> order;
    for (std::size_t i = 0; i < std::min(part.readings.size(), footprint.readings.size()); ++i) {
        const Reading& r = part.readings[i];
        if (!r.pick || r.source != source || r.a.empty() || isFace(part, r.a)) continue;
        const ReadingResult& result = footprint.readings[i];
        if (!result.stats.usable) continue;
        const double off = result.stats.mean - result.expected;
        if (!seen.contains(r.a)) order.push_back(r.a);
        Seen& f = seen[r.a];
        if (r.contact == Contact::Picture) {
            (r.axis == Axis::Across ? f.y : f.x) = off * (r.axis == Axis::Across ? sy : sx);
            f.place = true;
        } else if (r.contact == Contact::Size && !f.size) {
            f.size = off;
        }
    }
    std::vector<Deviation> out;
    // Back from the picture's directions to the part's.
    for (const FeatureId& id : order) {
        const Seen& f = seen[id];
        if (f.place) out.push_back({id, c * f.x + s * f.y, -s * f.x + c * f.y, f.size});
    }
    return out;
}

Found atAdjustedScale(Found found, const Footprint& footprint, const Source& source) {
    const ParameterValue* x = footprint.parameter(source.id + ".scaleX");
    const ParameterValue* y = footprint.parameter(source.id + ".scaleY");
    if (x == nullptr || y == nullptr || !x->firm() || !y->firm()) return found;
    if (found.scale.x <= 0 || found.scale.y <= 0) return found;
    const double rx = x->value.mm() * source.nominalMmPerPixel() / found.scale.x;
    const double ry = y->value.mm() * source.nominalMmPerPixel() / found.scale.y;
    // Only of a scale that was there before; anything else is another picture's.
    if (std::abs(rx - 1) > 0.05 || std::abs(ry - 1) > 0.05) return found;
    // The axes of the picture in the straightened frame; they differ by little, so that their turn's sign is no matter.
    const double c = std::cos(found.angle / kDegrees);
    const double s = std::sin(found.angle / kDegrees);
    for (FoundFeature& f : found.features) {
        const double px = (c * f.x - s * f.y) * rx;
        const double py = (s * f.x + c * f.y) * ry;
        f.x = c * px + s * py;
        f.y = -s * px + c * py;
        f.width *= (rx + ry) / 2;
        f.height *= (rx + ry) / 2;
    }
    found.scale.x *= rx;
    found.scale.y *= ry;
    return found;
}

std::optional<Laid> layOver(const Footprint& footprint, const Found& found) {
    const Pads pads = padsOf(footprint);
    std::vector<Spot2> seen;
    for (const FoundFeature& f : found.features) seen.push_back({f.x, f.y});
    if (pads.at.size() < 2 || seen.size() < 2) return {};
    std::vector<Turned> starts;
    // As it lies, middles upon each other, in quarter turns; it may also show more or fewer features than the part has.
    const auto middle = [](const std::vector<Spot2>& of) {
        Spot2 low{1e300, 1e300}, high{-1e300, -1e300};
        for (const Spot2& p : of) {
            low = {std::min(low.x, p.x), std::min(low.y, p.y)};
            high = {std::max(high.x, p.x), std::max(high.y, p.y)};
        }
        return Spot2{(low.x + high.x) / 2, (low.y + high.y) / 2};
    };
    const Spot2 mp = middle(pads.at), ms = middle(seen);
    for (const auto& [c, s] : {std::pair{1.0, 0.0}, {0.0, 1.0}, {-1.0, 0.0}, {0.0, -1.0}})
        starts.push_back({c, s, mp.x - (c * ms.x - s * ms.y), mp.y - (s * ms.x + c * ms.y)});
    // The longest stretch of the one laid on every stretch of the other that is as long: either may have something that
    // the other lacks.
    const auto longest = [](const std::vector<Spot2>& of) {
        std::pair<std::size_t, std::size_t> ends{0, 1};
        const auto length = [&](std::size_t i, std::size_t j) {
            return std::hypot(of[i].x - of[j].x, of[i].y - of[j].y);
        };
        for (std::size_t i = 0; i < of.size(); ++i)
            for (std::size_t j = i + 1; j < of.size(); ++j)
                if (length(i, j) > length(ends.first, ends.second)) ends = {i, j};
        return std::pair{ends, length(ends.first, ends.second)};
    };
    const auto [padEnds, padLength] = longest(pads.at);
    const auto [seenEnds, seenLength] = longest(seen);
    constexpr std::size_t kMostStarts = 3000;
    for (std::size_t i = 0; i < pads.at.size() && starts.size() < kMostStarts; ++i)
        for (std::size_t j = 0; j < pads.at.size(); ++j) {
            const double d = std::hypot(pads.at[i].x - pads.at[j].x, pads.at[i].y - pads.at[j].y);
            if (i != j && std::abs(d - seenLength) < kFarthest)
                starts.push_back(fit({{i, seenEnds.first}, {j, seenEnds.second}}, pads, seen));
        }
    for (std::size_t i = 0; i < seen.size() && starts.size() < 2 * kMostStarts; ++i)
        for (std::size_t j = 0; j < seen.size(); ++j) {
            const double d = std::hypot(seen[i].x - seen[j].x, seen[i].y - seen[j].y);
            if (i != j && std::abs(d - padLength) < kFarthest)
                starts.push_back(fit({{padEnds.first, i}, {padEnds.second, j}}, pads, seen));
        }
    std::optional<Laid> best;
    std::size_t bestCount = 0;
    double bestSum = 0;
    for (Turned t : starts) {
        std::vector<Pair> pairs = nearest(t, pads, seen, 2 * kFarthest);
        for (int round = 0; round < 4 && pairs.size() > 1; ++round) {
            t = fit(pairs, pads, seen);
            pairs = nearest(t, pads, seen, kFarthest);
        }
        if (pairs.size() < 2 || 2 * pairs.size() < pads.at.size()) continue;
        const double sum = sumOfSquares(t, pairs, pads, seen);
        // Of equal ways the one that turns least: a symmetrical part is not turned over without need.
        const double tie = 1e-9 * static_cast<double>(pairs.size());
        const bool better =
            pairs.size() > bestCount ||
            (pairs.size() == bestCount &&
             (sum < bestSum - tie || (sum < bestSum + tie && best && t.c > std::cos(best->turn / kDegrees) + 1e-9)));
        if (best && !better) continue;
        bestCount = pairs.size();
        bestSum = sum;
        Laid laid;
        laid.turn = std::atan2(t.s, t.c) * kDegrees;
        laid.x = t.x;
        laid.y = t.y;
        laid.rms = std::sqrt(sum / static_cast<double>(pairs.size()));
        std::vector<bool> pad(pads.at.size(), false), feature(seen.size(), false);
        for (const Pair& p : pairs) {
            const Spot2 q = t.map(seen[p.feature]);
            Deviation d{pads.ids[p.pad], q.x - pads.at[p.pad].x, q.y - pads.at[p.pad].y, {}};
            const FoundFeature& f = found.features[p.feature];
            if (pads.sizes[p.pad] && f.seen.rim.shape == RimShape::Round)
                d.size =
                    (f.seen.inner ? *f.seen.inner * (found.scale.x + found.scale.y) / 2 : f.width) - *pads.sizes[p.pad];
            laid.pairs.push_back(std::move(d));
            pad[p.pad] = feature[p.feature] = true;
        }
        for (std::size_t i = 0; i < pad.size(); ++i)
            if (!pad[i]) laid.alone.push_back(pads.ids[i]);
        for (std::size_t i = 0; i < feature.size(); ++i)
            if (!feature[i]) laid.surplus.push_back(i);
        std::stable_sort(laid.pairs.begin(), laid.pairs.end(),
                         [](const Deviation& x, const Deviation& y) { return x.off() > y.off(); });
        best = std::move(laid);
    }
    return best;
}

}  // namespace punch
