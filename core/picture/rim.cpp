#include "core/picture/rim.h"

#include <algorithm>
#include <cmath>

#include "core/picture/component_tree.h"
#include "core/picture/gloss.h"
#include "core/picture/rim_points.h"

namespace punch {

namespace {

/// Direction of a corner of a square outline about the circle's centre, degrees: the phase of its fourth harmonic.
double cornerDirection(const std::vector<RimPoint>& points, PixelPoint centre, double radius) {
    double re = 0, im = 0;
    for (const RimPoint& p : points) {
        const double a = std::atan2(p.y - centre.y, p.x - centre.x);
        const double r = std::hypot(p.y - centre.y, p.x - centre.x) - radius;
        re += r * std::cos(4 * a);
        im += r * std::sin(4 * a);
    }
    return std::atan2(im, re) / 4 * kDegrees;
}

/// Area inside edge points that go around.
double areaOf(const std::vector<RimPoint>& points) {
    double twice = 0;
    for (std::size_t i = 0; i < points.size(); ++i) {
        const RimPoint& a = points[i];
        const RimPoint& b = points[(i + 1) % points.size()];
        twice += a.x * b.y - b.x * a.y;
    }
    return std::abs(twice) / 2;
}

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
        g.turn = cornerDirection(points, circle->centre, circle->width / 2) + 45;
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

/// Pixels that gloss may still shift a rim by, of which as much was taken off as the rim has contrast. From scenes with
/// known truth (tests/core/finding_test.cpp).
constexpr double kGlossU = 0.5;

std::optional<Rim> fitRim(const Grey& grey, const RimGuess& guess) {
    if (grey.width < 3 || grey.height < 3 || !(guess.width > 0) || !(guess.height > 0)) return {};
    const Window w = withoutGloss(grey, guess);
    RimGuess g = guess;
    g.centre = {guess.centre.x - w.left, guess.centre.y - w.top};
    auto rim = fitRimIn(w.grey, g);
    if (rim) {
        rim->gloss = w.taken / std::max(std::abs(rim->contrast), 1.0);
        rim->u = std::hypot(rim->u, kGlossU * std::min(rim->gloss, 1.0));
    }
    if (rim) rim->centre = {rim->centre.x + w.left, rim->centre.y + w.top};
    return rim;
}

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

}  // namespace punch
