// What leaves, and trial boards: writing each format, reading it again, judging a board while a part is dragged; beside
// deriving the parts, which all of it waits for.

#include <benchmark/benchmark.h>

#include <filesystem>

#include "core/board/board_check.h"
#include "core/derive.h"
#include "core/part/file.h"
#include "core/release/file_check.h"
#include "core/release/formats.h"

namespace {

using namespace punch;

const std::string kDemo = "demo/fennel-house/";

const Part& relay() {
    static const Part part = *loadPart(kDemo + "HT-RM2.punch");
    return part;
}

void deriveRelay(benchmark::State& state) {
    for (auto ignored : state) benchmark::DoNotOptimize(derive(relay()));
}
BENCHMARK(deriveRelay);

void stamp(benchmark::State& state) {
    const Footprint f = derive(relay());
    for (auto ignored : state) benchmark::DoNotOptimize(stampOf(relay(), f));
}
BENCHMARK(stamp);

/// One format after another, in the order of the table.
void writeFormat(benchmark::State& state) {
    const Footprint f = derive(relay());
    const FormatKind& kind = formats()[static_cast<std::size_t>(state.range(0))];
    state.SetLabel(kind.name);
    const Stamp with = stampOf(relay(), f);
    for (auto ignored : state) benchmark::DoNotOptimize(releaseFiles(relay(), f, {kind.format}, {}, with));
}
BENCHMARK(writeFormat)->DenseRange(0, 8)->Arg(10);

void readAgain(benchmark::State& state) {
    const Footprint f = derive(relay());
    const auto files =
        releaseFiles(relay(), f, {Format::Gerber, Format::Drill, Format::Ipc2581, Format::Dxf, Format::Csv});
    for (auto ignored : state) benchmark::DoNotOptimize(checkedFiles(*files, f));
}
BENCHMARK(readAgain);

/// The relay and terminals in rows, as many as are asked for: what one move of the mouse costs.
void judgeBoard(benchmark::State& state) {
    TrialBoard board;
    board.outline.width = Length::fromMm(400);
    board.outline.height = Length::fromMm(300);
    for (int i = 0; i < state.range(0); ++i)
        board = withPart(board, i % 2 == 0 ? "HT-RM2.punch" : "QB-TB4.punch", i % 2 == 0 ? "K" : "X",
                         {Length::fromMm(30 + 34 * (i % 10)), Length::fromMm(30 + 30 * (i / 10))});
    const std::vector<BoardPart> parts = boardParts(board, kDemo);
    for (auto ignored : state) benchmark::DoNotOptimize(judged(laidBoard(board, parts)));
}
BENCHMARK(judgeBoard)->Arg(2)->Arg(8)->Arg(30)->Unit(benchmark::kMillisecond);

}  // namespace
