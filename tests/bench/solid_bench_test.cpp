// Fit through the window: a body is brought in, stands, is turned and moved by hand, looked at in space; and files that
// are none leave the part as it was.

#include "app/solid/solid_list.h"
#include "app/solid/solid_view.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class SolidBench : public BenchTest {
protected:
    /// A copy of the demo's part without its body, and its STEP file elsewhere.
    void openWithout(const QString& name, const QString& step) {
        const QString demo = QString::fromStdString(sourceFolder()) + "/demo/fennel-house/";
        QDir(folder.path()).mkpath("elsewhere");
        file = folder.filePath("elsewhere/" + step);
        ASSERT_TRUE(QFile::copy(demo + name + "-sources/" + step, file));
        Part plain = *loadPart((demo + name + ".punch").toStdString());
        plain.solids.clear();
        plain.sources.clear();
        const QString path = folder.filePath(name + ".punch");
        ASSERT_TRUE(savePart(plain, path.toStdString()));
        ASSERT_TRUE(window->openPath(path));
        window->view().setStation(Station::Fit);
        QTest::qWait(50);
    }
    void bring(const QString& path) {
        window->bringInSolid(path);
        window->solids().settle();
        QTest::qWait(30);
    }
    const Gauge* gauge(const char* name) { return footprint().gauge(name); }
    QString file;
};

TEST_F(SolidBench, AFileIsKeptReadAndStoodAsOneStep) {
    openWithout("QB-TB4", "terminal.step");
    EXPECT_EQ(gauge("body-leads"), nullptr) << "nobody asked";
    bring(file);
    ASSERT_EQ(part().solids.size(), 1U);
    EXPECT_EQ(part().solids.front().name, "terminal");
    EXPECT_TRUE(QFile::exists(folder.filePath(toQt(part().solids.front().file)))) << "kept beside the part";
    ASSERT_NE(gauge("body-leads"), nullptr);
    EXPECT_EQ(gauge("body-leads")->state, GaugeState::Go);
    ASSERT_NE(window->solids().mesh(part().solids.front().id), nullptr);
    EXPECT_TRUE(find<QLabel>("solidStands")->text().startsWith("All 5 leads stand in their holes."));
    // One step back, and again.
    const Part with = part();
    window->document().undo();
    EXPECT_TRUE(part().solids.empty());
    window->document().redo();
    EXPECT_EQ(part(), with);
    // Saved under another name it takes its body along.
    QDir(folder.path()).mkpath("other");
    ASSERT_TRUE(window->document().saveAs(folder.filePath("other/QB-TB4.punch")));
    EXPECT_TRUE(QFile::exists(folder.filePath("other/" + toQt(part().solids.front().file))));
    click(find<QPushButton>("solidRemove " + toQt(part().solids.front().id)));
    EXPECT_TRUE(part().solids.empty());
}

TEST_F(SolidBench, ASymmetricalOneAsksWhichWayIsMeantAndTheBentLeadIsNamed) {
    openWithout("PW-RS7", "socket.step");
    bring(file);
    ASSERT_EQ(part().solids.size(), 1U);
    EXPECT_TRUE(find<QLabel>("solidStands")->text().contains("Lead 4 stands off: 0.40 mm"));
    EXPECT_TRUE(find<QLabel>("solidWaysWords")->text().contains("as well in 2 ways"));
    EXPECT_EQ(gauge("body-leads")->state, GaugeState::NoGo);
    auto* ways = find<QComboBox>("solidWays");
    EXPECT_TRUE(ways->itemText(1).startsWith("as good"));
    ways->setCurrentIndex(1);
    emit ways->activated(1);
    EXPECT_EQ(gauge("body-leads")->words, "1 does not go in") << "turned by half, the bent one stands in hole 1";
}

TEST_F(SolidBench, ByHandItIsTurnedAboutEachAxisAndStoodAgain) {
    openWithout("QB-TB4", "terminal.step");
    bring(file);
    const Part stood = part();
    click(find<QPushButton>("solidTurnZ"));
    EXPECT_FALSE(part().solids.front().byLeads);
    EXPECT_NEAR(std::remainder(part().solids.front().turn - footprint().solids.front().turn, 360), 0, 1e-6);
    EXPECT_EQ(gauge("body-leads")->state, GaugeState::NoGo);
    // Four times is once around: numbers as before.
    for (int i = 0; i < 3; ++i) click(find<QPushButton>("solidTurnZ"));
    EXPECT_EQ(gauge("body-leads")->state, GaugeState::Go);
    const Pose before = derive(stood).solids.front().pose, after_ = footprint().solids.front().pose;
    EXPECT_NEAR(norm(before.move - after_.move), 0, 1e-5);
    // On its side it stands on other leads or none, and its middle stays about where it was.
    for (const char* axis : {"solidTurnX", "solidTurnY"}) {
        click(find<QPushButton>(axis));
        EXPECT_NE(gauge("body-leads")->state, GaugeState::Go) << axis;
    }
    click(find<QPushButton>("solidByLeads"));
    EXPECT_TRUE(part().solids.front().byLeads);
    EXPECT_EQ(gauge("body-leads")->state, GaugeState::Go);
    EXPECT_NEAR(norm(footprint().solids.front().pose.move - before.move), 0, 1e-5);
}

