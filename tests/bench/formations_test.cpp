// Formations through the window: start cards, the Place station, numbering by pointing, features.

#include "app/start_view.h"
#include "core/part/numbering.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class Formations : public BenchTest {
protected:
    void start(const QString& card, const QString& pins) {
        click(find<QPushButton>("card-" + card));
        auto* field = find<QLineEdit>("startPins");
        if (!pins.isEmpty()) field->setText(pins);
        click(find<QPushButton>("putOnBench"));
        QApplication::processEvents();
    }
    void place() {
        window->view().setStation(Station::Place);
        QApplication::processEvents();
    }
    void give(const QString& parameter, const QString& typed) {
        auto* edit = find<QLineEdit>("given-" + parameter);
        edit->setFocus();
        edit->selectAll();
        if (typed.isEmpty())
            QTest::keyClick(edit, Qt::Key_Delete);
        else
            QTest::keyClicks(edit, typed);
        QTest::keyClick(edit, Qt::Key_Return);
    }
    void choose(const QString& name, const QString& text) {
        auto* combo = find<QComboBox>(name);
        const int at = combo->findText(text, Qt::MatchStartsWith);
        ASSERT_GE(at, 0) << text.toStdString();
        combo->setCurrentIndex(at);
        emit combo->activated(at);
        QApplication::processEvents();
    }
};

TEST_F(Formations, EveryCardStandsOnTheBenchLoose) {
    const struct {
        const char* card;
        const char* pins;
        FormationKind kind;
        std::size_t count;
    } cases[] = {{"Row", "5", FormationKind::Row, 5},
                 {"Two rows", "8", FormationKind::TwoRows, 16},
                 {"Staggered rows", "6 5", FormationKind::Staggered, 11},
                 {"Two unlike rows", "8 3", FormationKind::TwoRows, 11},
                 {"Ring", "7", FormationKind::Ring, 7},
                 {"Arc", "6", FormationKind::Ring, 6},
                 {"Grid", "5 x 4", FormationKind::Grid, 20},
                 {"One by one", "", FormationKind::Single, 1}};
    for (const auto& c : cases) {
        window->home();
        start(c.card, c.pins);
        ASSERT_TRUE(window->document().open()) << c.card;
        EXPECT_EQ(part().formations[0].kind, c.kind) << c.card;
        EXPECT_EQ(footprint().pads.size(), c.count) << c.card;
        EXPECT_FALSE(footprint().loose.empty()) << c.card;
        ASSERT_TRUE(footprint().next.reading) << c.card;
    }
}

TEST_F(Formations, NonsenseOnTheStartPageStays) {
    for (const char* typed : {"0", "abc", "3000", "4 x", ""}) {
        window->home();
        click(find<QPushButton>("card-Grid"));
        auto* field = find<QLineEdit>("startPins");
        field->setText(typed);
        click(find<QPushButton>("putOnBench"));
        EXPECT_FALSE(window->document().open()) << typed;
        EXPECT_EQ(field->text(), typed);
        EXPECT_TRUE(field->property("wrong").toBool()) << typed;
    }
}

TEST_F(Formations, ParametersAreFreeGivenOrFormulas) {
    start("Two rows", "4 4");
    place();
    give("pitch", "0.1in");
    EXPECT_NEAR(footprint().parameter("pitch")->value.mm(), 2.54, 1e-9);
    give("rowGap", "3*pitch");
    EXPECT_NEAR(footprint().parameter("rowGap")->value.mm(), 7.62, 1e-9);
    const Part before = part();
    give("rowGap", "rowGap*2");
    EXPECT_EQ(part(), before) << "a circle is refused";
    EXPECT_TRUE(window->message().contains("circle")) << window->message().toStdString();
    EXPECT_EQ(find<QLineEdit>("given-rowGap")->text(), "rowGap*2") << "what was typed stays";
    give("rowGap", "K + 1mm");
    EXPECT_TRUE(window->message().contains("K"));
    give("rowGap", "");
    EXPECT_EQ(part().given.count("rowGap"), 0u);
    EXPECT_TRUE(window->message().isEmpty());
}

