#include "core/picture/rim.h"

#include <Eigen/Cholesky>
#include <Eigen/LU>
#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/picture/component_tree.h"
#include "core/picture/profile.h"

namespace punch {

namespace {

constexpr double kDegrees = 180 / std::numbers::pi;
constexpr double kNoiseLength = 3.0;  // pixels along a rim from which edge points err independently
constexpr double kShading = 6.0;      // pixels², by the radius: what slopes that differ by their mean pull an edge off
constexpr double kGlossAbove = 1.5;   // scatters above the shade inside, from which a level is gloss
constexpr double kFarPoint = 1.5;     // pixels
constexpr double kLeastScale = 0.04;  // pixels, so that Tukey's weights do not chase rounding

struct Point2 {
    double x, y;
    double slope, blur2;
};

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

int raysFor(double radius) { return std::clamp(static_cast<int>(2 * std::numbers::pi * radius / 1.5), 32, 96); }

/// Edge points on rays from the centre of an ellipse, searched between `inner` and `outer` times its radius.
std::vector<Point2> castRays(const Grey& grey, const RimGuess& g, double inner, double outer, int rays) {
    std::vector<Point2> out;
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

struct RoundFit {
    PixelPoint centre;
    double r = 0;
    double scatter = 0;
    double spread = 0;  // r.m.s. of all points, also of those that hardly count; far ones held at kFarPoint
    double used = 0;    // sum of weights
    double good = 0;    // points within 3 scatters
};

std::optional<RoundFit> fitCircle(const std::vector<Point2>& points, PixelPoint start, double r) {
    if (points.size() < 6) return {};
    Eigen::Vector3d p(start.x, start.y, r);
    double scale = 0;
    for (int round = 0; round < 12; ++round) {
        std::vector<double> residuals;
        for (const Point2& e : points) residuals.push_back(std::hypot(e.x - p[0], e.y - p[1]) - p[2]);
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
        const Eigen::Vector3d step = n.ldlt().solve(b);
        if (!step.allFinite()) return {};
        p += step;
        if (round > 3 && step.norm() < 1e-5) break;
    }
    if (p[2] <= 0.3) return {};
    RoundFit fit{{p[0], p[1]}, p[2], 0, 0, 0, 0};
    double sum = 0, all = 0;
    for (const Point2& e : points) {
        const double v = std::hypot(e.x - p[0], e.y - p[1]) - p[2];
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

double meanBlur2(const std::vector<Point2>& points) {
    std::vector<double> b;
    for (const Point2& p : points) b.push_back(p.blur2);
    return median(std::move(b));
}

/// Grey levels inside less outside, just beyond the blur on both sides.
double contrastAcross(const Grey& grey, const std::vector<Point2>& points, PixelPoint centre, double blur) {
    std::vector<double> steps;
    const double away = 1.5 + 1.5 * blur;
    for (const Point2& p : points) {
        const double d = std::max(std::hypot(p.x - centre.x, p.y - centre.y), 1e-9);
        const double dx = (p.x - centre.x) / d;
        const double dy = (p.y - centre.y) / d;
        const double in = std::min(away, d);
        steps.push_back(grey.sample(p.x - in * dx, p.y - in * dy) - grey.sample(p.x + away * dx, p.y + away * dy));
    }
    return median(std::move(steps));
}

double uOfCentre(double scatter, double perimeter, double used, double shading) {
    const double independent = std::min(used, perimeter / kNoiseLength);
    const double noise = scatter * std::sqrt(2.0 / std::max(independent, 2.0));
    return std::max(std::hypot(noise, kShading / std::max(perimeter / 6.28, 2.0) * shading), kLeastPickU);
}

/// How much steeper the edge is on one side than on the other, by its mean: shading and gloss, which pull the edge and
/// with it the centre, unseen by the scatter about the fit.
double shadingOf(const std::vector<Point2>& points, PixelPoint centre) {
    double re = 0, im = 0, sum = 0;
    for (const Point2& p : points) {
        const double d = std::max(std::hypot(p.x - centre.x, p.y - centre.y), 1e-9);
        re += p.slope * (p.x - centre.x) / d;
        im += p.slope * (p.y - centre.y) / d;
        sum += p.slope;
    }
    return sum > 0 ? std::hypot(re, im) / sum : 0.0;
}

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
        const Eigen::Matrix<double, 5, 1> step = n.ldlt().solve(b);
        if (!step.allFinite() || std::abs(step[4]) > 1.0) return {};
        s.cx += step[0];
        s.cy += step[1];
        s.w += step[2];
        s.h += step[3];
        s.turn += step[4];
        if (s.w <= 0.5 || s.h <= 0.5) return {};
        if (round > 3 && step.norm() < 1e-5) break;
    }
    SidesFit fit{s, 0, 0, 0, 0, n.inverse()};
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

/// Direction of a corner of a square outline about the circle's centre, degrees: the phase of its fourth harmonic.
double cornerDirection(const std::vector<Point2>& points, const RoundFit& fit) {
    double re = 0, im = 0;
    for (const Point2& p : points) {
        const double a = std::atan2(p.y - fit.centre.y, p.x - fit.centre.x);
        const double r = std::hypot(p.y - fit.centre.y, p.x - fit.centre.x) - fit.r;
        re += r * std::cos(4 * a);
        im += r * std::sin(4 * a);
    }
    return std::atan2(im, re) / 4 * kDegrees;
}

/// Area inside edge points that go around.
double areaOf(const std::vector<Point2>& points) {
    double twice = 0;
    for (std::size_t i = 0; i < points.size(); ++i) {
        const Point2& a = points[i];
        const Point2& b = points[(i + 1) % points.size()];
        twice += a.x * b.y - b.x * a.y;
    }
    return std::abs(twice) / 2;
}

}  // namespace

std::optional<Rim> fitRound(const Grey& grey, const RimGuess& guess) {
    RimGuess g = guess;
    g.turn = 0;
    const double r0 = std::sqrt(guess.width * guess.height) / 2;
    g.width = g.height = 2 * r0;
    double reach = std::max(2.5, 0.35 * r0);
    std::optional<RoundFit> fit;
    std::vector<Point2> points;
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
    rim.width = rim.height = 2 * (fit->r + (blur2 + 1.18) / (2 * fit->r) * (fit->r > 3 ? 1.0 : fit->r / 3));
    rim.u = uOfCentre(fit->spread, 2 * std::numbers::pi * fit->r, fit->used, shadingOf(points, fit->centre));
    rim.uSize = std::hypot(rim.u * std::numbers::sqrt2, 0.04 * std::sqrt(blur2 + 1.18));
    rim.contrast = contrastAcross(grey, points, fit->centre, rim.blur);
    if (rim.found < 0.5) return {};
    return rim;
}

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
    std::vector<Point2> plain;
    for (const SidePoint& p : points) plain.push_back({p.x, p.y, p.slope, p.blur2});
    rim.blur = std::sqrt(meanBlur2(plain));
    // Points 1.5 pixels apart share noise.
    const double share = std::sqrt(kNoiseLength / 1.5);
    const auto u = [&](int i) { return fit->spread * share * std::sqrt(std::max(fit->cofactors(i, i), 0.0)); };
    rim.u = std::max(
        std::hypot(std::max(u(0), u(1)), kShading / std::max((s.w + s.h) / 4, 2.0) * shadingOf(plain, rim.centre)),
        kLeastPickU);
    rim.uSize = std::max(std::max(u(2), u(3)), kLeastPickU);
    rim.uTurn = u(4) * kDegrees;
    rim.contrast = contrastAcross(grey, plain, rim.centre, rim.blur);
    normalise(rim);
    if (rim.found < 0.5) return {};
    return rim;
}

namespace {

/// The guess's surroundings with its gloss taken off: gloss draws edges of its own, which pull the rim when they are
/// near.
struct Window {
    Grey grey;
    int left = 0, top = 0;
};

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
        const Eigen::Vector3d step = n.ldlt().solve(b);
        if (!step.allFinite()) break;
        shade.level += step[0];
        shade.byX += step[1];
        shade.byY += step[2];
    }
    return shade;
}

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
            if (std::hypot(u, t) <= 0.5) inside.push_back({dx, dy, sign * v});
        }
    if (inside.size() < 9) return w;
    const Shade shade = shadeOf(std::move(inside));
    std::uint8_t* v = w.grey.data.data();
    for (int y = w.top; y < bottom; ++y)
        for (int x = w.left; x < right; ++x, ++v) {
            // Beyond the feature the plane goes on only a little: it was not seen there.
            const double dx = std::clamp(x - g.centre.x, -0.6 * g.width, 0.6 * g.width);
            const double dy = std::clamp(y - g.centre.y, -0.6 * g.width, 0.6 * g.width);
            const double cap = sign * (shade.at(dx, dy) + kGlossAbove * shade.scatter);
            const double cut = g.bright ? std::min<double>(*v, cap) : std::max<double>(*v, cap);
            *v = static_cast<std::uint8_t>(std::clamp(std::lround(cut), 0L, 255L));
        }
    return w;
}