TEST_F(SolidBench, WhereItStandsIsTypedAsNumbers) {
    openWithout("QB-TB4", "terminal.step");
    bring(file);
    const Pose before = footprint().solids.front().pose;
    auto* x = find<QLineEdit>("solidX");
    x->setFocus();
    x->selectAll();
    QTest::keyClicks(
        x, "0.3 + " + QString::number(after(before, inverse(standingPose(part().solids.front()))).move.x, 'f', 6));
    QTest::keyClick(x, Qt::Key_Return);
    EXPECT_NEAR(footprint().solids.front().pose.move.x - before.move.x, 0.3, 1e-4);
    EXPECT_FALSE(part().solids.front().byLeads);
    EXPECT_EQ(gauge("body-leads")->state, GaugeState::NoGo) << "three tenths are too much";
    auto* angle = find<QLineEdit>("solidTurned");
    angle->setFocus();
    angle->selectAll();
    QTest::keyClicks(angle, "12.5");
    QTest::keyClick(angle, Qt::Key_Return);
    EXPECT_NEAR(footprint().solids.front().turn, 12.5, 1e-6);
    angle = find<QLineEdit>("solidTurned");
    angle->setFocus();
    angle->selectAll();
    QTest::keyClicks(angle, "left");
    QTest::keyClick(angle, Qt::Key_Return);
    EXPECT_TRUE(window->message().contains("no angle"));
    EXPECT_NEAR(footprint().solids.front().turn, 12.5, 1e-6);
    auto* lift = find<QLineEdit>("solidLiftBy");
    lift->setFocus();
    lift->selectAll();
    QTest::keyClicks(lift, "20mil");
    QTest::keyClick(lift, Qt::Key_Return);
    EXPECT_NEAR(footprint().solids.front().lift.mm(), 0.508, 1e-9);
    click(find<QPushButton>("solidByLeads"));
    EXPECT_NEAR(norm(footprint().solids.front().pose.move - before.move), 0, 1e-5);
}

TEST_F(SolidBench, ItsLeadsBecomeReadingsAtAPress) {
    openWithout("QB-TB4", "terminal.step");
    bring(file);
    const std::size_t before = part().readings.size();
    click(find<QPushButton>("solidTake " + toQt(part().solids.front().id)));
    EXPECT_GT(part().readings.size(), before + 10);
    EXPECT_TRUE(window->message().contains("all agree")) << window->message().toStdString();
    EXPECT_EQ(gauge("readings")->state, GaugeState::Go);
    window->document().undo();
    EXPECT_EQ(part().readings.size(), before);
}

TEST_F(SolidBench, WhatIsNoneIsSaidAndThePartStaysAsItWas) {
    openWithout("QB-TB4", "terminal.step");
    const Part before = part();
    bring(write("letter.step", "Dear reader,\n"));
    EXPECT_EQ(part(), before);
    EXPECT_TRUE(window->message().contains("no STEP file")) << window->message().toStdString();
    QFile whole(file);
    ASSERT_TRUE(whole.open(QIODevice::ReadOnly));
    const QByteArray half = whole.readAll().left(static_cast<qsizetype>(whole.size() / 3));
    bring(write("half.step", half.toStdString()));
    EXPECT_EQ(part(), before);
    EXPECT_FALSE(window->message().isEmpty());
    // Ended while it goes on.
    window->bringInSolid(file);
    window->solids().cancel();
    window->solids().settle();
    EXPECT_TRUE(part() == before || part().solids.size() == 1) << "ended, or already done";
    bring(file);
    EXPECT_FALSE(part().solids.empty()) << "what was ended does not keep it from the next";
}

TEST_F(SolidBench, AFileThatChangesIsSaidAndFoundAnew) {
    openWithout("QB-TB4", "terminal.step");
    bring(file);
    ASSERT_TRUE(window->document().save());
    const QString kept = folder.filePath(toQt(part().solids.front().file));
    QFile::remove(kept);
    ASSERT_TRUE(
        QFile::copy(QString::fromStdString(sourceFolder()) + "/demo/fennel-house/PW-RS7-sources/socket.step", kept));
    window->openPath(folder.filePath("QB-TB4.punch"));
    window->view().setStation(Station::Fit);
    window->solids().settle();
    QTest::qWait(50);
    EXPECT_EQ(window->solids().trouble(part().solids.front().id), QString());
    EXPECT_TRUE(window->solids().fileChanged(part().solids.front().id));
    EXPECT_EQ(gauge("body-leads")->state, GaugeState::Go) << "judged as it was read";
    click(find<QPushButton>("solidAgain"));
    EXPECT_FALSE(window->solids().fileChanged(part().solids.front().id));
    EXPECT_NE(gauge("body-leads")->state, GaugeState::Go);
    // Gone altogether it is said, and judged as it was read.
    QFile::remove(kept);
    window->openPath(folder.filePath("QB-TB4.punch"));
    window->view().setStation(Station::Fit);
    window->solids().settle();
    EXPECT_FALSE(window->solids().trouble(part().solids.front().id).isEmpty());
    EXPECT_EQ(gauge("body-leads")->state, GaugeState::Go);
}

