#include "core/picture/find_features.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <future>
#include <map>
#include <numbers>
#include <tuple>

#include "core/base/angle.h"
#include "core/picture/patches.h"
#include "core/picture/profile.h"
#include "core/picture/rim_points.h"

namespace punch {

namespace {

constexpr double kLeastLevels = 7;  // grey levels
constexpr double kNoisy = 1.5;      // grey levels of noise, from which faint rims are looked for more softly
constexpr double kFaintByNoise = 8;

bool contains(const Rim& outer, PixelPoint p, double grow = 0) {
    const double c = std::cos(outer.turn * kRadians);
    const double s = std::sin(outer.turn * kRadians);
    const double u = c * (p.x - outer.centre.x) + s * (p.y - outer.centre.y);
    const double v = -s * (p.x - outer.centre.x) + c * (p.y - outer.centre.y);
    if (outer.shape == RimShape::Round) return std::hypot(u, v) <= outer.width / 2 + grow;
    return std::abs(u) <= outer.width / 2 + grow && std::abs(v) <= outer.height / 2 + grow;
}

double areaOf(const Rim& r) { return r.width * r.height * (r.shape == RimShape::Round ? std::numbers::pi / 4 : 1.0); }

/// How sure its rim makes us: how much of it was found, how well it fits, how it stands out of the noise.
double confidenceOf(const Rim& r, double noise) {
    const double found = std::clamp((r.found - 0.55) / 0.35, 0.0, 1.0);
    const double size = std::min(r.width, r.height);
    const double scatter = std::clamp(1.6 - r.scatter / (0.25 + 0.04 * size), 0.0, 1.0);
    const double contrast =
        std::clamp((std::abs(r.contrast) - kLeastLevels / 2) / (kLeastLevels / 2 + noise), 0.0, 1.0);
    return found * scatter * contrast;
}

/// How much of a rim there is to it, for choosing among patches that lie over each other.
double strengthOf(const SeenFeature& f) {
    const Rim& r = f.rim;
    return std::abs(r.contrast) * r.found * r.found * f.confidence / (1 + r.scatter / (0.15 + 0.01 * r.height));
}

/// Around a dark hole: is it the hole of a pad, whose rim goes round it?
std::optional<Rim> padAround(const Grey& grey, const Rim& hole) {
    if (hole.shape != RimShape::Round || hole.contrast > 0) return {};
    std::optional<Rim> best;
    for (const double ratio : {1.5, 2.0, 2.6}) {
        const RimGuess g{hole.centre, hole.width * ratio, hole.width * ratio, 0, true};
        for (const auto& rim :
             {fitRound(grey, g), fitRectangle(grey, {g.centre, 0.95 * g.width, 0.95 * g.height, 0, true})}) {
            if (!rim || rim->found < 0.75 || rim->width < 1.2 * hole.width || rim->width > 3.4 * hole.width) continue;
            if (std::hypot(rim->centre.x - hole.centre.x, rim->centre.y - hole.centre.y) > 0.25 * hole.width) continue;
            if (rim->contrast < 0.35 * std::abs(hole.contrast)) continue;
            if (!best || rim->scatter < best->scatter - 0.05) best = rim;
        }
        if (best) break;
    }
    return best;
}

/// Which of the patches that lie in or over each other go: one stays of each heap.
std::vector<bool> droppedAmong(const std::vector<SeenFeature>& seen) {
    std::vector<bool> dropped(seen.size());
    const auto holds = [&](std::size_t outer, std::size_t inner) {
        return contains(seen[outer].rim, seen[inner].rim.centre, 0.1 * seen[outer].rim.height);
    };
    // A patch in which several of the other tone stand is the body they stand on.
    for (std::size_t i = 0; i < seen.size(); ++i) {
        if (seen[i].inner) continue;
        std::vector<std::size_t> within;
        for (std::size_t j = 0; j < seen.size(); ++j)
            if (j != i && seen[j].bright != seen[i].bright && areaOf(seen[j].rim) < 0.45 * areaOf(seen[i].rim) &&
                seen[j].confidence > 0.5 && contains(seen[i].rim, seen[j].rim.centre))
                within.push_back(j);
        bool apart = false;
        for (std::size_t a = 0; a < within.size() && !apart; ++a)
            for (std::size_t b = a + 1; b < within.size() && !apart; ++b)
                apart = !holds(within[a], within[b]) && !holds(within[b], within[a]);
        if (apart) dropped[i] = true;
    }
    // An outer rim goes before what gloss draws inside it, unless it is much fainter: then it is a collar or a boss
    // around the feature.
    for (std::size_t i = 0; i < seen.size(); ++i)
        for (std::size_t j = i + 1; j < seen.size(); ++j) {
            if (dropped[i] || dropped[j]) continue;
            const bool iOuter = areaOf(seen[i].rim) >= areaOf(seen[j].rim);
            const std::size_t outer = iOuter ? i : j;
            const std::size_t inner = iOuter ? j : i;
            if (!holds(outer, inner)) continue;
            const bool same = areaOf(seen[inner].rim) > 0.5 * areaOf(seen[outer].rim);
            const bool outerStays = strengthOf(seen[outer]) >= (same ? 0.7 : 0.25) * strengthOf(seen[inner]);
            dropped[outerStays ? inner : outer] = true;
        }
    return dropped;
}

}  // namespace

namespace {

/// A rim that noise hides: looked for in a smoothed copy of its surroundings.
std::optional<Rim> fitSoftly(const Grey& grey, const RimGuess& g) {
    const double reach = 0.8 * std::max(g.width, g.height) + 12;
    const int left = std::clamp(static_cast<int>(g.centre.x - reach), 0, grey.width - 1);
    const int top = std::clamp(static_cast<int>(g.centre.y - reach), 0, grey.height - 1);
    const int right = std::clamp(static_cast<int>(g.centre.x + reach) + 1, left + 1, grey.width);
    const int bottom = std::clamp(static_cast<int>(g.centre.y + reach) + 1, top + 1, grey.height);
    Grey window{right - left, bottom - top, {}, grey.tone};
    for (int y = top; y < bottom; ++y)
        for (int x = left; x < right; ++x) window.data.push_back(grey.at(x, y));
    RimGuess here = g;
    here.centre = {g.centre.x - left, g.centre.y - top};
    auto rim = fitRimAsCoded(softened(softened(window)), here);
    if (rim) rim->centre = {rim->centre.x + left, rim->centre.y + top};
    return rim;
}

/// Levels inside and beside it, and whether only a thin line runs around it.
void lookBeside(const Grey& grey, SeenFeature& f, double mmPerPixel) {
    constexpr int kRays = 24;
    constexpr double kLine = 0.32;  // mm, letters are not drawn with wider strokes
    const Rim& r = f.rim;
    const double c = std::cos(r.turn * kRadians), s = std::sin(r.turn * kRadians);
    const double away = std::max(1.5 + 1.5 * r.blur, 2.0);
    const double beyond = std::max(mmPerPixel > 0 ? kLine / mmPerPixel : 0.3 * r.height, 3 * r.blur + 3);
    std::vector<double> inside{grey.sample(r.centre.x, r.centre.y)}, beside, far;
    for (int k = 0; k < kRays; ++k) {
        const double a = 2 * std::numbers::pi * k / kRays;
        const auto at = [&](double out) {
            const double u = (r.width / 2 + out) * std::cos(a), v = (r.height / 2 + out) * std::sin(a);
            return grey.sample(r.centre.x + c * u - s * v, r.centre.y + s * u + c * v);
        };
        inside.push_back(at(-0.4 * r.height));
        beside.push_back(at(away));
        far.push_back(at(beyond));
    }
    f.level = median(inside);
    f.around = median(beside);
    int like = 0;
    for (const double v : far) like += std::abs(v - f.level) < 0.4 * std::abs(r.contrast) ? 1 : 0;
    f.lined = like >= 0.6 * kRays;
    // A pad is a ring too: with a line for a ring, and the same inside and out, it is a letter.
    if (f.inner) f.lined = f.lined && (r.height - *f.inner) / 2 * mmPerPixel < 0.22;
}

/// Does it for each, one half beside the other.
template <class Each>
void inHalves(std::size_t count, Each each) {
    auto half = std::async(std::launch::async, [&] {
        for (std::size_t i = 0; i < count / 2; ++i) each(i);
    });
    for (std::size_t i = count / 2; i < count; ++i) each(i);
    half.get();
}

/// The feature at a guess; none where there is no rim that is sure enough.
std::optional<SeenFeature> seenAt(const Grey& grey, const RimGuess& g, const FeatureSearch& search, double noise,
                                  double leastPx, double mostPx) {
    auto rim = fitRimAsCoded(grey, g);
    if (search.faint && noise > kNoisy &&
        (!rim || rim->found < 0.9 || std::abs(rim->contrast) < kFaintByNoise * noise)) {
        const auto smooth = fitSoftly(grey, g);
        if (smooth && (!rim || smooth->found > rim->found)) rim = smooth;
    }
    if (!rim || rim->height < leastPx || rim->width > mostPx || std::abs(rim->contrast) < kLeastLevels) return {};
    if ((rim->contrast > 0) != g.bright) return {};
    SeenFeature f{*rim, g.bright, {}, confidenceOf(*rim, noise)};
    if (!g.bright)
        if (const auto pad = padAround(grey, *rim)) {
            f.inner = rim->width;
            f.rim = *pad;
            f.bright = true;
            f.confidence = std::max(f.confidence, confidenceOf(*pad, noise));
        }
    if (f.confidence <= 0.15) return {};
    lookBeside(grey, f, search.mmPerPixel);
    return f;
}

bool sameRim(PixelPoint a, double sizeA, PixelPoint b, double sizeB, double height) {
    return std::hypot(a.x - b.x, a.y - b.y) < 0.15 * height + 0.5 && std::abs(sizeA / sizeB - 1) < 0.2;
}

double sizeOf(const RimGuess& g) { return std::sqrt(g.width * g.height); }
double sizeOf(const Rim& r) { return std::sqrt(r.width * r.height); }

/// Stable patches come several to a rim: those of one tone that share their middle, smallest first.
std::vector<std::vector<std::size_t>> heapsOf(const std::vector<RimGuess>& all) {
    std::vector<std::vector<std::size_t>> heaps;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const auto heap = std::find_if(heaps.begin(), heaps.end(), [&](const std::vector<std::size_t>& h) {
            const RimGuess& g = all[h.front()];
            return g.bright == all[i].bright && std::hypot(g.centre.x - all[i].centre.x, g.centre.y - all[i].centre.y) <
                                                    0.15 * std::min(g.height, all[i].height) + 0.5;
        });
        if (heap == heaps.end())
            heaps.push_back({i});
        else
            heap->push_back(i);
    }
    for (auto& h : heaps)
        std::stable_sort(h.begin(), h.end(),
                         [&](std::size_t a, std::size_t b) { return sizeOf(all[a]) < sizeOf(all[b]); });
    return heaps;
}

/// The rims in one heap: where the smallest and the largest patch of a range lead to the same rim, and it is seen
/// well, so do those between them.
std::vector<SeenFeature> seenInHeap(std::size_t count, const std::function<RimGuess(std::size_t)>& patch,
                                    const std::function<std::optional<SeenFeature>(const RimGuess&)>& fit) {
    std::vector<SeenFeature> seen;
    using Met = std::optional<SeenFeature>;
    const auto isGood = [](const SeenFeature& f) { return f.rim.found > 0.9 && f.rim.scatter < 0.35; };
    const auto look = [&](std::size_t i) -> Met {
        const RimGuess g = patch(i);
        for (const SeenFeature& f : seen)
            if (f.bright == g.bright && isGood(f) &&
                sameRim(g.centre, sizeOf(g), f.rim.centre, sizeOf(f.rim), f.rim.height))
                return f;
        Met met = fit(g);
        if (met) seen.push_back(*met);
        return met;
    };
    const std::function<void(std::size_t, const Met&, std::size_t, const Met&)> between = [&](std::size_t low,
                                                                                              const Met& atLow,
                                                                                              std::size_t high,
                                                                                              const Met& atHigh) {
        if (high - low < 2) return;
        if (atLow && atHigh && isGood(*atLow) && isGood(*atHigh) &&
            sameRim(atLow->rim.centre, sizeOf(atLow->rim), atHigh->rim.centre, sizeOf(atHigh->rim), atHigh->rim.height))
            return;
        const std::size_t middle = (low + high) / 2;
        const Met atMiddle = look(middle);
        between(low, atLow, middle, atMiddle);
        between(middle, atMiddle, high, atHigh);
    };
    const Met first = look(0);
    if (count > 1) between(0, first, count - 1, look(count - 1));
    return seen;
}

}  // namespace

