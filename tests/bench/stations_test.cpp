// The other stations, the units and the lenses, through their widgets.

#include "app/handover/handover_dialog.h"
#include "app/theme.h"
#include "core/release/proof_board.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class Stations : public BenchTest {
protected:
    void SetUp() override {
        BenchTest::SetUp();
        const QString copy = folder.filePath("QB-TB4.punch");
        ASSERT_TRUE(QFile::copy(QString::fromStdString(sourceFolder()) + "/demo/fennel-house/QB-TB4.punch", copy));
        QFile::setPermissions(copy, QFile::ReadOwner | QFile::WriteOwner);
        ASSERT_TRUE(window->openPath(copy));
    }
};

TEST_F(Stations, UnitsChangeWhatIsShownOnly) {
    const Part before = part();
    window->view().setStation(Station::Size);
    auto* ring = find<QLineEdit>("ring");
    EXPECT_EQ(ring->text(), "0.500 mm");
    click(find<QPushButton>("unit-mil"));
    EXPECT_EQ(ring->text(), "19.7 mil");
    click(find<QPushButton>("unit-inch"));
    EXPECT_EQ(ring->text(), "0.0197 in");
    ring->setFocus();
    key(Qt::Key_Return);
    EXPECT_EQ(part(), before) << "leaving a field untouched changes nothing";
    retype("0.02");
    EXPECT_EQ(part().rules.ring, Length::fromInch(0.02));
    click(find<QPushButton>("unit-mm"));
    EXPECT_EQ(ring->text(), "0.508 mm");
}

TEST_F(Stations, PlaceTurnsNumbersAndMovesTheDatum) {
    window->view().setStation(Station::Place);
    auto* from = find<QComboBox>("from");
    from->setFocus();
    pick("right end");
    EXPECT_FALSE(part().formations[0].numbers.fromLeft);
    auto* step = find<QComboBox>("step");
    step->setFocus();
    pick("down");
    EXPECT_EQ(part().formations[0].numbers.step, -1);
    EXPECT_GE(footprint().pads.front().number, "0");
    auto* datum = find<QComboBox>("datum");
    datum->setFocus();
    pick("first pin");
    EXPECT_EQ(part().datum.kind, DatumKind::PinOne);
    find<QPushButton>("addPeg")->click();
    EXPECT_EQ(part().spots.size(), 2u);
    find<QPushButton>("removePeg")->click();
    EXPECT_EQ(part().spots.size(), 1u);
}

TEST_F(Stations, AnyStandardPitchMayBeTakenOrNone) {
    window->view().setStation(Station::Place);
    auto* pitch = find<QComboBox>("pitch");
    EXPECT_TRUE(pitch->currentText().startsWith("5.08 mm")) << pitch->currentText().toStdString();
    pitch->setFocus();
    pick("as read");
    EXPECT_TRUE(part().taken.empty());
    EXPECT_NEAR(footprint().parameter("pitch")->value.mm(), 5.0818, 5e-4);
    pick("5.00 mm");
    EXPECT_EQ(part().taken.at("pitch"), 5_mm);
    EXPECT_NE(footprint().gauge("readings")->state, GaugeState::Go);
}

TEST_F(Stations, PinCountIsTyped) {
    window->view().setStation(Station::Place);
    click(find<QLineEdit>("pins"));
    retype("3*2");
    EXPECT_EQ(part().formations[0].pins.size(), 6u);
    click(find<QLineEdit>("pins"));
    retype("0");
    EXPECT_EQ(part().formations[0].pins.size(), 6u);
    EXPECT_EQ(find<QLineEdit>("pins")->text(), "0") << "what was typed stays";
    EXPECT_FALSE(window->message().isEmpty());
}

