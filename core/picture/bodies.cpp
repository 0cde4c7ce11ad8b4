#include "core/picture/bodies.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>

namespace punch {

namespace {
constexpr double kPerMm = 4;           // pixels of the coarse copy
constexpr int kGroundLevels = 14;      // how far the ground's level may stray
constexpr double kGroundShare = 0.45;  // of the picture's edge that must show it
}  // namespace

std::vector<int> bodiesUnder(const Grey& grey, const std::vector<PixelPoint>& places, double mmPerPixel,
                             const std::vector<Ruler>& rulers) {
    if (places.size() < 2 || !(mmPerPixel > 0)) return {};
    int factor = std::max(1, static_cast<int>(1 / mmPerPixel / kPerMm));
    while (1.0 * grey.width * grey.height / factor / factor > 4e6) ++factor;
    const Grey small = reduced(grey, factor);
    const int w = small.width, h = small.height;
    if (w < 8 || h < 8) return {};
    std::vector<bool> ruler(small.data.size());
    for (const Ruler& r : rulers) {
        if (!r.believed || !r.bodySeen) continue;
        for (int y = 0; y < h; ++y)
            for (int x = 0; x < w; ++x)
                if (r.covers({(x + 0.5) * factor, (y + 0.5) * factor}))
                    ruler[static_cast<std::size_t>(y) * w + x] = true;
    }
    std::vector<int> border;
    for (int x = 0; x < w; ++x) {
        border.push_back(x);
        border.push_back((h - 1) * w + x);
    }
    for (int y = 1; y + 1 < h; ++y) {
        border.push_back(y * w);
        border.push_back(y * w + w - 1);
    }
    std::array<int, 256> histogram{};
    int counted = 0;
    for (const int p : border)
        if (!ruler[static_cast<std::size_t>(p)]) {
            ++histogram[small.data[static_cast<std::size_t>(p)]];
            ++counted;
        }
    if (counted < 40) return {};
    int level = 0, most = 0;
    for (int l = 0; l < 256; ++l) {
        int sum = 0;
        for (int k = std::max(0, l - kGroundLevels / 2); k <= std::min(255, l + kGroundLevels / 2); ++k)
            sum += histogram[k];
        if (sum > most) {
            most = sum;
            level = l;
        }
    }
    if (most < kGroundShare * counted) return {};
    const auto isGround = [&](int p) {
        return ruler[static_cast<std::size_t>(p)] ||
               std::abs(small.data[static_cast<std::size_t>(p)] - level) <= kGroundLevels;
    };
    constexpr int kGround = -1, kNew = 0;
    std::vector<int> label(small.data.size(), kNew);
    std::vector<int> stack;
    const auto flood = [&](int start, int as, auto belongs) {
        label[static_cast<std::size_t>(start)] = as;
        stack.assign(1, start);
        while (!stack.empty()) {
            const int p = stack.back();
            stack.pop_back();
            const int x = p % w, y = p / w;
            for (const auto& [dx, dy] : {std::pair(1, 0), std::pair(-1, 0), std::pair(0, 1), std::pair(0, -1)}) {
                if (x + dx < 0 || y + dy < 0 || x + dx >= w || y + dy >= h) continue;
                const int q = (y + dy) * w + x + dx;
                if (label[static_cast<std::size_t>(q)] != kNew || !belongs(q)) continue;
                label[static_cast<std::size_t>(q)] = as;
                stack.push_back(q);
            }
        }
    };
    for (const int p : border)
        if (label[static_cast<std::size_t>(p)] == kNew && isGround(p)) flood(p, kGround, isGround);
    int next = 1;
    std::vector<int> out;
    std::map<int, int> on;
    for (const PixelPoint& p : places) {
        const int x = std::clamp(static_cast<int>(p.x / factor), 0, w - 1);
        const int y = std::clamp(static_cast<int>(p.y / factor), 0, h - 1);
        const int at = y * w + x;
        if (label[static_cast<std::size_t>(at)] == kNew) flood(at, next++, [](int) { return true; });
        out.push_back(label[static_cast<std::size_t>(at)]);
        if (out.back() > 0) ++on[out.back()];
    }
    int together = 0;
    for (const int l : out) together += l > 0 && on[l] >= 2 ? 1 : 0;
    if (together < 0.6 * static_cast<double>(places.size())) return {};
    return out;
}

}  // namespace punch
