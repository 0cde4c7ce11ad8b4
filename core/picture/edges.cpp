// Circles through given points, straight edges and their corners.

#include <algorithm>
#include <array>
#include <cmath>

#include "core/linear/decompositions.h"
#include "core/picture/profile.h"
#include "core/picture/rim_points.h"

namespace punch {

std::optional<Circle> circleThrough(const std::vector<PixelPoint>& points) {
    if (points.size() < 3) return {};
    // x² + y² = 2 a x + 2 b y + c about the points' middle, then a few rounds on the distances themselves.
    PixelPoint mean;
    for (const PixelPoint& p : points) {
        mean.x += p.x / static_cast<double>(points.size());
        mean.y += p.y / static_cast<double>(points.size());
    }
    Eigen::Matrix3d n = Eigen::Matrix3d::Zero();
    Eigen::Vector3d b = Eigen::Vector3d::Zero();
    for (const PixelPoint& p : points) {
        const Eigen::Vector3d row(2 * (p.x - mean.x), 2 * (p.y - mean.y), 1);
        n += row * row.transpose();
        b += row * ((p.x - mean.x) * (p.x - mean.x) + (p.y - mean.y) * (p.y - mean.y));
    }
    const auto begun = linear::solvedFirmly(n, b, 1e-10);
    if (!begun) return {};
    const Eigen::Vector3d a = *begun;
    Eigen::Vector3d p(a[0], a[1], std::sqrt(std::max(a[2] + a[0] * a[0] + a[1] * a[1], 0.0)));
    for (int round = 0; round < 20; ++round) {
        n.setZero();
        b.setZero();
        for (const PixelPoint& q : points) {
            const double dx = q.x - mean.x - p[0];
            const double dy = q.y - mean.y - p[1];
            const double d = std::max(std::hypot(dx, dy), 1e-9);
            const Eigen::Vector3d row(dx / d, dy / d, 1);
            n += row * row.transpose();
            b += row * (d - p[2]);
        }
        const Eigen::Vector3d step = linear::solved(n, b);
        if (!step.allFinite()) return {};
        p += step;
        if (step.norm() < 1e-9) break;
    }
    if (!p.allFinite() || p[2] > 1e6) return {};
    Circle c{{mean.x + p[0], mean.y + p[1]}, p[2], 0, 0, 0};
    double sum = 0;
    for (const PixelPoint& q : points) {
        const double v = std::hypot(q.x - c.centre.x, q.y - c.centre.y) - c.radius;
        sum += v * v;
    }
    n.setZero();
    for (const PixelPoint& q : points) {
        const double dx = q.x - c.centre.x, dy = q.y - c.centre.y;
        const double d = std::max(std::hypot(dx, dy), 1e-9);
        const Eigen::Vector3d row(dx / d, dy / d, 1);
        n += row * row.transpose();
    }
    const Eigen::Matrix3d cofactors = linear::inverse(n);
    const double half = (cofactors(0, 0) + cofactors(1, 1)) / 2;
    const double spread = std::hypot((cofactors(0, 0) - cofactors(1, 1)) / 2, cofactors(0, 1));
    c.uCentre = std::sqrt(half + spread);
    c.uRadius = std::sqrt(cofactors(2, 2));
    if (points.size() > 3) c.scatter = std::sqrt(sum / static_cast<double>(points.size() - 3));
    return c;
}

std::optional<Edge> edgeNear(const Grey& grey, PixelPoint a, PixelPoint b, double reach) {
    const double length = std::hypot(b.x - a.x, b.y - a.y);
    if (length < 2) return {};
    double dx = (b.x - a.x) / length;
    double dy = (b.y - a.y) / length;
    const int n = std::clamp(static_cast<int>(length / 1.5), 5, 200);
    int sign = 0;
    for (int pass = 0; pass < 2; ++pass) {
        std::vector<std::array<double, 2>> points;  // along, across
        double slopes = 0;
        for (int i = 0; i < n; ++i) {
            const double t = length * i / (n - 1);
            const auto e = edgeOnProfile(grey, {a.x + t * dx, a.y + t * dy}, -dy, dx, -reach, reach, sign, 0,
                                         std::max(2.0, reach / 2));
            if (!e) continue;
            points.push_back({t, e->s});
            slopes += e->slope;
        }
        if (points.size() < 5) return {};
        // across = c + m along, with Tukey's weights.
        double c = 0, m = 0, scale = 0;
        Eigen::Matrix2d normal;
        for (int round = 0; round < 10; ++round) {
            std::vector<double> residuals;
            for (const auto& p : points) residuals.push_back(p[1] - c - m * p[0]);
            scale = robustScale(residuals);
            normal.setZero();
            Eigen::Vector2d right = Eigen::Vector2d::Zero();
            for (std::size_t i = 0; i < points.size(); ++i) {
                const Eigen::Vector2d row(1, points[i][0]);
                const double w = round < 2 ? 1.0 : tukey(residuals[i], scale);
                normal += w * row * row.transpose();
                right += w * residuals[i] * row;
            }
            const Eigen::Vector2d step = linear::solved(normal, right);
            if (!step.allFinite()) return {};
            c += step[0];
            m += step[1];
        }
        double sum = 0, used = 0, good = 0;
        for (const auto& p : points) {
            const double v = p[1] - c - m * p[0];
            const double w = tukey(v, scale);
            sum += w * v * v;
            used += w;
            if (std::abs(v) < std::max(3 * scale, 0.5)) good += 1;
        }
        if (used < 4) return {};
        const double scatter = std::sqrt(sum / std::max(used - 2, 1.0));
        const PixelPoint from{a.x - c * dy, a.y + c * dx};
        const PixelPoint to{a.x + length * dx - (c + m * length) * dy, a.y + length * dy + (c + m * length) * dx};
        if (pass == 1) {
            if (good / n < 0.5 || std::abs(slopes) / n < 1.0) return {};
            return Edge{from, to, std::max(scatter * std::sqrt(kNoiseLength / 1.5 / used), kLeastPickU), good / n};
        }
        a = from;
        b = to;
        dx = (b.x - a.x) / length;
        dy = (b.y - a.y) / length;
        const double l2 = std::hypot(dx, dy);
        dx /= l2;
        dy /= l2;
        sign = slopes > 0 ? 1 : -1;
        reach = std::min(reach, 4.0);
    }
    return {};
}

std::optional<PixelPoint> corner(const Edge& one, const Edge& other) {
    const double ax = one.b.x - one.a.x, ay = one.b.y - one.a.y;
    const double bx = other.b.x - other.a.x, by = other.b.y - other.a.y;
    const double det = ax * by - ay * bx;
    if (std::abs(det) < 0.05 * std::hypot(ax, ay) * std::hypot(bx, by)) return {};
    const double t = ((other.a.x - one.a.x) * by - (other.a.y - one.a.y) * bx) / det;
    return PixelPoint{one.a.x + t * ax, one.a.y + t * ay};
}

}  // namespace punch
