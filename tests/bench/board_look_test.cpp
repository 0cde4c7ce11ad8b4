// Dress through the window: the board as it is made and layers by name, parts without pins and their kind, logos that
// are brought in, the offered pair of fiducials, places half way between two features.

#include <QCheckBox>
#include <QComboBox>
#include <fstream>

#include "app/start_view.h"
#include "app/stations/mark_editor.h"
#include "core/part/mark_kinds.h"
#include "core/part/names.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class BoardLookTest : public BenchTest {
protected:
    void open(const std::string& name, Station station = Station::Dress) {
        window->openPath(QString::fromStdString(sourceFolder() + "/demo/fennel-house/" + name + ".punch"));
        window->view().setStation(station);
        QTest::qWait(50);
    }
    QColor at(Point p) {
        QTest::qWait(20);
        const QImage shot = window->sheet().grab().toImage();
        return shot.pixelColor(window->sheet().transform().map(p).toPoint() * shot.devicePixelRatio());
    }
    void trigger(const QString& name) {
        auto* action = window->findChild<QAction*>(name);
        ASSERT_NE(action, nullptr) << name.toStdString();
        action->trigger();
        QTest::qWait(20);
    }
    void choose(const QString& field, int index) {
        auto* combo = find<QComboBox>(field);
        combo->setCurrentIndex(index);
        emit combo->activated(index);
    }
};

TEST_F(BoardLookTest, TheBoardAsMadeShowsCopperMaskAndPasteFromEitherSide) {
    open("QB-LX4");
    // Places of the heat spreader: under mask, in its opening, in a window of paste.
    const LaidMark &area = footprint().laid[2], &opening = footprint().laid[3];
    const Rect whole = *area.upright, open = *opening.upright;
    const Point covered{whole.left + Length::fromMm(0.15), whole.middle().y};
    const Point bare{open.middle().x, open.middle().y};  // the web between the windows
    const Rect paste = boundsOf(footprint().attached.pastes.front().area);
    trigger("look As made: copper, mask, print");
    EXPECT_EQ(window->view().look(), BoardLook::Made);
    const QColor dull = at(covered), bright = at(bare);
    EXPECT_EQ(bright, theme::kCopper);
    EXPECT_NE(dull, theme::kCopper);
    EXPECT_NE(dull, theme::kMasked);
    EXPECT_EQ(at(paste.middle()), theme::kCopper) << "no paste yet";
    trigger("look As made, with paste");
    EXPECT_NE(at(paste.middle()), theme::kCopper);
    EXPECT_EQ(at(bare), theme::kCopper);
    // From below the area is under mask where the opening is on top.
    window->view().setSolderSide(true);
    EXPECT_EQ(at(bare), dull);
    EXPECT_FALSE(find<QPushButton>("lens-Copper")->isEnabled()) << "of the drawing only";
    trigger("look The drawing");
    EXPECT_TRUE(find<QPushButton>("lens-Copper")->isEnabled());
}

TEST_F(BoardLookTest, LayersAreShownByName) {
    open("QB-TB4");
    const Point pin = footprint().pad("p1")->at, land{pin.x + Length::fromMm(1.1), pin.y};
    trigger("layer top copper");
    EXPECT_EQ(window->view().look(), BoardLook::Layers);
    EXPECT_EQ(at(land), theme::kCopper);
    EXPECT_EQ(find<QPushButton>("lookChip")->text(), "Layers");
    trigger("layer top copper");
    EXPECT_EQ(window->view().look(), BoardLook::Drawing) << "without any the drawing is back";
    trigger("layer top silkscreen");
    EXPECT_NE(at(land), theme::kCopper);
    const Rect body = footprint().body->rect.grown(part().dress.outlineAllowance);
    EXPECT_EQ(at({body.middle().x, body.top}), theme::kInk);
    // Two at once; every one has its name.
    trigger("layer top mask");
    EXPECT_EQ(window->view().layers().size(), 2U);
    for (const Layer layer : kBoardLayers)
        EXPECT_NE(window->findChild<QAction*>(QString("layer ") + layerWords(layer)), nullptr);
}

TEST_F(BoardLookTest, APartWithoutPinsIsMadeFromTheStart) {
    window->home();
    QTest::qWait(30);
    auto* card = window->findChild<QPushButton*>("card-No pins");
    ASSERT_NE(card, nullptr);
    click(card);
    EXPECT_FALSE(find<QLineEdit>("startPins")->isEnabled());
    click(find<QPushButton>("putOnBench"));
    EXPECT_TRUE(part().formations.empty());
    EXPECT_EQ(part().kind, PartKind::Printed);
    // Every station stands it.
    for (int i = 0; i < kStations; ++i) {
        window->view().setStation(static_cast<Station>(i));
        QTest::qWait(20);
        window->sheet().grab();
    }
    // A fiducial, and it can be released.
    window->view().setStation(Station::Dress);
    trigger("add fiducial");
    ASSERT_EQ(footprint().laid.size(), 1U);
    EXPECT_EQ(footprint().laid[0].wrong, "") << "without a body it holds on the datum";
    EXPECT_EQ(footprint().gauge("fiducials")->state, GaugeState::Go);
    window->view().setStation(Station::Release);
    QTest::qWait(20);
    choose("kindOfPart", 2);
    EXPECT_EQ(part().kind, PartKind::Loose);
    choose("kindOfPart", 0);
    EXPECT_EQ(part().kind, PartKind::Placed);
    // Pins may come later.
    window->view().setStation(Station::Place);
    QTest::qWait(20);
    find<QToolButton>("addFormation")->menu()->actions().front()->trigger();
    EXPECT_EQ(part().formations.size(), 1U);
    EXPECT_TRUE(find<QComboBox>("order")->isVisible());
    click(find<QPushButton>("removeFormation"));
    EXPECT_TRUE(part().formations.empty());
    QTest::qWait(20);
    EXPECT_FALSE(find<QComboBox>("order")->isVisible());
    key(Qt::Key_Z, Qt::ControlModifier);
    EXPECT_EQ(part().formations.size(), 1U);
}

