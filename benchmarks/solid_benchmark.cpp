// Solids: leads found in all ways to stand, and sixty leads laid over sixty holes; a STEP file read by punch-solid.

#include <benchmark/benchmark.h>
#include <unistd.h>

#include <filesystem>

#include "core/solid/fit_pose.h"
#include "core/solid/solid_worker.h"

namespace {

using namespace punch;

SolidsToMake header(int pins) {
    SolidsToMake all;
    all.bodies.push_back({"body", kNoColour, Prism{flatRectangle(-2, -3, pins / 2 * 2.54 + 2, 6), 0, 8}, {}, {}});
    for (int i = 0; i < pins; ++i)
        all.bodies.push_back({"lead",
                              kNoColour,
                              Prism{flatCircle(i / 2 * 2.54 + (i == 7 ? 0.3 : 0), i % 2 * 2.54, 0.8), -3, 1},
                              {},
                              {}});
    all.pose = turnAbout({1, 2, 3}, 40);
    return all;
}

const Solid& sixty() {
    static const Solid solid = [] {
        SolidWorker worker;
        return *worker.make(header(60));
    }();
    return solid;
}

void waysOfSixtyLeads(benchmark::State& state) {
    for (auto _ : state) benchmark::DoNotOptimize(standings(sixty()).size());
}
BENCHMARK(waysOfSixtyLeads)->Unit(benchmark::kMillisecond);

void sixtyLeadsOverSixtyHoles(benchmark::State& state) {
    const auto ways = standings(sixty());
    std::vector<Socket> sockets;
    for (int i = 0; i < 60; ++i)
        sockets.push_back({std::to_string(i), std::to_string(i), {i / 2 * 2.54 + 11, i % 2 * 2.54 - 5}, 1.1});
    for (auto _ : state) benchmark::DoNotOptimize(fitPoses(ways, sockets).size());
}
BENCHMARK(sixtyLeadsOverSixtyHoles)->Unit(benchmark::kMillisecond);

void stepIsRead(benchmark::State& state) {
    const auto path =
        std::filesystem::temp_directory_path() / ("punch-benchmark-" + std::to_string(::getpid()) + ".step");
    SolidWorker worker;
    if (!worker.writeStep(header(60), path.string())) return state.SkipWithError("it cannot be written");
    for (auto _ : state) benchmark::DoNotOptimize(worker.readStep(path.string())->triangles.size());
    std::filesystem::remove(path);
}
BENCHMARK(stepIsRead)->Unit(benchmark::kMillisecond)->MeasureProcessCPUTime()->UseRealTime();

}  // namespace
