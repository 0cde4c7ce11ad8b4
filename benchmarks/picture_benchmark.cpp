// Finding the pins of a part in a scan, against decoding the same file; opening a large scan to a first picture.
// `punchbit_benchmarks --benchmark_filter=Picture`: the ratios of one run count.

#include <benchmark/benchmark.h>
#include <png.h>

#include <cstring>
#include <map>

#include "core/picture/find.h"
#include "core/picture/read_picture.h"
#include "demo/maker/scan_maker.h"

namespace {

using namespace punch;

/// A part of 60 x 40 mm with two rows of twelve pins, at 1000 dpi.
maker::Scan scan() {
    maker::Scene s;
    s.dpi = 1000;
    s.housingWidth = 60;
    s.housingHeight = 40;
    s.pictureWidth = 66;
    s.pictureHeight = 46;
    s.middleX = 33;
    s.middleY = 23;
    s.ruler = false;
    s.tilt = 1.2;
    for (const double y : {-11.43, 11.43})
        for (const maker::Thing& pin : maker::rowOfPins(12, 3.81, 1, y)) s.things.push_back(pin);
    return maker::makeScan(s);
}

const maker::Scan& theScan() {
    static const maker::Scan made = scan();
    return made;
}
const std::string& theFile() {
    static const std::string made = maker::pngBytes(theScan().picture, 1000);
    return made;
}

struct Bytes {
    const std::string* bytes;
    std::size_t at;
};

/// A part beside a ruler, 120 x 90 mm, at a resolution.
const maker::Scan& besideARuler(int dpi) {
    static std::map<int, maker::Scan> made;
    auto [it, fresh] = made.try_emplace(dpi);
    if (fresh) {
        maker::Scene s;
        s.dpi = dpi;
        s.pictureWidth = 120;
        s.pictureHeight = 90;
        s.middleX = 60;
        s.middleY = 40;
        s.housingWidth = 60;
        s.housingHeight = 40;
        s.rulerLength = 100;
        s.tilt = 1.2;
        for (const double y : {-11.43, 11.43})
            for (const maker::Thing& pin : maker::rowOfPins(12, 3.81, 1, y)) s.things.push_back(pin);
        it->second = maker::makeScan(s);
    }
    return it->second;
}
const std::string& fileBesideARuler(int dpi) {
    static std::map<int, std::string> made;
    auto [it, fresh] = made.try_emplace(dpi);
    if (fresh) it->second = maker::pngBytes(besideARuler(dpi).picture, dpi);
    return it->second;
}

/// The yardstick: libpng's own decoder, checks off, into rows.
void decode(const std::string& file, benchmark::State& state) {
    for (auto _ : state) {
        Bytes source{&file, 0};
        png_structp png = png_create_read_struct(PNG_LIBPNG_VER_STRING, nullptr, nullptr, nullptr);
        png_infop info = png_create_info_struct(png);
        png_set_crc_action(png, PNG_CRC_QUIET_USE, PNG_CRC_QUIET_USE);
        png_set_read_fn(png, &source, [](png_structp p, png_bytep to, png_size_t n) {
            auto* s = static_cast<Bytes*>(png_get_io_ptr(p));
            std::memcpy(to, s->bytes->data() + s->at, n);
            s->at += n;
        });
        png_read_info(png, info);
        std::vector<png_byte> row(png_get_rowbytes(png, info));
        const png_uint_32 height = png_get_image_height(png, info);
        for (png_uint_32 y = 0; y < height; ++y) png_read_row(png, row.data(), nullptr);
        benchmark::DoNotOptimize(row.data());
        png_destroy_read_struct(&png, &info, nullptr);
    }
}
void pictureDecoding(benchmark::State& state) { decode(theFile(), state); }
BENCHMARK(pictureDecoding)->Unit(benchmark::kMillisecond);

/// With the search for the ruler, against decoding the same file: 3 times at 600 dpi, 6 times at 300 at most.
void sightDecoding(benchmark::State& state) { decode(fileBesideARuler(static_cast<int>(state.range(0))), state); }
BENCHMARK(sightDecoding)->Arg(300)->Arg(600)->Unit(benchmark::kMillisecond);

void sightFinding(benchmark::State& state) {
    const Picture& picture = besideARuler(static_cast<int>(state.range(0))).picture;
    std::size_t found = 0, rulers = 0;
    for (auto _ : state) {
        const auto f = findInPicture(picture, {});
        found = f->features.size();
        rulers = f->scaleRulers.size();
    }
    state.counters["found"] = static_cast<double>(found);
    state.counters["rulers"] = static_cast<double>(rulers);
}
BENCHMARK(sightFinding)->Arg(300)->Arg(600)->Unit(benchmark::kMillisecond);

void pictureFinding(benchmark::State& state) {
    FindOptions options;
    options.lookForRuler = false;
    options.dpi = Dpi{1000, 1000};
    std::size_t found = 0;
    for (auto _ : state) found = findInPicture(theScan().picture, options)->features.size();
    state.counters["found"] = static_cast<double>(found);
}
BENCHMARK(pictureFinding)->Unit(benchmark::kMillisecond);

void pictureFindingWithRuler(benchmark::State& state) {
    for (auto _ : state) benchmark::DoNotOptimize(findInPicture(theScan().picture, {})->features.size());
}
BENCHMARK(pictureFindingWithRuler)->Unit(benchmark::kMillisecond);

/// What opening costs: reading the file, and the smaller copies that a first picture is drawn from.
void pictureOpening(benchmark::State& state) {
    for (auto _ : state) {
        Picture p = *pictureFromBytes(theFile(), "scan.png");
        while (p.width > 500) p = halved(p);
        benchmark::DoNotOptimize(p.data.data());
    }
}
BENCHMARK(pictureOpening)->Unit(benchmark::kMillisecond);

}  // namespace
