// Undo, files and recovery.

#include "app/document.h"

#include "core/base/atomic_file.h"
#include "core/part/file.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

TEST_F(BenchTest, WorkSurvivesAKill) {
    const QString path = folder.filePath("a.punch");
    ASSERT_TRUE(savePart(demoPart(), path.toStdString()));
    {
        Document killed;
        ASSERT_TRUE(killed.load(path));
        Part next = killed.part();
        next.notes = "typed a moment ago";
        killed.apply("notes", next);
        QTest::qWait(1300);  // the recovery copy follows a change within a second
    }                        // gone without a save
    EXPECT_FALSE(Document::recoverable(path).isEmpty());
    ASSERT_TRUE(window->openPath(path));
    EXPECT_NE(part().notes, "typed a moment ago");
    auto* take = find<QPushButton>("takeRecovery");
    ASSERT_TRUE(take->isVisible());
    take->click();
    EXPECT_EQ(part().notes, "typed a moment ago");
    EXPECT_TRUE(window->document().dirty());
    EXPECT_TRUE(window->save());
    EXPECT_TRUE(Document::recoverable(path).isEmpty()) << "saved: nothing to recover";
}

TEST_F(BenchTest, ANewPartSurvivesAKill) {
    {
        Document killed;
        killed.begin(*newRow(7));
        Part next = withReading(killed.part(), reading("p1", "p7", Contact::Outside, Axis::Along, {16}));
        killed.apply("reading", next);
        killed.writeRecoveryNow();
    }
    window->home();
    auto* take = find<QPushButton>("takeRecovery");
    ASSERT_TRUE(take->isVisible());
    take->click();
    ASSERT_TRUE(window->document().open());
    EXPECT_EQ(part().formations[0].pins.size(), 7u);
    Document::dropRecoveryOf({});
}

TEST_F(BenchTest, AFailedSaveKeepsEverything) {
    const QString path = folder.filePath("a.punch");
    ASSERT_TRUE(savePart(demoPart(), path.toStdString()));
    ASSERT_TRUE(window->openPath(path));
    Part next = part();
    next.notes = "new";
    window->document().apply("notes", next);
    EXPECT_FALSE(window->saveAs(folder.filePath("missing/b.punch")));
    EXPECT_NE(window->message().indexOf("Not saved"), -1);
    EXPECT_EQ(part().notes, "new");
    EXPECT_EQ(window->document().path(), path);
    EXPECT_TRUE(window->document().dirty());
    EXPECT_EQ(*loadPart(path.toStdString()), demoPart());
}

TEST_F(BenchTest, ABrokenFileLeavesTheBenchAsItWas) {
    const QString path = folder.filePath("a.punch");
    ASSERT_TRUE(savePart(demoPart(), path.toStdString()));
    ASSERT_TRUE(window->openPath(path));
    const QString broken = folder.filePath("b.punch");
    ASSERT_TRUE(writeAtomically(broken.toStdString(), "{\"punchbit\":1,"));
    EXPECT_FALSE(window->openPath(broken));
    EXPECT_NE(window->message().indexOf("not complete JSON"), -1);
    EXPECT_EQ(part(), demoPart());
    window->home();
    auto* list = find<QListWidget>("library");
    ASSERT_EQ(list->count(), 2);
    EXPECT_EQ(list->item(1)->data(Qt::UserRole + 2).toString(), "unreadable");
}

TEST_F(BenchTest, TypingIsOneStepOfUndo) {
    Document document;
    document.begin(*newRow(2));
    for (const char* text : {"a", "ab", "abc"}) {
        Part next = document.part();
        next.notes = text;
        document.applyTyping("notes", next);
    }
    EXPECT_EQ(document.part().notes, "abc");
    document.undo();
    EXPECT_EQ(document.part().notes, "");
    document.redo();
    EXPECT_EQ(document.part().notes, "abc");
    document.apply("nothing", document.part());
    EXPECT_EQ(document.undoName(), "notes") << "no change is no step";
}

}  // namespace
}  // namespace punch::test
