// Families, several makes, laying over and taking in, in the real window.

#include <QComboBox>
#include <QListWidget>
#include <QMessageBox>
#include <QTemporaryDir>
#include <fstream>

#include "app/disk_watch.h"
#include "app/foreign/compare_dialog.h"
#include "app/foreign/take_in_dialog.h"
#include "app/kin/family_card.h"
#include "app/kin/makes_card.h"
#include "app/qt_text.h"
#include "core/part/file.h"
#include "core/release/formats.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class KinBench : public BenchTest {
protected:
    void SetUp() override {
        BenchTest::SetUp();
        Part one = demoPart();
        one.family = {};
        file = write("QB-TB4.punch", toText(one));
        window->openPath(file);
    }
    /// Copper and drill files of a part, as a layout program gets them.
    QStringList board(const Part& of, const QString& stem) {
        QStringList files;
        const auto made = releaseFiles(of, derive(of), {Format::Gerber, Format::Drill});
        for (const NamedContent& c : *made)
            if (c.name.find("top-copper") != std::string::npos || c.name.find(".drl") != std::string::npos)
                files << write(stem + toQt(c.name), c.content);
        return files;
    }
    QString file;
};

TEST_F(KinBench, AFamilyIsNamedSeenAndWritten) {
    window->view().setStation(Station::Release);
    auto* card = find<FamilyCard>("familyCard");
    auto* by = find<QComboBox>("familyBy");
    by->setCurrentIndex(1);
    emit by->activated(1);
    EXPECT_EQ(part().family.names, "QB-TB{ways}");
    auto* to = find<QLineEdit>("familyTo");
    to->setFocus();
    retype("6");
    EXPECT_EQ(part().family.to, 6);
    card->settle();
    auto* list = find<QListWidget>("familyMembers");
    ASSERT_EQ(list->count(), 5);
    EXPECT_TRUE(list->item(4)->text().contains("QB-TB6")) << list->item(4)->text().toStdString();
    list->setCurrentRow(4);
    EXPECT_TRUE(find<WrappedLabel>("familyWords")->text().contains("Body")) << "its size is said";
    // A name without a count is one name for all.
    auto* names = find<QLineEdit>("familyNames");
    names->setFocus();
    retype("QB-TB");
    EXPECT_TRUE(find<WrappedLabel>("familyTroubles")->text().contains("{ways}"));
    window->document().undo();
    // A wrong number is marked, and nothing changes.
    to->setFocus();
    retype("0");
    EXPECT_EQ(part().family.to, 6);
    EXPECT_TRUE(to->property("wrong").toBool());
    retype("6");
    const QTemporaryDir out;
    card->exportTo(out.path());
    const QStringList written = QDir(out.path()).entryList(QDir::Files);
    for (const char* member : {"QB-TB2", "QB-TB3", "QB-TB4", "QB-TB5", "QB-TB6"})
        EXPECT_TRUE(written.contains(QString(member) + "-top-copper.gbr")) << member;
    // The member by itself is a part that can be saved.
    ASSERT_TRUE(window->save());
    list->setCurrentRow(3);
    click(find<QPushButton>("openMember"));
    EXPECT_EQ(part().name, "QB-TB5");
    EXPECT_EQ(footprint().pads.size(), 5U);
    EXPECT_TRUE(window->document().path().isEmpty()) << "the family's file stays";
    const QString own = folder.path() + "/QB-TB5.punch";
    ASSERT_TRUE(window->saveAs(own));
    EXPECT_EQ(*loadPart(own.toStdString()), part());
}

