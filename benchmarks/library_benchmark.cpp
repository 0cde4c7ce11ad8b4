// Libraries of thousands of parts: what opening, a key of the search and a search by pads cost, against one part's
// derivation. Patterns are made up: reading them is what the index saves.

#include <benchmark/benchmark.h>

#include <fmt/format.h>

#include <filesystem>
#include <random>

#include "core/derive.h"
#include "core/library/index.h"
#include "core/library/search.h"
#include "core/part/edit.h"
#include "core/part/file.h"

namespace punch {
namespace {

namespace fs = std::filesystem;

/// Rows of 2 to 9 pins at many pitches; made once.
const std::vector<LibraryPart>& library(std::size_t count) {
    static std::vector<LibraryPart> parts;
    std::mt19937 random(1);
    while (parts.size() < count) {
        const int pins = 2 + static_cast<int>(random() % 8);
        const double pitch = 2 + 0.01 * static_cast<double>(random() % 800);
        LibraryPart p;
        p.name = fmt::format("QB-{}", parts.size());
        p.file = p.name + ".punch";
        p.words = fmt::format("qb-{} terminal {} way {:.2f} go readings", parts.size(), pins, pitch);
        p.pins = static_cast<std::size_t>(pins);
        p.pattern.emplace();
        for (int i = 0; i < pins; ++i)
            p.pattern->pads.push_back(
                {std::to_string(i + 1), pitch * i + 0.05 * static_cast<double>(random() % 10), 0, 1.3, 2.3, 0.02});
        parts.push_back(std::move(p));
    }
    return parts;
}

void searchByWords(benchmark::State& state) {
    const auto& parts = library(static_cast<std::size_t>(state.range(0)));
    for (auto _ : state) benchmark::DoNotOptimize(searched(parts, "5.08 4 way"));
}
BENCHMARK(searchByWords)->Arg(1000)->Arg(10000)->Unit(benchmark::kMillisecond);

void searchByPads(benchmark::State& state) {
    const auto& parts = library(static_cast<std::size_t>(state.range(0)));
    for (auto _ : state) benchmark::DoNotOptimize(matching(parts, *parts[500].pattern));
}
BENCHMARK(searchByPads)->Arg(1000)->Arg(10000)->Unit(benchmark::kMillisecond);

/// Of a folder that the index knows, and one part of it derived, for comparison.
class Written {
public:
    explicit Written(std::size_t count)
        : folder(fs::temp_directory_path() / fmt::format("library-{}-{}", count, std::random_device{}())) {
        fs::create_directories(folder);
        Part part = *newRow(4);
        for (std::size_t i = 0; i < count; ++i) {
            part.name = fmt::format("QB-{}", i);
            (void)savePart(part, folder / (part.name + ".punch"));
        }
        (void)indexedLibrary(folder, folder / "index.sqlite");
    }
    ~Written() { fs::remove_all(folder); }
    fs::path folder;
};

void openKnown(benchmark::State& state) {
    const Written written(static_cast<std::size_t>(state.range(0)));
    for (auto _ : state) benchmark::DoNotOptimize(knownLibrary(written.folder, written.folder / "index.sqlite"));
}
BENCHMARK(openKnown)->Arg(500)->Arg(2000)->Unit(benchmark::kMillisecond);

void deriveRow(benchmark::State& state) {
    const Part part = *newRow(4);
    for (auto _ : state) benchmark::DoNotOptimize(derive(part));
}
BENCHMARK(deriveRow)->Unit(benchmark::kMillisecond);

}  // namespace
}  // namespace punch
