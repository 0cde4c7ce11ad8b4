// The board under the hand: slots and windows drawn, moved and taken out on the sheet; edges that carry a potential;
// leads with formed ends; features that follow the hand.

#include "app/sheet/sheet.h"
#include "app/side/apart_view.h"
#include "core/clear/voltage_pairs.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class BoardHands : public BenchTest {
protected:
    void open(const char* name) {
        window->openPath(QString::fromStdString(sourceFolder() + "/demo/fennel-house/" + name));
        key(Qt::Key_3, Qt::ControlModifier);
        QTest::qWait(50);
    }
    Sheet& sheet() { return window->sheet(); }
    /// A place by its distance from a pin, mm.
    QPointF at(const FeatureId& pin, double dx, double dy) {
        const QPointF a = sheet().placeOf("p1");
        const QPointF b = sheet().placeOf("p2");
        const double scale = (b.x() - a.x()) / (footprint().pad("p2")->at.x - footprint().pad("p1")->at.x).mm();
        return sheet().placeOf(pin) + QPointF(dx, -dy) * scale;
    }
    void send(QEvent::Type type, QPointF p, Qt::MouseButton button, Qt::MouseButtons buttons,
              Qt::KeyboardModifiers modifiers = {}) {
        QMouseEvent event(type, p, sheet().mapToGlobal(p), button, buttons, modifiers);
        QApplication::sendEvent(&sheet(), &event);
    }
    void drag(QPointF from, QPointF to, Qt::KeyboardModifiers modifiers = {}, bool letGo = true) {
        send(QEvent::MouseMove, from, Qt::NoButton, Qt::NoButton);
        send(QEvent::MouseButtonPress, from, Qt::LeftButton, Qt::LeftButton, modifiers);
        for (int i = 1; i <= 5; ++i)
            send(QEvent::MouseMove, from + (to - from) * i / 5, Qt::NoButton, Qt::LeftButton, modifiers);
        if (letGo) send(QEvent::MouseButtonRelease, to, Qt::LeftButton, Qt::NoButton, modifiers);
    }
};

TEST_F(BoardHands, ASlotIsDrawnFromEndToEndAndMendsThePair) {
    open("HT-RM2.punch");
    ASSERT_EQ(footprint().gauge("voltage")->state, GaugeState::NoGo);
    click(find<QPushButton>("drawCutOut"));
    ASSERT_EQ(window->view().cutting(), CutOutKind::Slot);
    // Degree 3 asks for 1.5 and the tolerance: the 1.6 bit.
    EXPECT_EQ(window->view().cutWidth(), 1.6_mm);
    // Nearly level is level.
    drag(at("p1", -0.5, 4.85), at("p8", 0.9, 4.95));
    ASSERT_EQ(cuts().size(), 1U);
    const CutOut slot = cuts()[0];
    EXPECT_NEAR((slot.from.y - slot.to.y).mm(), 0, 1e-6);
    EXPECT_NEAR((slot.to.x - slot.from.x).mm(), 7 * 2.54 + 1.4, 0.2);
    EXPECT_FALSE(window->view().cutting()) << "one slot for one press of the button";
    EXPECT_NE(footprint().gauge("voltage")->state, GaugeState::NoGo);
    EXPECT_EQ(window->document().undoName(), "cut-out");
    window->document().undo();
    EXPECT_TRUE(cuts().empty());
}