TEST_F(Stations, DistancesByEitherStandard) {
    window->view().setStation(Station::Size);
    EXPECT_TRUE(find<QComboBox>("voltageColumn")->isEnabled());
    EXPECT_FALSE(find<QComboBox>("iecCategory")->isEnabled());
    const double byIpc = *footprint().gauge("voltage")->limit;
    auto* standard = find<QComboBox>("voltageStandard");
    standard->setFocus();
    pick("IEC");
    EXPECT_EQ(part().rules.standard, VoltageStandard::Iec60664);
    EXPECT_FALSE(find<QComboBox>("voltageColumn")->isEnabled());
    EXPECT_TRUE(find<QComboBox>("iecCategory")->isEnabled());
    EXPECT_NEAR(*footprint().gauge("voltage")->limit, 2.5, 1e-9) << "creepage at 250 V, group III, degree 2";
    auto* insulation = find<QComboBox>("iecInsulation");
    insulation->setFocus();
    pick("reinforced");
    EXPECT_NEAR(*footprint().gauge("voltage")->limit, 5.0, 1e-9);
    EXPECT_EQ(footprint().gauge("voltage")->state, GaugeState::NoGo);
    find<QLineEdit>("iecAltitude")->setFocus();
    retype("12000");
    key(Qt::Key_Return);
    EXPECT_EQ(part().rules.iec.altitude, 2000) << "no factor is known there";
    EXPECT_EQ(find<QLineEdit>("iecAltitude")->text(), "12000") << "what was typed stays";
    EXPECT_FALSE(window->message().isEmpty());
    retype("5000");
    key(Qt::Key_Return);
    EXPECT_EQ(part().rules.iec.altitude, 5000);
    // Clearance 3.0 x 1.48 stays below the creepage of 5.0.
    EXPECT_NEAR(footprint().voltages.front().clearance->mm(), 4.44, 1e-9);
    EXPECT_NEAR(*footprint().gauge("voltage")->limit, 5.0, 1e-9);
    standard->setFocus();
    pick("IPC");
    EXPECT_NEAR(*footprint().gauge("voltage")->limit, byIpc, 1e-9);
}

TEST_F(Stations, DressAndFit) {
    window->view().setStation(Station::Dress);
    auto* mark = find<QComboBox>("mark");
    mark->setFocus();
    pick("inside");
    EXPECT_EQ(part().dress.mark, PinOneMark::Inside);
    find<QCheckBox>("outline")->click();
    EXPECT_FALSE(part().dress.outline);
    click(find<QLineEdit>("courtyardExcess"));
    retype("0.2");
    EXPECT_EQ(footprint().gauge("courtyard")->state, GaugeState::NoGo);
    window->view().setStation(Station::Fit);
    click(find<QLineEdit>("boardThickness"));
    retype("2.4");
    EXPECT_NEAR(*footprint().gauge("lead-past-board")->value, 0.6, 1e-9);
    click(find<QLineEdit>("standoff"));
    retype("10mil");
    EXPECT_NEAR(*footprint().gauge("lead-past-board")->value, 0.346, 1e-9);
    EXPECT_EQ(footprint().gauge("lead-past-board")->state, GaugeState::NoGo);
}