std::optional<Rim> fitRimIn(const Grey& grey, const RimGuess& guess);

}  // namespace

std::optional<Rim> fitRim(const Grey& grey, const RimGuess& guess) {
    if (grey.width < 3 || grey.height < 3 || !(guess.width > 0) || !(guess.height > 0)) return {};
    const Window w = withoutGloss(grey, guess);
    RimGuess g = guess;
    g.centre = {guess.centre.x - w.left, guess.centre.y - w.top};
    auto rim = fitRimIn(w.grey, g);
    if (rim) rim->centre = {rim->centre.x + w.left, rim->centre.y + w.top};
    return rim;
}

namespace {

std::optional<Rim> fitRimIn(const Grey& grey, const RimGuess& guess) {
    const double aspect = std::max(guess.width, guess.height) / std::max(std::min(guess.width, guess.height), 0.1);
    const auto circle = aspect < 1.35 ? fitRound(grey, guess) : std::nullopt;
    std::vector<RimGuess> starts;
    if (aspect >= 1.15) starts.push_back(guess);
    if (circle && aspect < 1.35) {
        RimGuess g = guess;
        const double side = circle->width * 0.92;
        g.centre = circle->centre;
        g.width = g.height = side;
        const RimGuess round{circle->centre, circle->width, circle->width, 0, guess.bright};
        const auto points = castRays(grey, round, -0.3 * circle->width / 2, 0.3 * circle->width / 2 + 1, 64);
        g.turn = cornerDirection(points, {circle->centre, circle->width / 2, 0, 0, 0, 0}) + 45;
        starts.push_back(g);
    }
    std::optional<Rim> best;
    for (const RimGuess& g : starts) {
        const auto r = fitRectangle(grey, g);
        if (r && (!best || r->scatter / r->found < best->scatter / best->found)) best = r;
    }
    if (!best) return circle;
    if (circle && circle->scatter < 0.6 * best->scatter) return circle;
    if (circle && best->scatter < 0.3 * circle->scatter && best->found > circle->found &&
        best->height > 0.9 * best->width)
        return best;
    // How full the rectangle is says what the outline is: pi/4 of a circle in its square, all of a rectangle.
    const RimGuess around{best->centre, best->width, best->height, best->turn, guess.bright};
    const double reach = std::max(2.5, 0.45 * best->height / 2 + 1);
    const auto points = castRays(grey, around, -std::min(reach, 0.3 * best->height), reach, 72);
    const double ratio = best->height / best->width;
    const double stadium = 1 - (1 - std::numbers::pi / 4) * ratio;
    const double full = areaOf(points) / (best->width * best->height);
    if (full > (1 + stadium) / 2 || points.size() < 36) {
        if (circle && points.size() < 36) return circle;
        return best;
    }
    if (circle && ratio > 0.9) return circle;
    if (ratio <= 0.9) best->shape = RimShape::Oval;
    return best;
}

}  // namespace