TEST_F(BoardHands, ItsEndsAndItsMiddleAreDragged) {
    open("HT-RM2.punch");
    CutOut cut;
    const Point p1 = footprint().pad("p1")->at + footprint().datum;
    cut.from = p1 + Point{0_mm, 5_mm};
    cut.to = p1 + Point{8_mm, 5_mm};
    cut.width = 1.6_mm;
    window->document().apply("slot", withCutOut(part(), cut));
    // Its right end, up and on: with Ctrl at any turn.
    drag(at("p1", 8, 5), at("p1", 10, 5.3));
    EXPECT_NEAR((cuts()[0].to.y - cut.to.y).mm(), 0, 1e-6) << "held level";
    EXPECT_NEAR((cuts()[0].to.x - cut.to.x).mm(), 2.0, 0.06);
    drag(at("p1", 10, 5), at("p1", 10, 6), Qt::ControlModifier);
    EXPECT_NEAR((cuts()[0].to.y - cut.to.y).mm(), 1.0, 0.06);
    EXPECT_LT(distance(cuts()[0].from, cut.from), Length::fromNm(1));
    // Its middle takes all of it along.
    const CutOut before = cuts()[0];
    drag(at("p1", 5, 5.5), at("p1", 5, 4.5));
    EXPECT_LT(distance(cuts()[0].to - cuts()[0].from, before.to - before.from), Length::fromNm(1));
    EXPECT_NEAR((cuts()[0].from.y - before.from.y).mm(), -1.0, 0.06);
    // Delete takes it out, and undo brings it back.
    QTest::keyClick(&sheet(), Qt::Key_Delete);
    EXPECT_TRUE(cuts().empty());
    window->document().undo();
    EXPECT_EQ(cuts().size(), 1U);
}

TEST_F(BoardHands, AShortSlotIsTakenByItsMiddleToo) {
    open("HT-RM2.punch");
    CutOut cut;
    cut.from = footprint().pad("p1")->at + footprint().datum + Point{6_mm, 4.5_mm};
    cut.to = cut.from + Point{1_mm, 0_mm};
    cut.width = 1.6_mm;
    window->document().apply("slot", withCutOut(part(), cut));
    drag(at("p1", 6.5, 4.5), at("p1", 8.5, 5.5));
    const CutOut now = cuts()[0];
    EXPECT_LT(distance(now.to - now.from, cut.to - cut.from), Length::fromNm(1));
    EXPECT_NEAR((now.from.x - cut.from.x).mm(), 2.0, 0.06);
}

TEST_F(BoardHands, AWindowIsDrawnFromCornerToCornerAndEscPutsTheToolAway) {
    open("HT-RM2.punch");
    auto* kind = find<QComboBox>("cutKind");
    kind->setCurrentIndex(kind->findData(static_cast<int>(CutOutKind::Window)));
    find<QLineEdit>("cutWidth")->setText("2");
    click(find<QPushButton>("drawCutOut"));
    drag(at("p1", 3, 3), at("p1", 8, 7));
    ASSERT_EQ(cuts().size(), 1U);
    EXPECT_EQ(cuts()[0].kind, CutOutKind::Window);
    const Rect box = footprint().cutOuts[0].box();
    EXPECT_NEAR(box.width().mm(), 5, 0.11);
    EXPECT_NEAR(box.height().mm(), 4, 0.11);
    click(find<QPushButton>("drawCutOut"));
    EXPECT_EQ(QApplication::focusWidget(), &sheet());
    key(Qt::Key_Escape);
    EXPECT_FALSE(window->view().cutting());
    // Without the tool a drag on the bare board moves the sheet, nothing else.
    const QPointF was = sheet().placeOf("p1");
    drag(at("p1", 3, 1.5), at("p1", 5, 1.5));
    EXPECT_GT(sheet().placeOf("p1").x(), was.x());
    EXPECT_EQ(cuts().size(), 1U);
}

TEST_F(BoardHands, AWidthThatNobodyMillsAndASlotOfNoLengthAreNamed) {
    open("HT-RM2.punch");
    const Part before = part();
    find<QLineEdit>("cutWidth")->setText("0.1");
    click(find<QPushButton>("drawCutOut"));
    EXPECT_FALSE(window->view().cutting());
    EXPECT_TRUE(find<QLineEdit>("cutWidth")->property("wrong").toBool());
    find<QLineEdit>("cutWidth")->setText("1.6");
    click(find<QPushButton>("drawCutOut"));
    // Out and back again: it has no length.
    const QPointF a = at("p1", 3, 5);
    drag(a, a + QPointF(30, 0), {}, false);
    send(QEvent::MouseMove, a, Qt::NoButton, Qt::LeftButton);
    send(QEvent::MouseButtonRelease, a, Qt::LeftButton, Qt::NoButton);
    EXPECT_EQ(part(), before);
}

