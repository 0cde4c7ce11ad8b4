// Size through the window: lands by override and by their room, slots between potentials, drop-in beside the sheet.

#include "app/side/size_side.h"
#include "app/stations/size_station.h"
#include "core/geometry/shapes.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class SizingTest : public BenchTest {
protected:
    void open(const std::string& name) {
        window->openPath(QString::fromStdString(sourceFolder() + "/demo/fennel-house/" + name + ".punch"));
        key(Qt::Key_3, Qt::ControlModifier);
        QTest::qWait(50);
    }
    void type(const QString& field, const QString& text) {
        auto* edit = find<QLineEdit>(field);
        edit->setFocus();
        edit->selectAll();
        QTest::keyClicks(edit, text);
        QTest::keyClick(edit, Qt::Key_Return);
    }
    void choose(const QString& field, int index) {
        auto* combo = find<QComboBox>(field);
        combo->setCurrentIndex(index);
        emit combo->activated(index);
    }
};

TEST_F(SizingTest, AnOverrideIsTypedShownAndTakenBackByOneKey) {
    open("QB-TB4");
    clickFeature("p2");
    choose("landOf", 0);
    type("landWidth", "2.2");
    EXPECT_EQ(footprint().pad("p2")->top.width, Length::fromMm(2.2));
    EXPECT_EQ(footprint().pad("p1")->top.width, Length::fromMm(2.5));
    choose("landShape", 4);
    EXPECT_EQ(footprint().pad("p2")->top.shape, LandShape::Oval);
    type("landLength", "1.9");
    type("landTurn", "45");
    type("landOffsetX", "-0.1");
    EXPECT_EQ(footprint().pad("p2")->top.turn, Angle::fromDegrees(45));
    EXPECT_TRUE(find<QPushButton>("undoOverride")->isEnabled());
    // Nonsense stays where it was typed, with a word, and changes nothing.
    const Part before = part();
    type("landWidth", "wide");
    EXPECT_EQ(part(), before);
    EXPECT_TRUE(find<QLineEdit>("landWidth")->property("wrong").toBool());
    EXPECT_EQ(find<QLineEdit>("landWidth")->text(), "wide");
    type("landWidth", "-2");
    EXPECT_EQ(part(), before);
    type("landWidth", "2.2");
    key(Qt::Key_Backspace, Qt::ControlModifier);
    EXPECT_TRUE(part().overrides.empty());
    window->sheet().setFocus();
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(part().overrides.size(), 1u) << "and that can be undone";
}

