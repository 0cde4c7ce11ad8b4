// Pins and symbol in the real window: typed, pasted, joined by dragging, undone, released as a pinout.

#include <QApplication>
#include <QClipboard>
#include <QDate>
#include <QDragEnterEvent>
#include <QMessageBox>
#include <QMimeData>
#include <QTemporaryDir>
#include <QTimer>
#include <fstream>

#include "app/handover/handover_dialog.h"
#include "app/library_list.h"
#include "app/pins/pinout_dialog.h"
#include "app/pins/symbol_dialog.h"
#include "core/part/file.h"
#include "core/pins/pin_table.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class PinsBench : public BenchTest {
protected:
    void SetUp() override {
        BenchTest::SetUp();
        window->openPath(QString::fromStdString(sourceFolder() + "/demo/fennel-house/QB-TB4.punch"));
        Part bare = part();
        bare.pins.clear();
        window->document().apply("no pins", std::move(bare));
        window->view().setStation(Station::Release);
        QTest::qWait(50);
    }
    QTableWidget& table() { return window->pins().table(); }
    /// As a person does: the cell, the keys, Enter.
    void type(int row, int column, const QString& text) {
        table().setCurrentCell(row, column);
        table().setFocus();
        // The first key opens the cell, and the rest goes into it.
        QTest::keyClicks(table().viewport(), text.left(1));
        auto* editor = table().findChild<QLineEdit*>();
        ASSERT_NE(editor, nullptr);
        QTest::keyClicks(editor, text.mid(1));
        QTest::keyClick(editor, Qt::Key_Return);
        QTest::qWait(20);
    }
    QString words() { return find<WrappedLabel>("pinWords")->text(); }
};

TEST_F(PinsBench, AreTypedIntoTheTableAndDrawnAsASymbol) {
    ASSERT_TRUE(window->pins().isVisible());
    click(find<QPushButton>("pinsOfPads"));
    ASSERT_EQ(part().pins.size(), 4U);
    type(0, 1, "D0..D3");
    for (int i = 0; i < 4; ++i)
        EXPECT_EQ(part().pins[static_cast<std::size_t>(i)].names, std::vector<std::string>{"D" + std::to_string(i)});
    type(1, 2, "out");
    EXPECT_EQ(part().pins[1].kind, PinKind::Output);
    type(2, 2, "loud");
    EXPECT_EQ(part().pins[2].kind, PinKind::NotSaid);
    EXPECT_TRUE(message().contains("loud")) << message().toStdString();
    EXPECT_EQ(table().item(2, 2)->text(), "loud") << "nothing typed is lost";
    // Not by going elsewhere and editing there either; and it is gone when it is right.
    type(0, 7, "with care");
    EXPECT_EQ(table().item(2, 2)->text(), "loud");
    type(2, 2, "in");
    EXPECT_EQ(part().pins[2].kind, PinKind::Input);
    EXPECT_EQ(table().item(2, 2)->text(), "input");
    type(4, 0, "5");
    ASSERT_EQ(part().pins.size(), 5U);
    EXPECT_TRUE(words().contains("pin 5: no pad has this number")) << words().toStdString();
    EXPECT_EQ(footprint().gauge("pins")->state, GaugeState::NoGo);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(part().pins.size(), 4U);
    // A click on the symbol chooses the pin, its row and its pad.
    SymbolView& symbol = window->pins().symbol();
    QTest::mouseClick(&symbol, Qt::LeftButton, {}, symbol.placeOf(2).toPoint());
    EXPECT_EQ(table().currentRow(), 2);
    EXPECT_EQ(window->view().first(), footprint().pads[2].id);
    // And the pad of the sheet the row.
    window->view().choose(footprint().pads[3].id, {});
    EXPECT_EQ(table().currentRow(), 3);
    table().selectRow(3);
    QTest::keyClick(&table(), Qt::Key_Delete);
    EXPECT_EQ(part().pins.size(), 3U);
}

