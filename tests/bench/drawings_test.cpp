// Drawings on the bench: brought in, read the way they were drawn, their numbers taken over and found again; and the
// tools for any picture: level, edges, rims, regions, photographs, outlines, comparing.

#include <QComboBox>
#include <QSpinBox>

#include "app/pictures/bring_in_dialog.h"
#include "core/part/edit.h"
#include "core/part/file.h"
#include "demo/maker/drawing_maker.h"
#include "demo/maker/scan_maker.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

using maker::DrawingSheet;
using Tool = PictureWork::Tool;

class Drawings : public BenchTest {
protected:
    void begin(int pins) {
        window->document().begin(*newRow(pins));
        ASSERT_TRUE(window->saveAs(folder.filePath("slide.punch")));
        window->view().setStation(Station::Measure);
        click(find<QPushButton>("toSources"));
    }
    void bring(const QString& file) {
        window->bringIn(file, EvidenceChoice{});
        window->pictures().settle();
        QApplication::processEvents();
    }
    static DrawingSheet rowOfFour() {
        DrawingSheet s(120, 90);
        s.rectangle(-8, -4, 8, 4);
        for (int i = 0; i < 4; ++i) s.circle({-3.81 + 2.54 * i, 0}, 1.0);
        s.along({-3.81, 0}, {3.81, 0}, 9, "7.62 ±0.1");
        s.across({-8, -4}, {-8, 4}, -14, "8.0");
        s.leader({3.9, 0.3}, {10, 6}, "4x Ø1.00 ±0.05");
        return s;
    }
    QPoint onSheet(PixelPoint p) { return window->sheet().pictureTransform().map(QPointF(p.x, p.y)).toPoint(); }
    void clickPicture(PixelPoint p, Qt::KeyboardModifiers modifiers = Qt::NoModifier) {
        QTest::mouseClick(&window->sheet(), Qt::LeftButton, modifiers, onSheet(p));
        QApplication::processEvents();
    }
    const DrawnText& text(const std::string& words) {
        for (const DrawnText& t : window->pictures().image()->drawing()->texts)
            if (t.text == words) return t;
        ADD_FAILURE() << words;
        return window->pictures().image()->drawing()->texts.front();
    }
    void chooseData(const char* box, const FeatureId& id) {
        auto* b = find<QComboBox>(box);
        b->setCurrentIndex(b->findData(QString::fromStdString(id)));
        emit b->activated(b->currentIndex());
    }
    PictureWork& work() { return window->pictures(); }
    void tool(Tool t) {
        work().setTool(t);
        QApplication::processEvents();
    }
};

