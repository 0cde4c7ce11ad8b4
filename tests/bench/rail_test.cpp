// The rail: what is not go stands large, twenty gauges find room, the keyboard reaches each.

#include "app/rail_layout.h"

#include "app/gauge_rail.h"
#include "core/verdicts/gauge_table.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

TEST(RailLayout, TwentyGaugesFindRoomAtEachWidth) {
    for (const int width : {1024, 1280, 1920})
        for (int bad = 0; bad <= 20; ++bad) {
            std::vector<int> gauges(20, 0);
            for (int i = 0; i < bad; ++i) gauges[static_cast<std::size_t>((i * 7) % 20)] = 1 + i % 3;
            const QRect rail(0, 0, width, 79);
            const auto places = railLayout(gauges, rail.size(), 13);
            ASSERT_EQ(places.size(), 20U);
            for (std::size_t i = 0; i < places.size(); ++i) {
                EXPECT_TRUE(rail.contains(places[i].box)) << width << " " << bad << " " << i;
                EXPECT_GE(places[i].box.width(), 9 * 13 - 8) << width << " with " << bad << " not go";
                EXPECT_GE(places[i].box.height(), 18);
                // Nothing that is go takes the room of what is not.
                if (places[i].large) {
                    EXPECT_GT(gauges[i], 0);
                }
                for (std::size_t k = i + 1; k < places.size(); ++k)
                    EXPECT_FALSE(places[i].box.intersects(places[k].box));
            }
            // The worst are large first.
            for (std::size_t i = 0; i < places.size(); ++i)
                for (std::size_t k = 0; k < places.size(); ++k)
                    if (places[i].large && !places[k].large) {
                        EXPECT_GE(gauges[i], gauges[k]);
                    }
            if (bad > 0 && bad <= 3 && width >= 1280) {
                EXPECT_EQ(std::count_if(places.begin(), places.end(), [](const RailPlace& p) { return p.large; }), bad);
            }
        }
}

TEST(GaugeTable, EachKindStandsAtItsIdentifier) {
    for (std::size_t i = 0; i < gaugeKinds().size(); ++i) EXPECT_EQ(static_cast<std::size_t>(gaugeKinds()[i].id), i);
}

using Rail = BenchTest;

TEST_F(Rail, TheKeyboardReachesEachGauge) {
    ASSERT_TRUE(window->openPath(write("rail.punch", toText(demoPart()))));
    window->rail().setFocus();
    std::set<Station> reached;
    int wanted = -1;
    std::set<int> gauges;
    QObject::connect(&window->rail(), &GaugeRail::culpritsWanted, [&](int i) { wanted = i; });
    for (std::size_t i = 0; i < footprint().gauges.size(); ++i) {
        QTest::keyClick(&window->rail(), Qt::Key_Right);
        QTest::keyClick(&window->rail(), Qt::Key_Return);
        gauges.insert(wanted);
    }
    EXPECT_EQ(gauges.size(), footprint().gauges.size());
}

TEST_F(Rail, ANoGoDropInMarksItsStation) {
    Part part = demoPart();
    part.overrides[part.formations[0].id].hole = 1.30_mm;
    ASSERT_TRUE(window->openPath(write("tight.punch", toText(part))));
    ASSERT_EQ(footprint().gauge("drop-in")->state, GaugeState::NoGo);
    EXPECT_EQ(stationState(window->document(), Station::Fit), GaugeState::NoGo);
}

TEST_F(Rail, AnEmptyPartHasNothingToRelease) {
    window->document().begin(*newRow(4));
    EXPECT_EQ(stationState(window->document(), Station::Release), GaugeState::Unknown) << "never saved";
    EXPECT_TRUE(window->saveAs(folder.filePath("empty.punch")));
    EXPECT_NE(stationState(window->document(), Station::Measure), GaugeState::Go);
}

TEST_F(Rail, TheLastEditSaysWhatItMoved) {
    ASSERT_TRUE(window->openPath(write("what.punch", toText(demoPart()))));
    auto* line = find<QPushButton>("changes");
    ASSERT_NE(line, nullptr);
    EXPECT_EQ(line->text(), "No edit yet");
    Part next = part();
    next.rules.level = Level::A;
    window->document().apply("fit level", next);
    EXPECT_TRUE(line->text().contains("hole 1.50 → 1.55")) << line->text().toStdString();
    EXPECT_TRUE(line->text().contains("to spare")) << line->text().toStdString();
    // A thicker lead is said too, with what follows from it.
    next = part();
    for (Reading& r : next.readings)
        if (r.contact == Contact::Size && r.axis == Axis::Along && r.a == "p1")
            for (RawValue& v : r.raw) v.value += 0.1_mm;
    window->document().apply("a thicker lead", next);
    EXPECT_TRUE(line->text().contains("lead width +")) << line->text().toStdString();
    next.description += ".";
    window->document().apply("words", next);
    EXPECT_EQ(line->text(), "Nothing moved by the last edit");
}

TEST_F(Rail, FirstFiveMinutesOfTheReadme) {
    // 1: the demo is opened, a gauge leads to its culprit.
    ASSERT_TRUE(window->openPath(QString::fromStdString(sourceFolder()) + "/demo/fennel-house/QB-TB4.punch"));
    click(&window->rail(), window->rail().gaugeBox(static_cast<int>(GaugeId::Voltage)).center());
    EXPECT_EQ(window->view().station(), Station::Size);
    // 2: Ctrl+N, 4 pins, a peg.
    key(Qt::Key_N, Qt::ControlModifier);
    ASSERT_FALSE(window->document().open());
    retypeOnly("4");
    tabTo("startPegs");
    retypeOnly("1");
    key(Qt::Key_Return);
    ASSERT_TRUE(window->document().open());
    EXPECT_EQ(part().spots.size(), 1U);
    EXPECT_EQ(stationState(window->document(), Station::Place), GaugeState::Unknown);
    // 3: what is asked for, in this order.
    const auto asked = [&] { return window->entry().words().toStdString(); };
    EXPECT_EQ(asked(), "pins 1 and 4, outside");
    enter("16.25 16.23 16.26");
    EXPECT_EQ(asked(), "pin 1, width");
    enter("1.00 1.00");
    for (const Pad& p : footprint().pads) EXPECT_TRUE(p.firm);
    // Thickness makes hole, land and drop-in known.
    EXPECT_EQ(asked(), "pin 1, thickness");
    enter("0.77 0.78");
    EXPECT_NE(footprint().gauge("lead-in-hole")->state, GaugeState::Unknown);
    // 4: named.
    enter("1 2 inside 4.07 4.09");
    // 5: the card, F4.
    EXPECT_NEAR(footprint().size("pitch")->asRead, 5.082, 0.003);
    key(Qt::Key_F4);
    EXPECT_EQ(part().taken.at("pitch"), 5.08_mm);
    // 6: the stations by key.
    for (int i = 3; i <= 6; ++i) {
        key(static_cast<Qt::Key>(Qt::Key_0 + i), Qt::ControlModifier);
        EXPECT_EQ(window->view().station(), static_cast<Station>(i - 1));
    }
}

}  // namespace
}  // namespace punch::test
