#include "core/verdicts/gauges.h"

#include <algorithm>
#include <cmath>

#include "core/verdicts/gauge_kit.h"
#include "core/verdicts/gauge_table.h"

namespace punch {
namespace {

constexpr double kAtLimit = 1e-6;  // mm; closer to a limit than this is at the limit

}  // namespace

GaugeState atLeast(double value, double low, double limit, bool byConstruction) {
    if (value < limit - kAtLimit) return GaugeState::NoGo;
    if (low < limit - kAtLimit) return GaugeState::Watch;
    if (byConstruction) return GaugeState::Go;
    return value - limit < kWatchShare * std::abs(limit) - kAtLimit ? GaugeState::Watch : GaugeState::Go;
}

Gauge unknownGauge(Gauge g, std::string words, std::vector<std::string> about) {
    g.state = GaugeState::Unknown;
    g.words = std::move(words);
    g.about = std::move(about);
    return g;
}

void setLengths(Gauge& g, Length value, Length limit) {
    g.value = value.mm();
    g.limit = limit.mm();
    g.margin = (value - limit).mm();
    g.of = {value, limit};
}

namespace {

Gauge judged(const GaugeKind& kind, const Part& part, const Adjustment& adjustment, const Results& f) {
    Gauge g = kind.judge(part, adjustment, f);
    g.id = kind.id;
    g.name = kind.name;
    g.title = kind.title;
    return g;
}

}  // namespace

std::vector<Gauge> gauges(const Part& part, const Adjustment& adjustment, const Results& f) {
    std::vector<Gauge> all;
    for (const GaugeKind& kind : gaugeKinds())
        if (!kind.optional || kind.asked(part)) all.push_back(judged(kind, part, adjustment, f));
    return all;
}

void setDropIn(const Part& part, Footprint& f, const DropInShare& share) {
    f.dropIn = share;
    const GaugeKind& kind = gaugeKind(GaugeId::DropIn);
    for (Gauge& g : f.gauges) {
        if (g.id != GaugeId::DropIn) continue;
        g = dropInGauge(part, f);
        g.id = kind.id;
        g.name = kind.name;
        g.title = kind.title;
    }
}

GaugeState worstState(const std::vector<Gauge>& gauges) {
    GaugeState worst = GaugeState::Go;
    for (const Gauge& g : gauges)
        if (badness(g.state) > badness(worst)) worst = g.state;
    return worst;
}

std::string stateName(GaugeState state) {
    switch (state) {
        case GaugeState::Go: return "go";
        case GaugeState::Watch: return "watch";
        case GaugeState::NoGo: return "no-go";
        case GaugeState::Unknown: break;
    }
    return "unknown";
}

}  // namespace punch
