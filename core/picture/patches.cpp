#include "core/picture/patches.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <future>
#include <map>
#include <numbers>
#include <tuple>

#include "core/picture/component_tree.h"
#include "core/picture/rim_points.h"

namespace punch {

namespace {

constexpr double kLeastPatch = 4;  // grey levels that a patch stands out by in the coarse copy
constexpr double kNoisyCopy =
    1;  // grey levels of noise in the coarse copy, from which it is smoothed for faint patches
constexpr double kCoarsePerMm = 7.5;        // pixels per mm of the copy in which patches are looked for, at least
constexpr double kLeastReduction = 1.2;     // a copy that is hardly smaller costs more than it saves
constexpr std::size_t kMostPatches = 2600;  // that are looked at closely

}  // namespace

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

namespace {

/// A patch of the coarse picture, by what tells it from others.
struct Patch {
    Blob blob;
    double inside = 0, around = 0;  // grey levels in its middle and beside it
    std::array<double, 12> beside{};
};

Patch patchOf(const Grey& grey, const Blob& b) {
    Patch p{b, 0, 0, {}};
    const double c = std::cos(b.turn() * std::numbers::pi / 180), s = std::sin(b.turn() * std::numbers::pi / 180);
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
    const double apart = median(nearest);
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
        const double in = median(inside), out = median(around);
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

}  // namespace

Patches patchesIn(const Grey& grey, const FeatureSearch& search, bool toEdges) {
    Patches out;
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
    if (toEdges) out.ground = withoutGround(patches, small.width, small.height);
    if (patches.size() > kMostPatches) {
        out.more = true;
        std::stable_sort(patches.begin(), patches.end(),
                         [](const Patch& a, const Patch& b) { return a.blob.variation < b.blob.variation; });
        patches.resize(kMostPatches);
    }
    for (const auto& [b, inside, around, beside] : patches)
        out.guesses.push_back({inPicture(b), 2 * b.major() * factor, 2 * b.minor() * factor, b.turn(), b.bright});
    return out;
}

}  // namespace punch
