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

Rect courtyardContent(const Footprint& footprint) {
    Rect content;
    if (footprint.body) {
        content.add(footprint.body->rect);
        for (const Point& p : footprint.body->outline) content.add(p);
    }
    for (const Pad& p : copperPads(footprint)) content.add(boundsOf(landShape(p)));
    for (const BareHole& h : footprint.bareHoles) content.add(boundsOf(holeShape(h)));
    for (const KeepoutArea& k : footprint.keepouts) content.add(k.rect);
    return content;
}

void addCourtyard(const Part& part, Footprint& footprint) {
    footprint.courtyardExcess = part.dress.courtyardExcess.value_or(courtyardExcessOf(part.dress.density));
    footprint.courtyard = courtyardContent(footprint).grown(footprint.courtyardExcess);
}

void addKeepouts(const Part& part, Footprint& footprint) {
    if (!footprint.body) return;
    const Rect& body = footprint.body->rect;
    for (const Keepout& k : part.dress.keepouts) {
        KeepoutArea area{k.id, k.name, body, k.maxHeight, footprint.body->firm[static_cast<int>(k.side)]};
        switch (k.side) {
            case Side::Front:
                area.rect.top = body.bottom;
                area.rect.bottom = body.bottom - k.depth;
                break;
            case Side::Rear:
                area.rect.bottom = body.top;
                area.rect.top = body.top + k.depth;
                break;
            case Side::Left:
                area.rect.right = body.left;
                area.rect.left = body.left - k.depth;
                break;
            case Side::Right:
                area.rect.left = body.right;
                area.rect.right = body.right + k.depth;
                break;
        }
        footprint.keepouts.push_back(area);
    }
}

}  // namespace punch
