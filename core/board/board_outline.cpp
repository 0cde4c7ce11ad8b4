// The outline of a board out of a DXF: what is drawn is chained into closed rings.

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <sstream>

#include "core/base/quantity.h"
#include "core/board/trial_board.h"
#include "core/drawing/read_dxf.h"

namespace punch {
namespace {

constexpr double kMeet = 0.01;  // mm: ends that are this near are one place

using Strand = std::vector<Point>;

bool meet(Point a, Point b) { return distance(a, b).mm() <= kMeet; }

/// Each line and arc by itself, in mm, y up.
std::vector<Strand> strandsOf(const Drawing& d) {
    const double mm = 25.4 / d.dpi;
    const auto at = [&](PixelPoint p) {
        return Point{Length::fromMm(p.x * mm), Length::fromMm((d.height - p.y) * mm)};
    };
    std::vector<Strand> all;
    for (const DrawnPath& path : d.paths) {
        Strand s;
        for (const PixelPoint& p : path.points) s.push_back(at(p));
        if (path.closed && !s.empty()) s.push_back(s.front());
        if (s.size() > 1) all.push_back(std::move(s));
    }
    for (const DrawnArc& arc : d.arcs) {
        const double radius = arc.radius * mm;
        if (!(radius > 0)) continue;
        // Chords off by less than 1 µm.
        const double step = 2 * std::acos(1 - std::min(1e-3 / radius, 1.0)) * 180 / M_PI;
        const int count = std::max(4, static_cast<int>(std::ceil(std::abs(arc.sweep) / std::max(step, 0.05))));
        Strand s;
        for (int i = 0; i <= count; ++i) s.push_back(at(arc.at(arc.from + arc.sweep * i / count)));
        if (arc.whole()) s.back() = s.front();
        all.push_back(std::move(s));
    }
    return all;
}

}  // namespace

Result<Polygons> outlineFromDxf(const std::string& file, std::optional<double> mmPerUnit) {
    const auto drawing = readDxf(file, mmPerUnit);
    if (!drawing) return tl::make_unexpected(drawing.error());
    if (!mmPerUnit && !drawing->mmPerUnit) return problem(kNoUnit, file, "Say which it is: mm, inch or mil");
    std::vector<Strand> open = strandsOf(*drawing);
    Polygons rings;
    while (!open.empty()) {
        Strand s = std::move(open.back());
        open.pop_back();
        // As long as another one goes on where this one ends.
        for (bool grew = true; grew && !meet(s.front(), s.back());) {
            grew = false;
            for (std::size_t i = 0; i < open.size() && !grew; ++i) {
                Strand& next = open[i];
                if (meet(next.back(), s.back())) std::reverse(next.begin(), next.end());
                if (!meet(next.front(), s.back())) continue;
                s.insert(s.end(), next.begin() + 1, next.end());
                open.erase(open.begin() + static_cast<std::ptrdiff_t>(i));
                grew = true;
            }
        }
        if (s.size() < 4 || !meet(s.front(), s.back())) continue;
        s.pop_back();
        rings.push_back(std::move(s));
    }
    if (rings.empty())
        return problem("nothing in it is a closed outline", file, "Draw the edge as lines and arcs that meet");
    for (const auto& ring : rings)
        if (crossesItself(ringOf(ring)))
            return problem("an outline in it crosses itself", file, "Draw the edge without crossings");
    const auto size = [](const auto& ring) { return std::abs(areaOf(ringOf(ring))); };
    std::sort(rings.begin(), rings.end(), [&](const auto& a, const auto& b) { return size(a) > size(b); });
    for (std::size_t i = 1; i < rings.size(); ++i)
        if (!contains(ringOf(rings.front()), rings[i].front()))
            return problem("it has two outlines beside each other", file, "Leave one board in it");
    // From its lower left corner, as a rectangle's.
    const Rect box = boundsOf(Polygons{rings.front()});
    for (std::size_t i = 0; i < rings.size(); ++i) {
        const double turn = areaOf(ringOf(rings[i]));
        if ((turn > 0) != (i == 0)) std::reverse(rings[i].begin(), rings[i].end());
        for (Point& p : rings[i]) p = p - Point{box.left, box.bottom};
    }
    return rings;
}

Result<Polygons> outlineFromCorners(const std::string& typed) {
    std::vector<Point> ring;
    std::istringstream words(typed);
    for (std::string word; words >> word;) {
        const std::size_t comma = word.find(',');
        const auto x = parseLength(word.substr(0, comma), Unit::Mm);
        const auto y = comma == std::string::npos ? x : parseLength(word.substr(comma + 1), Unit::Mm);
        if (comma == std::string::npos || !x || !y)
            return problem("“" + word + "” is no corner", "edge", "Type corners as 0,0 100,0 100,60 0,60");
        if (abs(*x) > Length::fromMm(5000) || abs(*y) > Length::fromMm(5000))
            return problem("“" + word + "” lies more than 5 m away", "edge", "Type smaller lengths");
        ring.push_back({*x, *y});
    }
    if (ring.size() < 3)
        return problem("an edge has three corners or more", "edge", "Type corners as 0,0 100,0 100,60 0,60");
    if (crossesItself(ringOf(ring)) || std::abs(areaOf(ringOf(ring))) < 1)
        return problem("the edge crosses itself or encloses nothing", "edge", "Type its corners in their order");
    if (areaOf(ringOf(ring)) < 0) std::reverse(ring.begin(), ring.end());
    return Polygons{ring};
}

std::string cornersAsTyped(const Polygons& rings) {
    std::string text;
    for (const Point& p : rings.empty() ? std::vector<Point>() : rings.front())
        text += fmt::format("{}{:g},{:g}", text.empty() ? "" : " ", p.x.mm(), p.y.mm());
    return text;
}

}  // namespace punch
