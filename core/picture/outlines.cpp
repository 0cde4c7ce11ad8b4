#include "core/picture/outlines.h"

#include <array>
#include <unordered_map>

namespace punch {
namespace {

/// The picture with a light border of one pixel, walked cell by cell between pixel centres.
class CellEdges {
public:
    CellEdges(const Grey& grey, double level) : grey_(grey), level_(level) {}

    double at(int x, int y) const {
        return x < 0 || y < 0 || x >= grey_.width || y >= grey_.height ? 255.0 : grey_.at(x, y);
    }
    /// Edges of the grid: right of a pixel centre, and below one.
    using Edge = std::int64_t;
    Edge right(int x, int y) const { return 2 * (static_cast<Edge>(y + 1) * (grey_.width + 2) + x + 1); }
    Edge below(int x, int y) const { return right(x, y) + 1; }
    /// Where the level crosses an edge.
    PixelPoint crossing(Edge e) const {
        const Edge cell = e / 2;
        const int x = static_cast<int>(cell % (grey_.width + 2)) - 1,
                  y = static_cast<int>(cell / (grey_.width + 2)) - 1;
        const bool down = e % 2 == 1;
        const double a = at(x, y), b = down ? at(x, y + 1) : at(x + 1, y);
        const double share = a == b ? 0.5 : (level_ - a) / (b - a);
        return down ? PixelPoint{static_cast<double>(x), y + share} : PixelPoint{x + share, static_cast<double>(y)};
    }
    bool dark(double v) const { return v < level_; }

private:
    const Grey& grey_;
    double level_;
};

}  // namespace

std::vector<std::vector<PixelPoint>> darkOutlines(const Grey& grey, double level) {
    const CellEdges cells(grey, level);
    std::unordered_map<CellEdges::Edge, CellEdges::Edge> next;
    for (int y = -1; y < grey.height; ++y)
        for (int x = -1; x < grey.width; ++x) {
            const double v[4] = {cells.at(x, y), cells.at(x + 1, y), cells.at(x + 1, y + 1), cells.at(x, y + 1)};
            int which = 0;
            for (int i = 0; i < 4; ++i) which |= cells.dark(v[i]) ? 1 << i : 0;
            if (which == 0 || which == 15) continue;
            const CellEdges::Edge t = cells.right(x, y), b = cells.right(x, y + 1), l = cells.below(x, y),
                                  r = cells.below(x + 1, y);
            // What is dark lies to the left of each step; two corners across are joined where the middle is dark.
            const bool joined = cells.dark((v[0] + v[1] + v[2] + v[3]) / 4);
            if (which == 5 || which == 10) {
                const bool light = !joined;  // then two corners are cut off by themselves, else the two others
                if (which == 5) {
                    next[light ? l : r] = t;
                    next[light ? r : l] = b;
                } else {
                    next[light ? b : t] = l;
                    next[light ? t : b] = r;
                }
                continue;
            }
            // From which edge to which, by the corners that are dark (1, 2, 4, 8 from the upper left, clockwise).
            const std::pair<CellEdges::Edge, CellEdges::Edge> steps[] = {{}, {l, t}, {t, r}, {l, r}, {r, b},
                                                                         {}, {t, b}, {l, b}, {b, l}, {b, t},
                                                                         {}, {b, r}, {r, l}, {r, t}, {t, l}};
            next[steps[which].first] = steps[which].second;
        }
    std::vector<std::vector<PixelPoint>> rings;
    while (!next.empty()) {
        std::vector<PixelPoint> ring;
        for (auto it = next.begin(); it != next.end();) {
            ring.push_back(cells.crossing(it->first));
            const CellEdges::Edge to = it->second;
            next.erase(it);
            it = next.find(to);
        }
        rings.push_back(std::move(ring));
    }
    return rings;
}

double partingLevel(const Grey& grey) {
    std::array<double, 256> count{};
    for (const std::uint8_t v : grey.data) ++count[v];
    double all = 0, sum = 0;
    for (int i = 0; i < 256; ++i) {
        all += count[static_cast<std::size_t>(i)];
        sum += i * count[static_cast<std::size_t>(i)];
    }
    double below = 0, sumBelow = 0, best = -1, level = 128;
    for (int i = 0; i < 255; ++i) {
        below += count[static_cast<std::size_t>(i)];
        sumBelow += i * count[static_cast<std::size_t>(i)];
        if (below == 0 || below == all) continue;
        const double a = sumBelow / below, b = (sum - sumBelow) / (all - below);
        const double between = below * (all - below) * (b - a) * (b - a);
        // Half way between both: of edges with steps between them the middle counts.
        if (between > best) {
            best = between;
            level = (a + b) / 2;
        }
    }
    return level;
}

}  // namespace punch
