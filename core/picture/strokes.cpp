#include "core/picture/strokes.h"

#include <algorithm>
#include <cmath>
#include <cstring>

namespace punch {

namespace {

constexpr int kLeastStrokeDepth = 15;  // grey levels a stroke stands out by
constexpr int kLeastLength = 4;        // pixels
constexpr double kLeastStep = 3.5;     // pixels
constexpr double kMostStep = 10.5;
constexpr std::size_t kMostStrokes = 60000;
constexpr double kMostLean = 0.7;  // tangent of how far a ruler may be turned

/// Where a row has a narrow dip: 1, else 0. `flip` 255 looks for peaks.
void dipsOf(const std::uint8_t* row, int width, std::uint8_t flip, std::uint8_t* dips) {
    for (int x = 3; x < width - 3; ++x) {
        const int c = row[x] ^ flip;
        const int near = std::min(row[x - 2] ^ flip, row[x + 2] ^ flip);
        const int far = std::min(row[x - 3] ^ flip, row[x + 3] ^ flip);
        const int deep = std::max(near, far) - c;
        dips[x] = static_cast<std::uint8_t>((deep >= kLeastStrokeDepth) & (c < (row[x - 1] ^ flip)) &
                                            (c <= (row[x + 1] ^ flip)));
    }
}

/// Points in square cells, for the nearest within a small reach.
class StrokeCells {
public:
    StrokeCells(const std::vector<PixelPoint>& points, double side) : points_(points), side_(side) {
        double right = 0, bottom = 0;
        for (const PixelPoint& p : points) {
            right = std::max(right, p.x);
            bottom = std::max(bottom, p.y);
        }
        columns_ = static_cast<int>(right / side) + 2;
        rows_ = static_cast<int>(bottom / side) + 2;
        starts_.assign(static_cast<std::size_t>(columns_) * rows_ + 1, 0);
        for (const PixelPoint& p : points) ++starts_[cell(p) + 1];
        for (std::size_t i = 1; i < starts_.size(); ++i) starts_[i] += starts_[i - 1];
        order_.resize(points.size());
        std::vector<int> next(starts_.begin(), starts_.end() - 1);
        for (std::size_t i = 0; i < points.size(); ++i)
            order_[static_cast<std::size_t>(next[cell(points[i])]++)] = static_cast<int>(i);
    }
    template <class Each>
    void within(PixelPoint at, double reach, Each each) const {
        const int x0 = std::max(0, static_cast<int>((at.x - reach) / side_));
        const int x1 = std::min(columns_ - 1, static_cast<int>((at.x + reach) / side_));
        const int y0 = std::max(0, static_cast<int>((at.y - reach) / side_));
        const int y1 = std::min(rows_ - 1, static_cast<int>((at.y + reach) / side_));
        for (int y = y0; y <= y1; ++y)
            for (int x = x0; x <= x1; ++x) {
                const std::size_t c = static_cast<std::size_t>(y) * columns_ + x;
                for (int k = starts_[c]; k < starts_[c + 1]; ++k) each(order_[static_cast<std::size_t>(k)]);
            }
    }
    int nearest(PixelPoint at, double reach) const {
        int best = -1;
        double least = reach;
        within(at, reach, [&](int i) {
            const PixelPoint& p = points_[static_cast<std::size_t>(i)];
            const double d = std::hypot(p.x - at.x, p.y - at.y);
            if (d <= least) {
                least = d;
                best = i;
            }
        });
        return best;
    }

private:
    std::size_t cell(PixelPoint p) const {
        return static_cast<std::size_t>(static_cast<int>(p.y / side_)) * columns_ + static_cast<int>(p.x / side_);
    }
    const std::vector<PixelPoint>& points_;
    double side_;
    int columns_ = 0, rows_ = 0;
    std::vector<int> starts_, order_;
};

struct StrokeChain {
    StrokeSeries series;
    std::vector<int> members;
};

/// On from two neighbours as far as strokes follow; up to two may be missing at a time.
StrokeChain chainFrom(const std::vector<PixelPoint>& ends, const StrokeCells& cells, int one, int other) {
    StrokeChain c;
    c.members = {one, other};
    const PixelPoint first = ends[static_cast<std::size_t>(one)];
    PixelPoint last = ends[static_cast<std::size_t>(other)];
    PixelPoint step{last.x - first.x, last.y - first.y};
    int number = 1;
    for (bool more = true; more;) {
        more = false;
        for (int skip = 1; skip <= 3; ++skip) {
            const PixelPoint goal{last.x + skip * step.x, last.y + skip * step.y};
            const double reach = std::max(1.3, 0.13 * std::hypot(step.x, step.y));
            const int hit = cells.nearest(goal, reach);
            if (hit < 0) continue;
            number += skip;
            last = ends[static_cast<std::size_t>(hit)];
            step = {(last.x - first.x) / number, (last.y - first.y) / number};
            c.members.push_back(hit);
            more = true;
            break;
        }
    }
    c.series.first = first;
    c.series.step = step;
    c.series.count = number + 1;
    c.series.there = static_cast<int>(c.members.size());
    return c;
}

}  // namespace

std::vector<ThinStroke> strokesDown(const Grey& grey, bool dark) {
    std::vector<ThinStroke> out;
    if (grey.width < 8 || grey.height < 8) return out;
    struct StrokeTrace {
        int x0, y0, x, y, count;
    };
    std::vector<StrokeTrace> traces;
    std::vector<int> owner(static_cast<std::size_t>(grey.width), -1);  // by column: the trace that was last there
    std::vector<std::uint8_t> dips(static_cast<std::size_t>(grey.width) + 8, 0);
    const std::uint8_t flip = dark ? 0 : 255;
    for (int y = 0; y < grey.height; ++y) {
        dipsOf(grey.data.data() + static_cast<std::size_t>(y) * grey.width, grey.width, flip, dips.data());
        for (int x = 0; x < grey.width; x += 8) {
            std::uint64_t eight = 0;
            std::memcpy(&eight, dips.data() + x, 8);
            if (eight == 0) continue;
            for (int k = x; k < std::min(x + 8, grey.width - 3); ++k) {
                if (dips[static_cast<std::size_t>(k)] == 0 || k < 3) continue;
                int mine = -1;
                for (const int c : {k, k - 1, k + 1}) {
                    const int o = owner[static_cast<std::size_t>(c)];
                    if (o >= 0 && traces[static_cast<std::size_t>(o)].x == c &&
                        y - traces[static_cast<std::size_t>(o)].y <= 2 && traces[static_cast<std::size_t>(o)].y < y) {
                        mine = o;
                        break;
                    }
                }
                if (mine < 0) {
                    mine = static_cast<int>(traces.size());
                    traces.push_back({k, y, k, y, 0});
                }
                StrokeTrace& t = traces[static_cast<std::size_t>(mine)];
                t.x = k;
                t.y = y;
                ++t.count;
                owner[static_cast<std::size_t>(k)] = mine;
            }
        }
    }
    for (const StrokeTrace& t : traces) {
        const int length = t.y - t.y0 + 1;
        if (length < kLeastLength || 4 * t.count < 3 * length || std::abs(t.x - t.x0) > kMostLean * length + 1)
            continue;
        out.push_back({{t.x0 * 1.0, t.y0 * 1.0}, {t.x * 1.0, t.y * 1.0}});
        if (out.size() >= kMostStrokes) break;
    }
    return out;
}

std::vector<StrokeSeries> seriesOf(const std::vector<ThinStroke>& strokes, bool dark, int least) {
    std::vector<StrokeSeries> out;
    if (static_cast<int>(strokes.size()) < least) return out;
    for (const bool tops : {true, false}) {
        std::vector<PixelPoint> ends;
        for (const ThinStroke& s : strokes) ends.push_back(tops ? s.top : s.bottom);
        const StrokeCells cells(ends, 6);
        std::vector<bool> used(strokes.size());
        std::vector<int> order(strokes.size());
        for (std::size_t i = 0; i < order.size(); ++i) order[i] = static_cast<int>(i);
        std::sort(order.begin(), order.end(), [&](int a, int b) { return ends[a].x < ends[b].x; });
        for (const int i : order) {
            if (used[static_cast<std::size_t>(i)]) continue;
            const PixelPoint p = ends[static_cast<std::size_t>(i)];
            StrokeChain best;
            cells.within({p.x + kMostStep / 2, p.y}, kMostStep, [&](int j) {
                const PixelPoint q = ends[static_cast<std::size_t>(j)];
                const double dx = q.x - p.x, dy = q.y - p.y, d = std::hypot(dx, dy);
                if (dx <= 0 || std::abs(dy) > kMostLean * dx + 1 || d < kLeastStep || d > kMostStep) return;
                StrokeChain c = chainFrom(ends, cells, i, j);
                if (c.series.there > best.series.there) best = std::move(c);
            });
            if (best.series.there < least || best.series.there < 0.7 * best.series.count) continue;
            std::vector<double> lengths;
            for (const int m : best.members) lengths.push_back(strokes[static_cast<std::size_t>(m)].length());
            std::nth_element(lengths.begin(), lengths.begin() + static_cast<std::ptrdiff_t>(lengths.size() / 2),
                             lengths.end());
            best.series.length = lengths[lengths.size() / 2];
            best.series.tops = tops;
            best.series.dark = dark;
            if (best.series.length < 0.6 * std::hypot(best.series.step.x, best.series.step.y)) continue;
            for (const int m : best.members) used[static_cast<std::size_t>(m)] = true;
            out.push_back(best.series);
        }
    }
    std::sort(out.begin(), out.end(), [](const StrokeSeries& a, const StrokeSeries& b) { return a.there > b.there; });
    return out;
}

}  // namespace punch
