// Fit through the window: a body is brought in, stands, is turned and moved by hand, looked at in space; and files that
// are none leave the part as it was.

#include "app/solid/solid_list.h"
#include "app/solid/solid_view.h"
#include "core/part/edit.h"
#include "core/part/mark_kinds.h"
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

/// The demo's selector, seen in space.
class SpaceBench : public SolidBench {
protected:
    void SetUp() override {
        SolidBench::SetUp();
        // A copy: what is tried on it is not the demo's.
        const QString demo = QString::fromStdString(sourceFolder()) + "/demo/fennel-house/";
        QDir(folder.path()).mkpath("HT-SEL6-sources");
        ASSERT_TRUE(QFile::copy(demo + "HT-SEL6.punch", folder.filePath("HT-SEL6.punch")));
        ASSERT_TRUE(
            QFile::copy(demo + "HT-SEL6-sources/selector.step", folder.filePath("HT-SEL6-sources/selector.step")));
        ASSERT_TRUE(window->openPath(folder.filePath("HT-SEL6.punch")));
        window->view().setStation(Station::Fit);
        window->solids().settle();
        // Without OpenGL nothing is ever drawn.
        if (QTest::qWaitFor([&] { return view().pictures() > 0; }, 10000)) drawn();
        if (!view().works()) GTEST_SKIP() << "no OpenGL here";
    }
    SolidView& view() { return window->solidView(); }
    /// Waits until what is there now was drawn, however slow the machine is.
    void drawn() {
        QTest::qWait(10);
        const int before = view().pictures();
        view().update();
        EXPECT_TRUE(QTest::qWaitFor([&] { return view().pictures() > before; }, 30000));
    }
    std::shared_ptr<const Solid> mesh() { return window->solids().mesh(part().solids.front().id); }
    Pose pose() { return footprint().solids.front().pose; }
    int body(const char* name) {
        const auto& all = mesh()->bodies;
        for (std::size_t i = 0; i < all.size(); ++i)
            if (all[i].name == name) return static_cast<int>(i);
        ADD_FAILURE() << name;
        return -1;
    }
    /// The middle of the highest flat face of a body that looks up, on the board.
    Vec3 top(int of) {
        Vec3 best{0, 0, -1e9};
        for (const SolidFace& f : mesh()->faces) {
            if (f.body != of || f.kind != SurfaceKind::Plane || pose().turned(f.axis).z < 0.99) continue;
            Box3 box;
            for (int i = f.first; i < f.first + f.count; ++i) {
                const Triangle& t = mesh()->triangles[static_cast<std::size_t>(i)];
                for (const int c : {t.a, t.b, t.c}) box.add(pose()(mesh()->corners[static_cast<std::size_t>(c)]));
            }
            const Vec3 middle = 0.5 * (box.low + box.high);
            if (middle.z > best.z) best = middle;
        }
        return best;
    }
    void press(Vec3 at) { QTest::mouseClick(&view(), Qt::LeftButton, Qt::NoModifier, view().onScreen(at).toPoint()); }
    void drag(QPointF from, QPointF to) {
        QTest::mousePress(&view(), Qt::LeftButton, Qt::NoModifier, from.toPoint());
        for (int i = 1; i <= 8; ++i) QTest::mouseMove(&view(), (from + i / 8.0 * (to - from)).toPoint());
        QTest::mouseRelease(&view(), Qt::LeftButton, Qt::NoModifier, to.toPoint());
        drawn();
    }
};

TEST_F(SpaceBench, AKnobIsTurnedByTheMouseThroughItsRangeAndNoFarther) {
    ASSERT_EQ(view().movers().size(), 1U);
    EXPECT_EQ(view().movers().front().name, "knob");
    view().look(SeenFrom::Above);
    drawn();
    const Vec3 axis = view().movers().front().motion.at, knob = top(body("knob"));
    const QPointF o = view().onScreen({axis.x, axis.y, knob.z});
    const double before = view().onScreen({axis.x + 10, axis.y, knob.z}).x();
    // From right to rear: a quarter, counter-clockwise seen from above.
    drag(o + QPointF(60, 0), o + QPointF(0, -60));
    const double sign = pose().turned(part().solids.front().motions.front().motion.axis).z;
    EXPECT_NEAR(view().moved(0) * sign, 90, 4);
    EXPECT_EQ(view().onScreen({axis.x + 10, axis.y, knob.z}).x(), before)
        << "what is dragged is the knob, not the view";
    EXPECT_TRUE(find<QLabel>("solidMovedWords")->text().startsWith("knob "));
    // On and on: it ends where its range does.
    drag(o + QPointF(0, -60), o + QPointF(-60, 0));
    drag(o + QPointF(-60, 0), o + QPointF(0, 60));
    const Motion& range = view().movers().front().motion;
    EXPECT_NEAR(std::abs(view().moved(0)), std::max(std::abs(range.from), std::abs(range.to)), 1e-9);
    find<QSlider>("solidMoved")->setValue(500);
    EXPECT_NEAR(view().moved(0), (range.from + range.to) / 2, 0.2);
}

