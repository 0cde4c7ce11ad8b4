// Measuring through the window: series, slips, orphans, standard sizes, dimension lines, doubts, letters.

#include "app/stations/letter_table.h"
#include "app/stations/reading_details.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class Measuring : public BenchTest {
protected:
    void put(const Part& part) {
        window->document().begin(part);
        window->view().setStation(Station::Measure);
        window->measure().line().setFocus();
        QApplication::processEvents();
    }
    void type(const QString& text) {
        window->measure().line().setFocus();
        keys(text);
        key(Qt::Key_Return);
    }
    void demo(const QString& name) {
        ASSERT_TRUE(window->openPath(QString::fromStdString(sourceFolder()) + "/demo/fennel-house/" + name + ".punch"));
        window->view().setStation(Station::Measure);
    }
};

TEST_F(Measuring, ASeriesGoesByTheKeyboardAlone) {
    // A made-up row of five, pitch 3.50, lead 0.60 x 0.40, answered as the bench asks.
    Part truth = bareRow(5);
    truth.taken = {{"pitch", 3.5_mm}, {"lead.width", 0.6_mm}, {"lead.thickness", 0.4_mm}, {"lead.length", 3_mm}};
    const Truth known(truth);
    put(bareRow(5));
    key(Qt::Key_F9);
    EXPECT_TRUE(window->view().series());
    int taken = 0;
    for (int guard = 0; guard < 40 && window->entry().pending(); ++guard) {
        const Reading asked = *window->entry().pending();
        const QString value = QString::number(known.shown(asked), 'f', 2);
        keys(value);
        key(Qt::Key_Return);
        ++taken;
        EXPECT_EQ(static_cast<int>(part().readings.size()), taken);
        keys(value);
        key(Qt::Key_Return);
        EXPECT_EQ(part().readings.back().raw.size(), 2u) << "the second value belongs to the same reading";
        key(Qt::Key_Return);
    }
    EXPECT_TRUE(footprint().loose.empty());
    EXPECT_NEAR(footprint().parameter("pitch")->value.mm(), 3.5, 0.003);
    EXPECT_LT(taken, 14);
    key(Qt::Key_Escape);
    EXPECT_FALSE(window->view().series());
}

TEST_F(Measuring, ASeriesPassesOverWhatCannotBeRead) {
    put(bareRow(5));
    key(Qt::Key_F9);
    const Reading first = *window->entry().pending();
    key(Qt::Key_Return);
    ASSERT_TRUE(window->entry().pending());
    EXPECT_TRUE(window->entry().pending()->contact != first.contact || window->entry().pending()->b != first.b);
    EXPECT_TRUE(part().readings.empty());
}

TEST_F(Measuring, ASlipIsAskedAboutAndMendedByOneKey) {
    put(demoPart());
    type("1 4 outside 0.6396");
    auto* card = find<QWidget>("slipCard");
    ASSERT_TRUE(card->isVisible());
    EXPECT_TRUE(find<QLabel>("slipWords")->text().contains("inches"));
    key(Qt::Key_F10);
    EXPECT_NEAR(part().readings.back().raw[0].value.mm(), 16.246, 0.002);
    EXPECT_FALSE(card->isVisible());
    window->document().undo();
    EXPECT_TRUE(card->isVisible());
    click(find<QPushButton>("keepSlip"));
    EXPECT_FALSE(card->isVisible()) << "never asked twice";
}

TEST_F(Measuring, AnOrphanIsJoinedToWhatOnePointsAt) {
    Part part0 = demoPart();
    part0 = withoutFeature(part0, "peg5");
    part0 = withSpot(part0);
    put(part0);
    ASSERT_EQ(footprint().readings[8].state, ReadingState::Orphan);
    auto* card = find<QWidget>("slipCard");
    EXPECT_TRUE(card->isVisible());
    EXPECT_FALSE(find<QPushButton>("mendSlip")->isVisible());
    window->view().choose(part().spots[0].id, {});
    EXPECT_TRUE(find<QPushButton>("mendSlip")->isVisible());
    key(Qt::Key_F10);
    for (const ReadingResult& r : footprint().readings) EXPECT_NE(r.state, ReadingState::Orphan);
    // The new peg may stand on either side of the row.
    EXPECT_TRUE(find<QLabel>("slipWords")->text().contains("which is it"));
    key(Qt::Key_F10);
    EXPECT_FALSE(card->isVisible());
}

