// A scan on the bench: brought in, made an instrument, its pins found and taken, with mouse and keys.

#include <QInputDialog>
#include <QTimer>

#include "app/handover/paper_dialog.h"
#include "app/paper.h"
#include "app/pictures/picture_layer.h"
#include "core/part/file.h"
#include "demo/maker/scan_maker.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class Pictures : public BenchTest {
protected:
    /// A saved new part, and a scan of a row of five beside a ruler.
    void begin() {
        window->document().begin(bareRow(3));
        ASSERT_TRUE(window->saveAs(folder.filePath("slide.punch")));
        maker::Scene s;
        s.tilt = 1.2;
        s.dust = 8;
        s.seed = 12;
        s.things = maker::rowOfPins(5, 3.5, 0.9, 1);
        scan = maker::makeScan(s);
        file = folder.filePath("under.png");
        QFile out(file);
        ASSERT_TRUE(out.open(QIODevice::WriteOnly));
        const std::string bytes = maker::pngBytes(scan.picture, 600);
        out.write(bytes.data(), static_cast<qint64>(bytes.size()));
        out.close();
        window->view().setStation(Station::Measure);
        click(find<QPushButton>("toSources"));
        window->bringIn(file);
        QApplication::processEvents();
    }
    QPoint onSheet(PixelPoint p) {
        // The sheet's own transform is private: two features tell where mm lie; the work says where pixels lie.
        const QTransform t = window->sheet().pictureTransform();
        return t.map(QPointF(p.x, p.y)).toPoint();
    }
    void clickPicture(PixelPoint p, Qt::KeyboardModifiers modifiers = Qt::NoModifier) {
        QTest::mouseClick(&window->sheet(), Qt::LeftButton, modifiers, onSheet(p));
        QApplication::processEvents();
    }
    maker::Scan scan;
    QString file;
};

TEST_F(Pictures, AScanBecomesAFormationWithItsReadings) {
    begin();
    ASSERT_EQ(part().sources.size(), 1u);
    EXPECT_TRUE(QFileInfo(folder.filePath(QString::fromStdString(part().sources[0].picture))).isFile());
    EXPECT_DOUBLE_EQ(std::round(part().sources[0].dpi), 600);
    click(find<QPushButton>("findPins"));
    ASSERT_TRUE(window->pictures().found());
    EXPECT_EQ(window->pictures().found()->features.size(), 5u);
    EXPECT_FALSE(find<QPushButton>("takeFound")->isEnabled()) << "the face has not been said";
    click(find<QPushButton>("faceSolder"));
    EXPECT_TRUE(find<QPushButton>("takeFound")->isEnabled());
    EXPECT_TRUE(find<QLabel>("formationWords")->text().contains("3.5 mm fits"))
        << find<QLabel>("formationWords")->text().toStdString();
    click(find<QPushButton>("takeFound"));
    ASSERT_EQ(part().formations[0].pins.size(), 5u);
    EXPECT_EQ(part().formations[0].lead, LeadShape::Round);
    const ParameterValue* pitch = footprint().parameter("pitch");
    ASSERT_TRUE(pitch != nullptr && pitch->firm());
    EXPECT_NEAR(pitch->value.mm(), 3.5, 0.01);
    for (const Pad& p : footprint().pads) EXPECT_TRUE(p.firm);
    // The ruler came along as a known length, and one undo takes all of it back.
    EXPECT_TRUE(std::any_of(part().readings.begin(), part().readings.end(),
                            [](const Reading& r) { return r.contact == Contact::PictureLength; }));
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(part().formations[0].pins.size(), 3u);
    EXPECT_TRUE(part().readings.empty());
}

TEST_F(Pictures, AClickDropsWhatIsNoneAndAnotherBringsItBack) {
    begin();
    click(find<QPushButton>("faceSolder"));
    key(Qt::Key_F, Qt::ControlModifier);
    ASSERT_TRUE(window->pictures().found());
    clickPicture(scan.places[4]);
    EXPECT_EQ(window->pictures().found()->features.size(), 4u);
    EXPECT_EQ(find<QListWidget>("foundList")->count(), 4);
    clickPicture(scan.places[4]);
    EXPECT_EQ(window->pictures().found()->features.size(), 5u);
    // Seen from the part side the last pin of the scan's left is the first: shift and click makes the other one pin 1.
    const std::size_t last = 4;
    EXPECT_EQ(window->pictures().pinOne(), 0u);
    window->pictures().setPinOne(last);
    click(find<QPushButton>("takeFound"));
    EXPECT_FALSE(part().formations[0].numbers.fromLeft);
}

