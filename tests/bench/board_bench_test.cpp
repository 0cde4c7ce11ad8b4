// Trial boards, fit coupons and approval in their real windows.

#include <QMimeData>

#include "app/approval/approval_card.h"
#include "app/board/board_window.h"
#include "app/board/coupon_dialog.h"
#include "app/qt_text.h"
#include "core/part/file.h"
#include "core/verdicts/gauges.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class BoardBench : public BenchTest {
protected:
    void SetUp() override {
        BenchTest::SetUp();
        for (const char* name : {"QB-TB4", "HT-RM2", "PW-RS7", "FH-FID"}) {
            const auto part = loadPart(sourceFolder() + "/demo/fennel-house/" + name + ".punch");
            ASSERT_TRUE(part);
            write(QString(name) + ".punch", toText(*part));
        }
        file = folder.filePath("vents.board");
    }
    void open() {
        window->openBoard(file);
        board = window->board();
        ASSERT_NE(board, nullptr);
        ASSERT_TRUE(QTest::qWaitForWindowExposed(board));
        board->model().settle();
    }
    QString part(const char* name) { return folder.filePath(QString(name) + ".punch"); }
    void drag(QPointF from, QPointF to) {
        BoardSheet& sheet = board->sheet();
        QTest::mousePress(&sheet, Qt::LeftButton, {}, from.toPoint());
        for (int i = 1; i <= 4; ++i) {
            QMouseEvent move(QEvent::MouseMove, from + (to - from) * i / 4,
                             sheet.mapToGlobal(from + (to - from) * i / 4), Qt::NoButton, Qt::LeftButton, {});
            QApplication::sendEvent(&sheet, &move);
        }
        QTest::mouseRelease(&sheet, Qt::LeftButton, {}, to.toPoint());
    }
    template <class T>
    T* on(const QString& name) {
        T* found = board->findChild<T*>(name);
        EXPECT_NE(found, nullptr) << name.toStdString();
        return found;
    }
    QString file;
    BoardWindow* board = nullptr;
};

TEST_F(BoardBench, PartsAreDraggedTurnedAndJudged) {
    open();
    // From the list: pressed twice, or dropped where the mouse is.
    auto* parts = on<QListWidget>("boardParts");
    EXPECT_EQ(parts->count(), 4);
    board->addPart(part("QB-TB4"));
    QMimeData mime;
    mime.setUrls({QUrl::fromLocalFile(part("HT-RM2"))});
    const QPointF there = board->sheet().map({Length::fromMm(40), Length::fromMm(9)});
    QDragEnterEvent enter(there.toPoint(), Qt::CopyAction, &mime, Qt::LeftButton, {});
    QApplication::sendEvent(&board->sheet(), &enter);
    QDropEvent drop(there, Qt::CopyAction, &mime, Qt::LeftButton, {});
    QApplication::sendEvent(&board->sheet(), &drop);
    ASSERT_EQ(board->model().board().placings.size(), 2U);
    const Placing& relay = board->model().board().placings[1];
    EXPECT_EQ(relay.designator, "K1");
    EXPECT_NEAR(relay.at.x.mm(), 40, 0.2);
    EXPECT_NEAR(relay.at.y.mm(), 9, 0.2);
    // Dragged onto the other one the courtyards overlap, and it is said while nothing is saved by hand.
    const Point terminal = board->model().board().placings[0].at;
    board->sheet().choose({});
    drag(board->sheet().map(relay.at), board->sheet().map(terminal));
    board->model().settle();
    EXPECT_EQ(board->model().judgement().of(BoardCheck::Courtyards), GaugeState::NoGo);
    auto* findings = on<QListWidget>("boardFindings");
    bool said = false;
    for (int i = 0; i < findings->count(); ++i) said = said || findings->item(i)->text().contains("courtyards overlap");
    EXPECT_TRUE(said);
    EXPECT_EQ(loadBoard(file.toStdString())->placings[1].at, board->model().board().placings[1].at)
        << "kept as it is worked on";
    // One drag is one step back.
    board->model().undo();
    board->model().settle();
    EXPECT_NEAR(board->model().board().placings[1].at.y.mm(), 9, 0.2);
    EXPECT_NE(board->model().judgement().of(BoardCheck::Courtyards), GaugeState::NoGo);
    // Keys: a quarter turn, a tenth of a millimetre, the other side by the field.
    board->sheet().choose(board->model().board().placings[1].id);
    const Point before = board->model().board().placings[1].at;
    QTest::keyClick(&board->sheet(), Qt::Key_PageUp);
    QTest::keyClick(&board->sheet(), Qt::Key_Right);
    QTest::keyClick(&board->sheet(), Qt::Key_Up, Qt::ShiftModifier);
    EXPECT_EQ(board->model().board().placings[1].turn.degrees(), 90);
    EXPECT_NEAR((board->model().board().placings[1].at.x - before.x).mm(), 0.1, 1e-9);
    EXPECT_NEAR((board->model().board().placings[1].at.y - before.y).mm(), 1.0, 1e-9);
    on<QCheckBox>("chosenBottom")->click();
    EXPECT_TRUE(board->model().board().placings[1].bottom);
    QTest::keyClick(&board->sheet(), Qt::Key_Delete);
    EXPECT_EQ(board->model().board().placings.size(), 1U);
}