TEST_F(Measuring, StandardSizesOfEveryKindAreTakenAndReleased) {
    demo("PW-VS11");
    key(Qt::Key_F4);
    EXPECT_TRUE(part().taken.empty()) << "the taken pitch is released";
    key(Qt::Key_F4, Qt::ShiftModifier);
    key(Qt::Key_F4);
    ASSERT_EQ(part().taken.count("rowGap"), 1u);
    EXPECT_EQ(part().taken.at("rowGap"), 2.54_mm);
    // A later reading that speaks against it shows.
    for (int i = 0; i < 3; ++i) type("1 2 across outside 3.90");
    EXPECT_TRUE(footprint().size("rowGap")->speaksAgainst());
}

TEST_F(Measuring, DimensionTagsNeverOverlap) {
    for (const char* name : {"QB-TB4", "HT-RM2", "PW-VS11", "PW-RS7", "QB-TB4 reading in doubt"})
        for (const QSize size : {QSize(1280, 800), QSize(1920, 1080)}) {
            window->resize(size);
            demo(name);
            QTest::qWait(20);
            const auto& lines = window->sheet().dimensionLayout().lines;
            ASSERT_GT(lines.size(), 5u);
            for (std::size_t i = 0; i < lines.size(); ++i)
                for (std::size_t k = i + 1; k < lines.size(); ++k)
                    // A thin line of a crowded part shows its number only under the hand.
                    EXPECT_FALSE(!lines[i].quiet && !lines[k].quiet && lines[i].tag.intersects(lines[k].tag))
                        << name << " " << lines[i].text.toStdString() << " over " << lines[k].text.toStdString();
        }
}

TEST_F(Measuring, ADimensionLineIsDraggedToAnotherLane) {
    put(demoPart());
    QTest::qWait(20);
    const auto lineOf = [&](const std::string& id) {
        for (const Dimension& d : window->sheet().dimensionLayout().lines)
            if (d.id == id) return d;
        return Dimension{};
    };
    const std::string id = part().readings[0].id;
    const Dimension before = lineOf(id);
    ASSERT_GT(before.lane, 0);
    // To the other side of the part.
    const QPoint from = before.tag.center().toPoint();
    const QPoint to(from.x(), static_cast<int>(window->sheet().dimensionLayout().content.bottom()) + 60);
    QTest::mousePress(&window->sheet(), Qt::LeftButton, {}, from);
    QTest::mouseMove(&window->sheet(), (from + to) / 2);
    QMouseEvent move(QEvent::MouseMove, to, window->sheet().mapToGlobal(to), Qt::NoButton, Qt::LeftButton, {});
    QApplication::sendEvent(&window->sheet(), &move);
    QTest::mouseRelease(&window->sheet(), Qt::LeftButton, {}, to);
    EXPECT_LT(lineOf(id).lane, 0);
    EXPECT_EQ(part(), demoPart()) << "where a line stands is not part of the part";
    EXPECT_LT(window->entry().editing(), 0) << "a drag is no click";
    const auto& lines = window->sheet().dimensionLayout().lines;
    for (std::size_t i = 0; i < lines.size(); ++i)
        for (std::size_t k = i + 1; k < lines.size(); ++k) EXPECT_FALSE(lines[i].tag.intersects(lines[k].tag));
}

TEST_F(Measuring, TwoFeaturesShowTheirDistanceWithoutAReading) {
    put(demoPart());
    clickFeature("p1");
    EXPECT_TRUE(window->sheet().betweenLines().empty());
    clickFeature("p4");
    const auto& lines = window->sheet().betweenLines();
    ASSERT_GE(lines.size(), 5u);
    EXPECT_EQ(lines[0], "pin 1 to pin 4");
    EXPECT_TRUE(lines[1].contains("15.240")) << lines[1].toStdString();
    EXPECT_EQ(part(), demoPart());
}

