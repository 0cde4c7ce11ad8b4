// QB-TB4 made from nothing through the real window, by keyboard alone.

#include "core/model/contacts.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class Keyboard : public BenchTest {
protected:
    void newPart(const QString& pins, const QString& pegs) {
        keys(pins);
        tabTo("startPegs");
        key(Qt::Key_A, Qt::ControlModifier);
        keys(pegs);
        key(Qt::Key_Return);
        ASSERT_TRUE(window->document().open());
        ASSERT_EQ(QApplication::focusWidget(), &window->measure().line()) << "the notebook waits for the first reading";
    }
    void setRules() {
        key(Qt::Key_3, Qt::ControlModifier);
        tabTo("level");
        pick("B");
        tabTo("land");
        pick("fixed ring");
        tabTo("ring");
        retype("0.5");
        tabTo("pegClearance");
        retype("0.13");
        for (const auto& [name, volts, pins] :
             {std::tuple{"line", "230", "1 2"}, std::tuple{"neutral", "0 V", "3-4"}}) {
            tabTo("potentialName");
            keys(name);
            tabTo("potentialVolts");
            keys(volts);
            tabTo("potentialPins");
            keys(pins);
            key(Qt::Key_Return);
        }
        key(Qt::Key_4, Qt::ControlModifier);
        key(Qt::Key_F1);
        keys("mark: keepout");
        key(Qt::Key_Return);
        QTest::qWait(10);  // what is new comes to be seen
        tabTo("markName");
        retype("plug travel");
        tabTo("off.y0");
        retype("-3.20");
        tabTo("mark.height");
        retype("2.0");
    }
};

TEST_F(Keyboard, TheWholePartByTheSeries) {
    newPart("4", "1");
    // Whatever is asked for is typed; what is asked beyond the notebook's list ends the series.
    const auto& table = demoReadings();
    for (int i = 0; i < 20 && window->entry().pending(); ++i) {
        const auto it = table.find(window->entry().words().toStdString());
        if (it == table.end()) break;
        keys(it->second);
        key(Qt::Key_Return);
    }
    EXPECT_GE(part().readings.size(), 11u) << "the series leads through most of it";
    // The rest by naming it.
    const std::pair<std::string, QString> named[] = {{"pins 1 and 2, inside", "1 2 inside"},
                                                     {"peg and pin 1, across, inside", "peg 1 across ins"},
                                                     {"peg and pin 4, along, inside", "peg 4 along inside"},
                                                     {"pins 1 and 4, outside", "1 4 out"}};
    for (const auto& [words, typed] : named) {
        bool there = false;
        for (const Reading& r : part().readings) there |= readingWords(part(), r) == words;
        if (there) continue;
        keys(typed + " " + table.at(words));
        key(Qt::Key_Return);
    }
    key(Qt::Key_F4);
    EXPECT_EQ(part().taken.at("pitch"), 5.08_mm);
    setRules();
    // On which side of the row the peg stands no distance says.
    ASSERT_EQ(footprint().openSides.size(), 1U);
    key(Qt::Key_F10);
    expectDemoNumbers(part(), footprint());
    EXPECT_EQ(footprint().keepouts.at(0).name, "plug travel");
    EXPECT_NEAR(footprint().keepouts[0].box().height().mm(), 3.2, 1e-9);
}

TEST_F(Keyboard, UndoAndRedoEverything) {
    newPart("4", "0");
    keys("16.25 16.23");
    key(Qt::Key_Return);
    keys("1.00");
    key(Qt::Key_Return);
    key(Qt::Key_F4);
    const Part done = part();
    key(Qt::Key_F5);
    for (int i = 0; i < 3; ++i) key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_TRUE(part().readings.empty());
    EXPECT_TRUE(part().taken.empty());
    for (int i = 0; i < 3; ++i) key(Qt::Key_Z, Qt::ControlModifier | Qt::ShiftModifier);
    EXPECT_EQ(part(), done);
}

TEST_F(Keyboard, ArrowsLeafThroughTheWaysToRead) {
    newPart("4", "0");
    const QString first = window->entry().words();
    key(Qt::Key_Down);
    EXPECT_EQ(window->entry().words(), "pins 1 and 4, inside");
    key(Qt::Key_Up);
    EXPECT_EQ(window->entry().words(), first);
    key(Qt::Key_Down);
    keys("14.24");
    key(Qt::Key_Return);
    EXPECT_EQ(part().readings.at(0).contact, Contact::Inside);
    key(Qt::Key_Escape);
}

TEST_F(Keyboard, TheNotebookByKeys) {
    newPart("4", "0");
    for (const char* typed : {"1 4 outside 16.25", "1 width 1.00", "1 2 inside 4.08"}) {
        keys(typed);
        key(Qt::Key_Return);
    }
    key(Qt::Key_F3);
    ASSERT_EQ(QApplication::focusWidget(), &window->measure().notebook());
    key(Qt::Key_Home);
    key(Qt::Key_Down, Qt::ControlModifier);
    EXPECT_EQ(readingWords(part(), part().readings[1]), "pins 1 and 4, outside");
    key(Qt::Key_Return);
    EXPECT_EQ(window->measure().line().text(), "16.25");
    keys("16.24 16.26");
    key(Qt::Key_Return);
    EXPECT_EQ(part().readings[1].raw.size(), 2u);
    key(Qt::Key_F3);
    key(Qt::Key_End);
    key(Qt::Key_Delete);
    EXPECT_EQ(part().readings.size(), 2u);
}

TEST_F(Keyboard, TheAskBoxRunsCommands) {
    newPart("4", "0");
    key(Qt::Key_F1);
    ASSERT_EQ(QApplication::focusWidget(), &window->topBar().askBox());
    keys("datum at pin");
    key(Qt::Key_Return);
    EXPECT_EQ(part().datum.kind, DatumKind::PinOne);
    key(Qt::Key_F1);
    keys("lengths inch");
    key(Qt::Key_Return);
    EXPECT_EQ(window->view().unit(), Unit::Inch);
    const Part before = part();
    key(Qt::Key_F6);
    EXPECT_TRUE(window->view().fromSolderSide());
    key(Qt::Key_F6);
    EXPECT_EQ(part(), before) << "looking changes nothing";
}

TEST_F(Keyboard, EveryShortcutIsItsOwn) {
    std::map<QString, QString> seen;
    for (const Command& c : window->commands()) {
        EXPECT_FALSE(c.name.isEmpty());
        if (c.keys.isEmpty()) continue;
        EXPECT_EQ(seen.count(c.keys.toString()), 0u) << c.keys.toString().toStdString() << " serves two commands";
        seen[c.keys.toString()] = c.name;
    }
}

TEST_F(Keyboard, SaveUnderAName) {
    newPart("4", "1");
    keys("16.25");
    key(Qt::Key_Return);
    const QString path = folder.filePath("mine");
    EXPECT_TRUE(window->saveAs(path));
    EXPECT_FALSE(window->document().dirty());
    EXPECT_EQ(*loadPart((path + ".punch").toStdString()), part());
    keys("1.00");
    key(Qt::Key_Return);
    key(Qt::Key_S, Qt::ControlModifier);
    EXPECT_EQ(loadPart((path + ".punch").toStdString())->readings.size(), 2u);
}

}  // namespace
}  // namespace punch::test
