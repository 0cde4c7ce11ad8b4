// How long it takes from a part to its footprint, beside the linear algebra that it cannot do without.

#include <benchmark/benchmark.h>

#include <Eigen/QR>
#include <string>

#include "core/derive.h"
#include "core/measure/adjust.h"
#include "core/measure/next_reading.h"
#include "core/part/edit.h"
#include "core/part/file.h"

namespace {

using namespace punch;

/// A row of `pins` with `readings` readings over ever other pairs, all from one true geometry.
Part row(int pins, int readings) {
    Part part = *newRow(pins);
    const auto add = [&](const std::string& a, const std::string& b, Contact contact, double mm) {
        Reading r;
        r.a = a;
        r.b = b;
        r.contact = contact;
        r.raw.push_back({Length::fromMm(mm), std::to_string(mm), Unit::Mm, false, {}});
        part = withReading(part, r);
    };
    add("p1", "", Contact::Size, 0.64);
    for (int i = 1; i < readings; ++i) {
        const int a = 1 + i * 7 % pins;
        const int b = 1 + (i * 13 + 5) % pins;
        if (a == b) continue;
        add("p" + std::to_string(a), "p" + std::to_string(b), Contact::Outside, std::abs(a - b) * 2.54 + 0.64);
    }
    return part;
}

void deriveDemo(benchmark::State& state) {
    const Part part = *loadPart("demo/fennel-house/QB-TB4.punch");
    for (auto _ : state) benchmark::DoNotOptimize(derive(part));
}
BENCHMARK(deriveDemo);

void deriveRow(benchmark::State& state) {
    const Part part = row(static_cast<int>(state.range(0)), static_cast<int>(state.range(1)));
    for (auto _ : state) benchmark::DoNotOptimize(derive(part));
}
BENCHMARK(deriveRow)->Args({64, 40})->Args({500, 200})->Unit(benchmark::kMillisecond);

void adjustRow(benchmark::State& state) {
    const Part part = row(static_cast<int>(state.range(0)), static_cast<int>(state.range(1)));
    for (auto _ : state) benchmark::DoNotOptimize(Adjustment(part).redundancy());
}
BENCHMARK(adjustRow)->Args({64, 40})->Args({500, 200})->Unit(benchmark::kMillisecond);

/// The yardstick: one column-pivoted QR of the adjustment's own last Jacobian.
void oneFactorisation(benchmark::State& state) {
    const Part part = row(static_cast<int>(state.range(0)), static_cast<int>(state.range(1)));
    const Adjustment adjustment(part);
    const Eigen::MatrixXd& m = adjustment.jacobian();
    for (auto _ : state) benchmark::DoNotOptimize(Eigen::ColPivHouseholderQR<Eigen::MatrixXd>(m).rank());
}
BENCHMARK(oneFactorisation)->Args({64, 40})->Args({500, 200});

void nextReadingOverAll(benchmark::State& state) {
    const Part part = row(64, 40);
    const Adjustment adjustment(part);
    for (auto _ : state)
        benchmark::DoNotOptimize(nextReading(part, adjustment, enoughFor(0.0), Candidates::All).words.size());
}
BENCHMARK(nextReadingOverAll)->Unit(benchmark::kMillisecond);

void loadAndSave(benchmark::State& state) {
    const std::string text = toText(row(64, 40));
    for (auto _ : state) benchmark::DoNotOptimize(toText(*fromText(text, "memory")).size());
}
BENCHMARK(loadAndSave);

}  // namespace

BENCHMARK_MAIN();
