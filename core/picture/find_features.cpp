#include "core/picture/find_features.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <future>
#include <map>
#include <numbers>
#include <tuple>

#include "core/picture/component_tree.h"
#include "core/picture/profile.h"

namespace punch {

namespace {

constexpr double kRadians = std::numbers::pi / 180;
constexpr double kLeastContrast = 7;  // grey levels
constexpr double kNoisy = 1.5;        // grey levels of noise, from which faint rims are looked for more softly
constexpr double kFaintByNoise = 8;
constexpr double kLeastPatch = 4;  // grey levels that a patch stands out by in the coarse copy
constexpr double kNoisyCopy =
    1;  // grey levels of noise in the coarse copy, from which it is smoothed for faint patches
constexpr double kCoarsePerMm = 7.5;        // pixels per mm of the copy in which patches are looked for, at least
constexpr double kLeastReduction = 1.2;     // a copy that is hardly smaller costs more than it saves
constexpr std::size_t kMostPatches = 2600;  // that are looked at closely

/// Weights 1 2 1 along both axes, against noise where averaging did not take it away.
Grey softened(const Grey& in) {
    if (in.width < 3 || in.height < 3) return in;
    Grey out = in;
    std::vector<std::uint16_t> sums(static_cast<std::size_t>(in.width));
    for (int y = 0; y < in.height; ++y) {
        const std::uint8_t* a = in.data.data() + static_cast<std::size_t>(std::max(y - 1, 0)) * in.width;
        const std::uint8_t* b = in.data.data() + static_cast<std::size_t>(y) * in.width;
        const std::uint8_t* c = in.data.data() + static_cast<std::size_t>(std::min(y + 1, in.height - 1)) * in.width;
        for (int x = 0; x < in.width; ++x) sums[x] = static_cast<std::uint16_t>(a[x] + 2 * b[x] + c[x]);
        std::uint8_t* to = out.data.data() + static_cast<std::size_t>(y) * in.width;
        for (int x = 0; x < in.width; ++x)
            to[x] = static_cast<std::uint8_t>(
                (sums[std::max(x - 1, 0)] + 2 * sums[x] + sums[std::min(x + 1, in.width - 1)] + 8) / 16);
    }
    return out;
}

/// Grey levels of noise: from differences that smooth shading does not reach.
double noiseOf(const Grey& grey) {
    std::vector<int> sizes;
    const int stepX = std::max(1, grey.width / 160);
    const int stepY = std::max(1, grey.height / 120);
    for (int y = 1; y + 1 < grey.height; y += stepY)
        for (int x = 1; x + 1 < grey.width; x += stepX)
            sizes.push_back(std::abs(grey.at(x - 1, y) - 2 * grey.at(x, y) + grey.at(x + 1, y)));
    if (sizes.empty()) return 0;
    std::nth_element(sizes.begin(), sizes.begin() + static_cast<std::ptrdiff_t>(sizes.size() / 2), sizes.end());
    return 1.4826 * sizes[sizes.size() / 2] / std::sqrt(6.0);
}

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
        std::clamp((std::abs(r.contrast) - kLeastContrast / 2) / (kLeastContrast / 2 + noise), 0.0, 1.0);
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

double middleOf(std::vector<double> v) {
    std::nth_element(v.begin(), v.begin() + static_cast<std::ptrdiff_t>(v.size() / 2), v.end());
    return v[v.size() / 2];
}

/// A patch of the coarse picture, by what tells it from others.
struct Patch {
    Blob blob;
    double inside = 0, around = 0;  // grey levels in its middle and beside it
    std::array<double, 12> beside{};
};

Patch patchOf(const Grey& grey, const Blob& b) {
    Patch p{b, 0, 0, {}};
    const double c = std::cos(b.turn() * kRadians), s = std::sin(b.turn() * kRadians);
    for (std::size_t k = 0; k < p.beside.size(); ++k) {
        const double a = static_cast<double>(k) * std::numbers::pi / 6;
        const double u = (b.major() + 2.5) * std::cos(a), v = (b.minor() + 2.5) * std::sin(a);
        p.beside[k] = grey.sample(b.x + c * u - s * v, b.y + s * u + c * v);
    }
    // Its middle by five places, so that noise is no patch.
    for (const auto& [u, v] :
         {std::pair(0.0, 0.0), std::pair(0.4, 0.0), std::pair(-0.4, 0.0), std::pair(0.0, 0.4), std::pair(0.0, -0.4)})
        p.inside +=
            grey.sample(b.x + c * u * b.major() - s * v * b.minor(), b.y + s * u * b.major() + c * v * b.minor()) / 5;
    auto sorted = p.beside;
    std::nth_element(sorted.begin(), sorted.begin() + 6, sorted.end());
    p.around = sorted[6];
    return p;
}

/// Do these patches go on to the picture's edges, on three sides at least (a ruler or the part may hide it along one):
/// the outermost no further from the edge than they are from each other, all along it?
bool reachesEdges(const std::vector<Patch>& patches, const std::vector<std::size_t>& members, int width, int height) {
    std::vector<double> nearest;
    const std::size_t some = std::max<std::size_t>(members.size() / 60, 1);
    for (std::size_t a = 0; a < members.size(); a += some) {
        double least = 1e18;
        for (const std::size_t b : members) {
            const double d = std::hypot(patches[b].blob.x - patches[members[a]].blob.x,
                                        patches[b].blob.y - patches[members[a]].blob.y);
            if (d > 2) least = std::min(least, d);
        }
        nearest.push_back(least);
    }
    const double apart = middleOf(nearest);
    int sides = 0;
    for (const int side : {0, 1, 2, 3}) {
        const double length = side < 2 ? width : height;
        const auto cells = static_cast<std::size_t>(std::clamp(length / (2.5 * apart), 2.0, 8.0));
        std::vector<bool> there(cells);
        for (const std::size_t i : members) {
            const Blob& b = patches[i].blob;
            const double off = side == 0 ? b.y : side == 1 ? height - b.y : side == 2 ? b.x : width - b.x;
            if (off > 1.4 * apart) continue;
            const double at = side < 2 ? b.x / width : b.y / height;
            there[std::min(cells - 1, static_cast<std::size_t>(at * static_cast<double>(cells)))] = true;
        }
        if (static_cast<double>(std::count(there.begin(), there.end(), true)) >= 0.6 * static_cast<double>(cells))
            ++sides;
    }
    return sides >= 3;
}

/// Patches of one kind that stand all over the picture, up to its edges, are the ground it lies on: a perforated
/// plate, a mesh, a cloth. Taken out; how many.
int withoutGround(std::vector<Patch>& patches, int width, int height) {
    constexpr std::size_t kLeast = 24;
    constexpr double kGroundLevels = 22;
    std::vector<bool> ground(patches.size());
    // Kinds: of one tone, nearly one size, on one level. Sizes in steps of a fifth, each twice so that none is split.
    std::map<std::tuple<bool, int, int>, std::vector<std::size_t>> kinds;
    for (std::size_t i = 0; i < patches.size(); ++i)
        for (const int size : {0, 1})
            for (const int level : {0, 1})
                kinds[{patches[i].blob.bright,
                       2 * static_cast<int>(std::floor(std::log(patches[i].blob.area) / 0.4 + 0.5 * size)) + size,
                       2 * static_cast<int>(std::floor(patches[i].around / 40 + 0.5 * level)) + level}]
                    .push_back(i);
    for (const auto& [kind, members] : kinds) {
        if (members.size() < kLeast) continue;
        if (!reachesEdges(patches, members, width, height)) continue;
        std::vector<double> inside, around;
        for (const std::size_t i : members) {
            ground[i] = true;
            inside.push_back(patches[i].inside);
            around.push_back(patches[i].around);
        }
        const double in = middleOf(inside), out = middleOf(around);
        // Those that a body or the ruler cuts, and those that ran together, are of the ground as well.
        for (std::size_t i = 0; i < patches.size(); ++i)
            if (patches[i].blob.bright == patches[members.front()].blob.bright &&
                std::abs(patches[i].inside - in) < kGroundLevels &&
                std::count_if(patches[i].beside.begin(), patches[i].beside.end(),
                              [&](double v) { return std::abs(v - out) < kGroundLevels; }) >= 3)
                ground[i] = true;
    }
    int count = 0;
    std::vector<Patch> kept;
    for (std::size_t i = 0; i < patches.size(); ++i)
        if (ground[i])
            ++count;
        else
            kept.push_back(std::move(patches[i]));
    patches = std::move(kept);
    return count;
}

std::vector<RimGuess> guesses(const Grey& grey, const FeatureSearch& search, bool toEdges, SeenFeatures& met) {
    const double perMm = search.mmPerPixel > 0 ? 1 / search.mmPerPixel : 0;
    const double longest = std::max(grey.width, grey.height);
    double factor = perMm > 0 ? perMm / kCoarsePerMm : longest / 1500;
    // Whole pixels are averaged faster; between one and two that would leave too many or too few.
    factor = factor < kLeastReduction ? 1 : factor >= 2 ? std::floor(factor) : factor;
    while (1.0 * grey.width * grey.height / factor / factor > 6e6) factor = std::floor(factor + 1);
    const Grey coarse =
        factor == std::floor(factor) ? reduced(grey, static_cast<int>(factor)) : reducedBy(grey, factor);
    const Grey small = factor <= 2 ? softened(coarse) : coarse;
    BlobSearch blobs;
    const double least = perMm > 0 ? search.least * perMm / factor : 4;
    const double most = perMm > 0 ? search.most * perMm / factor : std::max(longest / factor / 5, 12.0);
    blobs.leastArea = std::max(7.0, 0.6 * least * least);
    blobs.mostArea = most * most;
    blobs.leastFullness = 0.86;
    std::vector<Patch> patches;
    const auto inPicture = [&](const Blob& b) {
        return PixelPoint{(b.x + 0.5) * factor - 0.5, (b.y + 0.5) * factor - 0.5};
    };
    // Bright and dark ones are looked for side by side.
    const auto gather = [&](const Grey& copy, const BlobSearch& how) {
        auto dark = std::async(std::launch::async, [&] { return findBlobs(copy, false, how); });
        const std::vector<Blob> light = findBlobs(copy, true, how);
        const std::vector<Blob> shade = dark.get();
        for (const std::vector<Blob>* found : {&light, &shade})
            for (const Blob& b : *found)
                if (2 * b.minor() >= 0.7 * least && 2 * b.major() <= 1.2 * most && b.major() <= 9 * b.minor()) {
                    if (search.skip && search.skip(inPicture(b), 2 * b.minor() * factor)) continue;
                    const Patch p = patchOf(copy, b);
                    if ((p.inside - p.around) * (b.bright ? 1 : -1) > kLeastPatch) patches.push_back(p);
                }
    };
    // Faint patches are stable over few levels only; they are looked for where noise is small, or is made so.
    const bool noisy = noiseOf(small) >= kNoisyCopy;
    if (search.faint && !noisy) blobs.deltas = {6, 2};
    gather(small, blobs);
    if (search.faint && noisy) {
        Grey smooth = softened(softened(small));
        for (int round = 0; round < 3 && noiseOf(smooth) >= kNoisyCopy; ++round) smooth = softened(smooth);
        blobs.deltas = {2};
        gather(smooth, blobs);
    }
    if (toEdges) met.ground = withoutGround(patches, small.width, small.height);
    if (patches.size() > kMostPatches) {
        met.more = true;
        std::stable_sort(patches.begin(), patches.end(),
                         [](const Patch& a, const Patch& b) { return a.blob.variation < b.blob.variation; });
        patches.resize(kMostPatches);
    }
    std::vector<RimGuess> out;
    for (const auto& [b, inside, around, beside] : patches)
        out.push_back({inPicture(b), 2 * b.major() * factor, 2 * b.minor() * factor, b.turn(), b.bright});
    return out;
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
    f.level = middleOf(inside);
    f.around = middleOf(beside);
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
    if (!rim || rim->height < leastPx || rim->width > mostPx || std::abs(rim->contrast) < kLeastContrast) return {};
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

}  // namespace

SeenFeatures findFeatures(const Grey& grey, const FeatureSearch& search, bool toEdges) {
    SeenFeatures met;
    std::vector<SeenFeature> seen;
    const double noise = noiseOf(grey);
    const double leastPx = search.mmPerPixel > 0 ? search.least / search.mmPerPixel : 4;
    const double mostPx = search.mmPerPixel > 0 ? search.most / search.mmPerPixel : 1e9;
    const std::vector<RimGuess> all = guesses(grey, search, toEdges, met);
    const auto same = [](const RimGuess& g, PixelPoint centre, double width, double height) {
        return std::hypot(centre.x - g.centre.x, centre.y - g.centre.y) < 0.15 * height + 0.5 &&
               std::abs(std::sqrt(g.width * g.height / (width * height)) - 1) < 0.2;
    };
    // Stable patches come several to a rim: one of each is fitted beside the others, and where it fits well it is
    // enough.
    std::vector<std::size_t> first, later;
    for (std::size_t i = 0; i < all.size(); ++i) {
        const bool again = std::any_of(first.begin(), first.end(), [&](std::size_t k) {
            return all[k].bright == all[i].bright && same(all[i], all[k].centre, all[k].width, all[k].height);
        });
        (again ? later : first).push_back(i);
    }
    std::vector<std::optional<SeenFeature>> fits(first.size());
    inHalves(first.size(),
             [&](std::size_t k) { fits[k] = seenAt(grey, all[first[k]], search, noise, leastPx, mostPx); });
    for (auto& f : fits)
        if (f) seen.push_back(std::move(*f));
    for (const std::size_t i : later) {
        const RimGuess& g = all[i];
        const bool again = std::any_of(seen.begin(), seen.end(), [&](const SeenFeature& f) {
            return f.bright == g.bright && f.rim.found > 0.9 && f.rim.scatter < 0.35 &&
                   same(g, f.rim.centre, f.rim.width, f.rim.height);
        });
        if (again) continue;
        if (auto f = seenAt(grey, g, search, noise, leastPx, mostPx)) seen.push_back(std::move(*f));
    }
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
