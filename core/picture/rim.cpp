#include "core/picture/rim.h"

#include <algorithm>
#include <array>
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
constexpr double kGlossU = 0.8;

namespace {

constexpr double kUsualTone = 2.2;   // of what scanners and cameras write without saying so
constexpr double kRimOffset = 0.22;  // of the width over which a rim rises, 95 %
constexpr double kInLight = 0.11;    // the same where the tone curve is known: focus and gloss are left
constexpr double kRise = 2.563;      // from a tenth to nine tenths of a Gaussian edge, in its standard deviations

/// Levels of a window as light, spread over the range that it has.
Grey asLight(const Grey& coded, double tone) {
    Grey out = coded;
    const auto [low, high] = std::minmax_element(coded.data.begin(), coded.data.end());
    const double dark = std::pow(*low / 255.0, tone), bright = std::pow(*high / 255.0, tone);
    std::array<std::uint8_t, 256> to{};
    for (std::size_t i = 0; i < 256; ++i)
        to[i] = static_cast<std::uint8_t>(std::clamp(
            std::lround(255 * (std::pow(static_cast<double>(i) / 255.0, tone) - dark) / std::max(bright - dark, 1e-9)),
            0L, 255L));
    for (std::uint8_t& v : out.data) v = to[v];
    return out;
}

/// The same rim in light: it moves, and its size changes.
std::optional<Rim> inLight(const Grey& window, const Rim& coded, double tone, bool bright) {
    const Grey light = asLight(window, tone);
    const RimGuess g{coded.centre, coded.width, coded.height, coded.turn, bright};
    auto rim = coded.shape == RimShape::Round ? fitRound(light, g) : fitRectangle(light, g);
    // What moved by more than the blur is another edge.
    const double most = 3 + 3 * coded.blur;
    if (!rim || std::abs(rim->width - coded.width) > most || std::abs(rim->height - coded.height) > most ||
        std::hypot(rim->centre.x - coded.centre.x, rim->centre.y - coded.centre.y) > most / 2)
        return {};
    return rim;
}

/// Sizes for what the tone curve does, and how far the rim may still be off.
void accountIn(const Grey& window, Rim& rim, double tone, bool bright) {
    rim.offset = (tone > 0 ? kInLight : kRimOffset) * kRise * rim.blur;
    if (tone == 1) return;
    const auto light = inLight(window, rim, tone > 0 ? tone : kUsualTone, bright);
    if (!light) {
        rim.offset *= 2;
        return;
    }
    const double share = tone > 0 ? 1.0 : 0.5;
    const double byWidth = light->width - rim.width, byHeight = light->height - rim.height;
    rim.width += share * byWidth;
    rim.height += share * byHeight;
    rim.centre = {rim.centre.x + share * (light->centre.x - rim.centre.x),
                  rim.centre.y + share * (light->centre.y - rim.centre.y)};
    // Not named: either could be so, and somewhat more.
    if (tone <= 0) rim.offset = std::max(rim.offset, 1.1 * 0.5 * std::max(std::abs(byWidth), std::abs(byHeight)) / 2);
    if (rim.shape != RimShape::Round && rim.height > rim.width) rim.height = rim.width;
}

}  // namespace

void accountForTone(const Grey& grey, Rim& rim, bool bright) {
    const Window w = withoutGloss(grey, {rim.centre, rim.width, rim.height, rim.turn, bright});
    rim.centre = {rim.centre.x - w.left, rim.centre.y - w.top};
    accountIn(w.grey, rim, grey.tone, bright);
    rim.centre = {rim.centre.x + w.left, rim.centre.y + w.top};
}

std::optional<Rim> fitRim(const Grey& grey, const RimGuess& guess) {
    auto rim = fitRimAsCoded(grey, guess);
    if (rim) accountForTone(grey, *rim, guess.bright);
    return rim;
}

std::optional<Rim> fitRimAsCoded(const Grey& grey, const RimGuess& guess) {
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
    Grey window{right - left, bottom - top, {}, grey.tone};
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
