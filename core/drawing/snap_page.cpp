#include "core/drawing/snap_page.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numbers>
#include <vector>

namespace punch {

namespace {

constexpr int kAngles = 180;
constexpr double kDark = 60;          // of 255, from which a pixel is ink
constexpr double kLeastLength = 1.1;  // of the reach, that a line must show
constexpr double kArrowHalf = 9;      // pixels, half as wide as the heads of arrows are drawn
constexpr double kCrossingU = 0.4;    // pixels
constexpr double kEndU = 0.6;

struct Ink {
    double x, y, dark;
};

/// A straight line: points with nx x + ny y = c.
struct DrawnLine {
    double nx = 0, ny = 0, c = 0;
    double off(PixelPoint p) const { return nx * p.x + ny * p.y - c; }
};

std::vector<Ink> inkAround(const Grey& page, PixelPoint at, double window) {
    std::vector<Ink> out;
    const int x0 = std::max(0, static_cast<int>(at.x - window)),
              x1 = std::min(page.width - 1, static_cast<int>(at.x + window));
    const int y0 = std::max(0, static_cast<int>(at.y - window)),
              y1 = std::min(page.height - 1, static_cast<int>(at.y + window));
    for (int y = y0; y <= y1; ++y)
        for (int x = x0; x <= x1; ++x)
            if (const double d = 255.0 - page.at(x, y); d > kDark) out.push_back({x - at.x, y - at.y, d});
    return out;
}

/// Without what is thicker than lines are drawn here (`thick`, pixels): the bodies of arrow heads pull a line aside.
std::vector<Ink> thinOf(const Grey& page, PixelPoint at, const std::vector<Ink>& ink, double& thick) {
    const auto isInk = [&](int x, int y) {
        return x >= 0 && y >= 0 && x < page.width && y < page.height && 255.0 - page.at(x, y) > kDark;
    };
    std::vector<int> thickness;
    for (const Ink& i : ink) {
        const int x = static_cast<int>(std::lround(i.x + at.x)), y = static_cast<int>(std::lround(i.y + at.y));
        int least = 1000;
        for (const auto& [dx, dy] : {std::pair(1, 0), std::pair(0, 1), std::pair(1, 1), std::pair(1, -1)}) {
            int run = 1;
            for (const int way : {-1, 1})
                for (int k = 1; k < 40 && isInk(x + way * k * dx, y + way * k * dy); ++k) ++run;
            least = std::min(least, run);
        }
        thickness.push_back(least);
    }
    if (thickness.empty()) return ink;
    auto sorted = thickness;
    std::nth_element(sorted.begin(), sorted.begin() + static_cast<std::ptrdiff_t>(sorted.size() / 2), sorted.end());
    thick = sorted[sorted.size() / 2];
    std::vector<Ink> thin;
    for (std::size_t i = 0; i < ink.size(); ++i)
        if (thickness[i] <= sorted[sorted.size() / 2] + 1) thin.push_back(ink[i]);
    return thin;
}

/// Places along a line, in its direction from the click, where its ink ends: the stretch nearest to the click.
std::optional<std::pair<double, double>> stretchOf(const std::vector<Ink>& ink, const DrawnLine& l, double window) {
    std::vector<bool> there(static_cast<std::size_t>(2 * window) + 3);
    const auto slot = [&](double s) {
        return static_cast<std::size_t>(std::clamp(s + window + 1, 0.0, 2 * window + 2));
    };
    for (const Ink& i : ink)
        if (std::abs(l.off({i.x, i.y})) < 1.6) there[slot(-l.ny * i.x + l.nx * i.y)] = true;
    // Nearest to the foot of the click.
    int middle = -1;
    for (int d = 0; d < static_cast<int>(window); ++d)
        for (const int s : {static_cast<int>(window) + 1 + d, static_cast<int>(window) + 1 - d})
            if (middle < 0 && s >= 0 && s < static_cast<int>(there.size()) && there[static_cast<std::size_t>(s)])
                middle = s;
    if (middle < 0) return {};
    const auto far = [&](int way) {
        int last = middle, gap = 0;
        for (int s = middle; s >= 0 && s < static_cast<int>(there.size()) && gap < 3; s += way) {
            gap = there[static_cast<std::size_t>(s)] ? 0 : gap + 1;
            if (gap == 0) last = s;
        }
        return last - window - 1;
    };
    return std::pair{far(-1), far(1)};
}

/// The line nearest to these pixels, by least squares weighted with their darkness, from a first guess.
void fitLine(DrawnLine& l, const std::vector<Ink>& ink, double thick) {
    for (int fit = 0; fit < 4; ++fit) {
        // Wider than the line, so that both its sides count wherever the guess lies.
        const double far = thick / 2 + (fit == 0 ? 2.0 : 1.2);
        double w = 0, mx = 0, my = 0, xx = 0, xy = 0, yy = 0;
        for (const Ink& i : ink) {
            if (std::abs(l.off({i.x, i.y})) > far) continue;
            w += i.dark;
            mx += i.dark * i.x;
            my += i.dark * i.y;
        }
        if (w <= 0) return;
        mx /= w;
        my /= w;
        for (const Ink& i : ink) {
            if (std::abs(l.off({i.x, i.y})) > far) continue;
            xx += i.dark * (i.x - mx) * (i.x - mx);
            xy += i.dark * (i.x - mx) * (i.y - my);
            yy += i.dark * (i.y - my) * (i.y - my);
        }
        const double along = 0.5 * std::atan2(2 * xy, xx - yy);
        l.nx = -std::sin(along);
        l.ny = std::cos(along);
        l.c = l.nx * mx + l.ny * my;
    }
}

/// Lines of drawings mostly run along the page or across it: within some degrees they do, and lie where their darkest
/// columns are, whatever the head of an arrow does beside them.
void straighten(DrawnLine& l, const std::vector<Ink>& ink, double thick) {
    constexpr double kNearAxis = 0.07;  // sine of four degrees
    const bool upright = std::abs(l.ny) < kNearAxis, level = std::abs(l.nx) < kNearAxis;
    if (!upright && !level) return;
    // Where it passes the click's side of the ink.
    std::map<long, double> columns;
    for (const Ink& i : ink)
        if (std::abs(l.off({i.x, i.y})) < thick / 2 + 3) columns[std::lround(8 * (upright ? i.x : i.y))] += i.dark;
    double most = 0, weight = 0, sum = 0;
    for (const auto& [at, dark] : columns) most = std::max(most, dark);
    for (const auto& [at, dark] : columns)
        if (dark > 0.6 * most) {
            weight += dark;
            sum += dark * static_cast<double>(at) / 8;
        }
    if (weight <= 0) return;
    l = upright ? DrawnLine{1, 0, sum / weight} : DrawnLine{0, 1, sum / weight};
}

/// The strongest lines near the click, each taken out before the next is looked for. Thin `ink` says where a line runs,
/// `all` of it how far.
std::vector<DrawnLine> linesAround(std::vector<Ink> ink, const std::vector<Ink>& all, double thick, double reach,
                              double window) {
    std::vector<DrawnLine> lines;
    const int bins = 2 * static_cast<int>(window) + 1;
    for (int round = 0; round < 4 && ink.size() > 6; ++round) {
        std::vector<float> votes(static_cast<std::size_t>(kAngles * bins));
        for (const Ink& i : ink)
            for (int a = 0; a < kAngles; ++a) {
                const double t = a * std::numbers::pi / kAngles;
                const double c = std::cos(t) * i.x + std::sin(t) * i.y;
                if (std::abs(c) > reach + 2) continue;
                votes[static_cast<std::size_t>(a * bins + static_cast<int>(std::lround(c)) + bins / 2)] +=
                    static_cast<float>(i.dark / 255);
            }
        const auto best = std::max_element(votes.begin(), votes.end()) - votes.begin();
        const double t = static_cast<double>(best / bins) * std::numbers::pi / kAngles;
        DrawnLine l{std::cos(t), std::sin(t), static_cast<double>(best % bins - bins / 2)};
        fitLine(l, ink, thick);
        straighten(l, ink, thick);
        const auto stretch = stretchOf(all, l, window);
        if (!stretch || stretch->second - stretch->first < kLeastLength * reach) break;
        if (std::abs(l.c) <= reach) lines.push_back(l);
        std::erase_if(ink, [&](const Ink& i) { return std::abs(l.off({i.x, i.y})) < thick / 2 + 1.2; });
    }
    return lines;
}

}  // namespace

std::optional<SnappedPlace> snapOnPage(const Grey& page, PixelPoint click, double reach) {
    const double window = std::clamp(3 * reach, 18.0, 150.0);
    const std::vector<Ink> ink = inkAround(page, click, window);
    double thick = 3;
    const std::vector<Ink> thin = thinOf(page, click, ink, thick);
    const std::vector<DrawnLine> rough = linesAround(thin, ink, thick, reach, window);
    std::vector<DrawnLine> lines = rough;
    // Each again by the ink that is its own: the head of an arrow lies along the other line.
    for (std::size_t i = 0; i < lines.size(); ++i) {
        std::vector<Ink> own;
        for (const Ink& k : ink)
            if (std::none_of(rough.begin(), rough.end(), [&](const DrawnLine& o) {
                    return &o != &rough[i] && std::abs(o.off({k.x, k.y})) < kArrowHalf;
                }))
                own.push_back(k);
        DrawnLine again = rough[i];
        fitLine(again, own, thick);
        straighten(again, own, thick);
        const auto stretch = stretchOf(own, again, window);
        if (stretch && std::abs(again.c - rough[i].c) < 3) lines[i] = again;
    }
    std::optional<SnappedPlace> best;
    double least = reach;
    const auto offer = [&](SnappedPlace::Kind kind, double x, double y, double u) {
        if (const double d = std::hypot(x, y); d <= least) {
            least = d;
            best = SnappedPlace{kind, {click.x + x, click.y + y}, u};
        }
    };
    for (std::size_t i = 0; i < lines.size(); ++i)
        for (std::size_t j = i + 1; j < lines.size(); ++j) {
            const double det = lines[i].nx * lines[j].ny - lines[i].ny * lines[j].nx;
            if (std::abs(det) < 0.5) continue;  // an edge of an arrow head is no line of its own
            offer(SnappedPlace::Kind::Crossing, (lines[i].c * lines[j].ny - lines[j].c * lines[i].ny) / det,
                  (lines[i].nx * lines[j].c - lines[j].nx * lines[i].c) / det, kCrossingU / std::abs(det));
        }
    if (best) return best;
    for (const DrawnLine& l : lines)
        if (const auto stretch = stretchOf(ink, l, window))
            for (const double s : {stretch->first, stretch->second})
                if (std::abs(s) < window - 2)
                    offer(SnappedPlace::Kind::End, l.c * l.nx - s * l.ny, l.c * l.ny + s * l.nx, kEndU);
    if (best) return best;
    for (const DrawnLine& l : lines) offer(SnappedPlace::Kind::Line, l.c * l.nx, l.c * l.ny, kCrossingU);
    return best;
}

}  // namespace punch