TEST_F(Stations, ReleaseKeepsSourcesAndWritesFiles) {
    window->view().setStation(Station::Release);
    find<QLineEdit>("sourceTitle")->setText("Lookalike's drawing");
    find<QLineEdit>("sourceLink")->setText("https://example.org/sheet.pdf");
    find<QLineEdit>("sourcePicture")->setText(folder.filePath("underside.png"));
    find<QPushButton>("addSource")->click();
    EXPECT_EQ(part().sources.size(), 2u) << "a picture that is not there is not kept";
    EXPECT_TRUE(find<QLineEdit>("sourcePicture")->property("wrong").toBool());
    QPixmap(8, 8).save(folder.filePath("underside.png"));
    find<QPushButton>("addSource")->click();
    ASSERT_EQ(part().sources.size(), 3u);
    // Kept by its content: twelve digits of its hash stand before its name.
    const QString kept = QString::fromStdString(part().sources[2].picture);
    EXPECT_TRUE(QRegularExpression("^QB-TB4-sources/[0-9a-f]{12} underside.png$").match(kept).hasMatch())
        << kept.toStdString();
    EXPECT_TRUE(QFile::exists(folder.filePath(kept)));
    click(find<QLineEdit>("partName"));
    retype("QB-TB4 second");
    EXPECT_EQ(part().name, "QB-TB4 second");
    QSettings().remove("handover/formats");
    {
        HandoverDialog dialog(window->document(), window->view());
        dialog.settle();
        // Each file stands in the tree with its size and what was found when it was read again.
        auto* tree = dialog.findChild<QTreeWidget*>("handoverTree");
        ASSERT_EQ(tree->topLevelItemCount(), static_cast<int>(formats().size()));
        const QTreeWidgetItem* gerber = tree->topLevelItem(0);
        EXPECT_EQ(gerber->childCount(), 10);
        for (int i = 0; i < gerber->childCount(); ++i)
            EXPECT_TRUE(gerber->child(i)->text(2).startsWith("●")) << gerber->child(i)->text(2).toStdString();
        dialog.writeTo(folder.filePath("out"));
        EXPECT_EQ(QDir(folder.filePath("out")).entryList(QDir::Files).size(), 24) << dialog.message().toStdString();
        EXPECT_TRUE(QFile::exists(folder.filePath("out/QB-TB4_second-top-copper.gbr")));
        dialog.tick(Format::Gerber, false);
        dialog.writeTo(folder.filePath("out2"));
        EXPECT_EQ(QDir(folder.filePath("out2")).entryList(QDir::Files).size(), 14);
        // By what they are for.
        dialog.findChild<QPushButton*>("for-fab")->click();
        dialog.writeTo(folder.filePath("fab"));
        EXPECT_EQ(QDir(folder.filePath("fab")).entryList(QDir::Files).size(), 12);
    }
    // What is loose leaves only when it is said, and its drawing says so.
    const Part firm = part();
    Part loose = firm;
    loose.readings.clear();
    loose.taken.clear();
    window->document().apply("nothing read", loose);
    {
        HandoverDialog dialog(window->document(), window->view());
        dialog.tick(Format::Svg, true);
        dialog.writeTo(folder.filePath("loose"));
        EXPECT_FALSE(QFile::exists(folder.filePath("loose"))) << "asked first";
        EXPECT_TRUE(dialog.message().contains("loose")) << dialog.message().toStdString();
        dialog.findChild<QCheckBox*>("writeLoose")->setChecked(true);
        dialog.writeTo(folder.filePath("loose"));
        QFile sheet(folder.filePath("loose/QB-TB4_second-sheet.svg"));
        ASSERT_TRUE(sheet.open(QIODevice::ReadOnly)) << dialog.message().toStdString();
        EXPECT_TRUE(QString(sheet.readAll()).contains("LOOSE"));
    }
    window->document().undo();
    // The receiver's origin and turn, without another datum of the part.
    const Part before = part();
    HandoverDialog dialog(window->document(), window->view());
    dialog.tick(Format::Csv, true);
    dialog.findChild<QComboBox*>("releaseOrigin")->setCurrentIndex(1);
    dialog.findChild<QComboBox*>("releaseZero")->setCurrentIndex(1);
    dialog.writeTo(folder.filePath("out3"));
    QFile table(folder.filePath("out3/QB-TB4_second-coordinates.csv"));
    ASSERT_TRUE(table.open(QIODevice::ReadOnly)) << dialog.message().toStdString();
    const QString rows = table.readAll();
    EXPECT_TRUE(rows.contains("1,plated,0.0000,0.0000"));
    EXPECT_TRUE(rows.contains("2,plated,0.0000,-5.0800")) << "pin 1 above, the next below it: " << rows.toStdString();
    EXPECT_EQ(part(), before);
    dialog.writeTo("/proc/nowhere");
    EXPECT_NE(dialog.message().indexOf("Nothing was written"), -1);
}

TEST_F(Stations, LensesComeWithTheStationAndStayTheUsers) {
    window->view().setStation(Station::Size);
    EXPECT_TRUE(window->view().lens(Lens::Voltage));
    EXPECT_FALSE(window->view().lens(Lens::Readings));
    click(find<QPushButton>("lens-Voltage"));
    EXPECT_FALSE(window->view().lens(Lens::Voltage));
    window->view().setStation(Station::Measure);
    EXPECT_TRUE(window->view().lens(Lens::Readings));
    EXPECT_FALSE(window->sheet().dimensionLayout().lines.empty());
    click(find<QPushButton>("lens-Readings"));
    EXPECT_TRUE(window->sheet().dimensionLayout().lines.empty());
}