std::optional<Rim> rimAround(const Grey& grey, PixelPoint inside, double reach) {
    const int half = static_cast<int>(std::ceil(reach));
    const int left = std::max(0, static_cast<int>(inside.x) - half);
    const int top = std::max(0, static_cast<int>(inside.y) - half);
    const int right = std::min(grey.width, static_cast<int>(inside.x) + half + 1);
    const int bottom = std::min(grey.height, static_cast<int>(inside.y) + half + 1);
    if (right - left < 5 || bottom - top < 5) return {};
    Grey window{right - left, bottom - top, {}};
    window.data.reserve(static_cast<std::size_t>(window.width) * window.height);
    for (int y = top; y < bottom; ++y)
        for (int x = left; x < right; ++x) window.data.push_back(grey.at(x, y));
    const int factor = std::max(1, window.width / 160);
    const Grey small = reduced(window, factor);
    BlobSearch search;
    search.leastArea = 9;
    search.mostArea = 0.8 * small.width * small.height;
    std::optional<Rim> best;
    double most = 0;
    for (const bool bright : {true, false}) {
        for (const Blob& b : findBlobs(small, bright, search)) {
            const RimGuess g{{(b.x + 0.5) * factor - 0.5 + left, (b.y + 0.5) * factor - 0.5 + top},
                             2 * b.major() * factor,
                             2 * b.minor() * factor,
                             b.turn(),
                             bright};
            const double c = std::cos(g.turn / kDegrees);
            const double s = std::sin(g.turn / kDegrees);
            const double dx = inside.x - g.centre.x;
            const double dy = inside.y - g.centre.y;
            if (std::hypot((c * dx + s * dy) / (g.width / 2), (-s * dx + c * dy) / (g.height / 2)) > 1.2) continue;
            const auto rim = fitRim(grey, g);
            if (!rim) continue;
            const double strength = std::abs(rim->contrast) * rim->found / (1 + rim->scatter);
            if (strength > most) {
                most = strength;
                best = rim;
            }
        }
    }
    return most > 6 ? best : std::nullopt;
}

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
    Eigen::FullPivLU<Eigen::Matrix3d> lu(n);
    lu.setThreshold(1e-10);
    if (!lu.isInvertible()) return {};
    const Eigen::Vector3d a = lu.solve(b);
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
        const Eigen::Vector3d step = n.ldlt().solve(b);
        if (!step.allFinite()) return {};
        p += step;
        if (step.norm() < 1e-9) break;
    }
    if (!p.allFinite() || p[2] > 1e6) return {};
    Circle c{{mean.x + p[0], mean.y + p[1]}, p[2], 0};
    double sum = 0;
    for (const PixelPoint& q : points) {
        const double v = std::hypot(q.x - c.centre.x, q.y - c.centre.y) - c.radius;
        sum += v * v;
    }
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
            const Eigen::Vector2d step = normal.ldlt().solve(right);
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