SeenFeatures findFeatures(const Grey& grey, const FeatureSearch& search, bool toEdges) {
    SeenFeatures met;
    std::vector<SeenFeature> seen;
    const double noise = noiseOf(grey);
    const double leastPx = search.mmPerPixel > 0 ? search.least / search.mmPerPixel : 4;
    const double mostPx = search.mmPerPixel > 0 ? search.most / search.mmPerPixel : 1e9;
    const Patches patches = patchesIn(grey, search, toEdges);
    met.ground = patches.ground;
    met.more = patches.more;
    const std::vector<RimGuess>& all = patches.guesses;
    const std::vector<std::vector<std::size_t>> heaps = heapsOf(all);
    std::vector<std::vector<SeenFeature>> fits(heaps.size());
    inHalves(heaps.size(), [&](std::size_t k) {
        fits[k] = seenInHeap(
            heaps[k].size(), [&](std::size_t i) { return all[heaps[k][i]]; },
            [&](const RimGuess& g) { return seenAt(grey, g, search, noise, leastPx, mostPx); });
    });
    for (const auto& heap : fits) seen.insert(seen.end(), heap.begin(), heap.end());
    const std::vector<bool> dropped = droppedAmong(seen);
    for (std::size_t i = 0; i < seen.size(); ++i)
        if (!dropped[i] && seen[i].confidence >= search.leastConfidence) met.features.push_back(seen[i]);
    inHalves(met.features.size(),
             [&](std::size_t i) { accountForTone(grey, met.features[i].rim, met.features[i].bright); });
    std::stable_sort(met.features.begin(), met.features.end(),
                     [](const SeenFeature& a, const SeenFeature& b) { return a.confidence > b.confidence; });
    return met;
}

}  // namespace punch