TEST_F(Drawings, ADxfIsTakenAsItIsDrawnAndItsNumbersAreTakenOver) {
    begin(3);
    bring(write("part.dxf", rowOfFour().dxf()));
    ASSERT_EQ(part().sources.size(), 1u);
    EXPECT_EQ(part().sources[0].mmPerUnit, 1.0);
    EXPECT_TRUE(QFileInfo(folder.filePath(QString::fromStdString(part().sources[0].picture))).isFile());
    click(find<QPushButton>("faceSolder"));
    EXPECT_TRUE(window->view().fromSolderSide()) << "a drawing from below is shown as it was drawn";
    click(find<QPushButton>("findPins"));
    ASSERT_TRUE(work().found());
    ASSERT_EQ(work().found()->features.size(), 4u);
    click(find<QPushButton>("takeFound"));
    ASSERT_EQ(footprint().pads.size(), 4u);
    EXPECT_NEAR(footprint().parameter("pitch")->value.mm(), 2.54, 1e-4);

    // A number is offered with the two pins that it was drawn between, and nothing is taken unseen.
    const std::size_t before = part().readings.size();
    tool(Tool::Dimension);
    clickPicture(text("7.62 ±0.1").middle);
    EXPECT_EQ(part().readings.size(), before);
    auto* value = find<QLineEdit>("dimensionLine");
    ASSERT_TRUE(value->isVisible());
    EXPECT_EQ(value->text(), "7.62 ±0.1");
    const FeatureId one = find<QComboBox>("dimensionFirst")->currentData().toString().toStdString();
    const FeatureId two = find<QComboBox>("dimensionSecond")->currentData().toString().toStdString();
    EXPECT_NE(one, two);
    const auto& pins = part().formations[0].pins;
    for (const FeatureId& id : {one, two}) EXPECT_TRUE(id == pins.front() || id == pins.back()) << id;
    value->setFocus();
    retype("7.62 +-");
    key(Qt::Key_Return);
    EXPECT_EQ(part().readings.size(), before);
    EXPECT_EQ(value->text(), "7.62 +-") << "nothing typed is lost";
    retype("7.62 ±0.1");
    key(Qt::Key_Return);
    ASSERT_EQ(part().readings.size(), before + 1);
    const Reading taken = part().readings.back();
    EXPECT_EQ(taken.contact, Contact::Centres);
    ASSERT_TRUE(taken.drawing && taken.place);
    EXPECT_TRUE(taken.fromBelow);
    EXPECT_EQ(taken.source, part().sources[0].id);
    EXPECT_EQ(footprint().readings.back().state, ReadingState::Agrees);

    // A click on the place shows the reading; from the notebook the way goes back to the place.
    tool(Tool::None);
    clickPicture(*taken.place);
    EXPECT_FALSE(window->view().sources());
    EXPECT_EQ(window->measure().notebook().currentIndex().row(), static_cast<int>(before));
    EXPECT_FALSE(window->view().fromSolderSide()) << "the sheet is turned back";
    emit window->measure().notebook().placeWanted(static_cast<int>(before));
    QApplication::processEvents();
    EXPECT_TRUE(window->view().sources());
    const QPoint there = onSheet(*taken.place);
    EXPECT_LT((there - window->sheet().rect().center()).manhattanLength(), 3);
    // And it is in the file.
    const auto back = fromText(toText(part()), "x");
    ASSERT_TRUE(back);
    EXPECT_EQ(back->readings.back(), taken);
}

TEST_F(Drawings, ACountedDiameterIsOfferedAsASize) {
    begin(4);
    bring(write("part.dxf", rowOfFour().dxf()));
    click(find<QPushButton>("facePart"));
    tool(Tool::Dimension);
    clickPicture(text("4x Ø1.00 ±0.05").middle);
    EXPECT_EQ(find<QLineEdit>("dimensionLine")->text(), "1.00 ±0.05");
    EXPECT_FALSE(find<QComboBox>("dimensionSecond")->isVisible());
    EXPECT_TRUE(find<QLabel>("toolWords")->text().contains("4 of them"));
    click(find<QPushButton>("takeDimension"));
    ASSERT_EQ(part().readings.size(), 1u);
    EXPECT_EQ(part().readings[0].contact, Contact::Size);
    EXPECT_EQ(part().readings[0].a, part().formations[0].pins[0]);
    EXPECT_FALSE(part().readings[0].fromBelow);
    // Beside the numbers nothing is offered.
    clickPicture({5, 5});
    EXPECT_FALSE(find<QLineEdit>("dimensionLine")->isVisible());
    EXPECT_FALSE(window->message().isEmpty());
    EXPECT_EQ(part().readings.size(), 1u);
}