TEST_F(KinBench, AnotherMakeSharesTheHolesAndIsFollowed) {
    Part other = demoPart();
    other.name = "HT-TB4";
    other.taken.clear();
    other.given["pitch"] = {"5.00", Unit::Mm};
    const QString at = write("HT-TB4.punch", toText(other));
    window->view().setStation(Station::Size);
    auto* card = find<MakesCard>("makesCard");
    card->addMake(at);
    ASSERT_EQ(part().makes.size(), 1U) << message().toStdString();
    EXPECT_EQ(part().makes[0].file, "HT-TB4.punch");
    ASSERT_FALSE(footprint().joined.empty());
    EXPECT_TRUE(find<WrappedLabel>("joinedHoles")->text().contains("pad 1"));
    const double apart = footprint().makes[0].apart.mm();
    EXPECT_NEAR(apart, 0.12, 0.01);
    card->addMake(at);
    EXPECT_EQ(part().makes.size(), 1U) << "once is enough";
    EXPECT_TRUE(message().contains("already"));
    // What changes in its file follows, and can be undone.
    other.given["pitch"] = {"4.90", Unit::Mm};
    ASSERT_TRUE(savePart(other, at.toStdString()));
    card->follow();
    EXPECT_NEAR(footprint().makes[0].apart.mm(), 0.27, 0.01);
    EXPECT_TRUE(message().contains("Followed")) << message().toStdString();
    window->document().undo();
    EXPECT_NEAR(footprint().makes[0].apart.mm(), apart, 1e-6);
    // Other ways are tried and one is kept.
    click(find<QPushButton>("tryJoins"));
    auto* keep = window->findChild<QPushButton*>("keepJoin1");
    ASSERT_NE(keep, nullptr);
    const Part before = part();
    click(keep);
    EXPECT_NE(part(), before);
    // Without it the footprint is the part's own again.
    auto drops = card->findChildren<QPushButton*>();
    for (QPushButton* b : drops)
        if (b->accessibleName() == "Drop HT-TB4") {
            click(b);
            break;
        }
    EXPECT_TRUE(part().makes.empty());
    EXPECT_TRUE(footprint().joined.empty());
}

TEST_F(KinBench, IsLaidOverABoardsFilesAndSaysWhereItIsOff) {
    Part other = demoPart();
    other.taken.clear();
    other.given["pitch"] = {"5.00", Unit::Mm};
    const QStringList files = board(other, "board-");
    window->layOver(files);
    auto* dialog = window->findChild<CompareDialog*>();
    ASSERT_NE(dialog, nullptr);
    auto* table = dialog->findChild<QTableWidget*>("compareTable");
    ASSERT_EQ(table->rowCount(), 4);
    EXPECT_EQ(table->item(0, 4)->text(), "0.120") << "the worst first";
    EXPECT_TRUE(dialog->findChild<WrappedLabel*>("compareWords")->text().contains("worst 0.120"));
    // Datum to datum it is the same: both stand in the middle of their pins.
    auto* by = dialog->findChild<QComboBox*>("compareBy");
    by->setCurrentIndex(1);
    emit by->activated(1);
    EXPECT_EQ(table->item(0, 4)->text(), "0.120");
    // Rubbish says why and leaves what is there.
    EXPECT_FALSE(dialog->open({write("rubbish.gbr", "rubbish")}));
    EXPECT_EQ(table->rowCount(), 4);
    EXPECT_FALSE(dialog->findChild<WrappedLabel*>("compareWords")->text().isEmpty());
    dialog->close();
}

TEST_F(KinBench, PadsOfABoardAreTakenInByTheirGroup) {
    const QStringList files = board(demoPart(), "board-");
    TakeInDialog dialog;
    ASSERT_TRUE(dialog.open(files));
    auto* list = dialog.findChild<QListWidget*>("takePatterns");
    EXPECT_EQ(list->count(), 1);
    dialog.show();
    auto* drawing = dialog.findChild<PatternView*>("takeDrawing");
    QTest::qWait(50);
    EXPECT_TRUE(dialog.findChild<QPushButton*>("takeIn")->text().contains("all 5"));
    // The pads are one group, the peg's hole too.
    QTest::mouseClick(drawing, Qt::LeftButton, {}, drawing->placeOf(0).toPoint());
    EXPECT_EQ(drawing->chosen().size(), 5U);
    QTest::mouseClick(drawing, Qt::LeftButton, Qt::ShiftModifier, drawing->placeOf(4).toPoint());
    EXPECT_EQ(drawing->chosen().size(), 4U);
    const auto taken = dialog.taken();
    ASSERT_TRUE(taken) << taken.error().text();
    EXPECT_EQ(allPins(taken->part).size(), 4U);
    EXPECT_TRUE(taken->part.spots.empty());
    // A frame around the two on the left.
    const QPoint a = drawing->placeOf(0).toPoint(), b = drawing->placeOf(1).toPoint();
    const QPoint from = a - QPoint(60, 60), to = b + QPoint(20, 60);
    QTest::mousePress(drawing, Qt::LeftButton, {}, from);
    QTest::mouseMove(drawing, to);
    QTest::mouseRelease(drawing, Qt::LeftButton, {}, to);
    EXPECT_GE(drawing->chosen().size(), 2U);
    EXPECT_LT(drawing->chosen().size(), 5U);
    EXPECT_FALSE(dialog.open({write("rubbish.csv", "rubbish")}));
}