TEST_F(PinsBench, ATableIsShownBeforeItIsTaken) {
    QApplication::clipboard()->setText(
        "Pin\tName\tType\n1\tL\tpassive\n2\tN\tpassive\nsee page 4\n3\tPE\tpassive\n4\tK\tin\n");
    table().setFocus();
    QTest::keyClick(&table(), Qt::Key_V, Qt::ControlModifier);
    EXPECT_TRUE(part().pins.empty()) << "not yet";
    EXPECT_EQ(table().rowCount(), 4);
    EXPECT_TRUE(words().contains("number · name · kind")) << words().toStdString();
    EXPECT_TRUE(words().contains("see page 4"));
    click(find<QPushButton>("leavePins"));
    EXPECT_EQ(table().rowCount(), 1);
    click(find<QPushButton>("pastePins"));
    click(find<QPushButton>("takePins"));
    ASSERT_EQ(part().pins.size(), 4U);
    EXPECT_EQ(part().pins[3].kind, PinKind::Input);
    EXPECT_EQ(footprint().gauge("pins")->state, GaugeState::Go);
    QApplication::clipboard()->setText("no pins at all");
    click(find<QPushButton>("pastePins"));
    EXPECT_TRUE(message().contains("Nothing was pasted"));
    EXPECT_EQ(part().pins.size(), 4U);
}

TEST_F(PinsBench, AreJoinedByDraggingOntoAPadAndReleasedAsAPinout) {
    window->pins().offer("1 A\n2 B\n3 C\n");
    click(find<QPushButton>("takePins"));
    EXPECT_TRUE(words().contains("pad 4 has no pin")) << words().toStdString();
    // Pin 3 onto pad 4 of the sheet.
    table().setCurrentCell(2, 0);
    QMimeData data;
    const QPoint at = window->sheet().transform().map(footprint().pads[3].at).toPoint();
    // The table is what is dragged: without one the sheet takes nothing.
    QDropEvent stranger(at, Qt::CopyAction, &data, Qt::LeftButton, Qt::NoModifier);
    QApplication::sendEvent(&window->sheet(), &stranger);
    EXPECT_TRUE(part().pins[2].pads.empty());
    window->pins().joinAt(at, 2);
    EXPECT_EQ(part().pins[2].pads, (std::vector<std::string>{"3", "4"}));
    EXPECT_EQ(footprint().gauge("pins")->state, GaugeState::Watch) << "their kinds are not said";
    // A meter's word.
    auto* note = find<QLineEdit>("benchNote");
    note->setText("1 2 nonsense");
    QTest::keyClick(note, Qt::Key_Return);
    EXPECT_TRUE(part().benchNotes.empty());
    EXPECT_EQ(note->text(), "1 2 nonsense");
    for (const char* typed : {"1 2 beep up", "1 2 open down", "1 3 open up", "1 3 beep down"}) {
        note->setText(typed);
        QTest::keyClick(note, Qt::Key_Return);
    }
    EXPECT_TRUE(find<WrappedLabel>("benchNotes")->text().contains("1 is common"))
        << find<WrappedLabel>("benchNotes")->text().toStdString();
    // The other pinout has pins of its own, and is what is written.
    Part next = part();
    Variant v;
    v.name = "R";
    v.pins = next.pins;
    v.pins[0].names = {"Z"};
    next.variants = {v};
    window->document().apply("a pinout", std::move(next));
    window->view().setVariant("R");
    type(1, 1, "Y");
    EXPECT_EQ(part().variants[0].pins[1].names, std::vector<std::string>{"Y"});
    EXPECT_EQ(part().pins[1].names, std::vector<std::string>{"B"});
    HandoverDialog dialog(window->document(), window->view());
    for (const FormatKind& kind : formats()) dialog.tick(kind.format, kind.format == Format::Symbol);
    dialog.writeTo(folder.path());
    std::ifstream csv((folder.path() + "/QB-TB4-R-pins.csv").toStdString());
    const std::string text(std::istreambuf_iterator<char>(csv), {});
    EXPECT_NE(text.find("1,Z,"), std::string::npos) << text << message().toStdString();
}

