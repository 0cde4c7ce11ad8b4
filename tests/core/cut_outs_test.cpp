// Cut-outs as marks: slots and windows follow what they are attached to, old files stay what they were, and plated
// ones have their copper and their way to the board maker.

#include <gtest/gtest.h>

#include "core/advise/slot_for.h"
#include "core/artwork/artwork.h"
#include "core/part/mark_kinds.h"
#include "core/release/drill.h"
#include "core/release/proof_board.h"
#include "core/shape/cut_outs.h"
#include "tests/support/cuts.h"
#include "tests/support/dice.h"
#include "tests/support/parts.h"

namespace punch::cut_outs_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }

CutOut slot(double x0, double y0, double x1, double y1, double width) {
    CutOut cut;
    cut.from = {mm(x0), mm(y0)};
    cut.to = {mm(x1), mm(y1)};
    cut.width = mm(width);
    return cut;
}

TEST(CutOuts, OfFilesBeforeMarksAreTheSameShapes) {
    // Random slots and windows, written as such files had them.
    test::Dice dice(11);
    for (int i = 0; i < 60; ++i) {
        const bool window = dice.coin();
        CutOut cut = slot(dice.between(-9, 9), dice.between(-9, 9), 0, 0, std::round(dice.between(100, 3000)) / 1000);
        cut.to = {cut.from.x + mm(dice.between(0.2, 8)), cut.from.y + mm(dice.between(0.2, 8))};
        cut.kind = window ? CutOutKind::Window : CutOutKind::Slot;
        const std::string text = fmt::format(
            R"({{"punchbit": 1, "formations": [{{"kind": "row", "pins": ["p1", "p2"]}}], "cutOuts": [{{"id": "cut9",
                "name": "gap", "kind": "{}", "from": [{:.6f}, {:.6f}], "to": [{:.6f}, {:.6f}], "width": {}}}]}})",
            window ? "window" : "slot", cut.from.x.mm(), cut.from.y.mm(), cut.to.x.mm(), cut.to.y.mm(), cut.width.mm());
        const auto part = fromText(text, "old");
        ASSERT_TRUE(part) << part.error().text();
        const Footprint f = derive(*part);
        ASSERT_EQ(f.cutOuts.size(), 1U) << text;
        const Shape before = cutShapeOf(cut, f.datum), &now = f.cutOuts[0];
        EXPECT_EQ(now.id, "cut9");
        EXPECT_EQ(now.name, "gap");
        const RoundedPolygon &was = *before.rounded(), &is = *now.rounded();
        ASSERT_EQ(is.corners.size(), was.corners.size()) << text;
        EXPECT_NEAR((is.radius - was.radius).mm(), 0, 2e-6);
        EXPECT_NEAR((now.milled.width - before.milled.width).mm(), 0, 2e-6);
        for (std::size_t k = 0; k < is.corners.size(); ++k)
            EXPECT_LT(distance(is.corners[k], was.corners[k]), mm(2e-6)) << text;
        // And saved as they are now, they stay.
        EXPECT_EQ(*fromText(toText(*part), "new"), *part);
    }
}

TEST(CutOuts, ASlotBetweenTwoPinsStaysHalfWayWhenTheyMove) {
    Part part = *loadPart(test::sourceFolder() + "/demo/fennel-house/HT-RM2.punch");
    const Footprint f = derive(part);
    const VoltagePair worst = f.voltages.front();
    const auto found = slotFor(part, f, worst.a, worst.b);
    ASSERT_TRUE(found) << found.error().text();
    part = withCutOut(part, *found);
    const auto offMiddle = [&](const Part& of) {
        const Footprint g = derive(of);
        const Point a = *g.place(worst.a), b = *g.place(worst.b);
        const Point from = g.cutOuts.front().rounded()->corners.front();
        return from - Point{(a.x + b.x) / 2, (a.y + b.y) / 2};
    };
    const Point before = offMiddle(part);
    // Everything that was read is read again, a little longer.
    Part longer = part;
    for (Reading& r : longer.readings)
        for (RawValue& v : r.raw) v.value = v.value * 1.03;
    longer.taken.clear();
    EXPECT_GT(distance(*derive(longer).place(worst.a), *derive(longer).place(worst.b)),
              distance(*derive(part).place(worst.a), *derive(part).place(worst.b)));
    EXPECT_LT(distance(offMiddle(longer), before), mm(1e-5));
}

