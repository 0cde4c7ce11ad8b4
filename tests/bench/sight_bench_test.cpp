// Hard pictures on the bench: witnesses of the scale, rulers, another part, what was left out; clicks on a drawn page.

#include "core/part/file.h"
#include "demo/maker/drawing_maker.h"
#include "demo/maker/hard_picture.h"
#include "demo/maker/scan_maker.h"
#include "tests/bench/bench_fixture.h"

namespace punch::test {
namespace {

class SightBench : public BenchTest {
protected:
    void begin(const QString& name, const std::string& bytes) {
        window->document().begin(bareRow(3));
        ASSERT_TRUE(window->saveAs(folder.filePath("slide.punch")));
        window->view().setStation(Station::Measure);
        click(find<QPushButton>("toSources"));
        QFile out(folder.filePath(name));
        ASSERT_TRUE(out.open(QIODevice::WriteOnly));
        out.write(bytes.data(), static_cast<qint64>(bytes.size()));
        out.close();
        window->bringIn(folder.filePath(name), EvidenceChoice{});
        settle();
    }
    void beginKind(const std::string& kind) {
        const auto& kinds = maker::hardKinds();
        const auto at = std::find(kinds.begin(), kinds.end(), kind) - kinds.begin();
        truth = maker::hardPicture(static_cast<int>(at));
        begin("hard.png", maker::pngBytes(truth.picture, truth.picture.dpi ? truth.picture.dpi->x : 0));
        click(find<QPushButton>("faceSolder"));
        click(find<QPushButton>("findPins"));
        settle();
        ASSERT_TRUE(work().found()) << window->message().toStdString();
    }
    void settle() {
        window->pictures().settle();
        QApplication::processEvents();
    }
    PictureWork& work() { return window->pictures(); }
    void clickPicture(PixelPoint p) {
        QTest::mouseClick(&window->sheet(), Qt::LeftButton, Qt::NoModifier,
                          window->sheet().pictureTransform().map(QPointF(p.x, p.y)).toPoint());
        QApplication::processEvents();
    }
    maker::HardPicture truth;
};

TEST_F(SightBench, WitnessesThatDifferStandBesideEachOtherAndAClickChooses) {
    beginKind("wrong dpi");
    EXPECT_EQ(work().found()->scale.from, ScaleFrom::Ruler);
    auto* ruler = find<QPushButton>("witness1");
    auto* dpi = find<QPushButton>("witness2");
    EXPECT_TRUE(ruler->isVisible() && dpi->isVisible());
    EXPECT_TRUE(ruler->isChecked());
    EXPECT_TRUE(dpi->text().contains(QStringLiteral("▲"))) << dpi->text().toStdString();
    click(dpi);
    settle();
    EXPECT_EQ(work().found()->scale.from, ScaleFrom::Dpi);
    EXPECT_TRUE(find<QPushButton>("witness1")->text().startsWith("file"));
    click(find<QPushButton>("witness2"));
    settle();
    EXPECT_EQ(work().found()->scale.from, ScaleFrom::Ruler);
    // Taken, the ruler is a known length, and the part has its scale.
    click(find<QPushButton>("takeFound"));
    const auto lengths = std::count_if(part().readings.begin(), part().readings.end(),
                                       [](const Reading& r) { return r.pick && r.contact == Contact::PictureLength; });
    EXPECT_EQ(lengths, 1);
}

TEST_F(SightBench, ARulerIsRefusedAndTheDpiIsLeft) {
    beginKind("wrong dpi");
    click(find<QPushButton>("noRuler"));
    settle();
    ASSERT_TRUE(work().found());
    EXPECT_EQ(work().found()->scale.from, ScaleFrom::Dpi);
    EXPECT_TRUE(work().found()->rulers.front().refused);
    EXPECT_FALSE(work().offersRuler());
    // And taken again.
    click(find<QPushButton>("nextRuler"));
    settle();
    EXPECT_EQ(work().found()->scale.from, ScaleFrom::Ruler);
}

TEST_F(SightBench, TheOtherPartBecomesTheProposal) {
    beginKind("two parts");
    ASSERT_EQ(work().found()->others.size(), 1u);
    const std::size_t other = work().found()->others[0].members.size();
    EXPECT_NE(work().found()->formation->positions.size(), other);
    click(find<QPushButton>("otherPart"));
    ASSERT_TRUE(work().found()->formation);
    EXPECT_EQ(work().found()->formation->positions.size(), other);
    click(find<QPushButton>("takeFound"));
    EXPECT_EQ(part().formations[0].pins.size(), other);
}

TEST_F(SightBench, WhatWasLeftOutComesBackByAClick) {
    beginKind("letters");
    ASSERT_FALSE(work().found()->leftOut.empty());
    const LeftOut out = work().found()->leftOut.back();
    const std::size_t before = work().found()->features.size();
    clickPicture(out.seen.rim.centre);
    EXPECT_EQ(work().found()->features.size(), before + 1);
}

TEST_F(SightBench, APageSaysItsScaleAndClicksMeetItsArrows) {
    maker::DrawingSheet s(120, 90, 4);
    s.rectangle(-8, -4, 8, 4);
    for (int i = 0; i < 4; ++i) s.circle({-3.81 + 2.54 * i, 0}, 1.0);
    s.along({-8, -4}, {8, -4}, -7, "16.0");
    s.text({0, 8}, 3, "Terminal · scale 4:1");
    begin("page.pdf", s.pdf(60, 45));
    click(find<QPushButton>("facePart"));
    auto* stated = find<QPushButton>("statedScale");
    ASSERT_TRUE(stated->isVisible());
    EXPECT_EQ(stated->text(), "Drawn 4:1");
    click(stated);
    EXPECT_DOUBLE_EQ(part().sources[0].dpi, 2400);
    click(find<QPushButton>("findPins"));
    settle();
    ASSERT_TRUE(work().found()) << window->message().toStdString();
    ASSERT_TRUE(work().found()->formation);
    EXPECT_NEAR(work().found()->formation->pitch->value, 2.54, 0.005);
    EXPECT_EQ(work().found()->formation->positions.size(), 4u);
    // The tips of the 16.0, met from some pixels away.
    const double n = 600 / 25.4;
    const PixelPoint left{(60 - 32) * n, (45 + 28) * n}, right{(60 + 32) * n, (45 + 28) * n};
    work().setTool(PictureWork::Tool::KnownLength);
    work().setReach(14);
    EXPECT_TRUE(work().clickAt({left.x + 7, left.y - 5}, false));
    EXPECT_TRUE(work().clickAt({right.x - 6, right.y + 6}, false));
    ASSERT_EQ(work().places().size(), 2u);
    EXPECT_NEAR(work().places()[0].x, left.x, 1.0);
    EXPECT_NEAR(work().places()[0].y, left.y, 3);
    EXPECT_NEAR(work().places()[1].x, right.x, 1.0);
    EXPECT_NEAR(work().places()[1].y, right.y, 3);
}

}  // namespace
}  // namespace punch::test
