#include "core/dress/courtyard.h"

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
    for (const Conductor& c : copperOf(board.pads, board.bareHoles)) content.add(boundsOf(landShape(c)));
    for (const BareHole& h : board.bareHoles) content.add(boundsOf(holeShape(h)));
    for (const KeepoutArea& k : board.keepouts) content.add(k.rect);
    return content;
}

Length courtyardExcess(const Dress& dress) { return dress.courtyardExcess.value_or(courtyardExcessOf(dress.density)); }

}  // namespace punch
