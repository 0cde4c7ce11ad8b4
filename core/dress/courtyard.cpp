#include "core/dress/courtyard.h"

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

Rect courtyardContent(const Board& board, const std::optional<BodyBox>& body) {
    Rect content;
    if (body) {
        content.add(body->rect);
        for (const Point& p : body->outline) content.add(p);
    }
    for (const Conductor& c : board.copper()) content.add(boundsOf(landShape(c)));
    for (const BareHole& h : board.bareHoles) content.add(boundsOf(holeShape(h)));
    for (const KeepoutArea& k : board.keepouts)
        if (k.parts) content.add(k.rect);
    return content;
}

Polygons courtyardContent(const Board& board, const std::optional<BodyBox>& body, bool top) {
    Polygons all;
    const auto add = [&](const Polygons& more) { all.insert(all.end(), more.begin(), more.end()); };
    if (body && top) add(body->outline.empty() ? polygonsOf(rectangleRing(body->rect)) : united({body->outline}));
    for (const Conductor& c : board.copper()) {
        if (const Land& land = top ? c.top : c.bottom; land.there())
            add(polygonsOf(copperShape(land), Chords::Outside));
        if (c.hole > Length()) add(polygonsOf(holeShape(c), Chords::Outside));
    }
    for (const BareHole& h : board.bareHoles) add(polygonsOf(holeShape(h), Chords::Outside));
    for (const KeepoutArea& k : board.keepouts)
        if (k.parts && (top ? k.top : k.bottom)) add(k.area);
    return united(all);
}

Polygons courtyardAround(const Polygons& content, Length excess) {
    const Length notch = Length::fromMm(1);  // half of what is closed
    Polygons outer;
    for (const Area& area : areasOf(grownSharp(grownSharp(content, excess + notch), -notch)))
        outer.push_back(flattened(area.outer, chordError()));
    return united(outer);
}

Length courtyardExcess(const Dress& dress) { return dress.courtyardExcess.value_or(courtyardExcessOf(dress.density)); }

}  // namespace punch
