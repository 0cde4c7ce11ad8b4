// Dressing a part of 500 pins: courtyard, outline, marks of every printing kind; all layers as artwork; way round.

#include <benchmark/benchmark.h>

#include "core/artwork/artwork.h"
#include "core/derive.h"
#include "core/dress/silkscreen.h"
#include "core/fit/turned_in.h"
#include "core/part/edit.h"
#include "core/part/mark_kinds.h"

namespace {

using namespace punch;

const Part& large() {
    static const Part part = [] {
        FormationPlan plan;
        plan.kind = FormationKind::TwoRows;
        plan.rows = {250, 250};
        Part p = *newPart(plan);
        for (const MarkKindInfo& kind : markKinds()) p = withMark(p, newMark(kind.kind));
        return p;
    }();
    return part;
}
const Footprint& footprint() {
    static const Footprint f = derive(large());
    return f;
}

void dressFiveHundredPins(benchmark::State& state) {
    const Footprint& f = footprint();
    for (auto _ : state) benchmark::DoNotOptimize(dressed(large(), f.board(), f).silkscreen.size());
}
BENCHMARK(dressFiveHundredPins)->Unit(benchmark::kMillisecond);

void allLayersOfFiveHundredPins(benchmark::State& state) {
    const Footprint& f = footprint();
    for (auto _ : state)
        for (int layer = 0; layer <= static_cast<int>(Layer::BottomCourtyard); ++layer)
            benchmark::DoNotOptimize(artwork(large(), f, static_cast<Layer>(layer)).size());
}
BENCHMARK(allLayersOfFiveHundredPins)->Unit(benchmark::kMillisecond);

void waysRoundOfFiveHundredPins(benchmark::State& state) {
    const auto seats = leadsAndHoles(footprint());
    for (auto _ : state) benchmark::DoNotOptimize(otherWays(seats).size());
}
BENCHMARK(waysRoundOfFiveHundredPins)->Unit(benchmark::kMillisecond);

}  // namespace