TEST_F(PinsBench, ANewPartThatIsThereAlreadyIsNamedBeforeItIsSaved) {
    const QTemporaryDir library;
    ASSERT_TRUE(savePart(part(), (library.path() + "/QB-TB4.punch").toStdString()));
    window->setLibrary(library.path());
    Part twin = part();
    twin.name = "TWIN";
    window->document().begin(twin);
    const QStringList there = window->alreadyThere();
    ASSERT_EQ(there.size(), 1);
    EXPECT_TRUE(there[0].contains("QB-TB4, as it is")) << there[0].toStdString();
    QString asked;
    QTimer::singleShot(50, [&] {
        auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
        if (box == nullptr) return;
        asked = box->informativeText();
        for (QAbstractButton* b : box->buttons())
            if (box->buttonRole(b) == QMessageBox::RejectRole) b->click();
    });
    EXPECT_FALSE(window->saveAs({}));
    EXPECT_TRUE(asked.contains("QB-TB4"));
}

TEST_F(PinsBench, AnotherPartHasNothingOfTheOneBefore) {
    Part next = part();
    Variant v;
    v.name = "R";
    next.variants = {v};
    window->document().apply("a pinout", std::move(next));
    window->view().setVariant("R");
    window->pins().refresh();
    EXPECT_TRUE(find<QPushButton>("dropPinout")->isVisible());
    window->pins().offer("1 A\n2 B\n");
    Part other = part();
    other.name = "OTHER";
    window->document().begin(other);
    QTest::qWait(20);
    EXPECT_EQ(window->view().variant(), "") << "it has a pinout of that name too, and nobody chose it";
    EXPECT_FALSE(find<QPushButton>("takePins")->isVisible());
    // Two pins at one pad: the row stays where it was put.
    window->pins().offer("1 A\n2 B\n2 C\n");
    click(find<QPushButton>("takePins"));
    table().setCurrentCell(1, 1);
    EXPECT_EQ(table().currentRow(), 1);
    table().setCurrentCell(2, 1);
    EXPECT_EQ(table().currentRow(), 2);
    window->view().setVariant("R");
    window->pins().refresh();
    click(find<QPushButton>("dropPinout"));
    EXPECT_TRUE(part().variants.empty());
}

TEST_F(PinsBench, SourcesAndBoardsAreKeptForYears) {
    find<QLineEdit>("sourceTitle")->setText("Shop page");
    find<QLineEdit>("sourceNote")->setText("sold as 16, the drawing says 16.0");
    click(find<QPushButton>("addSource"));
    ASSERT_FALSE(part().sources.empty());
    EXPECT_EQ(part().sources.back().note, "sold as 16, the drawing says 16.0");
    EXPECT_EQ(part().sources.back().seen, QDate::currentDate().toString(Qt::ISODate).toStdString());
    auto* board = find<QLineEdit>("boardNote");
    for (const char* typed : {"board 1", "board 2: pegs 0.05 looser: yes"}) {
        board->setText(typed);
        QTest::keyClick(board, Qt::Key_Return);
    }
    ASSERT_EQ(part().history.size(), 2U);
    EXPECT_EQ(part().history[0].words, "");
    EXPECT_EQ(part().history[1].board, "board 2");
    EXPECT_EQ(part().history[1].words, "pegs 0.05 looser: yes");
    EXPECT_EQ(*fromText(toText(part()), "x"), part());
}

TEST_F(PinsBench, PartsOfALibraryAreFoundCopiedAndRenamed) {
    const QTemporaryDir library;
    const QString at = library.path() + "/QB-TB4.punch";
    Part one = part();
    Pin pin;
    pin.number = "1";
    pin.names = {"FLOW"};
    one.pins = {pin};
    ASSERT_TRUE(savePart(one, at.toStdString()));
    window->setLibrary(library.path());
    auto* list = window->findChild<LibraryList*>();
    const auto shown = [&] {
        QStringList names;
        for (int i = 0; i < list->list().count(); ++i)
            if (!list->list().item(i)->isHidden()) names << list->list().item(i)->text();
        return names;
    };
    EXPECT_TRUE(list->copyAs(at, "QB-TB4 twin"));
    EXPECT_EQ(shown().size(), 2);
    EXPECT_FALSE(list->copyAs(at, "QB-TB4 twin")) << "nothing is written over";
    EXPECT_TRUE(message().contains("already")) << message().toStdString();
    EXPECT_EQ(loadPart((library.path() + "/QB-TB4_twin.punch").toStdString())->name, "QB-TB4 twin");
    auto* search = list->findChild<QLineEdit*>();
    for (const auto& [typed, count] :
         {std::pair("flow", 2), std::pair("twin", 1), std::pair("5.08 4 way", 2), std::pair("24 way", 0),
          std::pair("no-go pins", 2), std::pair("no-go ring", 0)}) {
        search->setText(typed);
        EXPECT_EQ(shown().size(), count) << typed;
    }
}

