// Rectangles: four sides at right angles.

#include <algorithm>
#include <array>
#include <cmath>

#include "core/linear/decompositions.h"
#include "core/picture/profile.h"
#include "core/picture/rim_points.h"

namespace punch {

namespace {

/// Profiles across the four sides of a rectangle: side 0 and 1 at +width/2 and -width/2, 2 and 3 at ±height/2.
struct SidePoint {
    double x, y;
    int side;
    double slope, blur2;
};

struct Sides {
    double cx, cy, w, h, turn;  // turn in radians
    double ux(int side) const { return side < 2 ? std::cos(turn) : -std::sin(turn); }
    double uy(int side) const { return side < 2 ? std::sin(turn) : std::cos(turn); }
    double distance(const SidePoint& p) const {
        const double sign = p.side % 2 == 0 ? 1 : -1;
        const double half = p.side < 2 ? w / 2 : h / 2;
        return sign * ((p.x - cx) * ux(p.side) + (p.y - cy) * uy(p.side)) - half;
    }
};

std::vector<SidePoint> castSides(const Grey& grey, const Sides& s, bool bright, double reach, int& tried) {
    std::vector<SidePoint> out;
    tried = 0;
    for (int side = 0; side < 4; ++side) {
        const double sign = side % 2 == 0 ? 1 : -1;
        const double nx = sign * s.ux(side);
        const double ny = sign * s.uy(side);
        const double half = side < 2 ? s.w / 2 : s.h / 2;
        const double along = side < 2 ? s.h / 2 : s.w / 2;
        // Away from the corners, which are round in a blurred picture.
        const double span = std::max(along - std::max(2.0, 0.2 * along), 0.3 * along);
        const int n = std::clamp(static_cast<int>(2 * span / 1.5) + 1, 5, 40);
        for (int i = 0; i < n; ++i) {
            const double t = span * (2.0 * i / (n - 1) - 1);
            const PixelPoint from{s.cx + half * nx - t * ny, s.cy + half * ny + t * nx};
            const double inwards = std::min(reach, 0.8 * half);
            ++tried;
            const auto e =
                edgeOnProfile(grey, from, nx, ny, -inwards, reach, bright ? -1 : 1, 0, std::max(2.0, 0.12 * half));
            if (e) out.push_back({from.x + e->s * nx, from.y + e->s * ny, side, std::abs(e->slope), e->blur2});
        }
    }
    return out;
}

struct SidesFit {
    Sides sides;
    double scatter = 0, spread = 0, used = 0, good = 0;
    Eigen::Matrix<double, 5, 5> cofactors;
};

std::optional<SidesFit> fitSides(const std::vector<SidePoint>& points, Sides s) {
    if (points.size() < 8) return {};
    double scale = 0;
    Eigen::Matrix<double, 5, 5> n;
    for (int round = 0; round < 12; ++round) {
        std::vector<double> residuals;
        for (const SidePoint& p : points) residuals.push_back(s.distance(p));
        scale = robustScale(residuals);
        n.setZero();
        Eigen::Matrix<double, 5, 1> b = Eigen::Matrix<double, 5, 1>::Zero();
        for (std::size_t i = 0; i < points.size(); ++i) {
            const SidePoint& p = points[i];
            const double sign = p.side % 2 == 0 ? 1 : -1;
            const double dx = p.x - s.cx;
            const double dy = p.y - s.cy;
            const double byTurn = p.side < 2 ? -dx * std::sin(s.turn) + dy * std::cos(s.turn)
                                             : -dx * std::cos(s.turn) - dy * std::sin(s.turn);
            Eigen::Matrix<double, 5, 1> row;  // of minus the residual
            row << sign * s.ux(p.side), sign * s.uy(p.side), p.side < 2 ? 0.5 : 0.0, p.side < 2 ? 0.0 : 0.5,
                -sign * byTurn;
            const double w = round < 2 ? 1.0 : tukey(residuals[i], scale);
            n += w * row * row.transpose();
            b += w * residuals[i] * row;
        }
        const Eigen::Matrix<double, 5, 1> step = linear::solved(n, b);
        if (!step.allFinite() || std::abs(step[4]) > 1.0) return {};
        s.cx += step[0];
        s.cy += step[1];
        s.w += step[2];
        s.h += step[3];
        s.turn += step[4];
        if (s.w <= 0.5 || s.h <= 0.5) return {};
        if (round > 3 && step.norm() < 1e-5) break;
    }
    SidesFit fit{s, 0, 0, 0, 0, linear::inverse(n)};
    double sum = 0, all = 0;
    std::array<double, 4> ofSide{};
    for (const SidePoint& p : points) {
        const double v = s.distance(p);
        const double w = tukey(v, scale);
        sum += w * v * v;
        all += std::min(v * v, kFarPoint * kFarPoint);
        fit.used += w;
        ofSide[static_cast<std::size_t>(p.side)] += w;
        if (std::abs(v) < std::max(3 * scale, 0.5)) fit.good += 1;
    }
    if (fit.used < 7 || *std::min_element(ofSide.begin(), ofSide.end()) < 1.5) return {};
    fit.scatter = std::sqrt(sum / std::max(fit.used - 5, 1.0));
    fit.spread = std::sqrt(all / static_cast<double>(points.size() - 5));
    return fit;
}

/// Width the longer side, turn in (-90, 90].
void normalise(Rim& rim) {
    if (rim.height > rim.width) {
        std::swap(rim.width, rim.height);
        rim.turn += 90;
    }
    rim.turn = std::remainder(rim.turn, 180.0);
    if (rim.turn <= -90) rim.turn += 180;
}

}  // namespace

std::optional<Rim> fitRectangle(const Grey& grey, const RimGuess& guess) {
    Sides s{guess.centre.x, guess.centre.y, guess.width, guess.height, guess.turn / kDegrees};
    double reach = std::max(2.5, 0.3 * std::min(guess.width, guess.height));
    std::optional<SidesFit> fit;
    std::vector<SidePoint> points;
    int tried = 1;
    for (int pass = 0; pass < 3; ++pass) {
        points = castSides(grey, s, guess.bright, reach, tried);
        fit = fitSides(points, s);
        if (!fit || std::hypot(fit->sides.cx - guess.centre.x, fit->sides.cy - guess.centre.y) > guess.width / 2 + 2 ||
            fit->sides.w > 2 * guess.width + 3 || fit->sides.h > 2 * guess.height + 3)
            return {};
        s = fit->sides;
        reach = std::clamp(0.15 * std::min(s.w, s.h), 2.0, 4.0);
    }
    Rim rim;
    rim.shape = RimShape::Rectangular;
    rim.centre = {s.cx, s.cy};
    rim.width = s.w;
    rim.height = s.h;
    rim.turn = s.turn * kDegrees;
    rim.found = fit->good / tried;
    rim.scatter = fit->scatter;
    std::vector<RimPoint> plain;
    for (const SidePoint& p : points) plain.push_back({p.x, p.y, p.slope, p.blur2});
    rim.blur = std::sqrt(meanBlur2(plain));
    // Points 1.5 pixels apart share noise.
    const double share = std::sqrt(noiseLength((s.w + s.h) / 4) / 1.5);
    const auto u = [&](int i) { return fit->spread * share * std::sqrt(std::max(fit->cofactors(i, i), 0.0)); };
    rim.u = std::max(
        std::hypot(std::max(u(0), u(1)), kShading / std::max((s.w + s.h) / 4, 2.0) * shadingOf(plain, rim.centre)),
        kLeastPickU);
    rim.uSize = std::max(std::max(u(2), u(3)), kLeastPickU);
    rim.uTurn = u(4) * kDegrees;
    rim.contrast = contrastAcross(grey, plain, rim.centre, rim.blur);
    rim.u = std::hypot(rim.u, kUneven * std::sqrt(rim.blur * rim.blur + kOwnBlur2) *
                                  unevennessOf(grey, plain, rim.centre, rim.blur, rim.contrast));
    normalise(rim);
    if (rim.found < 0.5) return {};
    return rim;
}

}  // namespace punch
