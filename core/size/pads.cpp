#include "core/size/pads.h"

namespace punch {

RoundedPolygon holeShape(const BareHole& hole, bool largest) {
    const Length width = largest ? hole.sizeLargest : hole.size;
    if (hole.slotLength <= Length()) return RoundedPolygon::disc(hole.at, width);
    return slotShape(hole.at, width, hole.slotLength + (width - hole.size), hole.slotTurn);
}

std::vector<Conductor> copperOf(const std::vector<Pad>& pads, const std::vector<BareHole>& bareHoles,
                                const AttachedCopper& attached) {
    std::vector<Conductor> all(pads.begin(), pads.end());
    for (const BareHole& h : bareHoles) {
        if (!h.plated) continue;
        Conductor lug;
        lug.id = h.id;
        lug.number = h.name;
        lug.at = h.at;
        lug.hole = h.size;
        lug.holeLargest = h.sizeLargest;
        lug.slotLength = h.slotLength;
        lug.slotTurn = h.slotTurn;
        lug.top = lug.inner = lug.bottom = h.land;
        lug.maskMargin = h.maskMargin;
        lug.firm = h.firm;
        lug.sized = h.sized;
        all.push_back(lug);
    }
    all.insert(all.end(), attached.lands.begin(), attached.lands.end());
    return all;
}

}  // namespace punch