TEST(CutOuts, WhatIsDrawnFreelyHoldsOnWhatItLiesBetween) {
    const Part part = test::bareRow(4);
    const Footprint f = derive(part);
    const Point a = f.pads[1].at, b = f.pads[2].at;
    CutOut cut = slot(((a.x + b.x) / 2).mm(), -3, ((a.x + b.x) / 2).mm(), 3, 1);
    cut.from = cut.from + f.datum;
    cut.to = cut.to + f.datum;
    const CutOut held = attachedToNearest(cut, f);
    EXPECT_EQ((std::set<FeatureId>{held.of, held.with}), (std::set<FeatureId>{"p2", "p3"}));
    const Footprint with = derive(withCutOut(part, held));
    EXPECT_LT(distance(with.cutOuts[0].rounded()->corners[0], cut.from - f.datum), mm(2e-6));
    // Beyond the row there is only one to hold on.
    const CutOut beyond = attachedToNearest(slot(30, -3, 30, 3, 1), f);
    EXPECT_EQ(beyond.of, "p4");
    EXPECT_EQ(beyond.with, "");
}

TEST(CutOuts, AreMovedByWhatTheirLengthsSay) {
    EXPECT_EQ(movedBy("", mm(0.25)), "0.25");
    EXPECT_EQ(movedBy("0.3", mm(-0.3)), "");
    EXPECT_EQ(movedBy("1.5", mm(0.05)), "1.55");
    EXPECT_EQ(movedBy("pitch/2", mm(-0.1)), "pitch/2 - 0.1mm");
    EXPECT_EQ(movedBy("pitch/2", Length()), "pitch/2");
    Part part = withCutOut(test::bareRow(2), slot(0, 3, 4, 3, 1));
    const std::string id = part.marks.back().id;
    part = withCutOutMoved(part, id, {mm(1), mm(0)}, {mm(0), mm(2)});
    const Footprint f = derive(part);
    const CutOut now = cutOutsOf(part, f, f.datum).front();
    EXPECT_LT(distance(now.from, {mm(1), mm(3)}), mm(1e-6));
    EXPECT_LT(distance(now.to, {mm(4), mm(5)}), mm(1e-6));
}

Part plated(const std::string& form) {
    Part part = test::bareRow(2);
    part.taken = {{"pitch", mm(5.08)}};
    for (const char* name : {"lead.width", "lead.thickness", "lead.length"}) part.given[name] = {"1", Unit::Mm};
    Mark m = newMark(MarkKind::CutOut);
    m.name = "well";
    const auto at = [](const char* x, const char* y) {
        return Anchored{{kOriginFeature, HoldAt::Middle, x}, {kOriginFeature, HoldAt::Middle, y}};
    };
    m.points = {at("12", "-3"), at("20", "3")};
    m.set = {{"form", form}, {"plated", "yes"}, {"pad", "p2"}, {"rim", "0.6"}, {"bit", "1.2"}, {"width", "1.4"}};
    return withMark(part, m);
}

