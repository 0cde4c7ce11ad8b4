// How long it takes from a part to its footprint, beside the linear algebra that it cannot do without.

#include <benchmark/benchmark.h>
#include <fmt/format.h>

#include <Eigen/QR>
#include <cmath>
#include <map>
#include <random>
#include <string>

#include "core/derive.h"
#include "core/measure/adjust.h"
#include "core/measure/next_reading.h"
#include "core/part/edit.h"
#include "core/part/file.h"

namespace {

using namespace punch;

/// Two facing rows with a body and two pegs, every parameter read, all from one true geometry: at least 20 readings.
Part twoRows(int pins, int readings) {
    FormationPlan plan;
    plan.kind = FormationKind::TwoRows;
    plan.rows = {pins / 2, pins - pins / 2};
    Part part = withSpot(withSpot(*newPart(plan)));
    part.given.clear();
    const FeatureId peg = part.spots[0].id;
    const FeatureId peg2 = part.spots[1].id;
    Part truth = part;
    const double span = (pins / 2 - 1) * 2.54;
    const std::map<std::string, double> values = {
        {"pitch", 2.54},          {"rowGap", 7.62},         {"rowShift", 0},    {"lead.width", 0.64},
        {"lead.thickness", 0.5},  {"lead.length", 3.2},     {peg + ".x", -3},   {peg + ".y", 3.8},
        {peg + ".diameter", 1.6}, {peg2 + ".x", span + 3},  {peg2 + ".y", 3.8}, {peg2 + ".diameter", 1.6},
        {"body.left", -5},        {"body.right", span + 5}, {"body.front", -2}, {"body.rear", 10},
        {"body.height", 9}};
    for (const auto& [name, mm] : values) {
        truth.taken[name] = Length::fromMm(mm);
        part.assumed[name] = Length::fromMm(mm);
    }
    const Adjustment known(truth);
    const auto add = [&](Reading r) {
        const double mm = std::round(known.equation(r)->value() * 100) / 100;
        for (int k = 0; k < 2; ++k) r.raw.push_back({Length::fromMm(mm), std::to_string(mm), Unit::Mm, false, {}});
        part = withReading(part, r);
    };
    const auto candidates = candidateReadings(part);
    const std::size_t step = std::max<std::size_t>(1, candidates.size() / 30);
    for (std::size_t i = 0; i < candidates.size() && part.readings.size() < 30; i += step) add(candidates[i]);
    // What is still loose after a sample of all is asked for.
    for (int guard = 0; guard < 30; ++guard) {
        const Adjustment a(part);
        if (a.loose().cols() == 0) break;
        const NextReading next = nextReading(part, a, enoughFor(1));
        if (!next.reading) break;
        Reading r = *next.reading;
        add(r);
    }
    for (int i = 0; static_cast<int>(part.readings.size()) < readings; ++i) {
        Reading r;
        r.a = part.formations[0].pins[static_cast<std::size_t>(i * 7 % pins)];
        r.b = part.formations[0].pins[static_cast<std::size_t>((i * 13 + 5) % pins)];
        r.axis = i % 3 == 0 ? Axis::Across : Axis::Along;
        if (r.a != r.b) add(r);
    }
    return part;
}

void deriveDemo(benchmark::State& state) {
    const Part part = *loadPart("demo/fennel-house/QB-TB4.punch");
    for (auto _ : state) benchmark::DoNotOptimize(derive(part));
}
BENCHMARK(deriveDemo);

void deriveTwoRows(benchmark::State& state) {
    const Part part = twoRows(static_cast<int>(state.range(0)), static_cast<int>(state.range(1)));
    for (auto _ : state) benchmark::DoNotOptimize(derive(part));
}
BENCHMARK(deriveTwoRows)->Args({64, 40})->Args({500, 200})->Unit(benchmark::kMillisecond);

void adjustTwoRows(benchmark::State& state) {
    const Part part = twoRows(static_cast<int>(state.range(0)), static_cast<int>(state.range(1)));
    for (auto _ : state) benchmark::DoNotOptimize(Adjustment(part).redundancy());
}
BENCHMARK(adjustTwoRows)->Args({64, 40})->Args({500, 200})->Unit(benchmark::kMillisecond);

void readingsAlone(benchmark::State& state) {
    const Part part = twoRows(static_cast<int>(state.range(0)), static_cast<int>(state.range(1)));
    for (auto _ : state) benchmark::DoNotOptimize(readingStats(part).size());
}
BENCHMARK(readingsAlone)->Args({64, 40})->Args({500, 200});

/// The yardstick: one column-pivoted QR of the adjustment's own last Jacobian.
void oneFactorisation(benchmark::State& state) {
    const Part part = twoRows(static_cast<int>(state.range(0)), static_cast<int>(state.range(1)));
    const Adjustment adjustment(part);
    const Eigen::MatrixXd& m = adjustment.jacobian();
    for (auto _ : state) benchmark::DoNotOptimize(Eigen::ColPivHouseholderQR<Eigen::MatrixXd>(m).rank());
}
BENCHMARK(oneFactorisation)->Args({64, 40})->Args({500, 200});

void nextReadingOverAll(benchmark::State& state) {
    const Part part = twoRows(64, 40);
    const Adjustment adjustment(part);
    for (auto _ : state)
        benchmark::DoNotOptimize(nextReading(part, adjustment, enoughFor(0.0), Candidates::All).words.size());
}
BENCHMARK(nextReadingOverAll)->Unit(benchmark::kMillisecond);

void loadAndSave(benchmark::State& state) {
    const std::string text = toText(twoRows(64, 40));
    for (auto _ : state) benchmark::DoNotOptimize(toText(*fromText(text, "memory")).size());
}
BENCHMARK(loadAndSave);

}  // namespace

/// Single pins, each with readings of its own: nothing but the frame holds them together.
void deriveSinglePins(benchmark::State& state) {
    Part part = *newRow(1);
    part.body.present = false;
    std::mt19937 random(1);
    const auto read = [&](const FeatureId& a, const FeatureId& b, Contact contact, Axis axis, double mm) {
        Reading r;
        r.a = a;
        r.b = b;
        r.contact = contact;
        r.axis = axis;
        mm = std::round((mm + std::normal_distribution<double>(0, 0.01)(random)) * 100) / 100;
        r.raw.push_back({Length::fromMm(mm), fmt::format("{:.2f}", mm), Unit::Mm, false, {}});
        part = withReading(std::move(part), r);
    };
    part.formations[0].lead = LeadShape::Round;
    const FeatureId first = part.formations[0].pins[0];
    read(first, {}, Contact::Size, Axis::Along, 0.8);
    for (int i = 1; i < state.range(0); ++i) {
        part = *withFormation(part, {FormationKind::Single, {1}, {}, false, false, {}, {}});
        Formation& f = part.formations.back();
        f.lead = LeadShape::Round;
        const double x = 3.1 * (1 + i % 25);
        const double y = 3.3 * (1 + i / 25);
        part.assumed[f.id + ".x"] = Length::fromMm(x);
        part.assumed[f.id + ".y"] = Length::fromMm(y);
        const FeatureId pin = f.pins[0];
        read(pin, {}, Contact::Size, Axis::Along, 0.8);
        read(first, pin, Contact::Outside, Axis::Along, x + 0.8);
        read(first, pin, Contact::Outside, Axis::Across, y + 0.8);
    }
    for (auto _ : state) benchmark::DoNotOptimize(derive(part));
}
BENCHMARK(deriveSinglePins)->Arg(100)->Arg(200)->Arg(500)->Unit(benchmark::kMillisecond);

BENCHMARK_MAIN();