TEST_F(Stations, TheLibraryListsItsParts) {
    window->home();
    auto* list = find<QListWidget>("library");
    ASSERT_EQ(list->count(), 1);
    EXPECT_EQ(list->item(0)->text(), "QB-TB4");
    EXPECT_FALSE(list->item(0)->data(Qt::DecorationRole).value<QPixmap>().isNull());
    find<QLineEdit>("librarySearch")->setText("5.08 4 way");
    EXPECT_FALSE(list->item(0)->isHidden());
    find<QLineEdit>("librarySearch")->setText("relay");
    EXPECT_TRUE(list->item(0)->isHidden());
    find<QLineEdit>("librarySearch")->clear();
    emit list->itemActivated(list->item(0));
    EXPECT_TRUE(window->document().open());
}

TEST_F(Stations, TheChainLeadsToItsReadingAndItsRule) {
    window->view().choose("p1", {});
    window->view().setChainOf(ChainOf::Hole);
    auto* chain = window->findChild<ChainView*>();
    emit chain->ruleWanted("level");
    EXPECT_EQ(window->view().station(), Station::Size);
    EXPECT_EQ(QApplication::focusWidget()->objectName(), "level");
    emit chain->readingWanted("r8");
    EXPECT_EQ(window->view().station(), Station::Measure);
    EXPECT_EQ(window->measure().notebook().currentIndex().row(), 2);
}

/// Share of the pixels around a place that are near a colour.
double shareOf(const QImage& image, QPointF middle, int reach, const QColor& color) {
    int hits = 0;
    int all = 0;
    for (int x = -reach; x <= reach; ++x)
        for (int y = -reach; y <= reach; ++y) {
            const QPoint at = middle.toPoint() + QPoint(x, y);
            if (!image.rect().contains(at)) continue;
            const QColor c = image.pixelColor(at);
            ++all;
            hits += std::abs(c.red() - color.red()) + std::abs(c.green() - color.green()) +
                        std::abs(c.blue() - color.blue()) <
                    40;
        }
    return all == 0 ? 0 : static_cast<double>(hits) / all;
}

TEST_F(Stations, TheSheetShowsCopperWhereThePadsAre) {
    window->view().setStation(Station::Dress);
    QTest::qWait(30);
    Sheet& sheet = window->sheet();
    QImage image = sheet.grab().toImage();
    const double pitch = sheet.placeOf("p2").x() - sheet.placeOf("p1").x();
    const double land = pitch * 2.5 / 5.08;
    for (const FeatureId id : {"p1", "p2", "p3", "p4"})
        EXPECT_GT(shareOf(image, sheet.placeOf(id) + QPointF(0, land * 0.4), 3, theme::kCopper), 0.8) << id;
    EXPECT_LT(shareOf(image, sheet.placeOf("p2") + QPointF(pitch / 2, land * 0.4), 3, theme::kCopper), 0.05)
        << "between the pads";
    // The corner of a land is copper at pin 1 only, which is square.
    const QPointF corner(land * 0.45, land * 0.45);
    EXPECT_GT(shareOf(image, sheet.placeOf("p1") + corner, 2, theme::kCopper), 0.6);
    EXPECT_LT(shareOf(image, sheet.placeOf("p2") + corner, 2, theme::kCopper), 0.2);
    click(find<QPushButton>("lens-Copper"));
    image = sheet.grab().toImage();
    EXPECT_LT(shareOf(image, sheet.placeOf("p2") + QPointF(0, land * 0.4), 3, theme::kCopper), 0.05);
}

TEST_F(Stations, WhatIsLooseIsDrawnInMarigold) {
    const auto marigold = [&] {
        const QImage image = window->sheet().grab().toImage();
        return shareOf(image, QRectF(image.rect()).center(), 340, theme::kMarigold);
    };
    window->view().setStation(Station::Dress);
    QTest::qWait(30);
    EXPECT_LT(marigold(), 1e-4) << "a firm part has none";
    window->document().begin(*newRow(4));
    QTest::qWait(30);
    EXPECT_GT(marigold(), 1e-3);
    Document::dropRecoveryOf({});
}

