#include "core/dress/outline_ink.h"

#include <algorithm>
#include <cmath>
#include <numbers>

namespace punch {
namespace {

constexpr double kCorner = 30;  // degrees by which a direction turns at a corner

Shape closedStroke(std::vector<Point> ring, Length width, const std::string& what) {
    ring.push_back(ring.front());
    return inkLine(std::move(ring), width, what);
}

}  // namespace

std::vector<Shape> bodyOutline(const BodyBox& body, Length by, Length width, const std::string& what) {
    if (!body.traced()) {
        const Rect r = body.rect.grown(by);
        return {
            closedStroke({{r.left, r.bottom}, {r.right, r.bottom}, {r.right, r.top}, {r.left, r.top}}, width, what)};
    }
    std::vector<Shape> strokes;
    for (const auto& ring : grownSharp(united(body.shape.area()), by))
        strokes.push_back(closedStroke(ring, width, what));
    return strokes;
}

std::vector<Shape> cornersOf(const Shape& whole, Length length) {
    const std::vector<Point>& points = whole.points();
    const std::size_t n = points.size() - 1;  // the last is the first again
    std::vector<double> at(n + 1, 0.0);       // along it, nm
    for (std::size_t i = 0; i < n; ++i) at[i + 1] = at[i] + distance(points[i], points[i + 1]).nm();
    const double around = at[n];
    std::vector<double> corners;
    for (std::size_t i = 0; i < n; ++i) {
        const Point a = points[(i + n - 1) % n], b = points[i], c = points[i + 1];
        const double in = std::atan2((b.y - a.y).nm(), (b.x - a.x).nm());
        const double on = std::atan2((c.y - b.y).nm(), (c.x - b.x).nm());
        if (std::abs(std::remainder(on - in, 2 * std::numbers::pi)) > kCorner * std::numbers::pi / 180)
            corners.push_back(at[i]);
    }
    if (corners.empty()) return {whole};
    // Stretches around corners, joined where they overlap; the first may begin before the start.
    std::vector<std::pair<double, double>> stretches;
    for (const double c : corners) {
        if (!stretches.empty() && c - length.nm() <= stretches.back().second)
            stretches.back().second = c + length.nm();
        else
            stretches.emplace_back(c - length.nm(), c + length.nm());
    }
    if (stretches.size() > 1 && stretches.front().first + around <= stretches.back().second) {
        stretches.front().first = stretches.back().first - around;
        stretches.pop_back();
    }
    if (stretches.size() == 1 && stretches.front().second - stretches.front().first >= around) return {whole};
    const auto pointAt = [&](double s) {
        s -= around * std::floor(s / around);
        const auto next = static_cast<std::size_t>(std::upper_bound(at.begin(), at.end(), s) - at.begin());
        const std::size_t i = std::min(next == 0 ? 0 : next - 1, n - 1);
        const double share = at[i + 1] > at[i] ? (s - at[i]) / (at[i + 1] - at[i]) : 0;
        const Point a = points[i], b = points[i + 1];
        return Point{a.x + share * (b.x - a.x), a.y + share * (b.y - a.y)};
    };
    std::vector<Shape> strokes;
    for (const auto& [from, to] : stretches) {
        std::vector<Point> line = {pointAt(from)};
        for (const double shift : {-around, 0.0, around})
            for (std::size_t i = 0; i < n; ++i)
                if (at[i] + shift > from + 1 && at[i] + shift < to - 1) line.push_back(points[i]);
        line.push_back(pointAt(to));
        strokes.push_back(whole);
        strokes.back().form = Line{std::move(line), whole.line()->width};
    }
    return strokes;
}

}  // namespace punch
