// Solids: leads found in all ways to stand, and sixty leads laid over sixty holes; a STEP file read by punch-solid.

#include <benchmark/benchmark.h>
#include <unistd.h>

#include <filesystem>

#include "core/body/drawn_scene.h"
#include "core/derive.h"
#include "core/solid/fit_pose.h"
#include "core/solid/found_solid.h"
#include "core/solid/shadows.h"
#include "core/solid/solid_worker.h"
#include "core/solid/touch_search.h"

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

/// From a STEP file to what is drawn: read, leads found, what is kept with the part, the scene. Beside `stepIsRead`.
void stepToPicture(benchmark::State& state) {
    const auto path =
        std::filesystem::temp_directory_path() / ("punch-benchmark-p-" + std::to_string(::getpid()) + ".step");
    SolidWorker worker;
    if (!worker.writeStep(header(60), path.string())) return state.SkipWithError("it cannot be written");
    Part part;
    part.body.present = false;
    for (auto _ : state) {
        auto solid = std::make_shared<Solid>(*worker.readStep(path.string()));
        const auto ways = standings(*solid);
        part.solids = {foundIn(*solid, ways.front())};
        const Footprint f = derive(part);
        benchmark::DoNotOptimize(sceneOf(part, f, {solid}, {}, {}).body.triangles.size());
    }
    std::filesystem::remove(path);
}
BENCHMARK(stepToPicture)->Unit(benchmark::kMillisecond)->MeasureProcessCPUTime()->UseRealTime();

void areasOfABody(benchmark::State& state) {
    const Standing at = standings(sixty()).front();
    for (auto _ : state) benchmark::DoNotOptimize(shadowsOf(sixty(), at).size());
}
BENCHMARK(areasOfABody)->Unit(benchmark::kMillisecond);

/// A plate of 60 leads turned by 90 degrees beside a wall, in steps of 0.1 mm.
void firstTouchOfAQuarterTurn(benchmark::State& state) {
    SolidsToMake all;
    all.bodies.push_back({"wall", kNoColour, Prism{flatRectangle(-90, -90, -88, 90), 0, 8}, {}, {}});
    SolidWorker worker;
    const Solid wall = *worker.make(all);
    TouchSearch search;
    search.addMoving(sixty(), {});
    search.addStanding(wall, {});
    for (auto _ : state) benchmark::DoNotOptimize(search.first({true, {}, {0, 0, 1}, 0, 90}).has_value());
}
BENCHMARK(firstTouchOfAQuarterTurn)->Unit(benchmark::kMillisecond);

/// A picture without a display.
void drawnWithoutADisplay(benchmark::State& state) {
    Part part;
    part.body.present = false;
    part.solids = {foundIn(sixty(), standings(sixty()).front())};
    const Footprint f = derive(part);
    const SolidScene scene = sceneOf(part, f, {std::make_shared<const Solid>(sixty())}, {}, {});
    SpaceCamera camera;
    camera.width = 1280;
    camera.height = 800;
    camera.fit(scene.box, 60, 60);
    for (auto _ : state) benchmark::DoNotOptimize(drawn(scene, camera)->pixels.size());
}
BENCHMARK(drawnWithoutADisplay)->Unit(benchmark::kMillisecond);

}  // namespace
