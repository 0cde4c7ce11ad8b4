// What lies behind the picture on the sheet: how drawings are painted, what is kept beside the part, what goes on
// beside the window.

#include <QDragEnterEvent>
#include <QMimeData>
#include <QPainter>
#include <random>

#include "app/pictures/picture_image.h"
#include "core/drawing/read_dxf.h"
#include "core/part/edit.h"
#include "demo/maker/drawing_maker.h"
#include "demo/maker/scan_maker.h"
#include "tests/bench/bench_fixture.h"
#include "tests/support/dxf_text.h"

namespace punch::test {
namespace {

using Tool = PictureWork::Tool;

class SourceFiles : public BenchTest {
protected:
    void begin() {
        window->document().begin(*newRow(4));
        ASSERT_TRUE(window->saveAs(folder.filePath("slide.punch")));
        window->view().setStation(Station::Measure);
        click(find<QPushButton>("toSources"));
    }
    /// Of a size that is opened beside the window.
    static Picture noisy(int side) {
        Picture p;
        p.width = p.height = side;
        std::mt19937 random(5);
        p.data.resize(static_cast<std::size_t>(side) * side);
        for (std::uint8_t& v : p.data) v = static_cast<std::uint8_t>(random());
        return p;
    }
    PictureWork& work() { return window->pictures(); }
};

/// How dark the darkest pixel within 2 px of a place is, 0 to 255.
int darkness(const QImage& image, QPointF at) {
    int most = 0;
    for (int dy = -2; dy <= 2; ++dy)
        for (int dx = -2; dx <= 2; ++dx)
            if (image.valid(at.toPoint() + QPoint(dx, dy)))
                most = std::max(most, 255 - qGray(image.pixel(at.toPoint() + QPoint(dx, dy))));
    return most;
}

TEST_F(SourceFiles, ArcsAndSlotsArePaintedWhereTheyAreDrawnAlsoMirroredAndTurned) {
    test::DxfText t;
    t.section("ENTITIES");
    t.add(0, "ARC").add(8, "0").add(10, 0.0).add(20, 0.0).add(40, 5.0).add(50, 10.0).add(51, 70.0);
    t.add(0, "CIRCLE").add(8, "0").add(10, 12.0).add(20, -6.0).add(40, 1.0);
    t.add(0, "LINE").add(8, "0").add(10, -8.0).add(20, -8.0).add(11, 4.0).add(21, -8.0);
    t.end();
    Evidence e;
    e.kind = EvidenceKind::Dxf;
    e.drawing = *dxfFromText(t.text(), "x.dxf", 1.0);
    const Drawing drawing = *e.drawing;
    const PictureImage shown(std::move(e));
    const double s = 500.0 / std::max(shown.width(), shown.height());
    const QTransform ways[] = {
        QTransform::fromScale(s, s), QTransform(-s, 0, 0, s, 600, 20),
        QTransform::fromScale(s, s) * QTransform().rotate(30) * QTransform::fromTranslate(250, 0),
        QTransform(-s, 0, 0, s, 0, 0) * QTransform().rotate(-75) * QTransform::fromTranslate(300, 150)};
    for (const QTransform& way : ways) {
        QImage image(700, 700, QImage::Format_RGB32);
        image.fill(Qt::white);
        QPainter painter(&image);
        painter.setRenderHint(QPainter::Antialiasing);
        shown.paint(painter, way, QRectF(image.rect()), 1);
        painter.end();
        const DrawnArc& arc =
            *std::find_if(drawing.arcs.begin(), drawing.arcs.end(), [](const DrawnArc& a) { return !a.whole(); });
        const auto at = [&](double degrees) {
            const PixelPoint p = arc.at(degrees);
            return way.map(QPointF(p.x, p.y));
        };
        for (const double share : {0.02, 0.3, 0.5, 0.98})
            EXPECT_GT(darkness(image, at(arc.from + share * arc.sweep)), 120) << share;
        // The rest of the circle is not drawn.
        for (const double off : {20.0, 90.0, 180.0, 270.0})
            EXPECT_LT(darkness(image, at(arc.from + arc.sweep + off)), 40) << off;
    }
    EXPECT_FALSE(shown.thumbnail({60, 40}).isNull());
    EXPECT_EQ(shown.grey(), nullptr);
}

TEST_F(SourceFiles, APageIsSharpHoweverNearOneLooks) {
    maker::DrawingSheet sheet(60, 50);
    sheet.line({-10, 0}, {10, 0});
    const QString file = write("page.pdf", sheet.pdf(30, 25));
    const PictureImage shown(*openEvidence(file.toStdString(), {}), {});
    const double n = 600 / 25.4;
    // The line's edge, 16 screen pixels for each of the page's: from dark to light within two of the screen's.
    const double zoom = 16;
    const QTransform near = QTransform::fromTranslate(-30 * n, -25 * n) * QTransform::fromScale(zoom, zoom) *
                            QTransform::fromTranslate(150, 150);
    QImage image(300, 300, QImage::Format_RGB32);
    image.fill(Qt::gray);
    QPainter painter(&image);
    shown.paint(painter, near, QRectF(image.rect()), 1);
    painter.end();
    int between = 0, dark = 0, light = 0;
    for (int y = 0; y < 300; ++y) {
        const int v = qGray(image.pixel(150, y));
        dark += v < 40 ? 1 : 0;
        light += v > 215 ? 1 : 0;
        between += v >= 40 && v <= 215 ? 1 : 0;
    }
    EXPECT_NEAR(dark, 0.35 * n * zoom, 6) << "as thick as it is drawn";
    EXPECT_GT(light, 100);
    EXPECT_LE(between, 6);
}

TEST_F(SourceFiles, WhatIsKeptBesideThePartIsKeptOnceByItsContent) {
    begin();
    maker::DrawingSheet one(60, 50), other(60, 50);
    one.circle({0, 0}, 2);
    other.circle({0, 0}, 3);
    const QString file = write("a.dxf", one.dxf());
    window->bringIn(file, EvidenceChoice{});
    window->bringIn(file, EvidenceChoice{});
    write("a.dxf", other.dxf());
    window->bringIn(file, EvidenceChoice{});
    ASSERT_EQ(part().sources.size(), 3u);
    EXPECT_EQ(part().sources[0].picture, part().sources[1].picture);
    EXPECT_NE(part().sources[0].picture, part().sources[2].picture);
    EXPECT_EQ(QDir(folder.filePath("slide-sources")).entryList(QDir::Files).size(), 2);
    // The part goes elsewhere with its drawings, and they can be looked at there.
    QDir().mkpath(folder.filePath("elsewhere"));
    ASSERT_TRUE(window->saveAs(folder.filePath("elsewhere/copy.punch")));
    EXPECT_TRUE(QFileInfo(folder.filePath("elsewhere/" + QString::fromStdString(part().sources[2].picture))).isFile());
    ASSERT_TRUE(window->openPath(folder.filePath("elsewhere/copy.punch")));
    for (const Source& s : part().sources) EXPECT_NE(work().imageOf(s.id), nullptr);
    // One that is gone is said, and the part stays whole.
    QFile::remove(folder.filePath("elsewhere/" + QString::fromStdString(part().sources[2].picture)));
    ASSERT_TRUE(window->openPath(folder.filePath("elsewhere/copy.punch")));
    work().choose(part().sources[2].id);
    EXPECT_EQ(work().image(), nullptr);
    EXPECT_FALSE(work().trouble().isEmpty());
    EXPECT_EQ(part().sources.size(), 3u);
}

TEST_F(SourceFiles, AFileDroppedOnTheWindowIsBroughtIn) {
    begin();
    maker::DrawingSheet sheet(60, 50);
    sheet.circle({0, 0}, 2);
    QMimeData held;
    held.setUrls({QUrl::fromLocalFile(write("dropped.dxf", sheet.dxf()))});
    QDragEnterEvent enter(QPoint(400, 300), Qt::CopyAction, &held, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(window.get(), &enter);
    EXPECT_TRUE(enter.isAccepted());
    QDropEvent drop(QPointF(400, 300), Qt::CopyAction, &held, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(window.get(), &drop);
    work().settle();
    ASSERT_EQ(part().sources.size(), 1u);
    EXPECT_EQ(part().sources[0].title, "dropped.dxf");
    // What is no file is not taken.
    QMimeData text;
    text.setText("no file");
    QDragEnterEvent other(QPoint(400, 300), Qt::CopyAction, &text, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(window.get(), &other);
    EXPECT_EQ(part().sources.size(), 1u);
}

TEST_F(SourceFiles, LargeFilesAreOpenedBesideTheWindow) {
    begin();
    const QString file = write("large.png", maker::pngBytes(noisy(2700), 600));
    ASSERT_GT(QFileInfo(file).size(), 6'000'000);
    window->bringIn(file, EvidenceChoice{});
    EXPECT_TRUE(part().sources.empty()) << "the window does not wait for it";
    EXPECT_FALSE(work().busy().isEmpty());
    work().settle();
    ASSERT_EQ(part().sources.size(), 1u);
    EXPECT_TRUE(work().busy().isEmpty());
    ASSERT_NE(work().image(), nullptr);
    EXPECT_EQ(work().image()->width(), 2700);
    // Opened again with its part: said to be on its way, then there.
    ASSERT_TRUE(window->save());
    ASSERT_TRUE(window->openPath(folder.filePath("slide.punch")));
    EXPECT_EQ(work().image(), nullptr);
    EXPECT_FALSE(work().trouble().isEmpty());
    work().settle();
    EXPECT_NE(work().image(), nullptr);
    EXPECT_TRUE(work().trouble().isEmpty());
    // A part that is left meanwhile gets nothing.
    window->bringIn(file, EvidenceChoice{});
    window->document().begin(*newRow(2));
    work().settle();
    EXPECT_TRUE(part().sources.empty());
    // What breaks off is said.
    ASSERT_TRUE(window->openPath(folder.filePath("slide.punch")));
    work().settle();
    QFile whole(file);
    ASSERT_TRUE(whole.open(QIODevice::ReadOnly));
    const QByteArray torn = whole.read(6'500'000);
    window->bringIn(write("torn.png", torn.toStdString()), EvidenceChoice{});
    work().settle();
    EXPECT_EQ(part().sources.size(), 1u);
    EXPECT_TRUE(window->message().contains("torn.png")) << window->message().toStdString();
}

TEST_F(SourceFiles, LargePicturesAreSearchedBesideTheWindow) {
    begin();
    maker::Scene s;
    s.dpi = 1200;
    s.pictureWidth = 84;
    s.pictureHeight = 82;
    s.dust = 0;
    s.noise = 0;
    s.fromBelow = false;
    s.ruler = false;
    s.things = maker::rowOfPins(4, 5.08, 1.0);
    window->bringIn(write("wide.png", maker::pngBytes(maker::makeScan(s).picture, 1200)), EvidenceChoice{});
    work().settle();
    ASSERT_EQ(part().sources.size(), 1u);
    ASSERT_GT(1.0 * work().image()->width() * work().image()->height(), 12e6);
    click(find<QPushButton>("facePart"));
    click(find<QPushButton>("findPins"));
    EXPECT_FALSE(work().found());
    EXPECT_FALSE(work().busy().isEmpty());
    EXPECT_FALSE(find<QPushButton>("findPins")->isEnabled());
    work().settle();
    QApplication::processEvents();
    ASSERT_TRUE(work().found()) << window->message().toStdString();
    EXPECT_EQ(work().found()->features.size(), 4u);
    EXPECT_TRUE(find<QPushButton>("findPins")->isEnabled());
}

TEST_F(SourceFiles, InADrawingPlacesAndLinesAreMetExactly) {
    begin();
    test::DxfText t;
    t.section("ENTITIES");
    // A body turned by exactly 3 degrees, and a pin.
    const double c = std::cos(3 * M_PI / 180), s = std::sin(3 * M_PI / 180);
    const auto line = [&](double x0, double y0, double x1, double y1) {
        t.add(0, "LINE").add(8, "0").add(10, c * x0 - s * y0).add(20, s * x0 + c * y0);
        t.add(11, c * x1 - s * y1).add(21, s * x1 + c * y1);
    };
    line(-10, -6, 10, -6);
    line(10, -6, 10, 6);
    line(10, 6, -10, 6);
    line(-10, 6, -10, -6);
    t.add(0, "CIRCLE").add(8, "0").add(10, 0.0).add(20, 0.0).add(40, 0.5);
    t.end();
    EvidenceChoice mm;
    mm.mmPerUnit = 1.0;
    window->bringIn(write("turned.dxf", t.text()), mm);
    ASSERT_EQ(part().sources.size(), 1u);
    click(find<QPushButton>("facePart"));
    const Drawing& d = *work().image()->drawing();
    const auto mid = [&](std::size_t i, double share) {
        const auto& p = d.paths[i].points;
        return PixelPoint{p[0].x + share * (p[1].x - p[0].x), p[0].y + share * (p[1].y - p[0].y)};
    };
    const auto clickPicture = [&](PixelPoint p) {
        const QPointF at = window->sheet().pictureTransform().map(QPointF(p.x, p.y));
        QTest::mouseClick(&window->sheet(), Qt::LeftButton, {}, at.toPoint());
        QApplication::processEvents();
    };
    work().setTool(Tool::Level);
    clickPicture(mid(0, 0.2));
    clickPicture(mid(0, 0.8));
    ASSERT_EQ(part().readings.size(), 1u) << window->message().toStdString();
    const ParameterValue* angle = footprint().parameter(part().sources[0].id + ".angle");
    ASSERT_TRUE(angle != nullptr && angle->angle);
    EXPECT_NEAR(angle->angle->degrees(), 3.0, 1e-6) << "the line itself, not the clicks beside it";
    // A pin by its circle, its diameter with it; a face by the line.
    work().setTool(Tool::Read);
    work().setTarget(part().formations[0].pins[0]);
    clickPicture({d.arcs[0].centre.x + 15, d.arcs[0].centre.y - 10});
    ASSERT_EQ(part().readings.size(), 4u) << window->message().toStdString();
    EXPECT_EQ(part().readings[1].pick->a, d.arcs[0].centre);
    EXPECT_NEAR(part().readings[3].pick->size, 100, 1e-9);
    work().setTarget(kRearFace);
    work().setHow(PictureWork::How::Edge);
    clickPicture(mid(2, 0.3));
    clickPicture(mid(2, 0.6));
    ASSERT_EQ(part().readings.size(), 5u) << window->message().toStdString();
    EXPECT_NEAR(part().readings[4].pick->a.x, mid(2, 0.5).x, 1e-6);
    // Where nothing is drawn, nothing is read.
    work().setTarget(part().formations[0].pins[1]);
    work().setHow(PictureWork::How::Rim);
    clickPicture({d.arcs[0].centre.x + 300, d.arcs[0].centre.y});
    EXPECT_EQ(part().readings.size(), 5u);
    EXPECT_FALSE(window->message().isEmpty());
}

TEST_F(SourceFiles, PlacesOfAToolAreNudgedAndTakenBack) {
    begin();
    maker::Scene s;
    s.things = maker::rowOfPins(4, 5.08, 1.0);
    window->bringIn(write("scan.png", maker::pngBytes(maker::makeScan(s).picture, 600)), EvidenceChoice{});
    work().setTool(Tool::KnownLength);
    work().setReach(10);
    EXPECT_TRUE(work().clickAt({100, 200}, false));
    window->sheet().setFocus();
    key(Qt::Key_Right);
    key(Qt::Key_Right);
    ASSERT_EQ(work().places().size(), 1u);
    EXPECT_NEAR(std::abs(work().places()[0].x - 100), 0.2, 0.02);
    key(Qt::Key_Backspace);
    EXPECT_TRUE(work().places().empty());
    // A length of nothing, and one place twice, are refused with what to do.
    work().clickAt({100, 200}, false);
    work().clickAt({100.5, 200}, false);
    EXPECT_FALSE(work().giveLength("30"));
    EXPECT_FALSE(work().giveLength("0"));
    EXPECT_FALSE(work().giveLength("-4 mm"));
    EXPECT_TRUE(part().readings.empty());
    key(Qt::Key_Escape);
    EXPECT_EQ(work().tool(), Tool::None);
    // A level line of no length, an outline of two places: said, and nothing is made.
    work().setTool(Tool::Level);
    work().clickAt({100, 200}, false);
    work().clickAt({101, 200}, false);
    EXPECT_TRUE(part().readings.empty());
    EXPECT_FALSE(window->message().isEmpty());
    work().setTool(Tool::Outline);
    work().clickAt({100, 200}, false);
    work().clickAt({400, 200}, false);
    work().finish();
    EXPECT_FALSE(part().body.trace);
    // Half of one, with what is left out changed afterwards; undone in one step each.
    work().setHalf(true);
    work().clickAt({400, 500}, false);
    work().finish();
    ASSERT_TRUE(part().body.trace);
    EXPECT_TRUE(part().body.trace->half);
    work().setLeaveOut(Length::fromMm(1.5));
    EXPECT_NEAR(part().body.trace->leaveOut.mm(), 1.5, 1e-9);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_NEAR(part().body.trace->leaveOut.mm(), 0.2, 1e-9);
}

TEST_F(SourceFiles, AHeightThatIsNotKnownWidensTheDoubt) {
    begin();
    maker::Scene s;
    s.fromBelow = false;
    s.things = maker::rowOfPins(4, 5.08, 1.0);
    window->bringIn(write("scan.png", maker::pngBytes(maker::makeScan(s).picture, 600)), EvidenceChoice{});
    click(find<QPushButton>("facePart"));
    click(find<QPushButton>("findPins"));
    click(find<QPushButton>("takeFound"));
    const double before = footprint().parameter("pitch")->doubt->mm();
    auto* field = find<QLineEdit>("pictureAbove");
    field->setFocus();
    field->selectAll();
    keys("3");
    key(Qt::Key_Return);
    EXPECT_NEAR(part().sources[0].above.mm(), 3, 1e-9);
    EXPECT_GT(footprint().parameter("pitch")->doubt->mm(), 1.5 * before);
}

}  // namespace
}  // namespace punch::test