TEST_F(Measuring, HoveringGoesBothWays) {
    put(demoPart());
    QTest::qWait(20);
    QTest::mouseMove(&window->sheet(), window->sheet().placeOf("peg5").toPoint());
    QTest::qWait(20);
    EXPECT_EQ(window->view().hovered(), "peg5");
    const Dimension d = window->sheet().dimensionLayout().lines.front();
    QTest::mouseMove(&window->sheet(), d.tag.center().toPoint());
    QTest::qWait(20);
    EXPECT_EQ(window->view().lit(), d.id);
}

TEST_F(Measuring, TheDoubtLensDrawsOverTheSheet) {
    demo("PW-RS7");
    QTest::qWait(20);
    const QImage before = window->sheet().grab().toImage();
    click(find<QPushButton>("lens-Doubt"));
    QTest::qWait(20);
    EXPECT_NE(window->sheet().grab().toImage(), before);
}

TEST_F(Measuring, DrawingsLettersAndDetails) {
    put(*newRow(4));
    LetterTableDialog dialog(window->document(), window->view());
    auto* table = dialog.findChild<QTableWidget*>("letters");
    table->setItem(0, 0, new QTableWidgetItem("15.2 ±"));
    dialog.accept();
    EXPECT_FALSE(dialog.findChild<QLabel*>("letterWrong")->text().isEmpty());
    EXPECT_TRUE(part().letters.letters.empty());
    table->setItem(0, 0, new QTableWidgetItem("0.6in ±0.1mm"));
    dialog.accept();
    ASSERT_EQ(part().letters.letters.size(), 1u);
    type("1 4 centres letter A");
    EXPECT_NEAR(footprint().parameter("pitch")->value.mm(), 5.08, 1e-9);
    // A whole drawing's values, seen from below.
    auto* instrument = find<QComboBox>("instrument");
    instrument->setCurrentIndex(instrument->count() - 1);
    emit instrument->activated(instrument->count() - 1);
    find<QCheckBox>("fromBelow")->click();
    type("left 1 middle 3.0");
    ASSERT_TRUE(part().readings.back().drawing);
    EXPECT_TRUE(part().readings.back().fromBelow);
    ReadingDetails details(window->document(), 1);
    details.findChild<QCheckBox*>("detailFromBelow")->setChecked(false);
    details.findChild<QLineEdit*>("detailLetter")->setText("K");
    details.accept();
    EXPECT_FALSE(part().readings[1].fromBelow);
    EXPECT_EQ(part().readings[1].name, "K");
}

TEST_F(Measuring, NewerInputOvertakesALargePart) {
    Part big = *newRow(500);
    for (int i = 1; i < 120; ++i)
        big = withReading(big,
                          reading("p1", "p" + std::to_string(i + 1), Contact::Outside, Axis::Along, {2.54 * i + 0.6}));
    put(big);
    QSignalSpy changed(&window->document(), &Document::changed);
    for (int i = 0; i < 20; ++i) {
        Part next = part();
        next.notes = "typed " + std::to_string(i);
        next.given["lead.width"] = {fmt::format("{}", 0.5 + 0.01 * i), Unit::Mm};
        window->document().applyTyping("notes", next);
        EXPECT_EQ(part().notes, next.notes) << "the part is new at once";
    }
    EXPECT_FALSE(window->document().settled());
    EXPECT_LT(changed.count(), 20) << "what was overtaken is not shown";
    EXPECT_TRUE(QTest::qWaitFor([&] { return window->document().settled(); }, 30000));
    EXPECT_NEAR(footprint().parameter("lead.width")->value.mm(), 0.69, 1e-9);
    EXPECT_LT(changed.count(), 20);
    window->document().undo();
    window->document().settle();
    EXPECT_EQ(part(), big);
}

}  // namespace
}  // namespace punch::test