TEST_F(Formations, ShapesAndCountsChangeOnTheBench) {
    start("Row", "6");
    place();
    choose("kind", "grid");
    auto* pins = find<QLineEdit>("pins");
    pins->setFocus();
    retype("3 x 3");
    EXPECT_EQ(footprint().pads.size(), 9u);
    clickFeature(pinByNumber(part(), "B2"));
    click(find<QPushButton>("leaveOut"));
    EXPECT_EQ(footprint().pads.size(), 8u);
    EXPECT_EQ(part().formations[0].leftOut, std::vector<int>{4});
    click(find<QPushButton>("putBack"));
    EXPECT_EQ(footprint().pads.size(), 9u);
    choose("kind", "ring");
    find<QCheckBox>("middlePin")->click();
    EXPECT_TRUE(part().formations[0].middle);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_FALSE(part().formations[0].middle);
}

TEST_F(Formations, SecondFormationsAndTwins) {
    start("Row", "4");
    place();
    window->place().addFormation(FormationKind::Row);
    ASSERT_EQ(part().formations.size(), 2u);
    EXPECT_EQ(footprint().pads.size(), 8u);
    EXPECT_EQ(footprint().pads.back().number, "8") << "its numbers go on";
    window->place().addFormation(FormationKind::Twin);
    ASSERT_EQ(part().formations.size(), 3u);
    choose("mirror", "front and rear");
    EXPECT_EQ(part().formations[2].mirror, Axis::Across);
    click(find<QPushButton>("removeFormation"));
    EXPECT_EQ(part().formations.size(), 2u);
    EXPECT_TRUE(footprint().complaints.empty());
}

TEST_F(Formations, NumbersFollowThePointing) {
    start("Row", "4");
    place();
    click(find<QPushButton>("numberByPointing"));
    EXPECT_TRUE(window->view().numbering());
    for (const char* id : {"p3", "p1", "p4", "p2"}) clickFeature(id);
    EXPECT_FALSE(window->view().numbering()) << "the last pin ends it";
    EXPECT_EQ(pinNumber(part(), "p3"), "1");
    EXPECT_EQ(pinNumber(part(), "p2"), "4");
    choose("order", "row by row");
    EXPECT_EQ(pinNumber(part(), "p3"), "3");
    window->view().choose("p2", {});
    auto* own = find<QLineEdit>("ownNumber");
    own->setFocus();
    retype("S");
    EXPECT_EQ(pinNumber(part(), "p2"), "S");
}

TEST_F(Formations, FeaturesHaveNamesKindsAndTwins) {
    start("Row", "4");
    place();
    window->place().addSpot(SpotKind::Lock);
    window->place().addSpot(SpotKind::MountingHole);
    ASSERT_EQ(part().spots.size(), 2u);
    auto* name = find<QLineEdit>("featureName");
    name->setFocus();
    retype("lock");
    EXPECT_TRUE(name->property("wrong").toBool()) << "the lock has that name";
    retype("hole left");
    EXPECT_EQ(part().spots[1].name, "hole left");
    click(find<QPushButton>("twinFeature"));
    ASSERT_EQ(part().spots.size(), 3u);
    EXPECT_EQ(part().spots[2].twinOf, part().spots[1].id);
    window->place().addFace(FaceKind::Knob, Axis::Height, true);
    ASSERT_EQ(footprint().faces.size(), 1u);
    window->place().removeChosenPeg();
    EXPECT_TRUE(part().faces.empty());
}

TEST_F(Formations, APinStandsOffItsPlace) {
    start("Row", "4");
    place();
    clickFeature("p2");
    click(find<QPushButton>("movedPin"));
    EXPECT_EQ(part().formations[0].moved, std::vector<FeatureId>{"p2"});
    give("p2.dx", "0.3");
    give("p2.dy", "-0.2");
    EXPECT_NEAR((footprint().pad("p2")->at - footprint().pad("p1")->at).y.mm(), -0.2, 1e-9);
    click(find<QPushButton>("movedPin"));
    EXPECT_TRUE(part().formations[0].moved.empty());
}

TEST_F(Formations, ThePlaceColumnFitsItsWidth) {
    for (const char* name : {"HT-RM2", "PW-VS11", "PW-RS7"}) {
        ASSERT_TRUE(window->openPath(QString::fromStdString(sourceFolder()) + "/demo/fennel-house/" + name + ".punch"));
        place();
        QTest::qWait(20);
        auto* scroll = &window->place();
        EXPECT_LE(scroll->widget()->minimumSizeHint().width(), scroll->viewport()->width()) << name;
    }
}

}  // namespace
}  // namespace punch::test