TEST_F(SpaceBench, ItsRangeIsTypedAndWhatMovesIsChosen) {
    const int knob = body("knob");
    auto* to = find<QLineEdit>(qPrintable(QString("solidMove to %1").arg(knob)));
    to->setText("abc");
    to->setModified(true);
    emit to->editingFinished();
    EXPECT_TRUE(message().contains("is none"));
    const Part before = part();
    to = find<QLineEdit>(qPrintable(QString("solidMove to %1").arg(knob)));
    to->setText("200");
    to->setModified(true);
    emit to->editingFinished();
    window->solids().settle();
    EXPECT_EQ(part().solids.front().motions.front().motion.to, 200);
    // Beyond the room that was kept for it.
    ASSERT_NE(gauge("moving-parts"), nullptr);
    EXPECT_EQ(gauge("moving-parts")->state, GaugeState::NoGo);
    window->document().undo();
    EXPECT_EQ(part(), before);
    EXPECT_EQ(gauge("moving-parts")->state, GaugeState::Go) << gauge("moving-parts")->words;
    click(find<QPushButton>(qPrintable(QString("solidStill %1").arg(knob))));
    EXPECT_EQ(gauge("moving-parts"), nullptr);
    drawn();
    EXPECT_TRUE(view().movers().empty());
    auto* moves = find<QComboBox>("solidMoves");
    emit moves->activated(body("shaft") + 1);
    window->solids().settle();
    ASSERT_EQ(part().solids.front().motions.size(), 1U);
    EXPECT_EQ(part().solids.front().motions.front().name, "shaft");
    EXPECT_TRUE(part().solids.front().motions.front().motion.turns) << "it is round";
}

TEST_F(SpaceBench, LengthsAreMeasuredBetweenFacesByTwoClicks) {
    view().look(SeenFrom::Above);
    drawn();
    click(find<QPushButton>("solidMeasure"));
    const Vec3 knob = top(body("knob")), housing = top(body("housing"));
    press(knob);
    EXPECT_FALSE(view().measure());
    // A corner of the housing that the knob leaves free.
    const Rect r = footprint().body->rect;
    press({r.left.mm() + 0.8, r.top.mm() - 0.8, housing.z});
    ASSERT_TRUE(view().measure());
    ASSERT_TRUE(view().measure()->length);
    EXPECT_NEAR(*view().measure()->length, knob.z - housing.z, 1e-6);
    // Beside the body there is nothing to measure; Esc ends it, and clicks point again.
    press({r.right.mm() + 200, 0, 0});
    EXPECT_TRUE(message().contains("no face"));
    QTest::keyClick(&view(), Qt::Key_Escape);
    EXPECT_FALSE(view().measure());
    EXPECT_FALSE(find<QPushButton>("solidMeasure")->isChecked());
    view().look(SeenFrom::Below);
    drawn();
    const Pad* pad = footprint().pad("p2");
    press({pad->at.x.mm(), pad->at.y.mm(), 0});
    EXPECT_EQ(window->view().first(), "p2");
}

TEST_F(SpaceBench, TheCutIsDraggedByItsHandleAlongEachAxis) {
    for (const int axis : {0, 1, 2}) {
        view().look(SeenFrom::Slanted);
        view().setCutAxis(axis);
        view().setCut(0.4);
        drawn();
        ASSERT_TRUE(view().cut());
        EXPECT_EQ(view().cut()->axis, axis);
        const double before = view().cut()->at;
        const Vec3 way = axis == 0 ? Vec3{1, 0, 0} : axis == 1 ? Vec3{0, 1, 0} : Vec3{0, 0, 1};
        const QPointF from = view().cutHandleAt();
        // Two millimetres along the axis, as they are seen.
        const QPointF by = view().onScreen(2.0 * way) - view().onScreen({});
        drag(from, from + by);
        EXPECT_NEAR(view().cut()->at, before + 2, 0.25) << axis;
    }
    view().setCut(0);
    EXPECT_FALSE(view().cut());
    // Its button goes around the sides.
    auto* from = find<QPushButton>("solidCutFrom");
    const QString words = from->text();
    click(from);
    EXPECT_NE(from->text(), words);
}