TEST_F(Pictures, TwoClicksAndALengthMakeTheScale) {
    begin();
    click(find<QPushButton>("facePart"));
    click(find<QPushButton>("knownLength"));
    const PixelPoint a = scan.rulerTicks[5];
    const PixelPoint b = scan.rulerTicks[35];
    clickPicture(a);
    clickPicture(b);
    auto* line = find<QLineEdit>("knownLengthLine");
    ASSERT_TRUE(line->isVisible());
    line->setFocus();
    keys("nonsense");
    key(Qt::Key_Return);
    EXPECT_TRUE(part().readings.empty());
    EXPECT_EQ(line->text(), "nonsense") << "nothing typed is lost";
    EXPECT_FALSE(window->message().isEmpty());
    retype("30");
    key(Qt::Key_Return);
    ASSERT_EQ(part().readings.size(), 1u);
    EXPECT_EQ(part().readings[0].contact, Contact::PictureLength);
    const ParameterValue* scale = footprint().parameter(part().sources[0].id + ".scaleX");
    ASSERT_TRUE(scale != nullptr && scale->firm());
    // Clicks on the screen's pixels: near, and the doubt says how near.
    EXPECT_NEAR(scale->value.mm(), 1.0, 3 * scale->doubt->mm() + 0.01);
}

TEST_F(Pictures, OnePinIsReadByAClickAndNudged) {
    begin();
    click(find<QPushButton>("faceSolder"));
    const FeatureId pin = part().formations[0].pins[0];
    window->view().choose(pin, {});
    click(find<QPushButton>("readPick"));
    clickPicture({scan.places[1].x + 3, scan.places[1].y - 2});
    ASSERT_EQ(part().readings.size(), 3u);
    EXPECT_NEAR(part().readings[0].pick->a.x, scan.places[1].x, 0.2);
    EXPECT_NEAR(part().readings[0].pick->a.y, scan.places[1].y, 0.2);
    const double before = part().readings[0].pick->a.x;
    window->sheet().setFocus();
    key(Qt::Key_Right);
    EXPECT_NEAR(std::abs(part().readings[0].pick->a.x - before), 0.1, 0.01);
    // Typing on the picture makes no reading that nobody sees.
    const std::size_t count = part().readings.size();
    keys("45");
    key(Qt::Key_Return);
    EXPECT_EQ(part().readings.size(), count);
    EXPECT_TRUE(window->measure().line().text().isEmpty());
    // Nothing is there: the place itself is taken, with the doubt of a bare click.
    clickPicture({60, 300});
    EXPECT_DOUBLE_EQ(part().readings[0].pick->u, kClickU);
}

TEST_F(Pictures, WhatIsNoPictureIsSaidAndNothingIsLost) {
    begin();
    const Part before = part();
    const QString text = folder.filePath("letter.png");
    QFile out(text);
    ASSERT_TRUE(out.open(QIODevice::WriteOnly));
    out.write("this is no picture");
    out.close();
    window->bringIn(text);
    EXPECT_TRUE(window->message().contains("no picture")) << window->message().toStdString();
    EXPECT_EQ(part(), before);
    // The picture's file goes away: the part stays, and the column says so.
    ASSERT_TRUE(window->save());
    QFile::remove(folder.filePath(QString::fromStdString(part().sources[0].picture)));
    window->home();
    ASSERT_TRUE(window->openPath(folder.filePath("slide.punch")));
    window->view().setStation(Station::Measure);
    QApplication::processEvents();
    EXPECT_EQ(window->pictures().image(), nullptr);
    EXPECT_FALSE(window->pictures().trouble().isEmpty());
    EXPECT_FALSE(window->pictures().find());
}

