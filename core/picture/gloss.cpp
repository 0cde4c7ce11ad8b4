#include "core/picture/gloss.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/linear/decompositions.h"
#include "core/picture/rim_points.h"

namespace punch {

namespace {

constexpr double kGlossAbove = 1.5;  // scatters above the shade inside, from which a level is gloss

/// Levels inside a feature: a plane, since light comes from one side, and what scatters about it.
struct Shade {
    double level = 0, byX = 0, byY = 0, scatter = 0;
    double at(double dx, double dy) const { return level + byX * dx + byY * dy; }
};

/// `values`: dx, dy, level; bright is up. Gloss stands out above, and counts no more once it does.
Shade shadeOf(std::vector<std::array<double, 3>> values) {
    const std::size_t low = 2 * values.size() / 5;  // below what even broad gloss covers
    std::nth_element(values.begin(), values.begin() + static_cast<std::ptrdiff_t>(low), values.end(),
                     [](const auto& a, const auto& b) { return a[2] < b[2]; });
    Shade shade{values[low][2], 0, 0, 0};
    for (int round = 0; round < 5; ++round) {
        std::vector<double> sizes;
        for (const auto& v : values) {
            const double r = v[2] - shade.at(v[0], v[1]);
            if (r <= 0) sizes.push_back(-r);  // the side that gloss does not reach
        }
        if (sizes.size() < 3) break;
        shade.scatter = std::max(1.4826 * median(sizes), 1.0);
        Eigen::Matrix3d n = Eigen::Matrix3d::Identity() * 1e-6;
        Eigen::Vector3d b = Eigen::Vector3d::Zero();
        for (const auto& v : values) {
            const double r = v[2] - shade.at(v[0], v[1]);
            if (r > 2.5 * shade.scatter || r < -4 * shade.scatter) continue;
            const Eigen::Vector3d row(1, v[0], v[1]);
            n += row * row.transpose();
            b += row * r;
        }
        const Eigen::Vector3d step = linear::solved(n, b);
        if (!step.allFinite()) break;
        shade.level += step[0];
        shade.byX += step[1];
        shade.byY += step[2];
    }
    return shade;
}

}  // namespace

Window withoutGloss(const Grey& grey, const RimGuess& g) {
    const double reach = 0.8 * std::max(g.width, g.height) + 10;
    Window w;
    w.left = std::clamp(static_cast<int>(g.centre.x - reach), 0, std::max(grey.width - 1, 0));
    w.top = std::clamp(static_cast<int>(g.centre.y - reach), 0, std::max(grey.height - 1, 0));
    const int right = std::clamp(static_cast<int>(g.centre.x + reach) + 1, w.left + 1, grey.width);
    const int bottom = std::clamp(static_cast<int>(g.centre.y + reach) + 1, w.top + 1, grey.height);
    w.grey.width = right - w.left;
    w.grey.height = bottom - w.top;
    w.grey.data.reserve(static_cast<std::size_t>(w.grey.width) * w.grey.height);
    const double c = std::cos(g.turn / kDegrees);
    const double s = std::sin(g.turn / kDegrees);
    const double sign = g.bright ? 1 : -1;
    std::vector<std::array<double, 3>> inside;
    for (int y = w.top; y < bottom; ++y)
        for (int x = w.left; x < right; ++x) {
            const std::uint8_t v = grey.at(x, y);
            w.grey.data.push_back(v);
            const double dx = x - g.centre.x;
            const double dy = y - g.centre.y;
            const double u = (c * dx + s * dy) / std::max(g.width - 3, 0.6 * g.width);
            const double t = (-s * dx + c * dy) / std::max(g.height - 3, 0.6 * g.height);
            if (u * u + t * t <= 0.25) inside.push_back({dx, dy, sign * v});
        }
    if (inside.size() < 9) return w;
    const Shade shade = shadeOf(std::move(inside));
    std::uint8_t* v = w.grey.data.data();
    double taken = 0;
    for (int y = w.top; y < bottom; ++y)
        for (int x = w.left; x < right; ++x, ++v) {
            // Beyond the feature the plane goes on only a little: it was not seen there.
            const double dx = std::clamp(x - g.centre.x, -0.6 * g.width, 0.6 * g.width);
            const double dy = std::clamp(y - g.centre.y, -0.6 * g.width, 0.6 * g.width);
            const double cap = sign * (shade.at(dx, dy) + kGlossAbove * shade.scatter);
            const double cut = g.bright ? std::min<double>(*v, cap) : std::max<double>(*v, cap);
            taken += std::abs(*v - cut);
            *v = static_cast<std::uint8_t>(std::clamp(std::lround(cut), 0L, 255L));
        }
    w.taken = taken / std::max(g.width * g.height, 1.0);
    return w;
}

}  // namespace punch