TEST_F(SolidBench, PiecesStandInSpaceAsTheyAreTyped) {
    openWithout("QB-TB4", "terminal.step");
    window->view().setStation(Station::Dress);
    QTest::qWait(30);
    auto* add = find<QAction>("add piece");
    add->trigger();
    window->solids().settle();
    ASSERT_NE(window->solids().pieces(), nullptr);
    // As wide as the body, from the board to five above it.
    const Box3 box = boundsOf(*window->solids().pieces());
    EXPECT_NEAR(box.low.x, footprint().body->rect.left.mm(), 1e-5);
    EXPECT_NEAR(box.high.z, 5, 1e-6);
    const std::string id = part().marks.back().id;
    window->document().apply("higher", *withMarkValue(part(), id, "high", "body.height"));
    window->solids().settle();
    EXPECT_NEAR(boundsOf(*window->solids().pieces()).high.z, footprint().body->height.mm(), 1e-6);
    EXPECT_EQ(window->solids().busy(), QString()) << "no file is read for it";
    // The standoff lifts it with the body.
    Part lifted = part();
    lifted.body.standoff = Length::fromMm(1.5);
    window->document().apply("standoff", lifted);
    window->solids().settle();
    EXPECT_NEAR(boundsOf(*window->solids().pieces()).low.z, 1.5, 1e-6);
    window->document().apply("gone", withoutMark(part(), id));
    window->solids().settle();
    EXPECT_EQ(window->solids().pieces(), nullptr);
}

TEST_F(SolidBench, InSpaceAClickPointsAtALeadAndTheBodyLiftsOff) {
    window->openPath(QString::fromStdString(sourceFolder() + "/demo/fennel-house/QB-TB4.punch"));
    window->view().setStation(Station::Fit);
    window->solids().settle();
    QTest::qWait(100);
    SolidView& view = window->solidView();
    ASSERT_TRUE(view.isVisible());
    if (!view.works()) GTEST_SKIP() << "no OpenGL here";
    view.look(SeenFrom::Above);
    QTest::qWait(30);
    const Pad* pad = footprint().pad("p2");
    const QPointF at = view.onScreen({pad->at.x.mm(), pad->at.y.mm(), 0});
    QTest::mouseClick(&view, Qt::LeftButton, Qt::NoModifier, at.toPoint());
    EXPECT_EQ(window->view().first(), "p2") << "shared with the sheet";
    // Seen from below x runs the other way.
    const QPointF above1 = view.onScreen({0, 0, 0}), above2 = view.onScreen({5, 0, 0});
    view.look(SeenFrom::Below);
    EXPECT_GT(above2.x(), above1.x());
    EXPECT_LT(view.onScreen({0, 5, 0}).y() - view.onScreen({0, 0, 0}).y(), 1e9);
    // From the front the body stands over the board; lifted it leaves it.
    view.look(SeenFrom::Front);
    QTest::qWait(30);
    const Rect body = footprint().body->rect;
    const QPointF low = view.onScreen({body.middle().x.mm(), body.bottom.mm(), 1});
    const QColor there = view.grabFramebuffer().pixelColor(low.toPoint() * view.devicePixelRatio());
    view.setLift(12);
    QTest::qWait(30);
    const QColor lifted = view.grabFramebuffer().pixelColor(low.toPoint() * view.devicePixelRatio());
    EXPECT_NE(there, lifted);
    EXPECT_EQ(lifted, theme::kPaper);
    // Turned with the mouse, drawn anew.
    const int before = view.pictures();
    QTest::mousePress(&view, Qt::LeftButton, Qt::NoModifier, {200, 200});
    QTest::mouseMove(&view, {260, 240});
    QTest::mouseRelease(&view, Qt::LeftButton, Qt::NoModifier, {260, 240});
    QTest::qWait(30);
    EXPECT_GT(view.pictures(), before);
    // And back to the sheet.
    click(find<QPushButton>("toFlat"));
    EXPECT_FALSE(view.isVisible());
    EXPECT_TRUE(window->sheet().isVisible());
    click(find<QPushButton>("toSpace"));
    EXPECT_TRUE(view.isVisible());
}

}  // namespace
}  // namespace punch::test