TEST(PlatedCuts, HaveALandAroundThemOnBothSidesJoinedToTheirPad) {
    const Part part = plated("rectangle");
    const Footprint f = derive(part);
    ASSERT_EQ(f.cutOuts.size(), 1U);
    Polygons top, bottom;
    for (const Conductor& c : f.attached.lands) {
        EXPECT_EQ(c.id, "p2");
        EXPECT_EQ(c.number, "2");
        const Polygons land = polygonsOf(copperShape(c.top.there() ? c.top : c.bottom));
        for (const auto& ring : land) (c.top.there() ? top : bottom).push_back(ring);
    }
    const Polygons cut = polygonsOf(f.cutOuts[0].milled.outline, Chords::Outside);
    const Polygons ring = without(grown(cut, mm(0.6)), cut);
    for (const Polygons* side : {&top, &bottom}) {
        EXPECT_NEAR(areaOf(united(*side)), areaOf(ring), 0.02);
        EXPECT_LT(areaOf(without(united(*side), grown(ring, mm(0.002)))), 1e-3);
    }
    // Its own land is not too near to it, another's would be.
    EXPECT_EQ(f.gauge("copper-to-copper")->state, GaugeState::Go) << f.gauge("copper-to-copper")->words;
    Part other = part;
    other.marks.back().points[0].x.off = "5.3";  // over pin 2's own land is one thing, over pin 1's another
    other.marks.back().set["pad"] = "p1";
    EXPECT_EQ(derive(other).gauge("copper-to-copper")->state, GaugeState::NoGo);
}

TEST(PlatedCuts, AreRoutedBeforePlatingAndNoPartOfTheProfile) {
    for (const std::string form : {"rectangle", "slot"}) {
        const Part part = plated(form);
        const Footprint f = derive(part);
        const auto text = drill(part, f, Plating::Plated);
        ASSERT_TRUE(text) << text.error().text();
        if (form == "slot") {
            EXPECT_NE(text->find("C1.4000"), std::string::npos) << *text;
            EXPECT_NE(text->find("G85"), std::string::npos);
        } else {
            EXPECT_NE(text->find("C1.2000"), std::string::npos);
            // The bit's middle runs half its width inside the edge: its path, that much wider, is the cut again.
            std::istringstream lines(*text);
            std::vector<Point> path;
            for (std::string line; std::getline(lines, line);) {
                double x = 0, y = 0;
                if (std::sscanf(line.c_str(), "G01X%lfY%lf", &x, &y) == 2) path.push_back({mm(x), mm(y)});
            }
            ASSERT_GE(path.size(), 4U) << *text;
            const Polygons again = grown({path}, mm(0.6)), cut = polygonsOf(f.cutOuts[0].milled.outline);
            EXPECT_LT(areaOf(without(again, cut)) + areaOf(without(cut, again)), 0.2);
            EXPECT_NE(text->find("M15\n"), std::string::npos);
            EXPECT_NE(text->find("M16\n"), std::string::npos);
        }
        EXPECT_EQ(drill(part, f, Plating::Bare)->find("C1."), std::string::npos);
        const ProofBoard board = proofBoard(f);
        for (const Shape& s : boardArtwork(part, f, board, BoardLayer::Outline)) EXPECT_NE(s.name, "well");
        Part bare = part;
        bare.marks.back().set["plated"] = "no";
        const Footprint g = derive(bare);
        const auto shapes = boardArtwork(bare, g, proofBoard(g), BoardLayer::Outline);
        EXPECT_TRUE(std::any_of(shapes.begin(), shapes.end(), [](const Shape& s) { return s.name == "well"; }));
    }
}

TEST(PlatedCuts, KeepNoPotentialsApart) {
    // A slot between two pins lengthens the way over the surface; metal in it does not.
    Part part = test::bareRow(2);
    part.taken["pitch"] = mm(7.5);
    part.rules.standard = VoltageStandard::Iec60664;
    part.potentials.resize(2);
    part.potentials[0].name = "L";
    part.potentials[0].volts = Voltage::fromVolts(230);
    part.potentials[0].pins = {"p1"};
    part.potentials[1].name = "N";
    part.potentials[1].pins = {"p2"};
    part = withCutOut(part, slot(3.75, -4, 3.75, 4, 1.6));
    const auto way = [](const Part& of) {
        const Footprint f = derive(of);
        return f.voltages.empty() ? Length() : f.voltages.front().way;
    };
    Part filled = part;
    filled.marks.back().set["plated"] = "yes";
    filled.marks.back().set["rim"] = "0.2";
    EXPECT_GT(way(part), way(filled) + mm(0.5));
}

}  // namespace
}  // namespace punch::cut_outs_test