TEST_F(BoardHands, TheBoardsEdgeGetsAPotentialByItsName) {
    open("QB-TB4.punch");
    Part with = part();
    with.faces.clear();
    with = withFace(with, FaceKind::BoardEdge, Axis::Across, false);
    const FeatureId edge = with.faces.back().id;
    with.given[edge + ".at"] = {"-4", Unit::Mm};
    window->document().apply("edge", with);
    auto* around = window->findChild<QLabel*>("apartAround");
    ASSERT_NE(around, nullptr);
    EXPECT_TRUE(around->text().contains("board edge")) << around->text().toStdString();
    find<QLineEdit>("potentialName")->setText("earth");
    find<QLineEdit>("potentialVolts")->setText("0");
    find<QLineEdit>("potentialPins")->setText("Board edge");
    find<QPushButton>("addPotential")->click();
    ASSERT_EQ(part().potentials.size(), 3U) << window->message().toStdString();
    EXPECT_EQ(part().potentials[2].pins, std::vector<FeatureId>{edge});
    EXPECT_NE(pairOf(footprint(), "p1", edge), nullptr);
    EXPECT_FALSE(around->text().contains("board edge"));
    EXPECT_TRUE(around->text().contains("plug travel"));
}

TEST_F(BoardHands, AFormedEndIsSaidInPlaceReadAndSizesTheHole) {
    open("QB-TB4.punch");
    const Length before = footprint().pads[0].hole;
    window->view().setStation(Station::Place);
    auto* end = find<QComboBox>("leadEnd");
    end->setFocus();
    pick("formed");
    EXPECT_EQ(part().formations[0].end, LeadEnd::Formed);
    EXPECT_EQ(footprint().gauge("lead-in-hole")->state, GaugeState::Unknown);
    window->view().setStation(Station::Measure);
    EXPECT_EQ(window->entry().words(), "pin 1, width of its end");
    auto* line = &window->measure().line();
    for (const char* typed : {"1.40 1.41", "0.50 0.50"}) {
        line->setFocus();
        line->setText(typed);
        key(Qt::Key_Return);
    }
    EXPECT_EQ(part().readings.size(), 17U);
    EXPECT_GT(footprint().pads[0].hole, before);
    EXPECT_TRUE(footprint().leads[0].section.byEnd);
    // And pointing at the pin offers it among the ways to read.
    clickFeature("p2");
    QSet<QString> ways;
    for (int i = 0; i < 6; ++i) {
        ways << window->entry().words();
        QTest::keyClick(&sheet(), Qt::Key_Down);
    }
    EXPECT_TRUE(ways.contains("pin 2, thickness of its end"));
}

TEST_F(BoardHands, WhatIsDraggedLooseTakesItsGaugesAlong) {
    // A second, loose formation: while the hand drags it, its pads and what follows from them go with it.
    open("QB-TB4.punch");
    FormationPlan plan;
    plan.rows = {2};
    auto next = withFormation(part(), plan);
    ASSERT_TRUE(next);
    window->document().apply("formation", *next);
    window->view().setStation(Station::Place);
    window->view().setLens(Lens::Readings, false);
    const FeatureId pin = part().formations.back().pins.front();
    const Point start = footprint().pad(pin)->at;
    const QPointF from = sheet().placeOf(pin);
    const QPointF first = sheet().placeOf("p1");
    const QString steps = window->document().undoName();
    drag(from, from + QPointF(40, 25), {}, false);
    EXPECT_NE(footprint().pad(pin)->at, start) << "before the hand lets go";
    EXPECT_LT(std::hypot((sheet().placeOf(pin) - from - QPointF(40, 25)).x(),
                         (sheet().placeOf(pin) - from - QPointF(40, 25)).y()),
              1.5);
    EXPECT_EQ(sheet().placeOf("p1"), first) << "the sheet lies still under the hand";
    send(QEvent::MouseButtonRelease, from + QPointF(40, 25), Qt::LeftButton, Qt::NoButton);
    // One step of undo for the whole drag.
    window->document().undo();
    EXPECT_EQ(footprint().pad(pin)->at, start);
    EXPECT_EQ(window->document().undoName(), steps);
}

}  // namespace
}  // namespace punch::test
