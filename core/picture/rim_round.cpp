// Circles.

#include <algorithm>
#include <cmath>

#include "core/linear/decompositions.h"
#include "core/picture/profile.h"
#include "core/picture/rim_points.h"

namespace punch {

namespace {

/// Plain, since pixels neither vanish nor overflow: std::hypot takes ten times as long.
double away(double x, double y) { return std::sqrt(x * x + y * y); }

int raysFor(double radius) { return std::clamp(static_cast<int>(2 * std::numbers::pi * radius / 1.5), 32, 96); }

struct RoundFit {
    PixelPoint centre;
    double r = 0;
    double scatter = 0;
    double spread = 0;  // r.m.s. of all points, also of those that hardly count; far ones held at kFarPoint
    double used = 0;    // sum of weights
    double good = 0;    // points within 3 scatters
};

std::optional<RoundFit> fitCircle(const std::vector<RimPoint>& points, PixelPoint start, double r) {
    if (points.size() < 6) return {};
    Eigen::Vector3d p(start.x, start.y, r);
    double scale = 0;
    for (int round = 0; round < 12; ++round) {
        std::vector<double> residuals;
        for (const RimPoint& e : points) residuals.push_back(away(e.x - p[0], e.y - p[1]) - p[2]);
        scale = robustScale(residuals);
        Eigen::Matrix3d n = Eigen::Matrix3d::Zero();
        Eigen::Vector3d b = Eigen::Vector3d::Zero();
        for (std::size_t i = 0; i < points.size(); ++i) {
            const double d = std::max(residuals[i] + p[2], 1e-9);
            const Eigen::Vector3d row((points[i].x - p[0]) / d, (points[i].y - p[1]) / d, 1);
            // In the first rounds everything counts, so that a poor start finds its way.
            const double w = round < 2 ? 1.0 : tukey(residuals[i], scale);
            n += w * row * row.transpose();
            b += w * residuals[i] * row;
        }
        const Eigen::Vector3d step = linear::solved(n, b);
        if (!step.allFinite()) return {};
        p += step;
        if (round > 3 && step.norm() < 1e-5) break;
    }
    if (p[2] <= 0.3) return {};
    RoundFit fit{{p[0], p[1]}, p[2], 0, 0, 0, 0};
    double sum = 0, all = 0;
    for (const RimPoint& e : points) {
        const double v = away(e.x - p[0], e.y - p[1]) - p[2];
        const double w = tukey(v, scale);
        sum += w * v * v;
        all += std::min(v * v, kFarPoint * kFarPoint);
        fit.used += w;
        if (std::abs(v) < std::max(3 * scale, 0.5)) fit.good += 1;
    }
    if (fit.used < 5) return {};
    fit.scatter = std::sqrt(sum / std::max(fit.used - 3, 1.0));
    fit.spread = std::sqrt(all / static_cast<double>(points.size() - 3));
    return fit;
}

double uOfCentre(double scatter, double perimeter, double used, double shading) {
    const double independent = std::min(used, perimeter / noiseLength(perimeter / 6.28));
    const double noise = scatter * std::sqrt(2.0 / std::max(independent, 2.0));
    return std::max(std::hypot(noise, kShading / std::max(perimeter / 6.28, 2.0) * shading), kLeastPickU);
}

}  // namespace

std::optional<Rim> fitRound(const Grey& grey, const RimGuess& guess) {
    RimGuess g = guess;
    g.turn = 0;
    const double r0 = std::sqrt(guess.width * guess.height) / 2;
    g.width = g.height = 2 * r0;
    double reach = std::max(2.5, 0.35 * r0);
    std::optional<RoundFit> fit;
    std::vector<RimPoint> points;
    int rays = 0;
    for (int pass = 0; pass < 3; ++pass) {
        const double r = g.width / 2;
        rays = raysFor(r);
        points = castRays(grey, g, -std::min(reach, 0.7 * r), reach, rays);
        fit = fitCircle(points, g.centre, r);
        if (!fit || fit->r > 2 * r0 + 3 ||
            std::hypot(fit->centre.x - guess.centre.x, fit->centre.y - guess.centre.y) > r0 + 2)
            return {};
        g.centre = fit->centre;
        g.width = g.height = 2 * fit->r;
        reach = std::clamp(0.15 * fit->r, 2.0, 4.0);
    }
    Rim rim;
    rim.centre = fit->centre;
    rim.found = fit->good / rays;
    rim.scatter = fit->scatter;
    const double blur2 = meanBlur2(points);
    rim.blur = std::sqrt(blur2);
    // Smoothing along the profile curves the rim like the picture's own blur does.
    rim.width = rim.height = 2 * unblurredRadius(fit->r, blur2 + kOwnBlur2);
    rim.u = uOfCentre(fit->spread, 2 * std::numbers::pi * fit->r, fit->used, shadingOf(points, fit->centre));
    rim.uSize = std::hypot(rim.u * std::numbers::sqrt2, 0.04 * std::sqrt(blur2 + kOwnBlur2));
    rim.contrast = contrastAcross(grey, points, fit->centre, rim.blur);
    rim.u = std::hypot(rim.u, kUneven * std::sqrt(blur2 + kOwnBlur2) *
                                  unevennessOf(grey, points, fit->centre, rim.blur, rim.contrast));
    if (rim.found < 0.5) return {};
    return rim;
}

}  // namespace punch
