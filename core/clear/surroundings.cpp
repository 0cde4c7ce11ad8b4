#include "core/clear/surroundings.h"

#include <algorithm>

#include "core/clear/conductors.h"
#include "core/clear/spacing.h"
#include "core/clear/ways.h"

namespace punch {

std::vector<Surrounding> surroundings(const Part& part, const Footprint& f) {
    std::vector<Surrounding> all;
    const auto live = potentialByFeature(part);
    if (live.empty()) return all;
    const std::vector<Pad> pads = copperPads(f);
    Potential zero;
    zero.kind = PotentialKind::Dc;
    std::vector<VoltagePair> asks;
    for (const Potential& p : part.potentials) asks.push_back(askedBetween(part.rules, p, zero));
    Ways ways(part, f);
    const auto add = [&](const std::string& id, Surrounding::Kind kind) {
        if (live.contains(id)) return;
        const auto thing = surroundingPad(part, f, id);
        if (!thing) return;
        std::optional<Surrounding> tightest;
        for (const Pad& pad : pads) {
            const auto potential = live.find(pad.id);
            if (potential == live.end()) continue;
            VoltagePair pair = asks[potential->second];
            // 0 V against 0 V asks for nothing, and nothing is known of what a table refuses.
            if (!pair.refused.empty() || pair.peak <= Voltage()) continue;
            if (tightest && copperGapBound(pad, *thing) - pair.needed > tightest->margin) continue;
            ways.measure(pair, pad, *thing);
            if (pair.gap >= noWay() || (tightest && pair.margin() >= tightest->margin)) continue;
            tightest = Surrounding{id,       featureWords(part, id),  kind,         pad.id, pair.gap,
                                   pair.way, tightestWay(pair).needs, pair.margin()};
        }
        if (tightest) all.push_back(*tightest);
    };
    for (const KeepoutArea& k : f.keepouts) add(k.id, Surrounding::Kind::Keepout);
    for (const FaceLine& face : f.faces)
        if (carriesVoltage(part, face.id)) add(face.id, Surrounding::Kind::BoardEdge);
    for (const CutShape& c : f.cutOuts) add(c.id, Surrounding::Kind::CutOut);
    for (const Spot& spot : part.spots)
        if (spot.head > Length()) add(spot.id, Surrounding::Kind::Metal);
    return all;
}

}  // namespace punch
