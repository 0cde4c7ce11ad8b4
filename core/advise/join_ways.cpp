#include "core/advise/join_ways.h"

#include <algorithm>

#include "core/derive.h"
#include "core/part/names.h"
#include "core/verdicts/gauge_table.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

/// What holes and lands decide.
const char* const kGauges[] = {"makes", "ring", "hole-to-hole", "copper-to-copper", "voltage", "drop-in"};

JoinWay tried(std::string words, Part part) {
    JoinWay way;
    way.words = std::move(words);
    const Footprint f = derive(part);
    for (const char* name : kGauges) {
        const Gauge* g = f.gauge(name);
        if (g == nullptr || !gaugeKind(g->id).asked(part) || badness(g->state) <= way.worst) continue;
        way.worst = badness(g->state);
        way.binds = g->title + ": " + fill(g->words, g->of, Unit::Mm, 2);
    }
    way.part = std::move(part);
    way.share = f.dropIn.known ? f.dropIn.share : 0;
    for (const MakeFit& m : f.makeFits) way.share = std::min(way.share, m.dropIn.known ? m.dropIn.share : 0.0);
    for (const JoinedHole& j : f.joined) way.overAll = max(way.overAll, j.over);
    return way;
}

std::string byWords(JoinBy by) {
    return by == JoinBy::Leads ? "laid by their leads" : by == JoinBy::PinOne ? "laid by pin 1" : "laid by their datums";
}

}  // namespace

std::vector<JoinWay> joinWays(const Part& part) {
    std::vector<JoinWay> ways;
    if (part.makes.empty()) return ways;
    for (const JoinBy by : {JoinBy::Leads, JoinBy::PinOne, JoinBy::Datum}) {
        Part laid = part;
        for (Make& m : laid.makes) m.by = by;
        for (auto& [key, o] : laid.overrides) o.join.reset();
        ways.push_back(tried("by rule, " + byWords(by), laid));
        for (const JoinKind kind : {JoinKind::Round, JoinKind::Slot, JoinKind::TwoHoles}) {
            Part chosen = laid;
            chosen.overrides[kWholePart].join = kind;
            const char* words = kind == JoinKind::Round ? "round holes, " : kind == JoinKind::Slot ? "slots, " : "two holes in one land, ";
            ways.push_back(tried(words + byWords(by), std::move(chosen)));
        }
    }
    std::stable_sort(ways.begin(), ways.end(), [](const JoinWay& a, const JoinWay& b) {
        if (a.worst != b.worst) return a.worst < b.worst;
        return a.worst > 1 && a.overAll < b.overAll;
    });
    return ways;
}

}  // namespace punch