TEST_F(Pictures, PaperTakesSeveralPartsAtTrueScale) {
    ASSERT_TRUE(window->openPath(QString::fromStdString(sourceFolder()) + "/demo/fennel-house/QB-TB4.punch"));
    PaperDialog dialog(window->document(), QString::fromStdString(sourceFolder()) + "/demo/fennel-house", true);
    auto* parts = dialog.findChild<QListWidget*>("paperParts");
    ASSERT_GT(parts->count(), 5);
    // A second part on the same sheet; one that is loose stays away until it is asked for.
    for (int i = 0; i < parts->count(); ++i)
        if (parts->item(i)->text() == "HT-RM2") parts->item(i)->setCheckState(Qt::Checked);
    EXPECT_TRUE(dialog.message().contains("One page")) << dialog.message().toStdString();
    dialog.writeTo(folder.filePath("paper.pdf"));
    QFile pdf(folder.filePath("paper.pdf"));
    ASSERT_TRUE(pdf.open(QIODevice::ReadOnly)) << dialog.message().toStdString();
    constexpr double kDpi = 600;
    const auto pages = pagesOf(pdf.readAll().toStdString(), kDpi);
    ASSERT_TRUE(pages) << pages.error().text();
    ASSERT_EQ(pages->size(), 1U);
    const auto at = [&](double x, double y) {
        return qGray((*pages)[0].pixel(static_cast<int>(x * kDpi / 25.4), static_cast<int>(y * kDpi / 25.4)));
    };
    // Both test lengths, from the corner 12 mm inside the page.
    EXPECT_LT(at(12 + kTestLength - 0.02, 297 - 12), 120);
    EXPECT_GT(at(12 + kTestLength + 0.3, 297 - 12), 250);
    EXPECT_LT(at(12, 297 - 12 - kTestLength + 0.02), 120);
    for (int i = 0; i < parts->count(); ++i) parts->item(i)->setCheckState(Qt::Unchecked);
    EXPECT_FALSE(dialog.message().isEmpty()) << "nothing on it";
    parts->item(0)->setCheckState(Qt::Checked);
    dialog.writeTo("/nowhere/at/all.pdf");
    EXPECT_TRUE(dialog.message().contains("Not written"));
}

TEST_F(Pictures, WhatThePrinterStretchesIsDrawnShorterAndIsKept) {
    ASSERT_TRUE(window->openPath(QString::fromStdString(sourceFolder()) + "/demo/fennel-house/QB-TB4.punch"));
    ASSERT_TRUE(keepPrintedLengths({}));
    const auto answer = [&](const QString& typed) {
        QTimer::singleShot(0, window.get(), [typed] {
            auto* dialog = qobject_cast<QInputDialog*>(QApplication::activeModalWidget());
            ASSERT_NE(dialog, nullptr);
            dialog->setTextValue(typed);
            dialog->accept();
        });
        for (const Command& command : window->commands())
            if (command.name == "Printer's scale") command.run();
    };
    answer("104 x 9.8");
    EXPECT_EQ(printedLengths().across, kTestLength) << "no printer is off by as much";
    answer("wide");
    EXPECT_EQ(printedLengths().along, kTestLength);
    answer("104 x 98,5");
    EXPECT_EQ(printedLengths().across, 104);
    EXPECT_EQ(printedLengths().along, 98.5);

    // On the page that the printer then makes of it, both bars are as long as they say.
    const PrintedLengths printed = printedLengths();
    PaperOptions options;
    options.printedX = printed.across;
    options.printedY = printed.along;
    const auto pdf = paperPdf({{&part(), &footprint()}}, options);
    ASSERT_TRUE(pdf) << pdf.error().text();
    constexpr double kDpi = 600;
    const auto pages = pagesOf(*pdf, kDpi);
    ASSERT_TRUE(pages);
    // A printer that stretches by as much, from the page's corner.
    const auto at = [&](double x, double y) {
        return qGray((*pages)[0].pixel(static_cast<int>(x / 1.04 * kDpi / 25.4), static_cast<int>(y / 0.985 * kDpi / 25.4)));
    };
    EXPECT_LT(at(12 + kTestLength - 0.05, 297 - 12), 120);
    EXPECT_GT(at(12 + kTestLength + 0.3, 297 - 12), 250);
    EXPECT_LT(at(12, 297 - 12 - kTestLength + 0.05), 120);
    EXPECT_GT(at(12, 150 - 12 - kTestLength - 0.3), 250);

    // A corrected page that is still off: the rest comes on top. Nothing typed ends it.
    answer("100.5 x 100");
    EXPECT_NEAR(printedLengths().across, 104 * 1.005, 1e-9);
    EXPECT_EQ(printedLengths().along, 98.5);
    answer("");
    EXPECT_EQ(printedLengths().across, kTestLength);
    EXPECT_EQ(printedLengths().along, kTestLength);
}

