// Marks on the bench: added from the list, set in place, dragged by their handles, pointed at features, taken off.

#include <QCheckBox>
#include <QComboBox>

#include "core/dress/mark_scene.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class Marks : public BenchTest {
protected:
    void SetUp() override {
        BenchTest::SetUp();
        window->openPath(QString::fromStdString(sourceFolder() + "/demo/fennel-house/QB-TB4.punch"));
        window->view().setStation(Station::Dress);
        QTest::qWait(30);
    }
    void addMark(const char* kind) {
        auto* action = window->findChild<QAction*>(QString("add ") + kind);
        ASSERT_NE(action, nullptr);
        action->trigger();
        QTest::qWait(10);
    }
    const LaidMark& laid() { return footprint().laid.back(); }
    void type(const QString& field, const QString& text) {
        auto* edit = find<QLineEdit>(field);
        ASSERT_NE(edit, nullptr) << field.toStdString();
        edit->setFocus();
        edit->selectAll();
        QTest::keyClicks(edit, text);
        QTest::keyClick(edit, Qt::Key_Return);
    }
    QPoint on(Point p) { return window->sheet().transform().map(p).toPoint(); }
    void drag(QPoint from, QPoint to) {
        QWidget* sheet = &window->sheet();
        QTest::mousePress(sheet, Qt::LeftButton, {}, from);
        for (int i = 1; i <= 4; ++i) QTest::mouseMove(sheet, from + (to - from) * i / 4, 5);
        QTest::mouseRelease(sheet, Qt::LeftButton, {}, to);
    }
};

TEST_F(Marks, ALandmarkIsMadeSetAndTakenOff) {
    addMark("landmark");
    ASSERT_EQ(part().marks.size(), 2U);
    EXPECT_EQ(window->view().mark(), part().marks.back().id);
    type("markName", "coil");
    type("off.x0", "0.5");
    type("off.x1", "-pitch");
    EXPECT_EQ(part().marks.back().name, "coil");
    EXPECT_NEAR((laid().points[0].x - footprint().body->rect.left).mm(), 0.5, 1e-6);
    EXPECT_NEAR((footprint().body->rect.right - laid().points[1].x).mm(), 5.08, 1e-6);
    // What is wrong stays, marked, and changes nothing.
    const Part before = part();
    type("off.y0", "2 +");
    EXPECT_EQ(part(), before);
    EXPECT_TRUE(find<QLineEdit>("off.y0")->property("wrong").toBool());
    EXPECT_EQ(find<QLineEdit>("off.y0")->text(), "2 +");
    key(Qt::Key_Escape);
    // A name that the part does not have is asked of the mark.
    type("off.y0", "plitch");
    EXPECT_NE(laid().wrong.find("plitch"), std::string::npos);
    EXPECT_EQ(footprint().gauge("marks")->state, GaugeState::NoGo);
    type("off.y0", "1");
    EXPECT_EQ(laid().wrong, "");
    click(find<QPushButton>("removeMark"));
    EXPECT_EQ(part().marks.size(), 1U);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(part().marks.size(), 2U) << "and comes back";
}

TEST_F(Marks, TheChainLeadsToTheReadingsBehindAPlace) {
    addMark("landmark");
    window->view().setChainOf(ChainOf::Y);
    QTest::qWait(20);
    // y of the body's front edge: its readings, the body, and how far away.
    bool body = false, reading = false;
    for (const QWidget* row : window->findChildren<QWidget*>()) {
        if (!row->isVisible()) continue;
        body = body || row->accessibleName().startsWith("body, its front edge");
        reading = reading || row->accessibleName().contains("body to pin") ||
                  row->accessibleName().contains("rear face to pin 1") || row->accessibleName().startsWith("body, ");
    }
    EXPECT_TRUE(body);
    EXPECT_TRUE(reading);
    EXPECT_FALSE(find<QPushButton>("chain-hole")->isEnabled());
    window->view().setMark({});
    QTest::qWait(20);
    EXPECT_TRUE(find<QPushButton>("chain-hole")->isEnabled());
}

