#include "core/verdicts/gauges.h"

#include <algorithm>
#include <cmath>

#include "core/verdicts/gauge_kit.h"

namespace punch {
namespace {

constexpr double kTouch = 1e-6;  // mm; closer to a limit than this is at the limit

}  // namespace

GaugeState atLeast(double value, double low, double limit, bool byConstruction) {
    if (value < limit - kTouch) return GaugeState::NoGo;
    if (low < limit - kTouch) return GaugeState::Watch;
    if (byConstruction) return GaugeState::Go;
    return value - limit < kWatchShare * std::abs(limit) - kTouch ? GaugeState::Watch : GaugeState::Go;
}

Gauge namedGauge(std::string name, std::string title) {
    Gauge g;
    g.name = std::move(name);
    g.title = std::move(title);
    return g;
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

void setDropInGauge(const Part& part, Footprint& f) {
    for (Gauge& g : f.gauges)
        if (g.name == "drop-in") g = dropInGauge(part, f);
}

void addGauges(const Part& part, const Adjustment& adjustment, Footprint& f) {
    f.gauges = {
        readingsGauge(part, adjustment), positionsGauge(part, f),      leadInHoleGauge(part, f), ringGauge(part, f),
        holeToHoleGauge(part, f),        copperToCopperGauge(part, f), voltageGauge(part, f),    silkscreenGauge(f),
        courtyardGauge(part, f),         leadPastBoardGauge(part, f),  dropInGauge(part, f)};
}

GaugeState worstState(const std::vector<Gauge>& gauges) {
    const auto has = [&](GaugeState s) {
        return std::any_of(gauges.begin(), gauges.end(), [&](const Gauge& g) { return g.state == s; });
    };
    for (const GaugeState s : {GaugeState::NoGo, GaugeState::Unknown, GaugeState::Watch})
        if (has(s)) return s;
    return GaugeState::Go;
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
