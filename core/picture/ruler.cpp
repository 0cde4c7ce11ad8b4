#include "core/picture/ruler.h"

#include <algorithm>
#include <cmath>

#include "core/picture/ruler_marks.h"

namespace punch {

namespace {

constexpr int kLeastTicks = 11;
constexpr int kCoarsest = 150;  // pixels of the longer side
constexpr int kFinest = 5200;   // marks that need more than this are too fine against the picture to be a ruler's
constexpr std::size_t kTriedEach = 4;

Grey transposed(const Grey& g) {
    Grey out{g.height, g.width, {}, g.tone};
    out.data.resize(g.data.size());
    constexpr int kBlock = 32;  // so that both rows and columns stay near
    for (int y0 = 0; y0 < g.height; y0 += kBlock)
        for (int x0 = 0; x0 < g.width; x0 += kBlock)
            for (int y = y0; y < std::min(y0 + kBlock, g.height); ++y)
                for (int x = x0; x < std::min(x0 + kBlock, g.width); ++x)
                    out.data[static_cast<std::size_t>(x) * out.width + y] = g.at(x, y);
    return out;
}

PixelPoint fullSize(PixelPoint p, int factor) { return {(p.x + 0.5) * factor - 0.5, (p.y + 0.5) * factor - 0.5}; }

/// The same marks, seen in another copy or from the other end.
bool isSame(const Ruler& a, const Ruler& b) {
    if (a.vertical != b.vertical) return false;
    const double l = std::hypot(a.last.x - a.first.x, a.last.y - a.first.y);
    const auto on = [&](PixelPoint p) {
        const PixelPoint at = a.local(p);
        return at.x > -0.1 * l && at.x < 1.1 * l && std::abs(at.y) < a.tickLength;
    };
    return on({(b.first.x + b.last.x) / 2, (b.first.y + b.last.y) / 2});
}

void upright(Ruler& r) {
    const auto swap = [](PixelPoint& p) { std::swap(p.x, p.y); };
    swap(r.first);
    swap(r.last);
    swap(r.inwards);
    for (PixelPoint& p : r.marks) swap(p);
    if (r.slant) {
        std::swap(r.slant->x, r.slant->y);
        std::swap(r.slant->ux, r.slant->uy);
    }
    r.vertical = true;
}

bool isBetter(const Ruler& a, const Ruler& b) { return a.believed != b.believed ? a.believed : a.steps > b.steps; }

}  // namespace

std::vector<Ruler> findRulers(const Grey& grey, const std::optional<Dpi>& dpi) {
    std::vector<Ruler> out;
    // Coarse copies first: they are cheap, and a ruler that shows in one needs no finer.
    std::vector<Grey> copies;
    std::vector<int> factors;
    const int longest = std::max(grey.width, grey.height);
    int factor = 1;
    while (longest / factor > kFinest) ++factor;
    const auto copyAt = [&](std::size_t i) -> const Grey& { return factors[i] == 1 ? grey : copies[i]; };
    for (int f = factor; f == factor || longest / f >= kCoarsest; f *= 2) {
        if (f == 1)
            copies.emplace_back();
        else if (copies.empty())
            copies.push_back(reduced(grey, f));
        else
            copies.push_back(reduced(copyAt(copies.size() - 1), 2));
        factors.push_back(f);
    }
    for (std::size_t c = copies.size(); c-- > 0;) {
        for (const bool vertical : {false, true}) {
            const Grey turned = vertical ? transposed(copyAt(c)) : Grey{};
            const Grey& copy = vertical ? turned : copyAt(c);
            std::vector<Ruler> here;
            for (const bool dark : {true, false}) {
                std::vector<StrokeSeries> series = seriesOf(strokesDown(copy, dark), dark, kLeastTicks - 2);
                if (series.size() > kTriedEach) series.resize(kTriedEach);
                for (StrokeSeries& s : series) {
                    s.first = fullSize(s.first, factors[c]);
                    s.step = {s.step.x * factors[c], s.step.y * factors[c]};
                    s.length *= factors[c];
                    auto ruler = followed({grey, vertical}, s, !dpi ? 0.0 : vertical ? dpi->y : dpi->x);
                    if (!ruler) continue;
                    if (vertical) upright(*ruler);
                    here.push_back(std::move(*ruler));
                }
            }
            std::stable_sort(here.begin(), here.end(), isBetter);
            for (Ruler& r : here) {
                const auto same = std::find_if(out.begin(), out.end(), [&](const Ruler& o) { return isSame(o, r); });
                if (same == out.end())
                    out.push_back(std::move(r));
                else if (isBetter(r, *same))
                    *same = std::move(r);
            }
        }
        if (std::any_of(out.begin(), out.end(), [](const Ruler& r) { return r.believed; })) break;
    }
    for (Ruler& r : out) findBody(grey, r);
    std::stable_sort(out.begin(), out.end(), isBetter);
    return out;
}

}  // namespace punch