TEST_F(Drawings, APageOfAPdfGetsItsScaleFromALengthItStates) {
    begin(3);
    DrawingSheet s = rowOfFour();
    DrawingSheet twice(120, 90, 2);
    twice.rectangle(-8, -4, 8, 4);
    for (int i = 0; i < 4; ++i) twice.circle({-3.81 + 2.54 * i, 0}, 1.0);
    bring(write("page.pdf", twice.pdf(60, 45)));
    ASSERT_EQ(part().sources.size(), 1u) << window->message().toStdString();
    EXPECT_TRUE(part().sources[0].exactScale);
    click(find<QPushButton>("facePart"));
    click(find<QPushButton>("findPins"));
    EXPECT_FALSE(work().found()) << "nobody knows how large it is drawn";
    EXPECT_TRUE(window->message().contains("known length")) << window->message().toStdString();
    // The outer sides of the body, 16 mm apart.
    const double n = 600 / 25.4;
    click(find<QPushButton>("knownLength"));
    clickPicture({(60 - 16) * n, 45 * n});
    clickPicture({(60 + 16) * n, 45 * n});
    auto* line = find<QLineEdit>("knownLengthLine");
    line->setFocus();
    keys("16");
    key(Qt::Key_Return);
    click(find<QPushButton>("findPins"));
    window->pictures().settle();
    QApplication::processEvents();
    ASSERT_TRUE(work().found()) << window->message().toStdString();
    ASSERT_TRUE(work().found()->formation);
    EXPECT_NEAR(work().found()->formation->pitch->value, 2.54, 0.02);
}

TEST_F(Drawings, FilesAreAskedForWhatTheyDoNotSay) {
    begin(3);
    const QString unitless = write("none.dxf", rowOfFour().dxf(0, 25.4));
    int asked = 0;
    const auto answer = [&](const std::function<void(BringInDialog&)>& act) {
        QTimer::singleShot(0, window.get(), [&asked, act] {
            auto* dialog = qobject_cast<BringInDialog*>(QApplication::activeModalWidget());
            ASSERT_TRUE(dialog != nullptr);
            ++asked;
            act(*dialog);
        });
    };
    answer([](BringInDialog& d) {
        d.findChild<QComboBox*>("dxfUnit")->setCurrentIndex(1);
        d.accept();
    });
    window->bringIn(unitless);
    ASSERT_EQ(part().sources.size(), 1u);
    EXPECT_EQ(part().sources[0].mmPerUnit, 25.4);
    // Two pages, the second chosen, a region dragged; and leaving it brings nothing in.
    const QString pdf = write("page.pdf", rowOfFour().pdf(60, 45));
    answer([](BringInDialog& d) {
        auto* preview = d.findChild<QLabel*>("pdfPreview");
        QTest::mousePress(preview, Qt::LeftButton, {}, QPoint(100, 60));
        QTest::mouseMove(preview, QPoint(300, 200));
        QMouseEvent move(QEvent::MouseMove, QPointF(300, 200), preview->mapToGlobal(QPointF(300, 200)), Qt::NoButton,
                         Qt::LeftButton, {});
        QApplication::sendEvent(preview, &move);
        d.accept();
    });
    window->bringIn(pdf);
    window->pictures().settle();
    ASSERT_EQ(part().sources.size(), 2u) << window->message().toStdString();
    EXPECT_GT(part().sources[1].left, 0);
    EXPECT_NEAR(double(part().sources[1].width) / part().sources[1].height, 200.0 / 140, 0.03);
    EXPECT_EQ(work().image()->width(), part().sources[1].width);
    answer([](BringInDialog& d) { d.reject(); });
    window->bringIn(pdf);
    EXPECT_EQ(part().sources.size(), 2u);
    EXPECT_EQ(asked, 3);
    // What cannot be read is said, and nothing is lost.
    window->bringIn(write("broken.pdf", "%PDF-1.4\nnothing"));
    EXPECT_TRUE(window->message().contains("broken")) << window->message().toStdString();
    window->bringIn(write("other.dxf", "hello"));
    EXPECT_TRUE(window->message().contains("DXF")) << window->message().toStdString();
    EXPECT_EQ(part().sources.size(), 2u);
}

// ------------------------------------------------------------------ tools for any picture

class Tools : public Drawings {
protected:
    void scan(bool below, double tilt, int pins = 5) {
        begin(pins);
        maker::Scene s;
        s.tilt = tilt;
        s.dust = 0;
        s.gloss = 0;
        s.seed = 12;
        s.fromBelow = below;
        s.things = maker::rowOfPins(pins, 3.5, 0.9, 1);
        made = maker::makeScan(s);
        bring(write("under.png", maker::pngBytes(made.picture, 600)));
        click(find<QPushButton>(below ? "faceSolder" : "facePart"));
    }
    /// A place on the housing: mm from its middle as the picture shows it, y down.
    PixelPoint at(double x, double y) const {
        const double a = -tilt_ * M_PI / 180, n = 600 / 25.4;
        return {30 * n + n * (std::cos(a) * x - std::sin(a) * y), 18 * n + n * (std::sin(a) * x + std::cos(a) * y)};
    }
    double tilt_ = 0;
    maker::Scan made;
};

