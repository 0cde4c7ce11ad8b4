// Several features chosen at once: Shift and a click, Shift and a drag around them; one land, one potential, one
// removal.

#include "app/sheet/sheet.h"
#include "app/stations/size_station.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class Group : public BenchTest {
protected:
    void SetUp() override {
        BenchTest::SetUp();
        ASSERT_TRUE(window->openPath(toQt(sourceFolder()) + "/demo/fennel-house/QB-TB4.punch"));
        window->view().setStation(Station::Size);
        QTest::qWait(20);
    }
    QPoint at(const FeatureId& id) { return window->sheet().placeOf(id).toPoint(); }
    void shiftClick(const FeatureId& id) {
        QTest::mouseClick(&window->sheet(), Qt::LeftButton, Qt::ShiftModifier, at(id));
    }
    /// With Shift held, from one place to another.
    void around(QPoint from, QPoint to) {
        QTest::mousePress(&window->sheet(), Qt::LeftButton, Qt::ShiftModifier, from);
        for (const QPoint by : {from + (to - from) / 2, to}) {
            QMouseEvent move(QEvent::MouseMove, by, window->sheet().mapToGlobal(by), Qt::NoButton, Qt::LeftButton,
                             Qt::ShiftModifier);
            QApplication::sendEvent(&window->sheet(), &move);
        }
        QTest::mouseRelease(&window->sheet(), Qt::LeftButton, Qt::ShiftModifier, to);
    }
    const std::vector<FeatureId>& group() { return window->view().group(); }
};

TEST_F(Group, ADragAroundAndClicksChoose) {
    const QPointF before = window->sheet().placeOf("p1");
    around(at("p1") - QPoint(45, 45), at("p3") + QPoint(45, 45));
    EXPECT_EQ(group(), (std::vector<FeatureId>{"p1", "p2", "p3"}));
    EXPECT_EQ(window->sheet().placeOf("p1"), before) << "the sheet is not moved by it";
    shiftClick("p2");
    EXPECT_EQ(group(), (std::vector<FeatureId>{"p1", "p3"})) << "a second click takes it out";
    shiftClick("p4");
    EXPECT_EQ(group(), (std::vector<FeatureId>{"p1", "p3", "p4"}));
    // One alone is pointed at, as by a plain click.
    shiftClick("p1");
    shiftClick("p3");
    EXPECT_TRUE(group().empty());
    EXPECT_EQ(window->view().first(), "p4");
    shiftClick("p1");
    EXPECT_EQ(group(), (std::vector<FeatureId>{"p4", "p1"})) << "what was pointed at belongs to it";
    QTest::keyClick(&window->sheet(), Qt::Key_Escape);
    EXPECT_TRUE(group().empty());
    shiftClick("p1");
    shiftClick("p2");
    clickFeature("p3");
    EXPECT_TRUE(group().empty()) << "a plain click begins anew";
    EXPECT_EQ(window->view().first(), "p3");
}

TEST_F(Group, OneLandForAllInOneStep) {
    shiftClick("p2");
    shiftClick("p4");
    auto* width = find<QLineEdit>("landWidth");
    width->setFocus();
    retype("2.3");
    EXPECT_EQ(part().overrides.at("p2").land, 2.3_mm);
    EXPECT_EQ(part().overrides.at("p4").land, 2.3_mm);
    EXPECT_FALSE(part().overrides.contains("p1"));
    EXPECT_EQ(footprint().pad("p4")->top.width, 2.3_mm);
    window->sheet().setFocus();
    window->view().setGroup({"p4", "p2"});
    EXPECT_EQ(width->text(), "2.300 mm") << "what they have in common is shown";
    window->view().setGroup({"p1", "p4"});
    EXPECT_EQ(width->text(), "") << "one of them alone has it";
    window->view().setGroup({"p2", "p4"});
    click(find<QPushButton>("undoOverride"));
    EXPECT_TRUE(part().overrides.empty());
    window->document().undo();
    window->document().undo();
    EXPECT_TRUE(part().overrides.empty()) << "it was one step";
    click(find<QPushButton>("bestPad"));
    ASSERT_TRUE(part().overrides.contains("p2") && part().overrides.contains("p4"));
    EXPECT_FALSE(part().overrides.contains("p3"));
    for (const Gauge& g : footprint().gauges) EXPECT_NE(g.state, GaugeState::NoGo) << g.name;
}

TEST_F(Group, OnePotentialForAll) {
    shiftClick("p2");
    shiftClick("p3");
    shiftClick(part().spots[0].id);
    EXPECT_EQ(find<QLineEdit>("potentialPins")->text(), "2 3 peg");
    find<QLineEdit>("potentialName")->setText("mid");
    find<QLineEdit>("potentialVolts")->setText("12");
    click(find<QPushButton>("addPotential"));
    const auto& all = part().potentials;
    const auto mid = std::find_if(all.begin(), all.end(), [](const Potential& p) { return p.name == "mid"; });
    ASSERT_NE(mid, all.end());
    EXPECT_EQ(mid->pins.size(), 3U);
}

TEST_F(Group, OneRemovalForAllOrAWordWhyNot) {
    window->document().apply("another peg", withSpot(part()));
    const FeatureId a = part().spots[0].id, b = part().spots[1].id;
    window->view().setGroup({a, b});
    QTest::keyClick(&window->sheet(), Qt::Key_Delete);
    EXPECT_TRUE(part().spots.empty());
    EXPECT_TRUE(group().empty());
    window->document().undo();
    EXPECT_EQ(part().spots.size(), 2U) << "one step";
    window->view().setGroup({a, "p2"});
    QTest::keyClick(&window->sheet(), Qt::Key_Delete);
    EXPECT_EQ(part().spots.size(), 2U);
    EXPECT_NE(find<QLabel>("message")->text().indexOf("stands inside its pattern"), -1)
        << find<QLabel>("message")->text().toStdString();
}

}  // namespace
}  // namespace punch::test
