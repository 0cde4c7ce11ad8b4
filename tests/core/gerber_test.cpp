#include "core/release/gerber.h"

#include <gtest/gtest.h>

#include <pugixml.hpp>

#include "core/release/drill.h"
#include "core/release/formats.h"
#include "core/release/tables.h"
#include "tests/support/cuts.h"
#include "tests/support/gerber_reader.h"
#include "tests/support/parts.h"

namespace punch::gerber_test {
namespace {

class Release : public testing::Test {
protected:
    Part part = test::demoPart();
    Footprint f = derive(part);
    ProofBoard board = proofBoard(f);
    test::GerberImage image(BoardLayer layer) { return test::GerberImage(*gerber(part, f, board, layer)); }
};

TEST_F(Release, EveryLayerKeepsTheRulesOfTheFormat) {
    const std::map<BoardLayer, std::string> functions = {
        {BoardLayer::TopCopper, "Copper,L1,Top"},  {BoardLayer::BottomCopper, "Copper,L2,Bot"},
        {BoardLayer::TopMask, "Soldermask,Top"},   {BoardLayer::BottomMask, "Soldermask,Bot"},
        {BoardLayer::TopPaste, "Paste,Top"},       {BoardLayer::BottomPaste, "Paste,Bot"},
        {BoardLayer::TopSilkscreen, "Legend,Top"}, {BoardLayer::BottomSilkscreen, "Legend,Bot"},
        {BoardLayer::Outline, "Profile,NP"}};
    EXPECT_EQ(boardLayers().size(), functions.size());
    for (const BoardLayerKind& kind : boardLayers()) {
        auto i = image(kind.layer);
        EXPECT_TRUE(i.errors.empty()) << kind.fileName << ": " << (i.errors.empty() ? "" : i.errors[0]);
        EXPECT_EQ(i.file["FileFunction"], functions.at(kind.layer));
        const bool mask = kind.layer == BoardLayer::TopMask || kind.layer == BoardLayer::BottomMask;
        EXPECT_EQ(i.file["FilePolarity"], mask ? "Negative" : "Positive");
        EXPECT_TRUE(i.file.count("GenerationSoftware"));
    }
}

TEST_F(Release, CopperAsDerived) {
    const auto top = image(BoardLayer::TopCopper);
    ASSERT_EQ(top.flashes.size(), 4u + 3u);
    for (std::size_t i = 0; i < 4; ++i) {
        EXPECT_NEAR(top.flashes[i].x, f.pads[i].at.x.mm(), 1e-6);
        EXPECT_NEAR(top.flashes[i].y, f.pads[i].at.y.mm(), 1e-6);
        EXPECT_EQ(top.flashes[i].function, "ComponentPad");
        EXPECT_EQ(top.flashes[i].shape, i == 0 ? "R,2.500000X2.500000" : "C,2.500000");
    }
    for (std::size_t i = 4; i < 7; ++i) {
        EXPECT_EQ(top.flashes[i].function, "FiducialPad,Global");
        EXPECT_EQ(top.flashes[i].shape, "C,1.000000");
    }
    EXPECT_EQ(top.pins, (std::set<std::string>{"X1,1", "X1,2", "X1,3", "X1,4"}));
    EXPECT_EQ(image(BoardLayer::BottomCopper).flashes.size(), 4u);
}

TEST_F(Release, MaskPasteAndInk) {
    const auto mask = image(BoardLayer::TopMask);
    ASSERT_EQ(mask.flashes.size(), 4u + 1u + 3u);
    EXPECT_EQ(mask.flashes[0].shape, "R,2.600000X2.600000");
    EXPECT_EQ(mask.flashes[7].shape, "C,2.000000");
    EXPECT_EQ(image(BoardLayer::TopPaste).flashes.size(), 0u);
    EXPECT_EQ(image(BoardLayer::BottomPaste).flashes.size(), 0u);
    const auto ink = image(BoardLayer::TopSilkscreen);
    std::size_t segments = 0;
    for (const Shape& s : f.silkscreen) segments += s.points().size() - 1;
    EXPECT_EQ(ink.lines.size(), segments);
}

TEST_F(Release, FiducialsAreThreeUnevenAndClearOfTheEdge) {
    ASSERT_EQ(board.fiducials.size(), 3u);
    for (const Point& p : board.fiducials) {
        const Rect safe = board.outline.grown(Length::fromMm(-6));
        EXPECT_GE(p.x, safe.left);
        EXPECT_LE(p.x, safe.right);
        EXPECT_GE(p.y, safe.bottom);
        EXPECT_LE(p.y, safe.top);
        const bool inside = p.x > f.courtyard.left - 1_mm && p.x < f.courtyard.right + 1_mm &&
                            p.y > f.courtyard.bottom - 1_mm && p.y < f.courtyard.top + 1_mm;
        EXPECT_FALSE(inside) << "a fiducial within the courtyard";
    }
    const double a = distance(board.fiducials[0], board.fiducials[1]).mm();
    const double b = distance(board.fiducials[1], board.fiducials[2]).mm();
    const double c = distance(board.fiducials[0], board.fiducials[2]).mm();
    EXPECT_GT(std::min({std::abs(a - b), std::abs(b - c), std::abs(a - c)}), 0.5)
        << "three different sides have no symmetry";
    EXPECT_EQ(image(BoardLayer::Outline).lines.size(), 4u);
}

TEST_F(Release, DrillFilesApart) {
    const test::DrillFile plated(*drill(part, f, Plating::Plated));
    EXPECT_TRUE(plated.errors.empty()) << plated.errors[0];
    ASSERT_EQ(plated.hits.size(), 4u);
    EXPECT_EQ(plated.tools.size(), 1u);
    EXPECT_NEAR(plated.hits[0].size, 1.5, 1e-9);
    EXPECT_NEAR(plated.hits[3].x, 7.62, 1e-4);
    EXPECT_NE(plated.comments.find("TF.FileFunction,Plated,1,2,PTH"), std::string::npos);
    const test::DrillFile bare(*drill(part, f, Plating::Bare));
    EXPECT_TRUE(bare.errors.empty());
    ASSERT_EQ(bare.hits.size(), 1u);
    EXPECT_NEAR(bare.hits[0].size, 1.65, 1e-9);
    EXPECT_NEAR(bare.hits[0].y, -4.0, 0.01);
}

TEST_F(Release, NamesThatWouldBreakTheFormats) {
    part.name = "A*,%\\b/ö";
    part.reference = "X,*%";
    for (const BoardLayerKind& kind : boardLayers()) EXPECT_TRUE(image(kind.layer).errors.empty()) << kind.fileName;
    EXPECT_TRUE(test::DrillFile(*drill(part, f, Plating::Plated)).errors.empty());
    EXPECT_EQ(fileStem("../../etc/x y"), "______etc_x_y");
    EXPECT_EQ(fileStem(""), "part");
}

TEST_F(Release, CoordinateTable) {
    const std::string csv = *coordinateTable(part, f);
    EXPECT_EQ(std::count(csv.begin(), csv.end(), '\n'), 6);
    EXPECT_NE(csv.find("\r\n1,plated,-7.6200,0.0000,0.0000,0.0000,1.5000,2.5000,square,,,2.5000,0.000\r\n"),
              std::string::npos);
    EXPECT_NE(csv.find("peg,bare,-7.62"), std::string::npos);
    part.spots[0].name = "a \"b\", c";
    EXPECT_NE(coordinateTable(part, derive(part))->find("\"a \"\"b\"\", c\",bare"), std::string::npos);
}

TEST_F(Release, SheetAtTrueScale) {
    pugi::xml_document doc;
    ASSERT_TRUE(doc.load_string(sheetSvg(part, f)->c_str()));
    const auto svg = doc.child("svg");
    const std::string width = svg.attribute("width").value();
    double box[4];
    ASSERT_EQ(std::sscanf(svg.attribute("viewBox").value(), "%lf %lf %lf %lf", box, box + 1, box + 2, box + 3), 4);
    EXPECT_NEAR(std::stod(width), box[2], 1e-9) << "one unit is one millimetre";
    EXPECT_NE(width.find("mm"), std::string::npos);
    const auto copper = svg.find_child_by_attribute("id", "copper");
    EXPECT_EQ(std::distance(copper.begin(), copper.end()), 4);
    EXPECT_NEAR(copper.child("circle").attribute("r").as_double(), 1.25, 1e-6);
}

TEST_F(Release, LooseAndNoGoAreSaidBeforeRelease) {
    EXPECT_TRUE(releaseWarnings(f).empty());
    part.rules.ring = 0.1_mm;
    part = withSpot(part);
    EXPECT_GE(releaseWarnings(derive(part)).size(), 2u);
}

TEST(ReleaseOfShapes, EveryLandSlotAndCutComesOutAsItIs) {
    Part part = test::demoPart();
    part.overrides["p1"].shape = LandShape::Octagon;
    part.overrides["p2"].shape = LandShape::Oval;
    part.overrides["p2"].land = 2.5_mm;
    part.overrides["p2"].landLength = 3_mm;
    part.overrides["p2"].turn = Angle();
    part.overrides["p3"].shape = LandShape::Rectangle;
    part.overrides["p3"].turn = Angle::fromDegrees(30);
    part.overrides["p3"].tented = true;
    part.overrides["p4"].layers = PadLayers::Top;
    part.overrides["p2"].holeLength = 2.2_mm;
    part.overrides["p2"].bottom = 2.8_mm;
    CutOut cut;
    cut.id = "cut1";
    cut.from = {5_mm, Length::fromMm(-4)};
    cut.to = {8_mm, Length::fromMm(-4)};
    cut.width = 1_mm;
    part = withCuts(part, {cut});
    const Footprint f = derive(part);
    const ProofBoard board = proofBoard(f);
    for (const BoardLayerKind& kind : boardLayers()) {
        const test::GerberImage image(*gerber(part, f, board, kind.layer));
        EXPECT_TRUE(image.errors.empty()) << kind.fileName << ": " << image.errors[0];
    }
    const std::string top = *gerber(part, f, board, BoardLayer::TopCopper);
    EXPECT_NE(top.find("O,2.500000X3.000000"), std::string::npos) << "an upright oval has an aperture";
    EXPECT_NE(top.find("SMDPad,CuDef"), std::string::npos);
    const auto count = [](const std::string& text, const std::string& what) {
        int n = 0;
        for (std::size_t at = text.find(what); at != std::string::npos; at = text.find(what, at + 1)) ++n;
        return n;
    };
    EXPECT_EQ(count(top, "G36*"), 2) << "octagon and turned rectangle are regions";
    const std::string bottom = *gerber(part, f, board, BoardLayer::BottomCopper);
    EXPECT_NE(bottom.find("O,2.800000X3.300000"), std::string::npos) << "larger on this side";
    EXPECT_EQ(bottom.find("SMDPad"), std::string::npos) << "a surface land is on one side";
    // The tented land has no opening above, and one below.
    EXPECT_EQ(count(*gerber(part, f, board, BoardLayer::TopMask), "G36*"), 1);
    EXPECT_EQ(count(*gerber(part, f, board, BoardLayer::BottomMask), "G36*"), 2);
    // Paste on the surface land alone.
    EXPECT_EQ(test::GerberImage(*gerber(part, f, board, BoardLayer::TopPaste)).flashes.size(), 1u);
    EXPECT_TRUE(test::GerberImage(*gerber(part, f, board, BoardLayer::BottomPaste)).flashes.empty());
    // The slot of p2 is one routed hole, from middle to middle of its ends: 2.2 less its width of 1.5.
    const std::string holes = *drill(part, f, Plating::Plated);
    EXPECT_EQ(count(holes, "G85"), 1);
    EXPECT_EQ(count(holes, "\nX"), 3) << "the surface land has none";
    // The board's outline has the cut as a contour of its own.
    const std::string outline = *gerber(part, f, board, BoardLayer::Outline);
    EXPECT_EQ(count(outline, "D02*"), 2);
    pugi::xml_document svg;
    EXPECT_TRUE(svg.load_string(sheetSvg(part, f)->c_str()));
    EXPECT_NE(coordinateTable(part, f)->find("octagon"), std::string::npos);
}

TEST(FabLimits, WhatCannotBeDrilledIsNoGo) {
    Part part = test::demoPart();
    part.rules.fab.aspect = 1;
    EXPECT_EQ(derive(part).gauge("lead-in-hole")->state, GaugeState::Go) << "a bit of 1.6 in a board of 1.6";
    part.rules.boardThickness = 1.7_mm;
    EXPECT_EQ(derive(part).gauge("lead-in-hole")->state, GaugeState::NoGo);
    part = test::demoPart();
    part.rules.fab.leastDrill = 2_mm;
    EXPECT_EQ(derive(part).gauge("lead-in-hole")->words, "bit of {}, least {} {u}");
    // A board edge through the copper, and one that is far enough.
    part = withFace(test::demoPart(), FaceKind::BoardEdge, Axis::Across, false);
    const std::string edge = part.faces.back().id;
    part.given[edge + ".at"] = {"-1.4", Unit::Mm};
    const Footprint near = derive(part);
    EXPECT_EQ(near.gauge("copper-to-copper")->state, GaugeState::NoGo) << near.gauge("copper-to-copper")->words;
    EXPECT_NE(near.gauge("copper-to-copper")->words.find("edge"), std::string::npos);
    part.given[edge + ".at"] = {"-4", Unit::Mm};
    EXPECT_NE(derive(part).gauge("copper-to-copper")->state, GaugeState::NoGo);
}

}  // namespace
}  // namespace punch::gerber_test