TEST_F(PinsBench, GapsAndOrderByHand) {
    click(find<QPushButton>("pinsOfPads"));
    type(1, 3, "left +2");
    EXPECT_EQ(part().pins[1].side, PinSide::Left);
    EXPECT_EQ(part().pins[1].gap, 2);
    EXPECT_EQ(table().item(1, 3)->text(), "left +2");
    type(1, 3, "left +many");
    EXPECT_EQ(part().pins[1].gap, 2) << "a gap is a number";
    table().setCurrentCell(0, 1);
    QTest::keyClick(&table(), Qt::Key_Down, Qt::AltModifier);
    EXPECT_EQ(part().pins[0].number, "2");
    EXPECT_EQ(part().pins[1].number, "1");
    EXPECT_EQ(table().currentRow(), 1);
}

TEST_F(PinsBench, ThePartsSymbolIsDrawnOn) {
    click(find<QPushButton>("pinsOfPads"));
    SymbolDialog dialog(part());
    dialog.show();
    auto* lines = dialog.findChild<QPlainTextEdit*>("symbolLines");
    auto* keep = dialog.findChild<QPushButton*>("keepSymbol");
    QTest::keyClicks(lines, "circle 0 0 1 0");
    QTest::keyClick(lines, Qt::Key_Return);
    QTest::keyClicks(lines, "Rating = 5 A shown");
    EXPECT_TRUE(keep->isEnabled());
    ASSERT_EQ(dialog.drawing().shapes.size(), 1U);
    EXPECT_EQ(dialog.drawing().attributes.at(0).value, "5 A");
    QTest::keyClick(lines, Qt::Key_Return);
    QTest::keyClicks(lines, "circel 1 1");
    EXPECT_FALSE(keep->isEnabled());
    EXPECT_TRUE(dialog.findChild<WrappedLabel*>("symbolTrouble")->text().contains("line 3"));
    EXPECT_EQ(dialog.drawing().shapes.size(), 1U) << "what was understood stays";
    // A click on the symbol gives the place.
    lines->setPlainText("line 0 0 ");
    lines->moveCursor(QTextCursor::End);
    auto* view = dialog.findChild<SymbolView*>();
    QTest::qWait(30);
    QTest::mouseClick(view, Qt::LeftButton, {}, view->rect().center());
    EXPECT_TRUE(keep->isEnabled()) << lines->toPlainText().toStdString();
}

TEST_F(PinsBench, SeveralFoldersAreOneLibrary) {
    const QTemporaryDir own, other;
    Part one = part(), two = part();
    two.name = "HT-TWO";
    ASSERT_TRUE(savePart(one, (own.path() + "/QB-TB4.punch").toStdString()));
    ASSERT_TRUE(savePart(two, (other.path() + "/HT-TWO.punch").toStdString()));
    window->setLibrary(own.path());
    window->setOtherLibraries({other.path()});
    auto* list = window->findChild<LibraryList*>();
    list->settle();
    ASSERT_EQ(list->list().count(), 2);
    auto* which = find<QComboBox>("libraryFolders");
    EXPECT_EQ(which->count(), 3);
    which->setCurrentIndex(2);
    emit which->activated(2);
    ASSERT_EQ(list->list().count(), 1);
    EXPECT_EQ(list->list().item(0)->text(), "HT-TWO");
    which->setCurrentIndex(0);
    emit which->activated(0);
    // One moves to the other.
    EXPECT_TRUE(list->moveTo(other.path() + "/HT-TWO.punch", own.path()));
    EXPECT_TRUE(QFileInfo::exists(own.path() + "/HT-TWO.punch"));
    EXPECT_FALSE(QFileInfo::exists(other.path() + "/HT-TWO.punch"));
    // What another program puts there appears by itself.
    Part three = part();
    three.name = "PW-THREE";
    ASSERT_TRUE(savePart(three, (other.path() + "/PW-THREE.punch").toStdString()));
    window->home();
    QTRY_VERIFY_WITH_TIMEOUT(list->list().count() == 3, 5000);
    which->setCurrentIndex(2);
    emit which->activated(2);
    click(find<QPushButton>("lessLibrary"));
    EXPECT_TRUE(list->others().isEmpty());
    EXPECT_TRUE(QFileInfo::exists(other.path() + "/PW-THREE.punch")) << "its files stay";
}