TEST_F(Pictures, NothingOfTheLastPartStaysAndPicturesFollowThePart) {
    begin();
    key(Qt::Key_F, Qt::ControlModifier);
    ASSERT_TRUE(window->pictures().found());
    // Saved elsewhere, the part takes its evidence along.
    ASSERT_TRUE(window->save());
    QTemporaryDir other;
    ASSERT_TRUE(window->saveAs(other.filePath("moved.punch")));
    const QString kept = other.filePath(QString::fromStdString(part().sources[0].picture));
    EXPECT_TRUE(QFileInfo(kept).isFile()) << kept.toStdString();
    // A part whose source has the same name and another picture.
    ASSERT_TRUE(window->openPath(QString::fromStdString(sourceFolder()) + "/demo/fennel-house/HT-SEL6.punch"));
    EXPECT_FALSE(window->pictures().found());
    ASSERT_NE(window->pictures().image(), nullptr);
    EXPECT_NE(window->pictures().image()->width(), scan.picture.width);
}

TEST_F(Pictures, AFaceThatWasWrongTakesTheMirroredPlacesOut) {
    begin();
    click(find<QPushButton>("facePart"));
    click(find<QPushButton>("findPins"));
    click(find<QPushButton>("takeFound"));
    const auto places = [&] {
        return std::count_if(part().readings.begin(), part().readings.end(),
                             [](const Reading& r) { return r.contact == Contact::Picture; });
    };
    EXPECT_EQ(places(), 10);
    click(find<QPushButton>("faceSolder"));
    EXPECT_EQ(places(), 0);
    EXPECT_FALSE(window->message().isEmpty());
    click(find<QPushButton>("findPins"));
    click(find<QPushButton>("takeFound"));
    EXPECT_EQ(places(), 10);
    EXPECT_EQ(part().formations.size(), 1u);
    EXPECT_EQ(footprint().gauge("readings")->state, GaugeState::Go);
}

TEST_F(Pictures, APastedPictureIsBroughtIn) {
    begin();
    QApplication::clipboard()->setImage(QImage(64, 48, QImage::Format_RGB32));
    window->pastePicture();
    ASSERT_EQ(part().sources.size(), 2u);
    EXPECT_EQ(part().sources[1].width, 64);
    QApplication::clipboard()->setText("no picture");
    window->pastePicture();
    EXPECT_EQ(part().sources.size(), 2u);
    EXPECT_FALSE(window->message().isEmpty());
}

TEST_F(Pictures, TheDemoScanLiesUnderItsPads) {
    ASSERT_TRUE(window->openPath(QString::fromStdString(sourceFolder()) + "/demo/fennel-house/HT-SEL6.punch"));
    window->view().setStation(Station::Measure);
    key(Qt::Key_F11);
    QApplication::processEvents();
    ASSERT_NE(window->pictures().image(), nullptr);
    // Where a pin was read in the picture, its pad stands on the sheet.
    for (const Reading& r : part().readings) {
        if (r.contact != Contact::Picture || r.axis != Axis::Along || footprint().pad(r.a) == nullptr) continue;
        const QPointF picture = window->sheet().pictureTransform().map(QPointF(r.pick->a.x, r.pick->a.y));
        const QPointF pad = window->sheet().placeOf(r.a);
        EXPECT_LT(std::hypot(picture.x() - pad.x(), picture.y() - pad.y()), 1.0) << r.a;
    }
    for (const Gauge& g : footprint().gauges) EXPECT_NE(g.state, GaugeState::NoGo) << g.name;
}

TEST_F(Pictures, ComparingUsesTheScaleThatCalipersSharpened) {
    ASSERT_TRUE(window->openPath(QString::fromStdString(sourceFolder()) + "/demo/fennel-house/HT-SEL6.punch"));
    window->view().setStation(Station::Measure);
    key(Qt::Key_F11);
    QApplication::processEvents();
    window->sources().find();
    window->pictures().settle();
    ASSERT_TRUE(window->pictures().compare());
    const auto deviations = window->pictures().deviations();
    ASSERT_GE(deviations.size(), 9u);
    // The ruler alone leaves 0.03 across; calipers and picture together agree within a few micrometres.
    for (const Deviation& d : deviations) EXPECT_LT(d.off(), 0.008) << d.id;
}

}  // namespace
}  // namespace punch::test
