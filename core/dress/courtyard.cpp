#include "core/dress/courtyard.h"

#include <algorithm>

#include "core/geometry/box_cells.h"
#include "core/geometry/shapes.h"

namespace punch {

Length courtyardExcessOf(Density density) {
    switch (density) {
        case Density::B: return Length::fromMm(0.25);
        case Density::C: return Length::fromMm(0.10);
        case Density::A:
        case Density::Connector: break;
    }
    return Length::fromMm(0.50);
}

Length ruledExcess(const Part& part, const AttachedCopper& attached) {
    const Length level = courtyardExcessOf(part.dress.density);
    if (attached.courtyards.empty() || part.dress.density == Density::Connector) return level;
    Length most = part.formations.empty() ? Length() : level;
    for (const auto& [mark, excess] : attached.courtyards) most = max(most, excess);
    return most;
}

namespace {

/// What nobody else may cover: of a fiducial its clear ring.
RoundedPolygon roomOf(const Conductor& c, RoundedPolygon copper) {
    if (c.fiducial) copper.radius += max(c.maskMargin, Length());
    return copper;
}

}  // namespace

Rect courtyardContent(const Board& board, const std::optional<BodyBox>& body) {
    Rect content;
    if (body) {
        content.add(body->rect);
        content.add(body->shape.box());
    }
    for (const Conductor& c : board.copper()) content.add(boundsOf(roomOf(c, landShape(c))));
    for (const BareHole& h : board.bareHoles) content.add(boundsOf(holeShape(h)));
    for (const Shape& k : board.keepouts)
        if (k.keeps.parts) content.add(k.box());
    return content;
}

namespace {

const Length kLarge = Length::fromMm(1.4), kFineChords = Length::fromUm(8);
const Length kChords = Length::fromUm(40);  // of lands and holes, outside
const Length kGap = Length::fromMm(2);      // between lands, that is closed

std::vector<Point> hullOfPoints(const std::vector<Point>& a, const std::vector<Point>& b) {
    return hullOf({RoundedPolygon{a, Length()}, RoundedPolygon{b, Length()}}).corners;
}

/// All of them joined; halves first, so that long rows become one before they meet others.
Polygons joined(std::vector<Polygons>& all, std::size_t from, std::size_t to) {
    if (to - from == 0) return {};
    if (to - from == 1) return united(all[from]);
    const std::size_t middle = (from + to) / 2;
    Polygons a = joined(all, from, middle);
    const Polygons b = joined(all, middle, to);
    a.insert(a.end(), b.begin(), b.end());
    return united(a);
}

}  // namespace

Polygons courtyardContent(const Board& board, const std::optional<BodyBox>& body, bool top) {
    std::vector<std::vector<Point>> convex;
    const auto add = [&](const RoundedPolygon& shape) {
        // What lies within the body is held by it.
        const Rect box = boundsOf(shape);
        if (top && body && !body->traced() && box.left >= body->rect.left && box.right <= body->rect.right &&
            box.bottom >= body->rect.bottom && box.top <= body->rect.top)
            return;
        // A large circle would show its corners.
        convex.push_back(flattened(ringOf(shape), shape.radius > kLarge ? kFineChords : kChords, Chords::Outside));
    };
    for (const Conductor& c : board.copper()) {
        if (const Land& land = top ? c.top : c.bottom; land.there())
            add(roomOf(c, copperShape(land)));
        else if (c.hole > Length())
            add(holeShape(c));
    }
    for (const BareHole& h : board.bareHoles) add(holeShape(h));
    // Between lands that stand near each other nobody else does: what is around both is kept.
    BoxCells cells(kGap);
    std::vector<Polygons> all;
    std::vector<Rect> boxes;
    for (const auto& shape : convex) {
        Rect box;
        for (const Point& p : shape) box.add(p);
        boxes.push_back(box);
        cells.add(box);
    }
    for (std::size_t i = 0; i < convex.size(); ++i) {
        bool alone = true;
        for (const std::size_t k : cells.near(boxes[i].grown(kGap))) {
            if (k == i) continue;
            if (gap(RoundedPolygon{convex[i], Length()}, RoundedPolygon{convex[k], Length()}) >= kGap) continue;
            alone = false;
            if (k > i) all.push_back({hullOfPoints(convex[i], convex[k])});
        }
        if (alone) all.push_back({convex[i]});
    }
    std::sort(all.begin(), all.end(), [](const Polygons& a, const Polygons& b) {
        const Rect x = boundsOf(a), y = boundsOf(b);
        return x.bottom < y.bottom || (x.bottom == y.bottom && x.left < y.left);
    });
    if (body && top) all.push_back(united(body->shape.area()));
    for (const Shape& k : board.keepouts)
        if (k.keeps.parts && (top ? k.keeps.top : k.keeps.bottom)) all.push_back(k.area());
    return joined(all, 0, all.size());
}

Polygons courtyardAround(const Polygons& content, Length excess) {
    Polygons outer;
    for (const Area& area : areasOf(content)) outer.push_back(flattened(area.outer, chordError()));
    Polygons rings;
    for (const Area& area : areasOf(grownSharp(outer, excess))) rings.push_back(flattened(area.outer, chordError()));
    return united(rings);
}

Length courtyardExcess(const Part& part, const AttachedCopper& attached) {
    return part.dress.courtyardExcess.value_or(ruledExcess(part, attached));
}

}  // namespace punch
