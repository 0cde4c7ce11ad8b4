// QB-TB4 made again with the mouse on the sheet: point at two features, type a number.

#include "app/sheet/sheet.h"
#include "core/model/contacts.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class Mouse : public BenchTest {
protected:
    void newPart(int pegs) {
        find<QLineEdit>("startPegs")->setText(QString::number(pegs));
        click(find<QPushButton>("putOnBench"));
        ASSERT_TRUE(window->document().open());
    }
    /// Points at features, chooses the way to read by the arrow keys, types into the sheet.
    void read(const FeatureId& a, const FeatureId& b, const std::string& words) {
        clickFeature(a);
        if (!b.empty()) clickFeature(b);
        for (int i = 0; i < 12 && window->entry().words().toStdString() != words; ++i)
            QTest::keyClick(&window->sheet(), Qt::Key_Down);
        ASSERT_EQ(window->entry().words().toStdString(), words);
        const QString typed = demoReadings().at(words);
        QTest::keyClicks(&window->sheet(), typed.left(1));
        EXPECT_EQ(QApplication::focusWidget(), &window->measure().line()) << "typing goes to the entry line";
        keys(typed.mid(1));
        key(Qt::Key_Return);
    }
};

TEST_F(Mouse, TheWholePartOnTheSheet) {
    newPart(1);
    const FeatureId peg = part().spots.at(0).id;
    // The peg is drawn where it is seen on the part before it is read.
    read("p1", "p4", "pins 1 and 4, outside");
    read("p1", "", "pin 1, width");
    read("p1", "", "pin 1, thickness");
    read("p1", "p2", "pins 1 and 2, inside");
    read(kBody, "", "body, along the row");
    read(kLeftFace, "p1", "left face to pin 1, near edge");
    read(kBody, "", "body, across");
    read(kRearFace, "p1", "rear face to pin 1, near edge");
    read(peg, "", "peg, diameter");
    read(peg, "p1", "peg and pin 1, across, outside");
    read(peg, "p1", "peg and pin 1, across, inside");
    read(peg, "p4", "peg and pin 4, along, outside");
    read(peg, "p4", "peg and pin 4, along, inside");
    read("p1", "", "pin 1, length");
    read(kBody, "", "body, height");
    click(find<QPushButton>("takePitch"));
    EXPECT_EQ(part().taken.at("pitch"), 5.08_mm);
    // Rules by the mouse, too.
    click(&window->topBar().stations(), window->topBar().stations().stationBox(Station::Size).center());
    EXPECT_EQ(window->view().station(), Station::Size);
    for (const auto& [name, text] : {std::pair{"land", "fixed ring"}}) {
        auto* combo = find<QComboBox>(name);
        combo->setFocus();
        pick(text);
    }
    for (const auto& [name, text] : {std::pair{"ring", "0.5"}, std::pair{"pegClearance", "0.13"}}) {
        click(find<QLineEdit>(name));
        retype(text);
    }
    for (const auto& [name, volts, pins] : {std::tuple{"line", "230", "1 2"}, std::tuple{"neutral", "0", "3 4"}}) {
        find<QLineEdit>("potentialName")->setText(name);
        find<QLineEdit>("potentialVolts")->setText(volts);
        find<QLineEdit>("potentialPins")->setText(pins);
        find<QPushButton>("addPotential")->click();
    }
    ASSERT_EQ(footprint().openSides.size(), 1U);
    click(find<QPushButton>("mendSlip"));
    expectDemoNumbers(part(), footprint());
}

TEST_F(Mouse, ALoosePegIsDraggedToItsSide) {
    newPart(1);
    const FeatureId peg = part().spots.at(0).id;
    const QPointF from = window->sheet().placeOf(peg);
    const QPointF to = window->sheet().placeOf("p1") + QPointF(-60, -70);
    QTest::mousePress(&window->sheet(), Qt::LeftButton, {}, from.toPoint());
    QMouseEvent move(QEvent::MouseMove, to, window->sheet().mapToGlobal(to), Qt::NoButton, Qt::LeftButton,
                     Qt::NoModifier);
    QApplication::sendEvent(&window->sheet(), &move);
    QTest::mouseRelease(&window->sheet(), Qt::LeftButton, {}, to.toPoint());
    EXPECT_LT(footprint().bareHole(peg)->at.x, footprint().pad("p1")->at.x);
    EXPECT_GT(footprint().bareHole(peg)->at.y, Length());
    for (const char* typed : {"1 4 outside 16.24", "1 width 1.00", "1 thickness 0.80", "peg diameter 1.5",
                              "peg 1 across outside 5.15", "peg 1 along centres 2.00"}) {
        window->measure().type(typed);
        key(Qt::Key_Return);
    }
    EXPECT_NEAR(footprint().bareHole(peg)->at.y.mm(), 4.0, 1e-6) << "behind the row, where it was drawn";
    EXPECT_NEAR((footprint().bareHole(peg)->at.x - footprint().pad("p1")->at.x).mm(), -2.0, 1e-6);
    find<QPushButton>("pegOtherSide")->click();
    EXPECT_NEAR(footprint().bareHole(peg)->at.y.mm(), -4.0, 1e-6);
    find<QPushButton>("pegOtherEnd")->click();
    EXPECT_NEAR((footprint().bareHole(peg)->at.x - footprint().pad("p1")->at.x).mm(), 2.0, 1e-6);
}

