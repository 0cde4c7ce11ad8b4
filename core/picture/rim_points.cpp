#include "core/picture/rim_points.h"

#include <algorithm>
#include <cmath>

#include "core/picture/profile.h"

namespace punch {

namespace {
constexpr double kLeastScale = 0.04;  // pixels
}

double median(std::vector<double> v) {
    if (v.empty()) return 0;
    const auto mid = v.begin() + static_cast<std::ptrdiff_t>(v.size() / 2);
    std::nth_element(v.begin(), mid, v.end());
    return *mid;
}

double tukey(double r, double scale) {
    const double t = r / (4.685 * scale);
    return std::abs(t) >= 1 ? 0.0 : (1 - t * t) * (1 - t * t);
}

double robustScale(const std::vector<double>& residuals) {
    std::vector<double> sizes;
    for (const double r : residuals) sizes.push_back(std::abs(r));
    return std::max(1.4826 * median(std::move(sizes)), kLeastScale);
}

std::vector<RimPoint> castRays(const Grey& grey, const RimGuess& g, double inner, double outer, int rays) {
    std::vector<RimPoint> out;
    const double c = std::cos(g.turn / kDegrees);
    const double s = std::sin(g.turn / kDegrees);
    for (int i = 0; i < rays; ++i) {
        const double t = 2 * std::numbers::pi * (i + 0.37) / rays;  // away from the pixel axes
        const double ex = g.width / 2 * std::cos(t);
        const double ey = g.height / 2 * std::sin(t);
        const double r = std::hypot(ex, ey);
        const double dx = (c * ex - s * ey) / r;
        const double dy = (s * ex + c * ey) / r;
        const auto e = edgeOnProfile(grey, g.centre, dx, dy, std::max(r + inner, 0.3), r + outer, g.bright ? -1 : 1, r,
                                     std::max(2.0, 0.12 * r));
        if (e) out.push_back({g.centre.x + e->s * dx, g.centre.y + e->s * dy, std::abs(e->slope), e->blur2});
    }
    return out;
}

double unblurredRadius(double r, double blur2) {
    if (!(blur2 > 0) || !(r > 0)) return r;
    double radius = r + blur2 / (2 * r);
    for (int round = 0; round < 20; ++round) {
        const double x = r * radius / blur2;
        // Far out I0/I1 - 1/x is 1 - 1/(2x) + 3/(8x²); nearer in the functions themselves.
        const double ratio =
            x > 300 ? 1 - 0.5 / x + 0.375 / (x * x) : std::cyl_bessel_i(0.0, x) / std::cyl_bessel_i(1.0, x) - 1 / x;
        if (!(ratio > 0.05)) break;
        const double next = r / ratio;
        if (std::abs(next - radius) < 1e-6) return next;
        radius = next;
    }
    // A disc smaller than its blur has its steepest place at the blur's own: its size is not told by it.
    return std::min(radius, 1.6 * r);
}

double meanBlur2(const std::vector<RimPoint>& points) {
    std::vector<double> b;
    for (const RimPoint& p : points) b.push_back(p.blur2);
    return median(std::move(b));
}

double contrastAcross(const Grey& grey, const std::vector<RimPoint>& points, PixelPoint centre, double blur) {
    std::vector<double> steps;
    const double away = 1.5 + 1.5 * blur;
    for (const RimPoint& p : points) {
        const double d = std::max(std::hypot(p.x - centre.x, p.y - centre.y), 1e-9);
        const double dx = (p.x - centre.x) / d;
        const double dy = (p.y - centre.y) / d;
        const double in = std::min(away, d);
        steps.push_back(grey.sample(p.x - in * dx, p.y - in * dy) - grey.sample(p.x + away * dx, p.y + away * dy));
    }
    return median(std::move(steps));
}

double unevennessOf(const Grey& grey, const std::vector<RimPoint>& points, PixelPoint centre, double blur,
                    double contrast) {
    if (points.size() < 6 || std::abs(contrast) < 1) return 0;
    double worst = 0;
    for (const double side : {-1.0, 1.0}) {
        const double away = side * (1.2 + 1.2 * blur);
        double re = 0, im = 0;
        for (const RimPoint& p : points) {
            const double d = std::max(std::hypot(p.x - centre.x, p.y - centre.y), 1e-9);
            const double dx = (p.x - centre.x) / d, dy = (p.y - centre.y) / d;
            const double v = grey.sample(p.x + away * dx, p.y + away * dy);
            re += v * dx;
            im += v * dy;
        }
        worst = std::max(worst, 2 * std::hypot(re, im) / static_cast<double>(points.size()));
    }
    return worst / std::abs(contrast);
}

double shadingOf(const std::vector<RimPoint>& points, PixelPoint centre) {
    double re = 0, im = 0, sum = 0;
    for (const RimPoint& p : points) {
        const double d = std::max(std::hypot(p.x - centre.x, p.y - centre.y), 1e-9);
        re += p.slope * (p.x - centre.x) / d;
        im += p.slope * (p.y - centre.y) / d;
        sum += p.slope;
    }
    return sum > 0 ? std::hypot(re, im) / sum : 0.0;
}

}  // namespace punch