TEST_F(Tools, ALevelEdgeStraightensThePictureBeforeAnythingIsFound) {
    tilt_ = 1.2;
    scan(false, tilt_);
    tool(Tool::Level);
    clickPicture(at(-10, 10));
    clickPicture(at(10, 10));
    ASSERT_EQ(part().readings.size(), 1u) << window->message().toStdString();
    EXPECT_EQ(part().readings[0].contact, Contact::PictureLevel);
    EXPECT_LT(part().readings[0].pick->u, kClickU) << "the housing's edge was found";
    const ParameterValue* angle = footprint().parameter(part().sources[0].id + ".angle");
    ASSERT_TRUE(angle != nullptr && angle->angleDoubt);
    EXPECT_NEAR(angle->angle->degrees(), 1.2, 0.05);
    EXPECT_TRUE(work().levelWords().contains("level"));
    // The sheet shows it straight: the edge runs along.
    const QPoint a = onSheet(at(-10, 10)), b = onSheet(at(10, 10));
    EXPECT_LE(std::abs(a.y() - b.y()), 1);
}

TEST_F(Tools, FacesByTheirEdgesPinsByPlacesOnTheRim) {
    scan(false, 0);
    const double n = 600 / 25.4;
    tool(Tool::Read);
    // One pin by three places on its rim, one by a click, then the left face by its edge.
    const auto pins = part().formations[0].pins;
    chooseData("readTarget", pins[0]);
    work().setHow(PictureWork::How::RimPlaces);
    const PixelPoint c = made.places[0];
    for (const double a : {0.3, 2.4, 4.4}) clickPicture({c.x + 0.45 * n * std::cos(a), c.y + 0.45 * n * std::sin(a)});
    EXPECT_EQ(part().readings.size(), 0u);
    window->sheet().setFocus();
    key(Qt::Key_Return);
    ASSERT_EQ(part().readings.size(), 3u) << window->message().toStdString();
    EXPECT_NEAR(part().readings[0].pick->a.x, c.x, 0.3);
    chooseData("readTarget", pins[4]);
    work().setHow(PictureWork::How::Rim);
    clickPicture(made.places[4]);
    EXPECT_EQ(part().readings.size(), 6u);
    chooseData("readTarget", kLeftFace);
    EXPECT_EQ(work().how(), PictureWork::How::Edge) << "a face has edges only";
    clickPicture(at(-12, -5));
    clickPicture(at(-12, 6));
    ASSERT_EQ(part().readings.size(), 7u) << window->message().toStdString();
    EXPECT_EQ(part().readings.back().a, kLeftFace);
    EXPECT_NEAR(part().readings.back().pick->a.x, at(-12, 0).x, 0.7);
    // An edge belongs to no pin, and a rim to no face: said, and nothing is made.
    chooseData("readTarget", pins[2]);
    work().setHow(PictureWork::How::Edge);
    clickPicture(at(-12, -5));
    clickPicture(at(-12, 6));
    EXPECT_EQ(part().readings.size(), 7u);
    EXPECT_FALSE(window->message().isEmpty());
    // Something new by a corner.
    chooseData("readTarget", "new mark");
    work().setHow(PictureWork::How::Corner);
    for (const PixelPoint& p : {at(-12, -6), at(-12, 2), at(-8, 10), at(6, 10)}) clickPicture(p);
    ASSERT_EQ(part().spots.size(), 1u) << window->message().toStdString();
    EXPECT_NEAR(part().readings.back().pick->a.x, at(-12, 10).x, 1.0);
    EXPECT_NEAR(part().readings.back().pick->a.y, at(-12, 10).y, 1.0);
}