TEST_F(SizingTest, BestLandByOneKeyForAFormationAPinAndThePart) {
    open("QB-TB4");
    clickFeature("p3");
    choose("landOf", 1);
    key(Qt::Key_B, Qt::ControlModifier);
    EXPECT_EQ(footprint().pad("p1")->top.width, Length::fromMm(2.55)) << message().toStdString();
    EXPECT_EQ(part().overrides.count("f1"), 1u);
    key(Qt::Key_Backspace, Qt::ControlModifier);
    EXPECT_EQ(footprint().pad("p1")->top.width, Length::fromMm(2.5));
    key(Qt::Key_B, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(footprint().pad("p4")->top.width, Length::fromMm(2.55));
}

TEST_F(SizingTest, ASlotThatMendsIsOfferedAndKeptByAClick) {
    open("HT-RM2");
    ASSERT_EQ(footprint().gauge("voltage")->state, GaugeState::NoGo);
    QTRY_VERIFY_WITH_TIMEOUT(window->findChild<QPushButton*>("keepWay0") != nullptr, 5000);
    // The matrix shows all pairs; a cell shows its way on the sheet.
    auto* table = find<QTableWidget>("apartTable");
    EXPECT_EQ(table->rowCount(), 3);
    EXPECT_EQ(table->columnCount(), 8);
    table->setCurrentCell(2, 7);
    EXPECT_TRUE(window->view().pairA() == "p8" || window->view().pairB() == "p8");
    find<QPushButton>("keepWay0")->click();
    ASSERT_EQ(cuts().size(), 1u);
    EXPECT_NE(footprint().gauge("voltage")->state, GaugeState::NoGo);
    EXPECT_FALSE(footprint().voltages.front().path.empty() && footprint().voltages.back().path.empty());
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_TRUE(cuts().empty());
}

TEST_F(SizingTest, ACutOutIsTypedFromTheDatumAndNonsenseIsNamed) {
    open("HT-RM2");
    type("cutFrom", "-8.5 0");
    type("cutTo", "8.5 0");
    type("cutWidth", "0.1");
    EXPECT_TRUE(cuts().empty());
    EXPECT_FALSE(message().isEmpty());
    type("cutWidth", "1.6");
    ASSERT_EQ(footprint().cutOuts.size(), 1u) << message().toStdString();
    EXPECT_NEAR(footprint().cutOuts[0].rounded()->corners[0].x.mm(), -8.5, 1e-9);
    EXPECT_NEAR(footprint().cutOuts[0].rounded()->corners[1].x.mm(), 8.5, 1e-9);
    type("cutFrom", "left");
    type("cutTo", "8 8");
    type("cutWidth", "1");
    EXPECT_EQ(cuts().size(), 1u);
    EXPECT_TRUE(find<QLineEdit>("cutFrom")->property("wrong").toBool());
}

TEST_F(SizingTest, DropInIsTriedInFullBesideTheWindowAndSaysWhatCostsMost) {
    open("HT-SEL6");
    // The peg's hole as its rule would have it, a tenth larger than the peg: too tight against plated holes.
    Part tight = part();
    tight.overrides.erase("peg37");
    window->document().apply("tight", tight);
    auto* side = find<SizeSide>("sizeSide");
    side->work().setTrials(3000);
    side->work().settle();
    ASSERT_TRUE(side->work().report().has_value());
    EXPECT_EQ(side->work().report()->share.trials, 3000);
    EXPECT_EQ(footprint().dropIn.trials, 3000) << "the gauge has the finer share too";
    EXPECT_TRUE(find<QLabel>("dropInShare")->text().contains('%') ||
                find<QLabel>("dropInShare")->text().contains("all"));
    EXPECT_TRUE(find<QLabel>("dropInWords")->text().contains("Costs most"));
    // The hole that would do is taken by a click.
    auto* take = find<QPushButton>("takeHole");
    ASSERT_TRUE(take->isVisible());
    const Length before = footprint().pads[0].hole;
    take->click();
    EXPECT_GT(footprint().pads[0].hole, before);
    side->work().settle();
    EXPECT_GE(side->work().report()->share.share, 0.995);
    // The section is one touch away.
    find<QPushButton>("sideSection")->click();
    EXPECT_FALSE(side->isVisible());
}

TEST_F(SizingTest, AFabProfileIsChosenChangedAndKeptWithTheLibrary) {
    open("QB-TB4");
    window->saveAs(folder.filePath("mine.punch"));
    choose("fabProfile", 2);
    EXPECT_EQ(part().rules.fab.name, "Barn, coarse");
    type("fabMills", "1.0 1.5");
    EXPECT_EQ(part().rules.fab.mills, (std::vector<Length>{Length::fromMm(1.0), Length::fromMm(1.5)}));
    // Shown as exactly as it was typed, with its unit, and read again as it is shown.
    type("fabMills", "1.0 1.125");
    window->sheet().setFocus();
    auto* mills = find<QLineEdit>("fabMills");
    EXPECT_EQ(mills->text(), "1.00 1.125 mm");
    type("fabMills", "0.8 " + mills->text());
    EXPECT_EQ(part().rules.fab.mills,
              (std::vector<Length>{Length::fromMm(0.8), Length::fromMm(1.0), Length::fromMm(1.125)}));
    type("dropInWanted", "0.99");
    EXPECT_EQ(*footprint().gauge("drop-in")->limit, 0.99);
    type("fabGap", "0.3");
    EXPECT_EQ(part().rules.fab.leastGap, Length::fromMm(0.3));
    EXPECT_TRUE(find<QComboBox>("fabProfile")->currentText().contains("changed"));
    find<QPushButton>("keepFab")->click();
    EXPECT_TRUE(QFile::exists(folder.filePath("fab-profiles.json")));
    EXPECT_EQ(find<QComboBox>("fabProfile")->currentText(), "Barn, coarse");
}

TEST_F(SizingTest, NonsenseInEveryFieldIsNamedAndChangesNothing) {
    open("HT-RM2");
    for (const char* more : {"moreLand", "moreFab"}) find<QPushButton>(more)->setChecked(true);
    const Part before = part();
    auto* column = find<QLineEdit>("cutFrom")->parentWidget();
    int fields = 0;
    for (QLineEdit* edit : column->findChildren<QLineEdit*>()) {
        const QString name = edit->objectName();
        // Free text takes anything.
        if (name.isEmpty() || !edit->isEnabled() || name == "potentialName" || name == "potentialSource" ||
            name == "landReason")
            continue;
        for (const char* nonsense : {"quark", "-7", "1e400 mm", "()", "0x"}) {
            // Offsets, turns and depths below the sea may be negative.
            const bool sign = name.startsWith("landOffset") || name == "landTurn" || name == "iecAltitude";
            if (sign && QByteArray(nonsense) == "-7") continue;
            edit->setFocus();
            edit->selectAll();
            QTest::keyClicks(edit, nonsense);
            QTest::keyClick(edit, Qt::Key_Return);
            EXPECT_EQ(part(), before) << name.toStdString() << " " << nonsense;
            if (!(part() == before)) window->document().apply("back", before);
        }
        ++fields;
    }
    EXPECT_GE(fields, 25);
}

TEST_F(SizingTest, DistancesFollowTheUnitAndManyPairsBecomeAList) {
    open("HT-RM2");
    auto* table = find<QTableWidget>("apartTable");
    EXPECT_EQ(table->item(0, 0)->text(), "7.96");
    window->view().setUnit(Unit::Mil);
    EXPECT_NEAR(table->item(0, 0)->text().toDouble(), 7.964 / 0.0254, 0.6);
    window->view().setUnit(Unit::Mm);
    // Two rows of twelve against each other: the tightest pairs first, one a line.
    Part many = *newPart({FormationKind::TwoRows, {12, 12}, {}, false, false, "", Axis::Along});
    for (const auto& [name, value] : {std::pair{"pitch", "2.54"},
                                      {"rowGap", "7.62"},
                                      {"lead.width", "0.6"},
                                      {"lead.thickness", "0.6"},
                                      {"rowShift", "0"}})
        many.given[name] = {value, Unit::Mm};
    const auto& pins = many.formations[0].pins;
    many.potentials = {{"a", PotentialKind::Dc, Voltage::fromVolts(48), "", {pins.begin(), pins.begin() + 12}, {}},
                       {"b", PotentialKind::Dc, Voltage::fromVolts(0), "", {pins.begin() + 12, pins.end()}, {}}};
    window->document().apply("many", many);
    EXPECT_EQ(table->columnCount(), 3);
    EXPECT_EQ(table->rowCount(), 30);
    const VoltagePair& worst = footprint().voltages.front();
    EXPECT_NEAR(table->item(0, 1)->text().toDouble(), worst.gap.mm(), 0.006);
    table->setCurrentCell(4, 1);
    EXPECT_EQ(window->view().pairA(), footprint().voltages[4].a);
    EXPECT_TRUE(find<QLabel>("apartChain")->text().contains("IPC-2221B"));
}

TEST_F(SizingTest, WhereThereIsNoRoomTheWaysThatMakeSomeAreOffered) {
    open("QB-TB4");
    Part tight = *newRow(5);
    tight.formations[0].lead = LeadShape::Round;
    tight.body.present = false;
    tight.taken["lead.width"] = Length::fromMm(1.0);
    tight.taken["pitch"] = Length::fromMm(1.78);
    window->document().apply("tight", tight);
    window->view().choose("p2", {});
    choose("landOf", 1);
    key(Qt::Key_B, Qt::ControlModifier);
    EXPECT_TRUE(message().contains("no room")) << message().toStdString();
    auto* keep = find<QPushButton>("keepRoomWay0");
    ASSERT_TRUE(keep->isVisible());
    keep->click();
    EXPECT_NE(footprint().gauge("copper-to-copper")->state, GaugeState::NoGo);
    EXPECT_NE(footprint().gauge("ring")->state, GaugeState::NoGo);
}

TEST_F(SizingTest, WithThreePotentialsNoPairIsMissing) {
    open("QB-TB4");
    Part three = part();
    three.potentials = {{"a", PotentialKind::Dc, Voltage::fromVolts(300), "", {"p1", "p2"}, {}},
                        {"b", PotentialKind::Dc, Voltage::fromVolts(0), "", {"p3"}, {}},
                        {"c", PotentialKind::Dc, Voltage::fromVolts(-300), "", {"p4"}, {}}};
    window->document().apply("three", three);
    auto* table = find<QTableWidget>("apartTable");
    int cells = 0;
    for (int r = 0; r < table->rowCount(); ++r)
        for (int c = 0; c < table->columnCount(); ++c) cells += table->item(r, c) != nullptr ? 1 : 0;
    // Five pairs; that of 3 and 4 stands on both sides of the diagonal.
    EXPECT_EQ(footprint().voltages.size(), 5u);
    EXPECT_EQ(cells, 6);
}

TEST_F(SizingTest, ASlotIsPutBetweenWhatIsPointedAt) {
    open("HT-RM2");
    window->view().choose("p8", "p11");
    find<SizeStation>("sizeStation")->putSlotHere();
    ASSERT_EQ(cuts().size(), 1u) << message().toStdString();
    // Between pins of one potential there is nothing to mend, and that is said.
    window->view().choose("p1", "p2");
    find<SizeStation>("sizeStation")->putSlotHere();
    EXPECT_EQ(cuts().size(), 1u);
    EXPECT_TRUE(message().contains("no different potentials")) << message().toStdString();
    // It goes by its link.
    for (QPushButton* button : window->findChildren<QPushButton*>())
        if (button->accessibleName() == "Drop slot") {
            button->click();
            break;
        }
    EXPECT_TRUE(cuts().empty());
}

TEST_F(SizingTest, ALugIsSolderedInByATickAndItsSectionIsCutBothWays) {
    open("HT-SEL6");
    Part plain = part();
    plain.overrides.clear();
    window->document().apply("plain", plain);
    window->view().choose("lug27", {});
    EXPECT_FALSE(footprint().bareHole("lug27")->plated);
    find<QPushButton>("moreLand")->setChecked(true);
    find<QCheckBox>("landSlot")->click();
    find<QCheckBox>("landPlated")->click();
    const BareHole& lug = *footprint().bareHole("lug27");
    EXPECT_TRUE(lug.plated);
    EXPECT_GT(lug.slotLength, lug.size);
    EXPECT_GT(lug.land.width, lug.slotLength);
    // Its copper is copper: it stands in the plated drill file and among the lands.
    EXPECT_EQ(footprint().board().copper().size(), footprint().pads.size() + 1);
    find<QPushButton>("sideSection")->click();
    EXPECT_FALSE(window->grab().isNull());
    key(Qt::Key_Backspace, Qt::ControlModifier);
    EXPECT_TRUE(part().overrides.empty());
}

TEST_F(SizingTest, AWholeSizeIsDoneByTheKeyboardAlone) {
    // A row of three at mains and earth, from nothing to a part that passes: keys only.
    Part row = *newRow(3);
    row.formations[0].lead = LeadShape::Round;
    row.taken["lead.width"] = Length::fromMm(1.0);
    row.taken["pitch"] = Length::fromMm(5);
    window->document().begin(row);
    key(Qt::Key_3, Qt::ControlModifier);
    window->sheet().setFocus();
    tabTo("potentialName");
    keys("live");
    tabTo("potentialVolts");
    keys("230");
    tabTo("potentialPins");
    keys("1");
    key(Qt::Key_Return);
    tabTo("potentialName");
    keys("neutral");
    tabTo("potentialVolts");
    keys("0");
    tabTo("potentialPins");
    keys("2 3");
    key(Qt::Key_Return);
    ASSERT_EQ(part().potentials.size(), 2u) << message().toStdString();
    // 325 V peak: 2.50 at column B2; lands of 1.65 stand 3.35 apart, and may grow by 0.85.
    EXPECT_EQ(footprint().gauge("voltage")->state, GaugeState::Go);
    window->view().choose("p2", {});
    key(Qt::Key_B, Qt::ControlModifier);
    EXPECT_NEAR(footprint().pad("p2")->top.width.mm(), 2.5, 1e-9) << message().toStdString();
    EXPECT_TRUE(footprint().gauge("voltage")->state == GaugeState::Go ||
                footprint().gauge("voltage")->state == GaugeState::Watch);
}

TEST_F(SizingTest, ANewerPartOvertakesAnOlderRunOfDropIn) {
    open("QB-TB4");
    auto* side = find<SizeSide>("sizeSide");
    side->work().setTrials(2000);
    side->work().settle();
    const double before = side->work().report()->share.share;
    // Two changes in a row: the report is of the last one.
    for (const double hole : {1.4, 1.32}) {
        Part next = part();
        next.overrides["f1"].hole = Length::fromMm(hole);
        window->document().apply("hole", next);
        EXPECT_FALSE(side->work().report().has_value()) << "what was computed is of another part";
    }
    side->work().settle();
    ASSERT_TRUE(side->work().report().has_value());
    EXPECT_LT(side->work().report()->share.share, before);
    EXPECT_EQ(footprint().dropIn.trials, 2000);
    // Undone, it is computed anew and is what it was.
    window->document().undo();
    window->document().undo();
    side->work().settle();
    EXPECT_EQ(side->work().report()->share.share, before);
}

}  // namespace
}  // namespace punch::test
