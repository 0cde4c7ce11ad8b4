#include "core/solid/flat_fit.h"

#include <algorithm>
#include <cmath>

namespace punch {
namespace {

/// How far off each is.
std::vector<double> residuals(const Flatly& t, const std::vector<Flat>& from, const std::vector<Flat>& to) {
    std::vector<double> r;
    for (std::size_t i = 0; i < from.size(); ++i) r.push_back(far(t(from[i]), to[i]));
    return r;
}

double median(std::vector<double> all) {
    const auto middle = all.begin() + static_cast<std::ptrdiff_t>(all.size() / 2);
    std::nth_element(all.begin(), middle, all.end());
    return *middle;
}

}  // namespace

double offLimit(const std::vector<double>& residuals) { return std::max(kLeastOff, 4 * 1.4826 * median(residuals)); }

std::size_t FlatFit::count() const {
    return static_cast<std::size_t>(std::count(counted.begin(), counted.end(), true));
}

Flatly fitted(const std::vector<Flat>& from, const std::vector<Flat>& to, const std::vector<double>& weights) {
    double w = 0;
    Flat a, b;
    for (std::size_t i = 0; i < from.size(); ++i) {
        w += weights[i];
        a = {a.x + weights[i] * from[i].x, a.y + weights[i] * from[i].y};
        b = {b.x + weights[i] * to[i].x, b.y + weights[i] * to[i].y};
    }
    a = {a.x / w, a.y / w};
    b = {b.x / w, b.y / w};
    double along = 0, across = 0;
    for (std::size_t i = 0; i < from.size(); ++i) {
        const double ax = from[i].x - a.x, ay = from[i].y - a.y, bx = to[i].x - b.x, by = to[i].y - b.y;
        along += weights[i] * (ax * bx + ay * by);
        across += weights[i] * (ax * by - ay * bx);
    }
    const double r = std::hypot(along, across);
    Flatly t;
    if (r > 1e-12) {
        t.c = along / r;
        t.s = across / r;
    }
    t.x = b.x - (t.c * a.x - t.s * a.y);
    t.y = b.y - (t.s * a.x + t.c * a.y);
    return t;
}

FlatFit settled(Flatly t, const std::vector<Flat>& from, const std::vector<Flat>& to) {
    FlatFit best;
    best.counted.assign(from.size(), true);
    std::vector<double> weights(from.size(), 1);
    // Sums of distances, not of their squares: most of them pull it onto themselves.
    for (int i = 0; i < 60; ++i) {
        const auto r = residuals(t, from, to);
        for (std::size_t k = 0; k < r.size(); ++k) weights[k] = 1 / std::max(r[k], 1e-6);
        t = fitted(from, to, weights);
    }
    for (int i = 0; i < 10; ++i) {
        const auto r = residuals(t, from, to);
        const double limit = offLimit(r);
        std::vector<bool> counted;
        for (const double d : r) counted.push_back(d <= limit);
        for (std::size_t k = 0; k < r.size(); ++k) weights[k] = counted[k] ? 1 : 0;
        t = fitted(from, to, weights);
        if (counted == best.counted && i > 0) break;
        best.counted = counted;
    }
    best.place = t;
    const auto r = residuals(t, from, to);
    double sum = 0;
    for (std::size_t k = 0; k < r.size(); ++k) sum += best.counted[k] ? r[k] * r[k] : 0;
    best.rms = std::sqrt(sum / static_cast<double>(std::max<std::size_t>(best.count(), 1)));
    return best;
}

}  // namespace punch
