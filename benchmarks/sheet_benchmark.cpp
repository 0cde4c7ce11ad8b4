// How smoothly a large scan lies under the sheet: opening against decoding, and frames while panning and zooming in
// the real window. Needs a display, or a virtual one.

#include <benchmark/benchmark.h>

#include <QApplication>
#include <QElapsedTimer>
#include <QOpenGLContext>
#include <QOpenGLFunctions>
#include <QTemporaryDir>
#include <QTest>
#include <QWheelEvent>
#include <algorithm>
#include <fstream>
#include <random>
#include <string>

#include "app/bench_window.h"
#include "app/pictures/picture_image.h"
#include "app/solid/solid_view.h"
#include "app/theme.h"
#include "core/part/edit.h"
#include "core/picture/read_picture.h"
#include "demo/maker/scan_maker.h"

namespace punch {
namespace {

/// A4 at 1200 dpi, grey: dark blocks on paper, with a scanner's noise.
const std::string& largeScan(const QTemporaryDir& folder) {
    static const std::string file = [&] {
        Picture p;
        p.width = 9921;
        p.height = 14031;
        p.data.resize(static_cast<std::size_t>(p.width) * p.height);
        std::uint32_t seed = 7;
        for (int y = 0; y < p.height; ++y) {
            std::uint8_t* row = p.row(y);
            for (int x = 0; x < p.width; ++x) {
                seed = seed * 1664525U + 1013904223U;
                const int noise = static_cast<int>(seed >> 29) - 4;
                const bool dark = (x / 700 + y / 900) % 3 == 0;
                row[x] = static_cast<std::uint8_t>((dark ? 60 : 226) + noise);
            }
        }
        const std::string name = folder.filePath("a4.png").toStdString();
        const std::string bytes = maker::pngBytes(p, 1200);
        std::ofstream(name, std::ios::binary).write(bytes.data(), static_cast<std::streamsize>(bytes.size()));
        return name;
    }();
    return file;
}

QTemporaryDir& folder() {
    static QTemporaryDir dir;
    return dir;
}

double residentMb(const char* field) {
    std::ifstream in("/proc/self/status");
    std::string line;
    while (std::getline(in, line))
        if (line.rfind(field, 0) == 0) return std::stod(line.substr(line.find(':') + 1)) / 1024;
    return 0;
}

void DecodeA4(benchmark::State& state) {
    largeScan(folder());
    for (auto _ : state) benchmark::DoNotOptimize(readPicture(largeScan(folder())));
}
BENCHMARK(DecodeA4)->Unit(benchmark::kMillisecond)->Iterations(2);

/// To the first picture: decoding, smaller copies, and what a window of 1280 x 800 shows of it.
void OpenA4(benchmark::State& state) {
    for (auto _ : state) {
        const PictureImage image(*openEvidence(largeScan(folder()), {}));
        QImage shown(720, 560, QImage::Format_RGB32);
        QPainter painter(&shown);
        const double s = 560.0 / image.height();
        image.paint(painter, QTransform::fromScale(s, s), QRectF(0, 0, 720, 560), 1);
    }
}
BENCHMARK(OpenA4)->Unit(benchmark::kMillisecond)->Iterations(2);

/// A scripted run: zoom in over the picture's middle, pan across it, zoom out. Counters: the slowest frame and memory.
void PanAndZoomA4(benchmark::State& state) {
    BenchWindow window;
    window.resize(static_cast<int>(state.range(0)), static_cast<int>(state.range(1)));
    window.show();
    window.document().begin(*newRow(4));
    if (!window.saveAs(folder().filePath("large.punch"))) return state.SkipWithError("not saved");
    window.view().setStation(Station::Measure);
    window.view().setSources(true);
    window.bringIn(QString::fromStdString(largeScan(folder())), EvidenceChoice{});
    window.pictures().settle();
    window.pictures().setFace(PictureFace::SolderSide);
    QApplication::processEvents();
    Sheet& sheet = window.sheet();
    std::vector<double> frames;
    const auto frame = [&](const std::function<void()>& change) {
        QElapsedTimer timer;
        timer.start();
        change();
        sheet.repaint();
        frames.push_back(static_cast<double>(timer.nsecsElapsed()) / 1e6);
    };
    const QPointF middle(sheet.width() / 2.0, sheet.height() / 2.0);
    const auto wheel = [&](int by) {
        QWheelEvent e(middle, sheet.mapToGlobal(middle), {}, QPoint(0, by), Qt::NoButton, Qt::NoModifier,
                      Qt::NoScrollPhase, false);
        QApplication::sendEvent(&sheet, &e);
    };
    const auto drag = [&](int dx, int dy) {
        QTest::mousePress(&sheet, Qt::LeftButton, {}, middle.toPoint());
        for (int i = 1; i <= 15; ++i)
            frame([&] {
                QMouseEvent e(QEvent::MouseMove, middle + QPointF(dx * i, dy * i), sheet.mapToGlobal(middle),
                              Qt::NoButton, Qt::LeftButton, {});
                QApplication::sendEvent(&sheet, &e);
            });
        QTest::mouseRelease(&sheet, Qt::LeftButton, {}, middle.toPoint() + QPoint(15 * dx, 15 * dy));
    };
    for (auto _ : state) {
        for (int i = 0; i < 30; ++i) frame([&] { wheel(120); });
        drag(12, 5);
        for (int i = 0; i < 15; ++i) frame([&] { wheel(-120); });
        drag(-9, 11);
        for (int i = 0; i < 15; ++i) frame([&] { wheel(-120); });
        drag(4, -8);
    }
    for (std::size_t i = 0; i < frames.size(); ++i)
        if (frames[i] > 24) fprintf(stderr, "%zu:%.1f ", i, frames[i]);
    std::sort(frames.begin(), frames.end());
    state.counters["frames"] = static_cast<double>(frames.size());
    state.counters["slowest_ms"] = frames.back();
    state.counters["median_ms"] = frames[frames.size() / 2];
    state.counters["peak_MB"] = residentMb("VmHWM");
}
BENCHMARK(PanAndZoomA4)->Args({1280, 800})->Args({1920, 1080})->Unit(benchmark::kMillisecond)->Iterations(1);

/// A body of so many thousand triangles, turned round in the real window. Counters: triangles, frames a second, the
/// slowest frame.
void OrbitInSpace(benchmark::State& state) {
    // Balls in rows: each has about 800 triangles.
    SolidsToMake all;
    const int balls = static_cast<int>(state.range(0)) * 1000 / 800;
    for (int i = 0; i < balls; ++i)
        all.bodies.push_back({"ball",
                              kNoColour,
                              Ball{3},
                              Pose{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {4.0 * (i % 16), 4.0 * (i / 16), 4}},
                              {}});
    for (int i = 0; i < 4; ++i)
        all.bodies.push_back({"lead", kNoColour, Prism{flatCircle(5.08 * i, 0, 0.8), -3, 3}, {}, {}});
    const std::string step = folder().filePath("balls.step").toStdString();
    SolidWorker worker;
    if (!worker.writeStep(all, step)) return state.SkipWithError("it cannot be written");
    BenchWindow window;
    window.resize(1280, 800);
    window.show();
    window.document().begin(*newRow(4));
    if (!window.saveAs(folder().filePath("balls.punch"))) return state.SkipWithError("not saved");
    window.view().setStation(Station::Fit);
    window.bringInSolid(QString::fromStdString(step));
    window.solids().settle();
    QTest::qWait(200);
    SolidView& view = window.solidView();
    if (!view.works()) return state.SkipWithError("no OpenGL here");
    std::size_t triangles = 0;
    for (const StandingSolid& s : window.document().footprint().solids)
        if (const auto mesh = window.solids().mesh(s.id)) triangles += mesh->triangles.size();
    std::vector<double> frames;
    for (auto _ : state) {
        QTest::mousePress(&view, Qt::LeftButton, {}, QPoint(60, 120));
        for (int i = 1; i <= 40; ++i) {
            QElapsedTimer timer;
            timer.start();
            const QPointF at(60 + 9 * i, 120 + 3 * i);
            QMouseEvent e(QEvent::MouseMove, at, view.mapToGlobal(at), Qt::NoButton, Qt::LeftButton, {});
            QApplication::sendEvent(&view, &e);
            for (const int before = view.pictures(); view.pictures() == before;) QApplication::processEvents();
            view.makeCurrent();
            view.context()->functions()->glFinish();  // until it is really drawn
            frames.push_back(static_cast<double>(timer.nsecsElapsed()) / 1e6);
        }
        QTest::mouseRelease(&view, Qt::LeftButton, {}, QPoint(420, 240));
    }
    double sum = 0;
    for (const double f : frames) sum += f;
    state.counters["triangles"] = static_cast<double>(triangles);
    state.counters["frames_per_s"] = 1000 * static_cast<double>(frames.size()) / sum;
    state.counters["slowest_ms"] = *std::max_element(frames.begin(), frames.end());
}
BENCHMARK(OrbitInSpace)->Arg(20)->Arg(85)->Unit(benchmark::kMillisecond)->Iterations(1);

}  // namespace
}  // namespace punch

int main(int argc, char** argv) {
    if (!qEnvironmentVariableIsSet("DISPLAY") && !qEnvironmentVariableIsSet("QT_QPA_PLATFORM"))
        qputenv("QT_QPA_PLATFORM", "offscreen");
    QApplication app(argc, argv);
    QApplication::setStyle("Fusion");
    app.setStyleSheet(punch::theme::styleSheet());
    benchmark::Initialize(&argc, argv);
    benchmark::RunSpecifiedBenchmarks();
    return 0;
}