TEST_F(BoardBench, FieldsTakeNumbersAndRefuseNonsense) {
    open();
    board->addPart(part("QB-TB4"));
    const auto type = [&](const char* name, const QString& text) {
        auto* field = on<QLineEdit>(name);
        field->setFocus();
        field->selectAll();
        QTest::keyClick(field, Qt::Key_Delete);
        QTest::keyClicks(field, text);
        QTest::keyClick(field, Qt::Key_Return);
        return field;
    };
    type("chosenX", "1.5in");
    EXPECT_EQ(board->model().board().placings[0].at.x, Length::fromMm(38.1));
    type("chosenTurn", "33.5");
    EXPECT_EQ(board->model().board().placings[0].turn.degrees(), 33.5);
    for (const char* field : {"chosenX", "chosenTurn", "boardWidth", "boardThickness"}) {
        const TrialBoard before = board->model().board();
        EXPECT_TRUE(type(field, "much")->property("wrong").toBool()) << field;
        EXPECT_EQ(board->model().board(), before) << field;
    }
    type("boardWidth", "100");
    EXPECT_EQ(board->model().board().outline.width, Length::fromMm(100));
    const TrialBoard before = board->model().board();
    EXPECT_TRUE(type("boardHeight", "0")->property("wrong").toBool());
    EXPECT_EQ(board->model().board(), before);
    board->addPart(part("QB-TB4"));
    EXPECT_TRUE(type("chosenDesignator", "X1")->property("wrong").toBool()) << "it is there already";
    type("chosenDesignator", "X7");
    EXPECT_EQ(board->model().board().placings[1].designator, "X7");
    type("boardCorners", "0,0 100,0 100,60 40,60 40,85 0,85");
    EXPECT_EQ(board->model().board().outline.rings.front().size(), 6U);
    EXPECT_TRUE(type("boardCorners", "0,0 100")->property("wrong").toBool());
    EXPECT_EQ(board->model().board().outline.rings.front().size(), 6U);
    type("boardCorners", "");
    EXPECT_FALSE(board->model().board().outline.own());
    board->takeOutline(folder.filePath("gone.dxf"));
    EXPECT_FALSE(board->message().isEmpty());
}

TEST_F(BoardBench, HolesFiducialsFilesAndSpace) {
    open();
    board->addPart(part("HT-RM2"), Point{Length::fromMm(40), Length::fromMm(30)});
    click(on<QPushButton>("boardHole"));
    ASSERT_EQ(board->model().board().holes.size(), 1U);
    EXPECT_EQ(board->sheet().chosen(), board->model().board().holes[0].id);
    click(on<QPushButton>("boardFiducials"));
    EXPECT_EQ(board->model().board().fiducials.size(), 3U);
    board->model().settle();
    EXPECT_EQ(board->model().judgement().of(BoardCheck::Fiducials), GaugeState::Go);
    board->exportTo(folder.filePath("fab"));
    EXPECT_TRUE(QFile::exists(folder.filePath("fab/vents-placement.csv"))) << board->message().toStdString();
    EXPECT_TRUE(QFile::exists(folder.filePath("fab/vents-top-components.gbr")));
    board->exportTo("/proc/nowhere");
    EXPECT_TRUE(board->message().contains("Nothing was written"));
    board->space().settle();
    EXPECT_GT(board->space().pictures(), 0);
    // From below the part's place on the screen is mirrored.
    const QPointF above = board->sheet().map({Length::fromMm(10), Length::fromMm(30)});
    click(on<QPushButton>("boardFlip"));
    const QPointF below = board->sheet().map({Length::fromMm(10), Length::fromMm(30)});
    EXPECT_LT(above.x(), board->sheet().width() / 2.0);
    EXPECT_GT(below.x(), board->sheet().width() / 2.0);
}

TEST_F(BoardBench, WhatChangesInAPartsFileFollows) {
    open();
    board->addPart(part("QB-TB4"));
    board->model().settle();
    const Length hole = board->model().laid().all.pads[0].hole;
    Part wider = *loadPart(part("QB-TB4").toStdString());
    wider.overrides[kWholePart].hole = hole + Length::fromMm(0.2);
    ASSERT_TRUE(savePart(wider, part("QB-TB4").toStdString()));
    QTRY_VERIFY_WITH_TIMEOUT((board->model().settle(), board->model().laid().all.pads[0].hole > hole), 5000);
    EXPECT_NEAR(board->model().laid().all.pads[0].hole.mm(), hole.mm() + 0.2, 1e-9);
}

