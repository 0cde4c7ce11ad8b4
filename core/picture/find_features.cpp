#include "core/picture/find_features.h"

#include <algorithm>
#include <cmath>
#include <future>
#include <numbers>

#include "core/picture/component_tree.h"
#include "core/picture/profile.h"

namespace punch {

namespace {

constexpr double kRadians = std::numbers::pi / 180;
constexpr double kLeastContrast = 9;  // grey levels

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
        std::clamp((std::abs(r.contrast) - kLeastContrast / 2) / (kLeastContrast + 2 * noise), 0.0, 1.0);
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

std::vector<RimGuess> guesses(const Grey& grey, const FeatureSearch& search) {
    const double perMm = search.mmPerPixel > 0 ? 1 / search.mmPerPixel : 0;
    const double longest = std::max(grey.width, grey.height);
    int factor = std::max(1, static_cast<int>(perMm > 0 ? perMm / 9.5 : longest / 1500));
    while (1.0 * grey.width * grey.height / factor / factor > 6e6) ++factor;
    const Grey coarse = reduced(grey, factor);
    const Grey small = factor <= 2 ? softened(coarse) : coarse;
    BlobSearch blobs;
    const double least = perMm > 0 ? search.least * perMm / factor : 4;
    const double most = perMm > 0 ? search.most * perMm / factor : std::max(longest / factor / 5, 12.0);
    blobs.leastArea = std::max(7.0, 0.6 * least * least);
    blobs.mostArea = most * most;
    blobs.leastFullness = 0.86;
    std::vector<RimGuess> out;
    // Bright and dark ones are looked for side by side.
    auto dark = std::async(std::launch::async, [&] { return findBlobs(small, false, blobs); });
    const std::vector<Blob> light = findBlobs(small, true, blobs);
    const std::vector<Blob> shade = dark.get();
    for (const std::vector<Blob>* found : {&light, &shade})
        for (const Blob& b : *found) {
            if (2 * b.minor() < 0.7 * least || 2 * b.major() > 1.2 * most || b.major() > 9 * b.minor()) continue;
            out.push_back({{(b.x + 0.5) * factor - 0.5, (b.y + 0.5) * factor - 0.5},
                           2 * b.major() * factor,
                           2 * b.minor() * factor,
                           b.turn(),
                           b.bright});
        }
    return out;
}

}  // namespace

std::vector<SeenFeature> findFeatures(const Grey& grey, const FeatureSearch& search) {
    std::vector<SeenFeature> seen;
    const double noise = noiseOf(grey);
    const double leastPx = search.mmPerPixel > 0 ? search.least / search.mmPerPixel : 4;
    const double mostPx = search.mmPerPixel > 0 ? search.most / search.mmPerPixel : 1e9;
    for (const RimGuess& g : guesses(grey, search)) {
        // Stable patches come several to a rim; one good fit of each is enough.
        const bool again = std::any_of(seen.begin(), seen.end(), [&](const SeenFeature& f) {
            return f.bright == g.bright && f.rim.found > 0.9 && f.rim.scatter < 0.35 &&
                   std::hypot(f.rim.centre.x - g.centre.x, f.rim.centre.y - g.centre.y) < 0.15 * f.rim.height + 0.5 &&
                   std::abs(std::sqrt(g.width * g.height / (f.rim.width * f.rim.height)) - 1) < 0.2;
        });
        if (again) continue;
        const auto rim = fitRim(grey, g);
        if (!rim || rim->height < leastPx || rim->width > mostPx || std::abs(rim->contrast) < kLeastContrast) continue;
        if ((rim->contrast > 0) != g.bright) continue;
        SeenFeature f{*rim, g.bright, {}, confidenceOf(*rim, noise)};
        if (!g.bright)
            if (const auto pad = padAround(grey, *rim)) {
                f.inner = rim->width;
                f.rim = *pad;
                f.bright = true;
                f.confidence = std::max(f.confidence, confidenceOf(*pad, noise));
            }
        if (f.confidence > 0.15) seen.push_back(f);
    }

    // Of patches that lie in or over each other one stays. An outer rim goes before what gloss draws inside it, unless
    // it is much fainter: then it is a collar or a boss around the feature.
    std::vector<bool> dropped(seen.size());
    for (std::size_t i = 0; i < seen.size(); ++i)
        for (std::size_t j = i + 1; j < seen.size(); ++j) {
            if (dropped[i] || dropped[j]) continue;
            const bool iOuter = areaOf(seen[i].rim) >= areaOf(seen[j].rim);
            const std::size_t outer = iOuter ? i : j;
            const std::size_t inner = iOuter ? j : i;
            if (!contains(seen[outer].rim, seen[inner].rim.centre, 0.1 * seen[outer].rim.height)) continue;
            const bool same = areaOf(seen[inner].rim) > 0.5 * areaOf(seen[outer].rim);
            const bool outerStays = strengthOf(seen[outer]) >= (same ? 0.7 : 0.25) * strengthOf(seen[inner]);
            dropped[outerStays ? inner : outer] = true;
        }
    std::vector<SeenFeature> out;
    for (std::size_t i = 0; i < seen.size(); ++i)
        if (!dropped[i] && seen[i].confidence >= search.leastConfidence) out.push_back(seen[i]);
    std::stable_sort(out.begin(), out.end(),
                     [](const SeenFeature& a, const SeenFeature& b) { return a.confidence > b.confidence; });
    return out;
}

}  // namespace punch
