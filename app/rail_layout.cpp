#include "app/rail_layout.h"

#include <algorithm>
#include <cmath>

namespace punch {
namespace {
constexpr int kRows = 3;
constexpr double kGap = 7;
// In lines of text: what a large one needs at least and takes at most, and a small one likes and needs at least.
constexpr double kLargeLeast = 9.5, kLargeMost = 20, kSmallLikes = 15, kSmallLeast = 9;
}  // namespace

std::vector<RailPlace> railLayout(const std::vector<int>& gauges, QSize size, int em) {
    std::vector<RailPlace> places(gauges.size());
    if (gauges.empty()) return places;
    // The worst ones are large, as many as fit; what is left over stands among the small ones, in its colour.
    std::vector<std::size_t> order(gauges.size());
    for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
    std::stable_sort(order.begin(), order.end(), [&](std::size_t a, std::size_t b) { return gauges[a] > gauges[b]; });
    const double wide = size.width() - kGap;
    const auto columns = [&](std::size_t small) { return static_cast<double>((small + kRows - 1) / kRows); };
    std::size_t large = 0;
    while (large < order.size() && gauges[order[large]] > 0 &&
           static_cast<double>(large + 1) * (kLargeLeast * em + kGap) +
                   columns(gauges.size() - large - 1) * (kSmallLeast * em + kGap) <=
               wide)
        ++large;
    for (std::size_t k = 0; k < large; ++k) places[order[k]].large = true;
    const std::size_t small = gauges.size() - large;
    const double cols = columns(small);
    const auto n = static_cast<double>(large);
    double smallWidth = cols > 0 ? std::min(kSmallLikes * em, (wide - n * (kLargeLeast * em + kGap)) / cols - kGap) : 0;
    const double largeWidth = large > 0 ? std::min(kLargeMost * em, (wide - cols * (smallWidth + kGap)) / n - kGap) : 0;
    // What is left over goes to the small ones.
    if (cols > 0) smallWidth = (wide - n * (largeWidth + kGap)) / cols - kGap;
    const double top = 7;
    const double high = size.height() - 2 * top;
    double x = kGap;
    for (std::size_t i = 0; i < gauges.size(); ++i) {
        if (!places[i].large) continue;
        places[i].box = QRectF(x, top, largeWidth, high).toRect();
        x += largeWidth + kGap;
    }
    int row = 0;
    for (std::size_t i = 0; i < gauges.size(); ++i) {
        if (places[i].large) continue;
        const double h = (high - 2 * 3) / kRows;
        places[i].box = QRectF(x, top + row * (h + 3), smallWidth, h).toRect();
        if (++row == kRows) {
            row = 0;
            x += smallWidth + kGap;
        }
    }
    return places;
}

std::vector<int> railOrder(const std::vector<RailPlace>& places) {
    std::vector<int> order(places.size());
    for (std::size_t i = 0; i < order.size(); ++i) order[i] = static_cast<int>(i);
    std::stable_sort(order.begin(), order.end(), [&](int a, int b) {
        const QRect& p = places[static_cast<std::size_t>(a)].box;
        const QRect& q = places[static_cast<std::size_t>(b)].box;
        return p.left() != q.left() ? p.left() < q.left() : p.top() < q.top();
    });
    return order;
}

}  // namespace punch
