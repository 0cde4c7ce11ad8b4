#include "core/library/compare.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <numbers>
#include <tuple>

#include "core/solid/flat_fit.h"

namespace punch {
namespace {

constexpr double kSamePlace = 0.0005;  // mm: smaller is rounding

Flat flatOf(const PatternPad& p) { return {p.x, p.y}; }

/// Where a pad's colours come from: copper under, ink over, petrol for what is compared (core/artwork/palette).
std::string disc(Flat at, double diameter, const char* style) {
    return fmt::format("<circle cx=\"{:.4f}\" cy=\"{:.4f}\" r=\"{:.4f}\" style=\"{}\"/>\n", at.x, -at.y, diameter / 2,
                       style);
}

/// Pads of no common number that do not coincide either: as they lie nearest after a quarter of a turn, each once.
std::vector<std::pair<std::size_t, std::size_t>> nearestPairs(const PadPattern& one, const PadPattern& other) {
    constexpr double kNear = 1.5;  // mm
    using Pairs = std::vector<std::pair<std::size_t, std::size_t>>;
    const auto middle = [](const PadPattern& p) {
        Flat m{0, 0};
        for (const PatternPad& pad : p.pads) {
            m.x += pad.x / static_cast<double>(p.pads.size());
            m.y += pad.y / static_cast<double>(p.pads.size());
        }
        return m;
    };
    if (one.pads.empty() || other.pads.empty() || one.pads.size() * other.pads.size() > 4000000) return {};
    const Flat a = middle(one), b = middle(other);
    Pairs best;
    double least = 1e300;
    for (int quarter = 0; quarter < 4; ++quarter) {
        const double c = quarter == 0 ? 1 : quarter == 2 ? -1 : 0, s = quarter == 1 ? 1 : quarter == 3 ? -1 : 0;
        std::vector<std::tuple<double, std::size_t, std::size_t>> near;
        for (std::size_t i = 0; i < one.pads.size(); ++i) {
            const double x = one.pads[i].x - a.x, y = one.pads[i].y - a.y;
            for (std::size_t k = 0; k < other.pads.size(); ++k) {
                const double d =
                    std::hypot(c * x - s * y + b.x - other.pads[k].x, s * x + c * y + b.y - other.pads[k].y);
                if (d < kNear) near.emplace_back(d, i, k);
            }
        }
        std::sort(near.begin(), near.end());
        std::vector<bool> usedOne(one.pads.size()), usedOther(other.pads.size());
        Pairs pairs;
        double cost = kNear * kNear * static_cast<double>(one.pads.size());
        for (const auto& [d, i, k] : near) {
            if (usedOne[i] || usedOther[k]) continue;
            usedOne[i] = usedOther[k] = true;
            pairs.emplace_back(i, k);
            cost += d * d - kNear * kNear;
        }
        if (cost < least - 1e-9) {
            least = cost;
            best = std::move(pairs);
        }
    }
    return best;
}

}  // namespace

Comparison compared(const PadPattern& one, const PadPattern& other, AlignBy align) {
    Comparison c;
    std::vector<std::pair<std::size_t, std::size_t>> pairs;
    std::multimap<std::string, std::size_t> byNumber;
    for (std::size_t k = 0; k < other.pads.size(); ++k) byNumber.emplace(other.pads[k].number, k);
    for (std::size_t i = 0; i < one.pads.size(); ++i)
        if (const auto it = byNumber.find(one.pads[i].number); it != byNumber.end()) {
            pairs.emplace_back(i, it->second);
            byNumber.erase(it);
        }
    if (pairs.empty()) {
        if (const auto how = coincide(one, other)) {
            c.byNumber = false;
            for (const PadPair& pair : how->pairs) pairs.emplace_back(pair.one, pair.other);
        } else {
            c.byNumber = false;
            pairs = nearestPairs(one, other);
        }
    }
    Flatly lay{1, 0, 0, 0};
    if (align == AlignBy::Pads && !pairs.empty()) {
        std::vector<Flat> from, to;
        for (const auto& [i, k] : pairs) {
            from.push_back(flatOf(one.pads[i]));
            to.push_back(flatOf(other.pads[k]));
        }
        if (pairs.size() == 1) {
            lay.x = to[0].x - from[0].x;
            lay.y = to[0].y - from[0].y;
        } else
            lay = fitted(from, to, std::vector<double>(from.size(), 1));
    }
    c.turn = std::atan2(lay.s, lay.c) * 180 / std::numbers::pi;
    c.x = lay.x;
    c.y = lay.y;
    std::vector<bool> usedOne(one.pads.size()), usedOther(other.pads.size());
    double squares = 0;
    for (const auto& [i, k] : pairs) {
        usedOne[i] = usedOther[k] = true;
        const PatternPad &a = one.pads[i], &b = other.pads[k];
        const Flat at = lay(flatOf(a));
        PadDeviation d{a.number, b.number, at.x,   at.y,  b.x - at.x, b.y - at.y, 0, std::hypot(a.doubt, b.doubt),
                       a.hole,   b.hole,   a.land, b.land};
        d.off = std::hypot(d.dx, d.dy);
        squares += d.off * d.off;
        c.worst = std::max(c.worst, d.off);
        const auto size = [&](const char* what, double from, double to) {
            if (std::abs(from - to) > kSamePlace)
                c.differs.push_back(fmt::format("pad {}: {} {:.2f} → {:.2f}", a.number, what, from, to));
        };
        size("hole", a.hole, b.hole);
        size("land", a.land, b.land);
        if (a.number != b.number) c.differs.push_back(fmt::format("pad {} is {} there", a.number, b.number));
        c.pads.push_back(std::move(d));
    }
    c.rms = pairs.empty() ? 0 : std::sqrt(squares / static_cast<double>(pairs.size()));
    std::stable_sort(c.pads.begin(), c.pads.end(),
                     [](const PadDeviation& a, const PadDeviation& b) { return a.off > b.off; });
    for (std::size_t i = 0; i < one.pads.size(); ++i)
        if (!usedOne[i]) {
            c.alone.push_back(one.pads[i].number);
            c.differs.push_back(fmt::format("pad {} is not there", one.pads[i].number));
        }
    for (std::size_t k = 0; k < other.pads.size(); ++k)
        if (!usedOther[k]) {
            c.otherAlone.push_back(other.pads[k].number);
            c.differs.push_back(fmt::format("pad {} is there alone", other.pads[k].number));
        }
    return c;
}

std::string comparisonSvg(const PadPattern& one, const PadPattern& other, const Comparison& how, double times) {
    const double a = how.turn * std::numbers::pi / 180;
    const Flatly lay{std::cos(a), std::sin(a), how.x, how.y};
    double left = 1e9, right = -1e9, low = 1e9, high = -1e9;
    const auto add = [&](Flat p, double r) {
        left = std::min(left, p.x - r);
        right = std::max(right, p.x + r);
        low = std::min(low, p.y - r);
        high = std::max(high, p.y + r);
    };
    std::string body;
    for (const PatternPad& p : other.pads) {
        add(flatOf(p), std::max(p.hole, p.land) / 2);
        if (p.land > 0) body += disc(flatOf(p), p.land, "fill:#E3CDB4;stroke:none");
        if (p.hole > 0) body += disc(flatOf(p), p.hole, "fill:#FFFFFF;stroke:#7E4D1F;stroke-width:0.03");
    }
    for (const PatternPad& p : one.pads) {
        const Flat at = lay(flatOf(p));
        add(at, std::max(p.hole, p.land) / 2);
        for (const double d : {p.land, p.hole})
            if (d > 0) body += disc(at, d, "fill:none;stroke:#0F5C63;stroke-width:0.06;stroke-dasharray:0.25 0.15");
    }
    for (const PadDeviation& d : how.pads) {
        const double x = d.x + times * d.dx, y = d.y + times * d.dy, l = times * d.off;
        add({x, y}, 0.5);
        if (l < 0.05) continue;
        body += fmt::format(
            "<line x1=\"{:.4f}\" y1=\"{:.4f}\" x2=\"{:.4f}\" y2=\"{:.4f}\" "
            "style=\"stroke:#C4432A;stroke-width:0.08\"/>\n",
            d.x, -d.y, x, -y);
        // The head, where there is room for one.
        const double ux = (x - d.x) / l, uy = (y - d.y) / l, h = std::min(0.4, l / 2);
        body += fmt::format("<polygon points=\"{:.4f},{:.4f} {:.4f},{:.4f} {:.4f},{:.4f}\" style=\"fill:#C4432A\"/>\n",
                            x, -y, x - h * ux - h / 2 * uy, -(y - h * uy + h / 2 * ux), x - h * ux + h / 2 * uy,
                            -(y - h * uy - h / 2 * ux));
    }
    for (const PadDeviation& d : how.pads)
        body += fmt::format(
            "<text x=\"{:.4f}\" y=\"{:.4f}\" style=\"font:0.9px sans-serif;text-anchor:middle;fill:#24333A\">{}  "
            "{:.3f}</text>\n",
            d.x, -(d.y + std::max(d.land, d.hole) / 2 + 0.4), d.one == d.other ? d.one : d.one + "/" + d.other, d.off);
    if (left > right) left = right = low = high = 0;
    const double margin = 3;
    const double w = right - left + 2 * margin, h = high - low + 2 * margin;
    return fmt::format(
               "<svg xmlns=\"http://www.w3.org/2000/svg\" width=\"{0:.3f}mm\" height=\"{1:.3f}mm\" viewBox=\"{2:.4f} "
               "{3:.4f} {0:.3f} {1:.3f}\">\n",
               w, h, left - margin, -(high + margin)) +
           body +
           fmt::format(
               "<text x=\"{:.3f}\" y=\"{:.3f}\" style=\"font:0.9px sans-serif;fill:#5F6B70\">arrows {:g} times as long "
               "as they are</text>\n</svg>\n",
               left - margin + 0.4, -(low - margin) - 0.5, times);
}

}  // namespace punch