TEST_F(PinsBench, APinoutDiffersInValueAndMarksToo) {
    click(find<QPushButton>("pinsOfPads"));
    Part next = part();
    for (Pin& p : next.pins) p.kind = PinKind::Passive;
    for (Pin& p : next.pins) p.names = {"N" + p.number};
    Variant v;
    v.name = "B";
    next.variants.push_back(v);
    window->document().apply("pinout", next);
    const std::string mark = part().marks.front().id;
    PinoutDialog dialog(part(), "B");
    dialog.show();
    QTest::keyClicks(dialog.findChild<QLineEdit*>("pinoutValue"), "24 V");
    auto* where = dialog.findChild<QComboBox*>(QString::fromStdString("markIn-" + mark));
    ASSERT_NE(where, nullptr);
    where->setCurrentIndex(1);
    const Part chosen = dialog.chosen();
    EXPECT_EQ(chosen.variants[0].value, "24 V");
    EXPECT_EQ(markById(*asVariant(chosen, "B"), mark), nullptr);
    EXPECT_NE(markById(chosen, mark), nullptr);
    window->view().setVariant("B");
    window->document().apply("chosen", chosen);
    EXPECT_TRUE(find<QPushButton>("pinoutDiffers")->isVisible());
    EXPECT_TRUE(words().contains("24 V")) << words().toStdString();
}

TEST_F(PinsBench, ManyUnknownPartsComeWhileOneLooks) {
    const QTemporaryDir library;
    Part one = part();
    for (int i = 0; i < 90; ++i) {
        one.name = "QB-" + std::to_string(i);
        ASSERT_TRUE(savePart(one, (library.path() + "/" + QString::fromStdString(one.name) + ".punch").toStdString()));
    }
    window->setLibrary(library.path());
    window->home();
    auto* list = window->findChild<LibraryList*>();
    ASSERT_EQ(list->list().count(), 90) << "all are there at once";
    list->settle();
    QTest::qWait(20);
    for (int i = 0; i < 90; ++i)
        EXPECT_FALSE(list->list().item(i)->data(Qt::UserRole + 1).toString().contains("looking")) << i;
    EXPECT_FALSE(list->list().item(0)->data(Qt::DecorationRole).isNull()) << "what is seen is drawn";
    EXPECT_TRUE(list->list().item(89)->data(Qt::DecorationRole).isNull()) << "what is not, is not yet";
    auto* search = list->findChild<QLineEdit*>();
    search->setText("qb-77");
    int shown = 0;
    for (int i = 0; i < 90; ++i) shown += list->list().item(i)->isHidden() ? 0 : 1;
    EXPECT_EQ(shown, 1);
}

TEST_F(PinsBench, TheLibraryIsAskedForWhatIsKnownSoFar) {
    const QTemporaryDir library;
    ASSERT_TRUE(savePart(demoPart(), (library.path() + "/QB-TB4.punch").toStdString()));
    window->setLibrary(library.path());
    Part few = demoPart();
    std::erase_if(few.readings,
                  [](const Reading& r) { return r.id != "r6" && r.id != "r7" && r.id != "r8" && r.id != "r9"; });
    window->document().begin(few);
    QString asked, words;
    QTimer::singleShot(200, [&] {
        auto* box = qobject_cast<QMessageBox*>(QApplication::activeModalWidget());
        ASSERT_NE(box, nullptr);
        asked = box->text();
        words = box->informativeText();
        box->accept();
    });
    window->askLibrary();
    EXPECT_TRUE(asked.contains("4 places")) << asked.toStdString();
    EXPECT_TRUE(words.contains("QB-TB4")) << words.toStdString();
    // Nothing known: it says so, and no box stands in the way.
    window->document().begin(*newRow(4));
    window->askLibrary();
    EXPECT_TRUE(message().contains("two places")) << message().toStdString();
}

}  // namespace
}  // namespace punch::test