/// What happens to the file beside the bench.
class DiskBench : public KinBench {
protected:
    void write_(Part p) { ASSERT_TRUE(savePart(p, file.toStdString())); }
    DiskWatch& disk() { return *window->findChild<DiskWatch*>(); }
};

TEST_F(DiskBench, AChangeBesideIsTakenOverAndCanBeUndone) {
    Part next = part();
    next.description = "another's words";
    write_(next);
    EXPECT_TRUE(disk().look());
    EXPECT_EQ(part().description, "another's words");
    EXPECT_FALSE(window->document().dirty());
    window->document().undo();
    EXPECT_NE(part().description, "another's words");
    EXPECT_TRUE(window->document().dirty()) << "saving it writes the old words again";
}

TEST_F(DiskBench, IsNoticedByItself) {
    Part next = part();
    next.notes = "written beside";
    write_(next);
    QTRY_COMPARE_WITH_TIMEOUT(part().notes, std::string("written beside"), 5000);
}

TEST_F(DiskBench, BothEditsAreJoined) {
    Part theirs = part(), mine = part();
    theirs.description = "theirs";
    mine.notes = "mine";
    window->document().apply("notes", mine);
    write_(theirs);
    ASSERT_TRUE(window->save()) << message().toStdString();
    EXPECT_EQ(part().description, "theirs");
    EXPECT_EQ(part().notes, "mine");
    EXPECT_EQ(*loadPart(file.toStdString()), part());
}

TEST_F(DiskBench, OfTwoWordsForOneFactTheUserDecides) {
    for (const auto choice : {DiskWatch::Choice::Wait, DiskWatch::Choice::Mine, DiskWatch::Choice::Theirs}) {
        window->openPath(file);
        Part theirs = part(), mine = part();
        const std::string own = "mine " + std::to_string(static_cast<int>(choice));
        const std::string there = "theirs " + std::to_string(static_cast<int>(choice));
        theirs.description = there;
        mine.description = own;
        mine.notes = own;
        window->document().apply("words", mine);
        write_(theirs);
        disk().setChoice(choice);
        EXPECT_EQ(window->save(), choice != DiskWatch::Choice::Wait);
        const Part now = *loadPart(file.toStdString());
        if (choice == DiskWatch::Choice::Wait) {
            EXPECT_EQ(now, theirs) << "nothing is written over";
            EXPECT_EQ(part(), mine) << "and nothing typed is lost";
            window->document().begin(*loadPart(file.toStdString()), file);
        } else {
            EXPECT_EQ(now.description, choice == DiskWatch::Choice::Mine ? own : there);
            EXPECT_EQ(now.notes, own);
        }
    }
}

TEST_F(DiskBench, AHalfWrittenFileTakesNothingAway) {
    const Part before = part();
    std::ofstream(file.toStdString()) << "{\"punchbit\": 2, \"name\"";
    EXPECT_TRUE(disk().look());
    EXPECT_EQ(part(), before);
    EXPECT_TRUE(message().contains("cannot be read")) << message().toStdString();
}

}  // namespace
}  // namespace punch::test
