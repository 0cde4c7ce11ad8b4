#include "core/advise/join_ways.h"

#include <fmt/format.h>

#include <algorithm>
#include <set>

#include "core/derive.h"
#include "core/part/names.h"
#include "core/verdicts/gauge_table.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

/// What holes and lands decide.
const char* const kGauges[] = {"makes", "ring", "hole-to-hole", "copper-to-copper", "voltage", "drop-in"};

/// `made`: what its holes are, to tell ways apart that come to the same.
JoinWay tried(std::string words, Part part, std::string& made) {
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
    for (const Pad& p : f.pads)
        made += fmt::format("{} {} {} {} {};", p.at.x.nm(), p.at.y.nm(), p.hole.nm(), p.slotLength.nm(), p.top.width.nm());
    for (const BareHole& h : f.bareHoles) made += fmt::format("{} {} {};", h.at.x.nm(), h.at.y.nm(), h.size.nm());
    return way;
}

std::string byWords(JoinBy by) {
    return by == JoinBy::Leads ? "laid by their leads" : by == JoinBy::PinOne ? "laid by pin 1" : "laid by their datums";
}

}  // namespace

std::vector<JoinWay> joinWays(const Part& part) {
    std::vector<JoinWay> ways;
    if (part.makes.empty()) return ways;
    std::set<std::string> seen;
    const auto offer = [&](std::string words, Part changed) {
        std::string made;
        JoinWay way = tried(std::move(words), std::move(changed), made);
        if (seen.insert(made).second) ways.push_back(std::move(way));
    };
    for (const JoinBy by : {JoinBy::Leads, JoinBy::PinOne, JoinBy::Datum}) {
        Part laid = part;
        for (Make& m : laid.makes) m.by = by;
        for (auto& [key, o] : laid.overrides) o.join.reset();
        offer("by rule, " + byWords(by), laid);
        for (const JoinKind kind : {JoinKind::Round, JoinKind::Slot, JoinKind::TwoHoles}) {
            Part chosen = laid;
            chosen.overrides[kWholePart].join = kind;
            const char* words = kind == JoinKind::Round ? "round holes, " : kind == JoinKind::Slot ? "slots, " : "two holes in one land, ";
            offer(words + byWords(by), std::move(chosen));
        }
    }
    std::stable_sort(ways.begin(), ways.end(), [](const JoinWay& a, const JoinWay& b) {
        if (a.worst != b.worst) return a.worst < b.worst;
        return a.worst > 1 && a.overAll < b.overAll;
    });
    return ways;
}

}  // namespace punch