TEST_F(BoardBench, AFitCouponComesBack) {
    ASSERT_TRUE(window->openPath(part("QB-TB4")));
    const Length hole = window->document().footprint().pads[0].hole,
                 peg = window->document().footprint().bareHoles[0].size;
    CouponDialog dialog(window->document(), window->view());
    dialog.show();
    dialog.findChild<QSpinBox*>("couponWider")->setValue(3);
    dialog.writeTo(folder.filePath("coupon"));
    EXPECT_TRUE(QFile::exists(folder.filePath("coupon/QB-TB4_fit_coupon-plated.drl")))
        << dialog.message().toStdString();
    dialog.readBack(part("QB-TB4"));
    EXPECT_TRUE(dialog.message().contains("no fit coupon")) << dialog.message().toStdString();
    dialog.readBack(folder.filePath("coupon/QB-TB4_fit_coupon.coupon"));
    auto* take = dialog.findChild<QPushButton*>("couponTake");
    EXPECT_FALSE(take->isEnabled()) << "nothing is chosen yet";
    dialog.findChild<QPushButton*>("couponHoleF")->click();
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    dialog.findChild<QPushButton*>("couponPegB")->click();
    QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    take->click();
    EXPECT_NEAR(window->document().footprint().pads[0].hole.mm(), hole.mm() + 0.15, 1e-9)
        << dialog.message().toStdString();
    EXPECT_NEAR(window->document().footprint().bareHoles[0].size.mm(), peg.mm() - 0.05, 1e-9);
    window->document().undo();
    EXPECT_EQ(window->document().footprint().pads[0].hole, hole);
}

TEST_F(BoardBench, APartIsCheckedLetPassAndReleased) {
    QSettings().remove("approval/who");
    ASSERT_TRUE(window->openPath(part("HT-RM2")));
    window->view().setStation(Station::Release);
    const auto state = [&] { return standingOf(window->document().part(), window->document().footprint()); };
    ASSERT_FALSE(state().blocking.empty());
    const QString gauge = toQt(state().blocking[0].gauge);
    auto* who = find<QLineEdit>("approvalWho");
    who->clear();
    // Nobody: refused, and the field is marked.
    find<QPushButton>("approvalCheck")->click();
    EXPECT_EQ(state().stage, Stage::Draft);
    EXPECT_TRUE(who->property("wrong").toBool());
    who->setFocus();
    retype("I. Fennel");
    find<QPushButton>("approvalCheck")->click();
    EXPECT_EQ(state().stage, Stage::Checked);
    EXPECT_FALSE(find<QPushButton>("approvalRelease")->isEnabled()) << "a gauge blocks";
    for (const Blocking& b : state().blocking) {
        auto* reason = find<QLineEdit>("reason-" + toQt(b.gauge));
        reason->setFocus();
        QTest::keyClicks(reason, "a lacquer covers it");
        find<QPushButton>("pass-" + toQt(b.gauge))->click();
        QCoreApplication::sendPostedEvents(nullptr, QEvent::DeferredDelete);
    }
    EXPECT_TRUE(state().blocking.empty());
    auto* release = find<QPushButton>("approvalRelease");
    EXPECT_EQ(release->text(), "Release version 1");
    release->click();
    EXPECT_EQ(state().stage, Stage::Released) << message().toStdString();
    EXPECT_TRUE(find<QLabel>("approvalState")->text().contains("released, version 1"));
    // Saved, it is released when it is opened again; an edit makes a draft of it, and says what changed.
    ASSERT_TRUE(window->save());
    ASSERT_TRUE(window->openPath(part("HT-RM2")));
    EXPECT_EQ(state().stage, Stage::Released);
    Part edited = window->document().part();
    edited.rules.pegClearance += Length::fromMm(0.01);
    edited.rules.platedTolerance += Length::fromMm(0.05);
    window->document().apply("an edit", edited);
    EXPECT_EQ(state().stage, Stage::Draft);
    EXPECT_TRUE(find<QLabel>("approvalSince")->text().contains("Since version 1"))
        << find<QLabel>("approvalSince")->text().toStdString();
    window->document().undo();
    EXPECT_EQ(state().stage, Stage::Released);
}

TEST_F(BoardBench, WithoutOpenGlThePictureIsTakenAllTheSame) {
    const QString program = QCoreApplication::applicationDirPath() + "/../app/punchbit";
    if (!QFile::exists(program)) GTEST_SKIP() << "the program is not built";
    QProcess process;
    QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
    environment.insert("QT_QPA_PLATFORM", "offscreen");
    process.setProcessEnvironment(environment);
    process.start(program, {"--shot", folder.filePath("fit.png"), "--station", "Fit", part("HT-RM2")});
    ASSERT_TRUE(process.waitForFinished(60000));
    EXPECT_EQ(process.exitStatus(), QProcess::NormalExit);
    EXPECT_EQ(process.exitCode(), 0) << process.readAllStandardError().toStdString();
    EXPECT_FALSE(QImage(folder.filePath("fit.png")).isNull());
}

}  // namespace
}  // namespace punch::test