TEST_F(Tools, ARegionLimitsWhatIsFound) {
    scan(true, 0);
    tool(Tool::Region);
    const double n = 600 / 25.4;
    clickPicture({made.places[0].x + 2 * n, made.places[0].y - 2 * n});
    clickPicture({made.places[2].x - 1 * n, made.places[2].y + 2 * n});
    ASSERT_TRUE(work().region());
    EXPECT_EQ(work().tool(), Tool::None);
    click(find<QPushButton>("findPins"));
    ASSERT_TRUE(work().found());
    EXPECT_EQ(work().found()->features.size(), 3u);
    click(find<QPushButton>("wholePicture"));
    EXPECT_FALSE(work().region());
    click(find<QPushButton>("findPins"));
    EXPECT_EQ(work().found()->features.size(), 5u);
    // As singles: each pin is a formation of its own.
    click(find<QPushButton>("takeSingles"));
    EXPECT_EQ(part().formations.size(), 5u);
    // The picture goes with what was read in it, and comes back by one undo.
    const Part before = part();
    click(find<QPushButton>("takeOutSource"));
    EXPECT_TRUE(part().sources.empty());
    EXPECT_TRUE(part().readings.empty());
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(part(), before);
}

TEST_F(Tools, ARegionIsMarkedByADragAndNothingMoves) {
    scan(true, 0);
    tool(Tool::Region);
    const double n = 600 / 25.4;
    Sheet& sheet = window->sheet();
    const auto on = [&](double x, double y) { return sheet.pictureTransform().map(QPointF(x, y)).toPoint(); };
    const QPoint from = on(made.places[0].x + 2 * n, made.places[0].y - 2 * n);
    const QPoint to = on(made.places[2].x - 1 * n, made.places[2].y + 2 * n);
    const QTransform before = sheet.pictureTransform();
    QTest::mousePress(&sheet, Qt::LeftButton, {}, from);
    QTest::mouseMove(&sheet, (from + to) / 2);
    QTest::mouseMove(&sheet, to);
    QTest::mouseRelease(&sheet, Qt::LeftButton, {}, to);
    QApplication::processEvents();
    ASSERT_TRUE(work().region()) << window->message().toStdString();
    EXPECT_EQ(sheet.pictureTransform(), before) << "the picture is not pushed along";
    click(find<QPushButton>("findPins"));
    ASSERT_TRUE(work().found());
    EXPECT_EQ(work().found()->features.size(), 3u);
    // Without the tool a drag moves the picture, as ever.
    QTest::mousePress(&sheet, Qt::LeftButton, {}, from);
    QTest::mouseMove(&sheet, from + QPoint(20, 10));
    QTest::mouseMove(&sheet, from + QPoint(40, 20));
    QTest::mouseRelease(&sheet, Qt::LeftButton, {}, from + QPoint(40, 20));
    EXPECT_NE(sheet.pictureTransform(), before);
}

TEST_F(Tools, FourCornersMakeAPhotographSquare) {
    scan(false, 0);
    tool(Tool::Square);
    EXPECT_TRUE(find<QLabel>("toolWords")->text().contains("stays shifted"));
    for (const PixelPoint& p : {at(-12, -10), at(12, -10), at(12, 10), at(-12, 10)}) clickPicture(p);
    auto* line = find<QLineEdit>("squareLine");
    ASSERT_TRUE(line->isVisible());
    line->setFocus();
    keys("24");
    key(Qt::Key_Return);
    EXPECT_EQ(part().sources.size(), 1u);
    EXPECT_EQ(line->text(), "24");
    retype("24 x 20");
    key(Qt::Key_Return);
    ASSERT_EQ(part().sources.size(), 2u) << window->message().toStdString();
    EXPECT_NE(part().sources[1].note.find("square"), std::string::npos);
    EXPECT_EQ(part().sources[1].face, PictureFace::PartSide);
    EXPECT_EQ(std::count_if(part().readings.begin(), part().readings.end(),
                            [](const Reading& r) { return r.contact == Contact::PictureLength; }),
              2);
    click(find<QPushButton>("findPins"));
    ASSERT_TRUE(work().found());
    ASSERT_TRUE(work().found()->formation);
    EXPECT_NEAR(work().found()->formation->pitch->value, 3.5, 0.05);
}