TEST_F(BoardLookTest, ALogoIsBroughtInAndWhatIsLeftOutIsSaid) {
    open("QB-TB4");
    const QString path = QDir::tempPath() + "/board-look-logo.svg";
    std::ofstream(path.toStdString())
        << R"(<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 100 50"><script>x</script>)"
        << R"(<circle cx="50" cy="25" r="20"/></svg>)";
    trigger("add logo");
    EXPECT_NE(footprint().laid.back().wrong.find("no figure"), std::string::npos);
    EXPECT_TRUE(find<QPushButton>("mark.figure")->isVisible());
    window->findChild<MarkEditor*>()->bringIn(path);
    QFile::remove(path);
    ASSERT_EQ(footprint().laid.back().wrong, "");
    EXPECT_NEAR(areaOf(footprint().laid.back().figure), M_PI * 25, 0.1) << "10 mm wide";
    EXPECT_EQ(valueOf(part().marks.back(), "file"), "board-look-logo.svg");
    EXPECT_TRUE(find<QLabel>("message")->text().contains("scripts were not run"))
        << find<QLabel>("message")->text().toStdString();
    // A nonsense file says so and changes nothing.
    const Part before = part();
    std::ofstream(path.toStdString()) << "nothing";
    window->findChild<MarkEditor*>()->bringIn(path);
    QFile::remove(path);
    EXPECT_EQ(part(), before);
}

TEST_F(BoardLookTest, AFinePitchIsOfferedItsPair) {
    open("PW-FX24");
    Part without = part();
    std::erase_if(without.marks, [](const Mark& m) { return m.kind == MarkKind::Fiducial; });
    window->document().apply("none", without);
    QTest::qWait(20);
    auto* offer = find<QPushButton>("localFiducials");
    ASSERT_TRUE(offer->isVisible());
    click(offer);
    EXPECT_EQ(footprint().gauge("fiducials")->state, GaugeState::Go) << footprint().gauge("fiducials")->words;
    QTest::qWait(20);
    EXPECT_FALSE(offer->isVisible());
    key(Qt::Key_Z, Qt::ControlModifier);
    QTest::qWait(20);
    EXPECT_TRUE(offer->isVisible());
}

TEST_F(BoardLookTest, APlaceMayBeHalfWayBetweenTwo) {
    open("QB-TB4");
    trigger("add text");
    window->view().choose("p2", "p3");
    QTest::qWait(20);
    window->view().setMark(part().marks.back().id);
    QTest::qWait(20);
    auto* hold = find<QComboBox>("hold.x0");
    const int both = hold->findData("p2+p3");
    ASSERT_GE(both, 0) << "of the two that are pointed at";
    choose("hold.x0", both);
    const Length middle = (footprint().pad("p2")->at.x + footprint().pad("p3")->at.x) / 2;
    EXPECT_NEAR((footprint().laid.back().points[0].x - middle).mm(), 0, 1e-6);
    EXPECT_EQ(part().marks.back().points[0].x.with, "p3");
    EXPECT_EQ(find<QComboBox>("hold.x0")->currentData().toString(), "p2+p3");
}

TEST_F(BoardLookTest, NonsenseInAnyFieldOfAMarkIsRefusedOrMarked) {
    open("QB-TB4");
    for (const MarkKindInfo& kind : markKinds()) {
        trigger("add " + QString::fromStdString(nameOf(kind.kind)));
        for (const MarkField& field : kind.fields) {
            auto* edit = window->findChild<QLineEdit*>(QString("mark.%1").arg(field.key));
            if (edit == nullptr || field.value == MarkValue::Text || field.value == MarkValue::Pins) continue;
            const Part before = part();
            edit->setFocus();
            edit->setText("2 +) x");
            edit->setModified(true);
            QTest::keyClick(edit, Qt::Key_Return);
            EXPECT_TRUE(edit->property("wrong").toBool()) << nameOf(kind.kind) << " " << field.key;
            EXPECT_EQ(edit->text(), "2 +) x") << "nothing typed is lost";
            EXPECT_EQ(part(), before) << nameOf(kind.kind) << " " << field.key;
            QTest::keyClick(edit, Qt::Key_Escape);
        }
    }
}

}  // namespace
}  // namespace punch::test
