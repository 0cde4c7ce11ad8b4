// Drop-in and voltage distances: each beside what it is to be measured against, in one run.

#include <benchmark/benchmark.h>

#include "core/clear/voltage_pairs.h"
#include "core/derive.h"
#include "core/fit/drop_in.h"
#include "core/measure/adjust.h"
#include "core/part/edit.h"

namespace {

using namespace punch;

/// Fifteen square pins in two rows and two pegs, all of known size and place.
const Part& fifteen() {
    static const Part part = [] {
        FormationPlan plan;
        plan.kind = FormationKind::TwoRows;
        plan.rows = {8, 7};
        Part p = withSpot(withSpot(*newPart(plan)));
        p.given.clear();
        const auto give = [&](const std::string& name, const char* mm) { p.given[name] = {mm, Unit::Mm}; };
        give("pitch", "2.54");
        give("rowGap", "7.62");
        give("rowShift", "1.27");
        give("lead.width", "0.64");
        give("lead.thickness", "0.64");
        for (std::size_t i = 0; i < 2; ++i) {
            give(p.spots[i].id + ".x", i == 0 ? "-3" : "21");
            give(p.spots[i].id + ".y", "3.8");
            give(p.spots[i].id + ".diameter", "1.6");
        }
        return p;
    }();
    return part;
}

struct Gauge17 {
    Footprint footprint = derive(fifteen());
    Adjustment adjustment{fifteen()};
    DropIn gauge{fifteen(), adjustment, footprint};
};

DropInOptions trials(int threads, bool costs) {
    DropInOptions o;
    o.threads = threads;
    o.costs = costs;
    o.band = o.holes = false;
    return o;
}

/// 100,000 trials with their spare room; aim: 2 s on two cores, 1.7 times one core.
void DropInTrials(benchmark::State& state) {
    const Gauge17 g;
    for (auto _ : state)
        benchmark::DoNotOptimize(g.gauge.report(trials(static_cast<int>(state.range(0)), false)).share.in);
}
BENCHMARK(DropInTrials)->Arg(1)->Arg(2)->Unit(benchmark::kMillisecond)->UseRealTime()->Iterations(2);

/// The same with what every tolerance costs; aim: 10 s.
void DropInCosts(benchmark::State& state) {
    const Gauge17 g;
    for (auto _ : state) benchmark::DoNotOptimize(g.gauge.report(trials(2, true)).costs.size());
}
BENCHMARK(DropInCosts)->Unit(benchmark::kMillisecond)->UseRealTime()->Iterations(1);

/// 2,000 pads in a grid, every third at another potential.
const Part& grid() {
    static const Part part = [] {
        FormationPlan plan;
        plan.kind = FormationKind::Grid;
        plan.rows = std::vector<int>(40, 50);
        Part p = *newPart(plan);
        p.body.present = false;
        p.taken["pitch"] = Length::fromMm(2.54);
        p.taken["rowGap"] = Length::fromMm(2.54);
        p.taken["lead.width"] = Length::fromMm(0.64);
        p.taken["lead.thickness"] = Length::fromMm(0.64);
        Potential a{"a", PotentialKind::Dc, Voltage::fromVolts(48), "", {}, {}};
        Potential b{"b", PotentialKind::Dc, Voltage::fromVolts(0), "", {}, {}};
        const auto& pins = p.formations[0].pins;
        for (std::size_t i = 0; i < pins.size(); ++i) (i % 3 == 0 ? a : b).pins.push_back(pins[i]);
        p.potentials = {a, b};
        return p;
    }();
    return part;
}

void VoltageOfAllPads(benchmark::State& state) {
    const Footprint f = derive(grid());
    for (auto _ : state) benchmark::DoNotOptimize(voltagePairs(grid(), f.board()).size());
    state.counters["exactPerPad"] = static_cast<double>(exactDistancesTaken()) / static_cast<double>(f.pads.size());
}
BENCHMARK(VoltageOfAllPads)->Unit(benchmark::kMillisecond);

/// Every pair of different potentials with the same distance code; aim: the above is 20 times faster.
void VoltageOfEveryPair(benchmark::State& state) {
    const Footprint f = derive(grid());
    const Part part = grid();
    Ways ways(part, f.board());
    for (auto _ : state) {
        Length least = Length::fromMm(1e3);
        for (std::size_t i = 0; i < f.pads.size(); ++i)
            for (std::size_t k = i + 1; k < f.pads.size(); ++k) {
                VoltagePair pair;
                ways.measure(pair, f.pads[i], f.pads[k]);
                least = min(least, pair.gap);
            }
        benchmark::DoNotOptimize(least);
    }
}
BENCHMARK(VoltageOfEveryPair)->Unit(benchmark::kMillisecond)->Iterations(1);

/// A part of 100 pads as it follows the hand; aim: 16 ms.
void DeriveHundredPads(benchmark::State& state) {
    FormationPlan plan;
    plan.kind = FormationKind::TwoRows;
    plan.rows = {50, 50};
    Part p = *newPart(plan);
    p.given.clear();
    const auto give = [&](const std::string& name, const char* mm) { p.given[name] = {mm, Unit::Mm}; };
    give("pitch", "2.54");
    give("rowGap", "7.62");
    give("rowShift", "0");
    give("lead.width", "0.64");
    give("lead.thickness", "0.64");
    Potential a{"a", PotentialKind::Dc, Voltage::fromVolts(60), "", {}, {}};
    Potential b{"b", PotentialKind::Dc, Voltage::fromVolts(0), "", {}, {}};
    const auto& pins = p.formations[0].pins;
    for (std::size_t i = 0; i < pins.size(); ++i) (i % 2 == 0 ? a : b).pins.push_back(pins[i]);
    p.potentials = {a, b};
    int trials = 0;
    for (auto _ : state) trials = derive(p).dropIn.trials;
    state.counters["dropInTrials"] = trials;
}
BENCHMARK(DeriveHundredPads)->Unit(benchmark::kMillisecond);

}  // namespace
