#include "core/dress/ink.h"

#include <algorithm>
#include <cmath>

#include "core/geometry/shapes.h"

namespace punch {
namespace {

/// A hair more than the rule, so that whole nanometres never fall short of it.
Length keep(Length width) { return leastInkGap() + width / 2 + Length::fromUm(0.05); }

Length lengthOf(const std::vector<Point>& line) {
    Length sum;
    for (std::size_t i = 0; i + 1 < line.size(); ++i) sum += distance(line[i], line[i + 1]);
    return sum;
}

/// A closed line was cut: where its start lies in no opening, the first and the last piece are one.
void joinAtStart(std::vector<std::vector<Point>>& pieces, Point start) {
    const auto near = [&](Point p) { return distance(p, start) < Length::fromNm(3); };
    for (std::size_t a = 0; a < pieces.size(); ++a)
        for (std::size_t b = 0; b < pieces.size(); ++b) {
            if (a == b || !near(pieces[a].back()) || !near(pieces[b].front())) continue;
            pieces[a].insert(pieces[a].end(), pieces[b].begin() + 1, pieces[b].end());
            pieces.erase(pieces.begin() + static_cast<std::ptrdiff_t>(b));
            return;
        }
}

}  // namespace

InkOpening::InkOpening(std::string id, RoundedPolygon of) : feature(std::move(id)), shape(std::move(of)) {
    for (const Point& c : shape.corners) middle = middle + c;
    const double n = static_cast<double>(shape.corners.size());
    middle = {middle.x / n, middle.y / n};
    for (const Point& c : shape.corners) reach = max(reach, distance(c, middle) + shape.radius);
}

Length InkOpening::atLeast(Point a, Point b) const {
    const Length dx = max(max(min(a.x, b.x) - middle.x, middle.x - max(a.x, b.x)), Length());
    const Length dy = max(max(min(a.y, b.y) - middle.y, middle.y - max(a.y, b.y)), Length());
    return hypot(dx, dy) - reach;
}

std::vector<InkOpening> inkOpenings(const Board& board, bool top) {
    std::vector<InkOpening> all;
    for (const Conductor& p : board.copper()) {
        const CopperLayer side = top ? CopperLayer::Top : CopperLayer::Bottom;
        // A tented land is no opening, but its hole is one.
        if (opensMask(p, side))
            all.emplace_back(p.id, copperShape(grown(landOn(p, side), p.maskMargin)));
        else if (p.hole > Length())
            all.emplace_back(p.id, holeShape(p));
    }
    for (const MarkOpening& o : board.attached.openings)
        if (o.top == top)
            for (const RoundedPolygon& piece : o.pieces) all.emplace_back(o.mark, piece);
    for (const BareHole& h : board.bareHoles)
        if (!h.plated) all.emplace_back(h.id, holeShape(h));
    for (const Shape& c : board.cutOuts)
        for (const RoundedPolygon& piece : c.pieces) all.emplace_back(c.id, piece);
    return all;
}

InkOpenings::InkOpenings(const Board& board, bool top) : all_(inkOpenings(board, top)), cells_(Length::fromMm(2)) {
    for (const InkOpening& o : all_) cells_.add(boundsOf(o.shape));
}

Ink::Ink(const Board& board, Length shortest) : top_(board, true), bottom_(board, false), shortest_(shortest) {}

void Ink::add(InkLayer layer, const Shape& ink) {
    if (ink.line() != nullptr && ink.points().size() < 2) return;
    if (layer == InkLayer::Assembly)
        shapes_[static_cast<std::size_t>(layer)].push_back(ink);
    else if (ink.line() != nullptr)
        addLine(layer, ink);
    else
        addArea(layer, ink);
}

void Ink::addLine(InkLayer layer, const Shape& ink) {
    std::vector<Shape>& out = shapes_[static_cast<std::size_t>(layer)];
    const Line& line = *ink.line();
    Polygons near;
    bool any = false;
    const Length by = keep(line.width);
    Rect box;
    for (const Point& p : line.points) box.add(p);
    const InkOpenings& side = layer == InkLayer::TopSilkscreen ? top_ : bottom_;
    for (const std::size_t k : side.near(box, by)) {
        const InkOpening& o = side.all()[k];
        bool close = false;
        for (std::size_t i = 0; i + 1 < line.points.size() && !close; ++i)
            close = o.atLeast(line.points[i], line.points[i + 1]) < by;
        if (!close) continue;
        RoundedPolygon around = o.shape;
        around.radius += by;
        near.push_back(flattened(ringOf(around), Length::fromUm(0.5), Chords::Outside));
        for (std::size_t i = 0; i + 1 < line.points.size() && !any; ++i)
            any = gap(RoundedPolygon::stroke(line.points[i], line.points[i + 1], line.width), o.shape) < leastInkGap();
    }
    if (!any) {
        out.push_back(ink);
        remember(layer, line);
        return;
    }
    auto pieces = outside(line.points, united(near));
    if (line.points.front() == line.points.back()) joinAtStart(pieces, line.points.front());
    for (std::vector<Point>& piece : pieces) {
        if (lengthOf(piece) < shortest_) continue;
        Shape rest = ink;
        rest.shortened = true;
        rest.form = Line{std::move(piece), line.width};
        remember(layer, *rest.line());
        out.push_back(std::move(rest));
    }
    if (!ink.id.empty()) say(ink.id, "cut away from an opening");
}

void Ink::addArea(InkLayer layer, const Shape& ink) {
    const Polygons area = ink.area();
    Polygons near;
    const Rect box = boundsOf(area).grown(leastInkGap());
    const InkOpenings& side = layer == InkLayer::TopSilkscreen ? top_ : bottom_;
    for (const std::size_t k : side.near(box, leastInkGap())) {
        const InkOpening& o = side.all()[k];
        const Length dx = max(max(box.left - o.middle.x, o.middle.x - box.right), Length());
        const Length dy = max(max(box.bottom - o.middle.y, o.middle.y - box.top), Length());
        if (hypot(dx, dy) > o.reach) continue;
        RoundedPolygon around = o.shape;
        around.radius += keep({});
        near.push_back(flattened(ringOf(around), Length::fromUm(0.5), Chords::Outside));
    }
    Polygons rest = area;
    if (!near.empty()) rest = without(area, united(near));
    const bool shortened = areaOf(rest) < areaOf(area) - 1e-6;
    // What no printer holds is left out: necks and slivers narrower than its least line.
    if (shortened) {
        const Length half = leastInkLine() / 2;
        rest = common(rest, grown(grown(rest, -half), half));
        if (!ink.id.empty()) say(ink.id, "cut away from an opening");
    }
    if (rest.empty()) return;
    std::vector<Shape>& out = shapes_[static_cast<std::size_t>(layer)];
    out.push_back(ink);
    out.back().form = std::move(rest);
    out.back().shortened = shortened;
}

void Ink::remember(InkLayer layer, const Line& stroke) {
    const std::size_t side = layer == InkLayer::TopSilkscreen ? 0 : 1;
    for (std::size_t i = 0; i + 1 < stroke.points.size(); ++i) {
        printed_[side].push_back(RoundedPolygon::stroke(stroke.points[i], stroke.points[i + 1], stroke.width));
        printedCells_[side].add(boundsOf(printed_[side].back()));
    }
}

bool Ink::isFree(const Rect& box, bool top) const {
    const RoundedPolygon shape = RoundedPolygon::rectangle(box);
    if (!isClear(shape, top)) return false;
    const std::size_t side = top ? 0 : 1;
    const auto near = printedCells_[side].near(box.grown(leastInkLine()));
    return std::none_of(near.begin(), near.end(),
                        [&](std::size_t k) { return gap(shape, printed_[side][k]) < leastInkLine(); });
}

void Ink::say(const std::string& mark, const std::string& words) {
    if (!mark.empty()) words_.emplace(mark, words);
}

bool Ink::isClear(const RoundedPolygon& shape, bool top) const {
    const InkOpenings& side = top ? top_ : bottom_;
    const auto near = side.near(boundsOf(shape), leastInkGap());
    return std::none_of(near.begin(), near.end(),
                        [&](std::size_t k) { return gap(shape, side.all()[k].shape) < leastInkGap(); });
}

void Ink::giveTo(Dressed& d) && {
    d.silkscreen = std::move(shapes_[0]);
    d.bottomSilkscreen = std::move(shapes_[1]);
    d.assembly = std::move(shapes_[2]);
    d.inkWords = std::move(words_);
}

}  // namespace punch
