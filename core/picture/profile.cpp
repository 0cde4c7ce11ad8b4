#include "core/picture/profile.h"

#include <algorithm>
#include <array>
#include <boost/container/small_vector.hpp>
#include <cmath>

namespace punch {

namespace {

constexpr double kStep = 0.5;         // pixels between samples
constexpr double kSmooth = 1.0;       // pixels, standard deviation of the smoothing
constexpr int kSlopeReach = 6;        // samples to each side of the smoothed slope
constexpr double kOuterShare = 0.75;  // of the steepest slope

/// Weights of the smoothed slope, odd about the middle; scaled so that a ramp of 1 level per pixel gives 1.
const std::array<double, kSlopeReach + 1>& slopeWeights() {
    static const std::array<double, kSlopeReach + 1> weights = [] {
        std::array<double, kSlopeReach + 1> w{};
        double ramp = 0;
        for (int k = 1; k <= kSlopeReach; ++k) {
            const double s = k * kStep;
            w[static_cast<std::size_t>(k)] = s * std::exp(-s * s / (2 * kSmooth * kSmooth));
            ramp += 2 * w[static_cast<std::size_t>(k)] * s;
        }
        for (double& v : w) v /= ramp;
        return w;
    }();
    return weights;
}

}  // namespace

std::optional<EdgePoint> edgeOnProfile(const Grey& grey, PixelPoint origin, double dx, double dy, double s0, double s1,
                                       int sign, double expected, double trust) {
    const int n = std::max(3, static_cast<int>(std::ceil((s1 - s0) / kStep)) + 1);
    if (n > 4000) return {};
    boost::container::small_vector<double, 128> value(static_cast<std::size_t>(n + 2 * kSlopeReach));
    for (int i = 0; i < n + 2 * kSlopeReach; ++i) {
        const double s = s0 + (i - kSlopeReach) * kStep;
        const double x = origin.x + s * dx;
        const double y = origin.y + s * dy;
        // Averaged along the edge over three pixels, for the noise.
        value[i] = 0.25 * grey.sample(x - dy, y + dx) + 0.5 * grey.sample(x, y) + 0.25 * grey.sample(x + dy, y - dx);
    }
    const auto& w = slopeWeights();
    boost::container::small_vector<double, 128> slope(static_cast<std::size_t>(n));
    int best = -1;
    double most = 0;
    for (int i = 0; i < n; ++i) {
        double sum = 0;
        for (int k = 1; k <= kSlopeReach; ++k)
            sum += w[static_cast<std::size_t>(k)] * (value[i + kSlopeReach + k] - value[i + kSlopeReach - k]);
        slope[i] = sum;
        const double off = (s0 + i * kStep - expected) / trust;
        const double strength = (sign == 0 ? std::abs(sum) : sign * sum) / (1 + off * off);
        if (strength > most) {
            most = strength;
            best = i;
        }
    }
    if (best < 0) return {};
    // The weighting shifts the maximum a little: climb to the slope's own.
    while (best > 0 && std::abs(slope[best - 1]) > std::abs(slope[best]) && slope[best - 1] * slope[best] > 0) --best;
    while (best < n - 1 && std::abs(slope[best + 1]) > std::abs(slope[best]) && slope[best + 1] * slope[best] > 0)
        ++best;
    if (sign != 0 && best > 0) {
        // Gloss draws edges of its own inside the rim: an outer edge goes before it, even if it is fainter.
        const double enough = kOuterShare * std::abs(slope[best]);
        for (int i = n - 2; i >= best + 3; --i)
            if (sign * slope[i] > enough && sign * slope[i] >= sign * slope[i - 1] &&
                sign * slope[i] > sign * slope[i + 1]) {
                best = i;
                break;
            }
    }
    if (best <= 0 || best >= n - 1) return {};
    const double a = slope[best - 1];
    const double b = slope[best];
    const double c = slope[best + 1];
    const double curve = a - 2 * b + c;
    if (curve == 0) return {};
    const double shift = 0.5 * (a - c) / curve;
    // A Gaussian falls as exp(-s²/2v) from its peak: v from the slopes some steps to both sides, the further out the
    // wider it is, as far as it is still half as steep there.
    double v = 0;
    for (int k = 1; best - k >= 0 && best + k < n; ++k) {
        const double low = slope[best - k] / b, high = slope[best + k] / b;
        if (low <= 0 || high <= 0 || low > 1.2 || high > 1.2 || (k > 1 && std::min(low, high) < 0.5)) break;
        const double logs = std::log(low) + std::log(high);
        if (logs < 0) v = -k * k * kStep * kStep / logs;
    }
    return EdgePoint{s0 + (best + std::clamp(shift, -1.0, 1.0)) * kStep, b, std::clamp(v - kOwnBlur2, 0.0, 60.0)};
}

}  // namespace punch