TEST_F(Marks, APlaceIsDraggedAndKeepsWhatItHoldsOn) {
    addMark("landmark");
    const Point from = laid().points[0];
    const Hold before = part().marks.back().points[0].x;
    drag(on(from), on({from.x + Length::fromMm(2), from.y + Length::fromMm(1)}));
    const Anchored now = part().marks.back().points[0];
    EXPECT_EQ(now.x.of, before.of);
    EXPECT_EQ(now.x.at, before.at);
    EXPECT_NEAR((laid().points[0].x - from.x).mm(), 2, 0.06);
    EXPECT_NEAR((laid().points[0].y - from.y).mm(), 1, 0.06);
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(laid().points[0], from) << "the whole drag is one step";
}

TEST_F(Marks, PointingAtFeaturesGivesPlacesThatHoldOnThem) {
    addMark("drawing");
    click(find<QPushButton>("pointAtPlaces"));
    ASSERT_TRUE(window->view().placing());
    clickFeature("p2");
    clickFeature("p3");
    ASSERT_EQ(part().marks.back().points.size(), 4U);
    EXPECT_EQ(part().marks.back().points[2].x.of, "p2");
    EXPECT_EQ(part().marks.back().points[3].y.of, "p3");
    EXPECT_EQ(laid().points[3], footprint().pad("p3")->at);
    // On the body and beside it a place holds on its nearest faces, as far from them as was pointed at.
    const Rect box = footprint().courtyard, body = footprint().body->rect;
    const Point beside{box.left - Length::fromMm(0.8), box.top};
    QTest::mouseClick(&window->sheet(), Qt::LeftButton, {}, on(beside));
    ASSERT_EQ(part().marks.back().points.size(), 5U);
    EXPECT_EQ(part().marks.back().points[4].x.of, kBody);
    EXPECT_EQ(part().marks.back().points[4].x.at, HoldAt::Low);
    EXPECT_LT(distance(laid().points[4], beside), Length::fromMm(0.1));
    const Point within{body.right - Length::fromMm(3), body.top - Length::fromMm(1)};
    QTest::mouseClick(&window->sheet(), Qt::LeftButton, {}, on(within));
    EXPECT_EQ(part().marks.back().points[5].x.at, HoldAt::High);
    EXPECT_EQ(part().marks.back().points[5].y.at, HoldAt::High);
    EXPECT_LT(distance(laid().points[5], within), Length::fromMm(0.1));
    window->sheet().setFocus();
    QTest::keyClick(&window->sheet(), Qt::Key_Return);
    EXPECT_FALSE(window->view().placing());
    EXPECT_EQ(window->view().station(), Station::Dress) << "and the mark is still in hand";
    EXPECT_FALSE(window->view().mark().empty());
}

TEST_F(Marks, AClickOnOneChoosesItAndDeleteTakesItOff) {
    const Shape& k = footprint().keepouts[0];
    QTest::mouseClick(&window->sheet(), Qt::LeftButton, {}, on({k.box().left + Length::fromMm(1), k.box().middle().y}));
    EXPECT_EQ(window->view().mark(), k.id);
    EXPECT_TRUE(find<QPushButton>(QString("mark %1").arg(k.id.c_str()))->isChecked());
    window->sheet().setFocus();
    QTest::keyClick(&window->sheet(), Qt::Key_Delete);
    EXPECT_TRUE(part().marks.empty());
    EXPECT_TRUE(footprint().keepouts.empty());
}

TEST_F(Marks, EveryKindIsAddedAndItsFieldsWork) {
    for (const MarkKindInfo& kind : markKinds()) {
        const std::string name = nameOf(kind.kind);
        addMark(name.c_str());
        const Mark& m = part().marks.back();
        ASSERT_EQ(m.kind, kind.kind);
        EXPECT_EQ(laid().wrong, kind.kind == MarkKind::Logo ? "no figure is brought in yet" : "") << name;
        for (const MarkField& field : kind.fields) {
            auto* widget = window->findChild<QWidget*>(QString("mark.%1").arg(field.key));
            EXPECT_EQ(widget != nullptr, applies(m, field)) << name << " " << field.key;
            EXPECT_TRUE(widget == nullptr || !widget->toolTip().isEmpty());
        }
    }
}

TEST_F(Marks, LengthsAreTypedInTheDisplayUnit) {
    addMark("keepout");
    window->view().setUnit(Unit::Mil);
    type("off.y0", "-100");
    EXPECT_NEAR((footprint().body->rect.bottom - laid().points[0].y).mm(), 2.54, 1e-6);
}

}  // namespace
}  // namespace punch::test
