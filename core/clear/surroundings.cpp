#include "core/clear/surroundings.h"

#include <algorithm>

#include "core/clear/conductors.h"
#include "core/clear/spacing.h"
#include "core/clear/ways.h"

namespace punch {

std::vector<Surrounding> surroundings(const Part& part, const Board& board) {
    std::vector<Surrounding> all;
    const auto live = potentialByFeature(part);
    if (live.empty()) return all;
    const std::vector<Conductor> pads = board.copper();
    Potential zero;
    zero.kind = PotentialKind::Dc;
    std::vector<VoltagePair> asks;
    for (const Potential& p : part.potentials) asks.push_back(askedBetween(part.rules, p, zero));
    Ways ways(part, board);
    const auto add = [&](const std::string& id, Surrounding::Kind kind) {
        if (live.contains(id)) return;
        const auto thing = surroundingMetal(part, board, id);
        if (!thing) return;
        std::optional<Surrounding> tightest;
        for (const Conductor& pad : pads) {
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
    // The body of another make is no metal, and no mark that could be.
    for (const Shape& k : board.keepouts)
        if (markById(part, k.id) != nullptr) add(k.id, Surrounding::Kind::Keepout);
    for (const FaceLine& face : board.faces)
        if (carriesVoltage(part, face.id)) add(face.id, Surrounding::Kind::BoardEdge);
    for (const Shape& c : board.cutOuts) add(c.id, Surrounding::Kind::CutOut);
    for (const Spot& spot : part.spots)
        if (spot.head > Length()) add(spot.id, Surrounding::Kind::Metal);
    return all;
}

}  // namespace punch