TEST_F(Stations, TheNotebookTellsWhatItKnows) {
    auto* model = window->measure().notebook().model();
    ASSERT_EQ(model->rowCount(), 15);
    EXPECT_EQ(model->data(model->index(0, 0), Qt::DisplayRole).toString(), "pins 1 and 4, outside");
    const QString tip = model->data(model->index(0, 0), Qt::ToolTipRole).toString();
    EXPECT_TRUE(tip.contains("mean 16.247 mm, ± 0.026 mm at 95 %")) << tip.toStdString();
    EXPECT_TRUE(tip.contains("w = "));
    window->entry().removeReading(0);
    EXPECT_EQ(model->rowCount(), 14);
    window->document().undo();
    EXPECT_EQ(model->rowCount(), 15);
    EXPECT_FALSE(model->data(model->index(99, 0), Qt::DisplayRole).isValid());
}

TEST_F(Stations, AnOddValueIsAskedAboutAndMayBeMeant) {
    window->view().setStation(Station::Measure);
    window->measure().type("1 3 outside 11.16 11.17 12.16");
    key(Qt::Key_Return);
    const auto& result = footprint().readings.back();
    EXPECT_TRUE(result.stats.asked.at(2));
    EXPECT_EQ(footprint().gauge("readings")->state, GaugeState::Watch);
    EXPECT_NEAR(result.stats.mean, 11.165, 1e-9) << "the odd one stays out unasked";
    window->measure().notebook().setFocus();
    window->measure().notebook().setCurrentIndex(window->measure().notebook().model()->index(15, 0));
    key(Qt::Key_Space);
    EXPECT_FALSE(footprint().readings.back().stats.asked.at(2));
    EXPECT_TRUE(part().readings.back().raw[2].meant);
}

TEST_F(Stations, ReadingsInAnotherUnitKeepIt) {
    window->view().setStation(Station::Measure);
    click(find<QPushButton>("unit-mil"));
    window->measure().type("1 3 outside 440 439.5");
    key(Qt::Key_Return);
    EXPECT_EQ(part().readings.back().raw[0].value, Length::fromMil(440));
    click(find<QPushButton>("unit-mm"));
    EXPECT_EQ(window->entry().edit(15), "(440)mil (439.5)mil");
    window->measure().replaceLine(window->entry().edit(15));
    key(Qt::Key_Return);
    EXPECT_EQ(part().readings.back().raw[0].value, Length::fromMil(440)) << "changed back to the same value";
}

TEST_F(Stations, CommandsAreFoundByTheirWords) {
    const auto first = [&](const char* asked) {
        const auto found = matching(window->commands(), asked);
        return found.empty() ? std::string() : found.front()->name.toStdString();
    };
    EXPECT_EQ(first("flip"), "Flip: part side or solder side");
    EXPECT_EQ(first("underside"), "Flip: part side or solder side");
    EXPECT_EQ(first("gerber"), "What leaves: formats and files");
    EXPECT_EQ(first("SAVE"), "Save the part");
    // What designers say finds something, whole words first.
    for (const char* asked : {"rotate", "mirror", "layer", "delete", "pin", "thermal", "courtyard", "hole", "drill"})
        EXPECT_NE(first(asked), "") << asked;
    EXPECT_EQ(first("hole"), "Add a feature: mounting hole");
    EXPECT_EQ(first("courtyard").substr(0, 4), "Lens");
    EXPECT_EQ(first("qwertz"), "");
    EXPECT_EQ(matching(window->commands(), "").size(), window->commands().size());
}

TEST_F(Stations, StationMarksFollowTheGauges) {
    EXPECT_EQ(stationState(window->document(), Station::Measure), GaugeState::Go);
    EXPECT_EQ(stationState(window->document(), Station::Size), GaugeState::Watch) << "voltage";
    EXPECT_EQ(stationState(window->document(), Station::Release), GaugeState::Go);
    Part next = part();
    next.rules.ring = 0.1_mm;
    window->document().apply("ring", next);
    EXPECT_EQ(stationState(window->document(), Station::Size), GaugeState::NoGo);
    EXPECT_EQ(stationState(window->document(), Station::Release), GaugeState::Unknown) << "not saved";
}

}  // namespace
}  // namespace punch::test