TEST_F(Mouse, ClicksMeanTheSameSeenFromTheSolderSide) {
    newPart(0);
    const double left = window->sheet().placeOf("p1").x();
    click(find<QPushButton>("sideBadge"));
    EXPECT_TRUE(window->view().fromSolderSide());
    EXPECT_GT(window->sheet().placeOf("p1").x(), window->sheet().placeOf("p4").x()) << "mirrored";
    EXPECT_NE(window->sheet().placeOf("p1").x(), left);
    clickFeature("p1");
    EXPECT_EQ(window->view().first(), "p1");
    clickFeature(kLeftFace);
    EXPECT_EQ(window->view().second(), kLeftFace);
    click(find<QPushButton>("sideBadge"));
    EXPECT_NEAR(window->sheet().placeOf("p1").x(), left, 1) << "there and back";
}

TEST_F(Mouse, AGaugeLeadsToItsCulprit) {
    ASSERT_TRUE(window->openPath(QString::fromStdString(sourceFolder()) + "/demo/fennel-house/QB-TB4.punch"));
    click(&window->rail(), window->rail().gaugeBox(6).center());
    EXPECT_EQ(window->view().station(), Station::Size);
    EXPECT_EQ(window->view().first(), "p2");
    EXPECT_EQ(window->view().second(), "p3");
    EXPECT_TRUE(window->view().lens(Lens::Voltage));
    click(&window->rail(), window->rail().gaugeBox(11).center());
    EXPECT_EQ(window->view().station(), Station::Fit);
}

TEST_F(Mouse, ATagOnTheSheetOpensItsReading) {
    ASSERT_TRUE(window->openPath(QString::fromStdString(sourceFolder()) + "/demo/fennel-house/QB-TB4.punch"));
    window->view().setStation(Station::Measure);
    const auto& lines = window->sheet().dimensionLayout().lines;
    ASSERT_GE(lines.size(), 12u);
    const Dimension d = lines[3];
    QTest::mouseClick(&window->sheet(), Qt::LeftButton, {}, d.tag.center().toPoint());
    EXPECT_EQ(window->entry().editing(), d.reading);
    EXPECT_FALSE(window->measure().line().text().isEmpty());
    key(Qt::Key_Escape);
    EXPECT_EQ(window->entry().editing(), -1);
}

TEST_F(Mouse, PanAndZoomKeepThePlaceUnderTheMouse) {
    newPart(0);
    const QPointF before = window->sheet().placeOf("p2");
    QWheelEvent wheel(before, window->sheet().mapToGlobal(before), {}, {0, 240}, Qt::NoButton, Qt::NoModifier,
                      Qt::NoScrollPhase, false);
    QApplication::sendEvent(&window->sheet(), &wheel);
    EXPECT_NEAR(window->sheet().placeOf("p2").x(), before.x(), 0.5);
    QTest::mousePress(&window->sheet(), Qt::LeftButton, {}, QPoint(200, 300));
    QTest::mouseMove(&window->sheet(), QPoint(230, 310));
    QMouseEvent move(QEvent::MouseMove, QPointF(250, 320), window->sheet().mapToGlobal(QPointF(250, 320)), Qt::NoButton,
                     Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&window->sheet(), &move);
    QTest::mouseRelease(&window->sheet(), Qt::LeftButton, {}, QPoint(250, 320));
    EXPECT_NEAR(window->sheet().placeOf("p2").x(), before.x() + 50, 1.5);
    EXPECT_TRUE(window->view().first().empty()) << "a drag points at nothing";
    QTest::keyClick(&window->sheet(), Qt::Key_F8);
    EXPECT_NEAR(window->sheet().placeOf("p2").x(), before.x(), 1);
}

}  // namespace
}  // namespace punch::test
