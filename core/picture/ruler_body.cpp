// What a ruler covers: the edges of its body against the ground.

#include <algorithm>
#include <cmath>

#include "core/picture/rim_points.h"
#include "core/picture/ruler_marks.h"

namespace punch {

namespace {

constexpr double kStepLevels = 10;    // grey levels that an edge of the body shows
constexpr double kAlong = 0.75;       // share of the places along an edge that show it
constexpr double kNumbers = 4.5;      // mm beyond the longest mark that numbers take
constexpr double kToPictureEnd = 16;  // mm from the marks
constexpr double kFarthest = 45;      // mm, how wide a ruler may be

struct Frame {
    const Grey& grey;
    PixelPoint first, along, across;
    double at(double s, double t) const {
        return grey.sample(first.x + s * along.x + t * across.x, first.y + s * along.y + t * across.y);
    }
    bool inside(double s, double t) const {
        const double x = first.x + s * along.x + t * across.x, y = first.y + s * along.y + t * across.y;
        return x >= 0 && y >= 0 && x <= grey.width - 1 && y <= grey.height - 1;
    }
};

/// Where, going from `from` to `to`, most of the lines see the surface end and something else begin; none: nowhere.
/// `value(i, u)`: level of line i at u; `inside(i, u)`.
template <class Value, class Inside>
std::optional<double> edgeAmong(int lines, double from, double to, double perMm, const std::vector<double>& surface,
                                Value value, Inside inside) {
    const double way = to > from ? 1 : -1;
    const double step = std::max(0.12 * perMm, 0.7);
    for (double u = from; way * (to - u) > 0; u += way * step) {
        int there = 0, out = 0, stays = 0, rises = 0;
        for (int i = 0; i < lines; ++i) {
            if (!inside(i, u)) {
                ++out;
                continue;
            }
            const double before = value(i, u - way * 0.35 * perMm), after = value(i, u + way * 0.35 * perMm);
            const double later = value(i, u + way * 0.9 * perMm);
            if (std::abs(after - before) <= kStepLevels) continue;
            ++there;
            rises += after > before ? 1 : 0;
            stays += std::abs(later - surface[static_cast<std::size_t>(i)]) > 0.7 * kStepLevels ? 1 : 0;
        }
        if (out > (1 - kAlong) * lines) {
            // The picture ends here, and the ruler with it, unless its body ended long before without showing it.
            if (std::abs(u - from) < kToPictureEnd * perMm) return u;
            return {};
        }
        const double oneWay = std::max(rises, there - rises);
        if (oneWay >= kAlong * lines && stays >= kAlong * lines) return u + way * 0.1 * perMm;
    }
    return {};
}

}  // namespace

PixelPoint Ruler::local(PixelPoint p) const {
    const double l = std::hypot(last.x - first.x, last.y - first.y);
    const double dx = (last.x - first.x) / l, dy = (last.y - first.y) / l;
    return {(p.x - first.x) * dx + (p.y - first.y) * dy, (p.x - first.x) * inwards.x + (p.y - first.y) * inwards.y};
}

bool Ruler::covers(PixelPoint p) const {
    const PixelPoint at = local(p);
    return at.x > -bodyBefore && at.x < std::hypot(last.x - first.x, last.y - first.y) + bodyAfter && at.y > -bodyOut &&
           at.y < bodyIn;
}

void findBody(const Grey& grey, Ruler& ruler) {
    const double l = std::hypot(ruler.last.x - ruler.first.x, ruler.last.y - ruler.first.y);
    const double perMm = l / ruler.length(), step = l / ruler.steps;
    const Frame f{
        grey, ruler.first, {(ruler.last.x - ruler.first.x) / l, (ruler.last.y - ruler.first.y) / l}, ruler.inwards};
    // Lines across, between the marks.
    const int lines = std::min(ruler.steps, 60);
    std::vector<double> at, surface;
    for (int i = 0; i < lines; ++i) {
        at.push_back((i * ruler.steps / lines + 0.5) * step);
        std::vector<double> levels;
        for (double t = -0.5 * ruler.edge; t < 0.5 * ruler.tickLength; t += std::max(1.0, 0.1 * ruler.tickLength))
            levels.push_back(f.at(at.back(), t));
        surface.push_back(median(levels));
    }
    const auto value = [&](int i, double t) { return f.at(at[static_cast<std::size_t>(i)], t); };
    const auto inside = [&](int i, double t) { return f.inside(at[static_cast<std::size_t>(i)], t); };
    const double marksEnd = ruler.tickLength - ruler.edge;
    const auto in = edgeAmong(lines, marksEnd + 0.4 * perMm, kFarthest * perMm, perMm, surface, value, inside);
    const auto out =
        edgeAmong(lines, -ruler.edge + 0.2 * perMm, -ruler.edge - 9 * perMm, perMm, surface, value, inside);
    ruler.bodySeen = in.has_value();
    ruler.bodyIn = in ? *in + 0.15 * perMm : marksEnd + kNumbers * perMm;
    ruler.bodyOut = out ? -*out + 0.15 * perMm : ruler.edge + 0.3 * perMm;

    // Both ends, on lines along the ruler through its body.
    const int rows = 24;
    std::vector<double> level, surfaceHere;
    const double top = -0.5 * ruler.edge,
                 bottom = std::max(marksEnd, std::min(ruler.bodyIn, marksEnd + 6 * perMm) - 0.5 * perMm);
    for (int i = 0; i < rows; ++i) {
        level.push_back(top + (bottom - top) * (i + 0.5) / rows);
        std::vector<double> v;
        for (int k = 0; k < lines; k += 3) v.push_back(f.at(at[static_cast<std::size_t>(k)], level.back()));
        surfaceHere.push_back(median(v));
    }
    const auto endOf = [&](double from, double to) {
        return edgeAmong(
            rows, from, to, perMm, surfaceHere,
            [&](int i, double s) { return f.at(s, level[static_cast<std::size_t>(i)]); },
            [&](int i, double s) { return f.inside(s, level[static_cast<std::size_t>(i)]); });
    };
    const double reach = 25 * perMm, unseen = ruler.bodySeen ? 12 * perMm : 1.5 * perMm;
    const auto before = endOf(-0.4 * perMm, -reach);
    const auto after = endOf(l + 0.4 * perMm, l + reach);
    ruler.bodyBefore = before ? -*before + 0.15 * perMm : unseen;
    ruler.bodyAfter = after ? *after - l + 0.15 * perMm : unseen;
}

}  // namespace punch