TEST_F(Tools, AnOutlineIsTracedCornerByCornerAndFollowsThePart) {
    scan(false, 0);
    click(find<QPushButton>("findPins"));
    click(find<QPushButton>("takeFound"));
    tool(Tool::Outline);
    clickPicture(at(-11.9, -9.9));
    clickPicture(at(11.9, -9.9));
    clickPicture(at(3, 3));
    window->sheet().setFocus();
    key(Qt::Key_Backspace);
    clickPicture(at(12.1, 9.9));
    clickPicture(at(-11.9, 10.1));
    key(Qt::Key_Return);
    ASSERT_TRUE(part().body.trace) << window->message().toStdString();
    EXPECT_EQ(part().body.trace->points.size(), 4u);
    // Laid on the housing's own edges: 24 x 20 mm, however the corners were clicked. The ruler's scale was taken too.
    ASSERT_EQ(footprint().body->ring().size(), 4u);
    Rect box;
    for (const Point& p : footprint().body->ring()) box.add(p);
    EXPECT_NEAR(box.width().mm(), 24, 0.15);
    EXPECT_NEAR(box.height().mm(), 20, 0.15);
    tool(Tool::Outline);
    click(find<QPushButton>("outlineRemove"));
    EXPECT_FALSE(part().body.trace);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_TRUE(part().body.trace);
}

TEST_F(Tools, WhatWasFoundIsComparedWithoutTakingIt) {
    scan(true, 1.0);
    part();
    Part given = part();
    given = withGiven(given, "pitch", "3.52", Unit::Mm);
    window->document().apply("pitch", given);
    click(find<QPushButton>("findPins"));
    ASSERT_TRUE(work().found());
    const std::size_t readings = part().readings.size();
    click(find<QPushButton>("compareFound"));
    ASSERT_TRUE(work().laid()) << window->message().toStdString();
    EXPECT_EQ(part().readings.size(), readings);
    // 0.02 a pitch: the ends are 0.04 off, the middle is not.
    ASSERT_EQ(work().deviations().size(), 5u);
    EXPECT_NEAR(work().deviations()[0].off(), 0.04, 0.015);
    EXPECT_NEAR(work().deviations()[4].off(), 0.0, 0.01);
    EXPECT_EQ(find<QListWidget>("foundList")->count(), 5);
    // On the sheet the picture lies where the pads are.
    const QPoint pin = onSheet(made.places[2]);
    EXPECT_LT((pin - window->sheet().placeOf(part().formations[0].pins[2])).manhattanLength(), 3);
    // Blink and wipe go on and off by key, and exclude each other.
    key(Qt::Key_F12);
    EXPECT_TRUE(work().blinking());
    key(Qt::Key_F12, Qt::ShiftModifier);
    EXPECT_FALSE(work().blinking());
    ASSERT_TRUE(work().wipe());
    const int x = static_cast<int>(*work().wipe() * window->sheet().width());
    QTest::mousePress(&window->sheet(), Qt::LeftButton, {}, QPoint(x, 200));
    QMouseEvent move(QEvent::MouseMove, QPointF(x - 100, 200), window->sheet().mapToGlobal(QPointF(x - 100, 200)),
                     Qt::NoButton, Qt::LeftButton, {});
    QApplication::sendEvent(&window->sheet(), &move);
    QTest::mouseRelease(&window->sheet(), Qt::LeftButton, {}, QPoint(x - 100, 200));
    EXPECT_NEAR(*work().wipe() * window->sheet().width(), x - 100, 2);
    key(Qt::Key_F12, Qt::ShiftModifier);
    EXPECT_FALSE(work().wipe());
    click(find<QPushButton>("compareFound"));
    EXPECT_FALSE(work().laid());
}

}  // namespace
}  // namespace punch::test
