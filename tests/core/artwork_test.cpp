// What lies on which layer, and what the formats refuse to write.

#include <gtest/gtest.h>

#include <algorithm>

#include "core/artwork/artwork.h"
#include "core/base/find_in.h"
#include "core/part/edit.h"
#include "core/release/drill.h"
#include "core/release/formats.h"
#include "core/release/gerber.h"
#include "core/release/tables.h"
#include "tests/support/parts.h"

namespace punch::artwork_test {
namespace {

TEST(Artwork, ShapesKnowWhatTheyHoldOnAndHowSurelyTheyStandThere) {
    // A window half way between two pins, ink beside it, room before the body: what they hold on is what was typed.
    Part part = test::demoPart();
    const auto at = [](const char* of, const char* x, const char* y) { return Anchored{{of, {}, x}, {of, {}, y}}; };
    const std::vector<Anchored> corners = {at("p1", "1.5", "4"), Anchored{{"p2", {}, "-1.5"}, {kRearFace, {}, "3"}}};
    for (const MarkKind kind : {MarkKind::CutOut, MarkKind::Drawing, MarkKind::Keepout}) {
        Mark m = newMark(kind);
        m.points = corners;
        m.set["form"] = "rectangle";
        part = withMark(part, m);
    }
    const Footprint f = derive(part);
    for (const Layer layer : {Layer::CutOuts, Layer::Assembly, Layer::Keepouts}) {
        const auto all = artwork(part, f, layer);
        const auto mine = std::find_if(all.begin(), all.end(), [&](const Shape& s) { return s.places == corners; });
        ASSERT_NE(mine, all.end()) << layerWords(layer);
        EXPECT_NE(markById(part, mine->id), nullptr);
        EXPECT_EQ(mine->doubt, findIn(f.laid, [&](const LaidMark& m) { return m.id == mine->id; })->doubt);
        EXPECT_GT(mine->doubt, Length());
        EXPECT_NEAR((mine->box().left - f.pad("p1")->at.x).mm(), 1.5, 0.1);
    }
    // A body holds on its faces, and so does the line around it.
    EXPECT_EQ(artwork(part, f, Layer::Body).front().places.front().x.of, kLeftFace);
}

TEST(Artwork, EachPurposeLiesWhereItBelongs) {
    Part part = test::demoPart();
    part.overrides["p2"].layers = PadLayers::Bottom;
    part.overrides["p3"].tented = true;
    part.overrides["p4"].bottom = 3_mm;
    const Footprint f = derive(part);
    const auto on = [&](Layer layer) { return artwork(part, f, layer); };
    // A land below alone: no copper above, no hole, paste below; its opening below, none above.
    EXPECT_EQ(shapeOf(on(Layer::TopCopper), "p2"), nullptr);
    ASSERT_NE(shapeOf(on(Layer::BottomCopper), "p2"), nullptr);
    EXPECT_EQ(shapeOf(on(Layer::BottomCopper), "p2")->purpose, Purpose::SurfacePad);
    EXPECT_EQ(shapeOf(on(Layer::PlatedHoles), "p2"), nullptr);
    EXPECT_EQ(on(Layer::BottomPaste).size(), 1U);
    EXPECT_TRUE(on(Layer::TopPaste).empty());
    EXPECT_EQ(shapeOf(on(Layer::TopMask), "p2"), nullptr);
    // Tented on the part side: open below alone.
    EXPECT_EQ(shapeOf(on(Layer::TopMask), "p3"), nullptr);
    EXPECT_NE(shapeOf(on(Layer::BottomMask), "p3"), nullptr);
    // Larger below: 3.00, and its opening 3.10 by the margin of 0.05 a side.
    EXPECT_NEAR(boundsOf(*shapeOf(on(Layer::BottomCopper), "p4")->rounded()).width().mm(), 3.0, 1e-9);
    EXPECT_NEAR(boundsOf(*shapeOf(on(Layer::BottomMask), "p4")->rounded()).width().mm(), 3.1, 1e-9);
    // Mask keeps off the bare hole of the peg on both sides; it is on no copper layer.
    const FeatureId peg = part.spots.front().id;
    for (const Layer mask : {Layer::TopMask, Layer::BottomMask})
        EXPECT_NEAR(boundsOf(*shapeOf(on(mask), peg)->rounded()).width().mm(), 1.65 + 0.1, 1e-9);
    EXPECT_EQ(shapeOf(on(Layer::TopCopper), peg), nullptr);
    EXPECT_NE(shapeOf(on(Layer::BareHoles), peg), nullptr);
    // Around: the body, of one piece while no face is loose; the courtyard is the footprint's.
    const auto body = on(Layer::Body);
    ASSERT_EQ(body.size(), 1U);
    EXPECT_EQ(boundsOf(body).width().mm(), f.body->rect.width().mm());
    EXPECT_TRUE(body[0].firm);
    EXPECT_NEAR(boundsOf(on(Layer::TopCourtyard)).width().mm(), f.courtyard.width().mm(), 1e-5);
}

TEST(Artwork, FromEitherSideTheFarLandIsSeenThrough) {
    Part part = test::demoPart();
    part.overrides["p2"].layers = PadLayers::Bottom;
    const Footprint f = derive(part);
    for (const bool below : {false, true})
        for (const SeenCopper& seen : seenCopper(part, f, below))
            EXPECT_EQ(seen.through, !below && seen.shape.id == "p2") << seen.shape.id;
    EXPECT_EQ(seenCopper(part, f, false).size(), f.pads.size());
}

TEST(Artwork, LooseLandsAreNotFirm) {
    const Part part = withSpot(*newRow(3));
    for (const Shape& s : artwork(part, derive(part), Layer::TopCopper)) EXPECT_FALSE(s.firm) << s.id;
}

/// Beside which the demo's bodies lie.
const std::string kHome = test::sourceFolder() + "/demo/fennel-house";

TEST(Writing, WhatAFormatCannotHoldIsSaidAndNothingIsWritten) {
    const Part part = test::demoPart();
    Footprint far = derive(part);
    far.pads[2].at.x = far.pads[2].top.at.x = Length::fromMm(10'000);
    const auto image = gerber(part, far, proofBoard(derive(part)), BoardLayer::TopCopper);
    ASSERT_FALSE(image);
    EXPECT_NE(image.error().what.find("3 lies 10 m or more away"), std::string::npos) << image.error().what;
    const auto holes = drill(part, far, Plating::Plated);
    ASSERT_FALSE(holes);
    EXPECT_NE(holes.error().what.find("the hole of 3"), std::string::npos);
    Footprint flat = derive(part);
    flat.pads[0].top.width = flat.pads[0].top.length = Length::fromNm(0.4);
    EXPECT_FALSE(gerber(part, flat, proofBoard(flat), BoardLayer::TopCopper)) << "no aperture of nothing";
    EXPECT_TRUE(gerber(part, flat, proofBoard(flat), BoardLayer::BottomCopper));
    Footprint nowhere = derive(part);
    nowhere.pads[1].at.y = Length::fromMm(std::nan(""));
    EXPECT_FALSE(coordinateTable(part, nowhere));
    EXPECT_FALSE(sheetSvg(part, nowhere));
    for (const FormatKind& kind : formats()) {
        const auto files = releaseFiles(part, derive(part), {kind.format}, kHome);
        EXPECT_TRUE(files) << kind.name << ": " << files.error().text();
        if (kind.format == Format::Gerber || kind.format == Format::Drill) {
            EXPECT_FALSE(releaseFiles(part, far, {Format::Csv, kind.format})) << "one that fails keeps all back";
        }
    }
}

TEST(Formats, EachHasANameOfItsOwnAndFiles) {
    const Part part = test::demoPart();
    const Footprint f = derive(part);
    for (const FormatKind& kind : formats()) {
        EXPECT_EQ(*formatFromName(kind.name), kind.format);
        const auto files = releaseFiles(part, f, {kind.format}, kHome);
        ASSERT_TRUE(files) << files.error().text();
        EXPECT_FALSE(files->empty()) << kind.name;
    }
    EXPECT_EQ(formatNames(), "gerber, drill, ipc2581, dxf, csv, json, svg, report, paper, step or symbol");
    EXPECT_FALSE(formatFromName("parchment"));
}

}  // namespace
}  // namespace punch::artwork_test