TEST_F(SpaceBench, ItLiesOnAFaceThatIsClickedAndIsCentredOnWhatIsChosen) {
    const double seat = part().solids.front().seat;
    view().look(SeenFrom::Below);
    drawn();
    click(find<QPushButton>("solidSeat"));
    EXPECT_FALSE(window->solids().faceWanted().empty());
    // From below through the board: the housing's underside, which it stood on before.
    const Rect r = footprint().body->rect;
    press({r.left.mm() + 0.8, r.top.mm() - 0.8, 0});
    EXPECT_TRUE(window->solids().faceWanted().empty());
    EXPECT_TRUE(part().solids.front().seatSet);
    EXPECT_NEAR(part().solids.front().seat, seat, 1e-6);
    EXPECT_EQ(gauge("body-leads")->state, GaugeState::Go);
    // Esc leaves it.
    click(find<QPushButton>("solidSeat"));
    QTest::keyClick(&view(), Qt::Key_Escape);
    EXPECT_TRUE(window->solids().faceWanted().empty());
    // Without anything chosen it says what to choose.
    window->view().choose({}, {});
    click(find<QPushButton>("solidCentre"));
    EXPECT_TRUE(message().contains("Choose pins"));
    window->view().choose("p1", "p2");
    click(find<QPushButton>("solidCentre"));
    const Point a = footprint().pad("p1")->at, b = footprint().pad("p2")->at;
    const Point middle = boundsOf(footprint().solids.front().outline).middle();
    EXPECT_NEAR(middle.x.mm(), (a.x + b.x).mm() / 2, 2e-3);
    EXPECT_NEAR(middle.y.mm(), (a.y + b.y).mm() / 2, 2e-3);
}

TEST_F(SpaceBench, APictureIsAsItIsSeenAtAnySize) {
    view().look(SeenFrom::Above);
    drawn();
    const auto picture = view().picture(500, 400);
    ASSERT_TRUE(picture) << picture.error().text();
    EXPECT_EQ(picture->width, 500);
    EXPECT_EQ(picture->height, 400);
    // The middle of what is seen lies in its middle: the knob, and in a corner paper.
    const auto at = [&](int x, int y) {
        const auto i = static_cast<std::size_t>((y * 500 + x) * 3);
        return QColor(picture->pixels[i], picture->pixels[i + 1], picture->pixels[i + 2]);
    };
    EXPECT_EQ(at(3, 3), theme::kPaper);
    EXPECT_NE(at(250, 200), theme::kPaper);
    EXPECT_FALSE(view().picture(4, 4));
    const QString png = folder.filePath("view.png");
    ASSERT_TRUE(window->savePicture(png, {640, 480}));
    const QImage saved(png);
    EXPECT_EQ(saved.size(), QSize(640, 480));
    // In another station it is the sheet.
    window->view().setStation(Station::Place);
    QTest::qWait(50);
    ASSERT_TRUE(window->savePicture(png, {320, 200}));
    EXPECT_EQ(QImage(png).size(), QSize(320, 200));
    EXPECT_FALSE(window->savePicture(folder.filePath("no/such/folder/a.png"), {320, 200}));
}

TEST_F(SpaceBench, APieceIsChosenByAClickAndADomeFollowsItsMark) {
    Mark post = newMark(MarkKind::Piece);
    post.name = "post";
    post.points = {{{kDatumFeature, HoldAt::Middle, "20"}, {kDatumFeature, HoldAt::Middle, "0"}}};
    post.set = {{"form", "circle"},    {"diameter", "4"},   {"high", "6"},
                {"is", "moving part"}, {"motion", "rises"}, {"by", "2"}};
    window->document().apply("post", withMark(part(), post));
    window->solids().settle();
    drawn();
    view().look(SeenFrom::Above);
    drawn();
    const Point at = footprint().laid.back().points.front();
    ASSERT_EQ(view().movers().size(), 2U);
    press({at.x.mm(), at.y.mm(), 6});
    EXPECT_EQ(window->view().mark(), part().marks.back().id);
    // Seen from the front it is pulled up by the mouse.
    view().look(SeenFrom::Front);
    drawn();
    const QPointF from = view().onScreen({at.x.mm(), at.y.mm() - 2, 5}),
                  to = view().onScreen({at.x.mm(), at.y.mm() - 2, 6.5});
    drag(from, to);
    EXPECT_NEAR(view().moved(1), 1.5, 0.2);
}

}  // namespace
}  // namespace punch::test
