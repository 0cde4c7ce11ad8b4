// Copper on different faces: over the wall of a slot, through it, and around the board's edge.

#include "core/clear/wall_way.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>

#include "core/advise/slot_for.h"
#include "core/clear/voltage_pairs.h"
#include "core/geometry/shapes.h"
#include "tests/support/cuts.h"
#include "tests/support/dice.h"
#include "tests/support/parts.h"

namespace punch::wall_way_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }

/// Two lands of 2.00 without holes, 9 apart: pin 1 on the part side, pin 2 on the solder side.
Part twoFaces() {
    Part part = test::bareRow(2);
    part.formations[0].lead = LeadShape::Round;
    part.taken["lead.width"] = mm(1.0);
    part.taken["pitch"] = mm(9);
    part.overrides[kWholePart].shape = LandShape::Round;
    part.overrides[kWholePart].land = mm(2);
    part.overrides["p1"].layers = PadLayers::Top;
    part.overrides["p2"].layers = PadLayers::Bottom;
    part.rules.standard = VoltageStandard::Iec60664;
    part.rules.iec.pollution = PollutionDegree::Three;
    part.potentials = {{"mains", PotentialKind::Ac, Voltage::fromVolts(230), "mains", {"p1"}, {}},
                       {"earth", PotentialKind::Ac, Voltage::fromVolts(0), "mains", {"p2"}, {}}};
    return part;
}

CutOut slot(double x, double half, double width) {
    CutOut cut;
    cut.id = "cut1";
    cut.from = {mm(x), mm(-half)};
    cut.to = {mm(x), mm(half)};
    cut.width = mm(width);
    return cut;
}

TEST(OtherFaces, WithoutACutNothingLeadsFromOneToTheOther) {
    const Footprint f = derive(twoFaces());
    ASSERT_EQ(f.voltages.size(), 1U);
    const VoltagePair& v = f.voltages[0];
    EXPECT_TRUE(v.otherFaces);
    EXPECT_EQ(v.gap, noWay());
    EXPECT_EQ(v.way, noWay());
    EXPECT_EQ(f.gauge("voltage")->state, GaugeState::Go);
    EXPECT_EQ(f.gauge("voltage")->words, "no way between them");
}

TEST(OtherFaces, ThroughASlotTheStringSlantsFromRimToRim) {
    Part part = twoFaces();
    part = withCuts(part, {slot(4.5, 20, 1.6)});
    const VoltagePair v = derive(part).voltages.at(0);
    // From the land's edge at 1.00 to the rim at 3.70, through the slot of 1.6 down 1.6, from 5.30 to 8.00.
    EXPECT_NEAR(v.gap.mm(), 2.7 + 1.6 * std::sqrt(2.0) + 2.7, 1e-5);
    part.rules.boardThickness = mm(0.8);
    EXPECT_NEAR(derive(part).voltages.at(0).gap.mm(), 5.4 + std::hypot(1.6, 0.8), 1e-5);
}

TEST(OtherFaces, ANarrowSlotIsCrossedAndItsWallCounts) {
    // 1.2 wide does not reach 1.5: each face is crossed as if it were filled, but the wall is there.
    Part part = twoFaces();
    part = withCuts(part, {slot(4.5, 20, 1.2)});
    EXPECT_NEAR(derive(part).voltages.at(0).way.mm(), 7.0 + 1.6, 1e-5);
    part.rules.boardThickness = mm(2.4);
    EXPECT_NEAR(derive(part).voltages.at(0).way.mm(), 7.0 + 2.4, 1e-5);
}

TEST(OtherFaces, AroundTheBoardsEdgeTheWallIsUnfolded) {
    // The edge 3 in front of both pins: folded flat, it is a straight line over both faces and the wall between.
    Part part = withFace(twoFaces(), FaceKind::BoardEdge, Axis::Across, false);
    const Face edge = part.faces.back();
    part.given[edge.id + ".at"] = {"-3", Unit::Mm};
    const VoltagePair v = derive(part).voltages.at(0);
    EXPECT_NEAR(v.way.mm(), std::hypot(9, 3 + 1.6 + 3) - 2, 1e-5);
    // Through air the string cuts no corner of the board: it is the same one.
    EXPECT_NEAR(v.gap.mm(), v.way.mm(), 1e-5);
    EXPECT_GE(v.path.size(), 4U);
}

TEST(OtherFaces, AroundTheEndOfASlotNoWayOverItsWallIsShorter) {
    // Against a plain search over both places of the rim.
    Part part = twoFaces();
    part = withCuts(part, {slot(4.5, 3, 2.0)});
    const Footprint f = derive(part);
    const double found = f.voltages.at(0).way.mm();
    const RoundedPolygon shape = *f.cutOuts[0].rounded();
    const SurfaceMap surface({shape});
    const RoundedPolygon a = landShape(f.pads[0]);
    const RoundedPolygon b = landShape(f.pads[1]);
    double least = 1e9;
    // The round end at (4.5 - 4.5, 3): places by the angle around it, a nanometre outside.
    const Point end{mm(4.5) - f.datum.x, mm(3) - f.datum.y};
    std::vector<double> above;
    std::vector<double> below;
    constexpr int kPlaces = 2000;
    const auto place = [&](int i) {
        const double angle = std::numbers::pi * i / kPlaces;
        return RoundedPolygon{{{end.x + mm(1.000001 * std::cos(angle)), end.y + mm(1.000001 * std::sin(angle))}},
                              Length()};
    };
    for (int i = 0; i <= kPlaces; ++i) {
        above.push_back(surface.way(a, place(i))->length.mm());
        below.push_back(surface.way(b, place(i))->length.mm());
    }
    for (int i = 0; i <= kPlaces; ++i)
        for (int k = 0; k <= kPlaces; ++k)
            least = std::min(least, above[static_cast<std::size_t>(i)] + below[static_cast<std::size_t>(k)] +
                                        std::hypot(1.6, std::numbers::pi * (i - k) / kPlaces));
    EXPECT_NEAR(found, least, 2e-5);
    // Slanting on the wall is shorter than going around on the face and then straight down.
    const double d = std::hypot(4.5, 3.0);
    const double arc = 2 * std::numbers::pi - 2 * std::atan2(4.5, 3.0) - 2 * std::acos(1 / d);
    const double around = 2 * std::sqrt(d * d - 1) + arc - 2;
    EXPECT_LT(found, around + 1.6);
    EXPECT_GT(found, around);
}

TEST(OtherFaces, ThroughAThickBoardTheWayTakesToTheWallBeforeTheEnd) {
    // Close to the slot's long side, 1 below its upper end: down the wall while going around it. By symmetry both
    // places stand as high, so that one number is searched. Whichever end the slot was drawn from.
    Part part = twoFaces();
    part.taken["pitch"] = mm(4.4);
    part.rules.boardThickness = mm(8.0);
    double least = 1e9;
    for (int i = 0; i <= 100000; ++i) {
        const double y = i * 1e-5;
        least = std::min(least, 2 * (std::hypot(1.4, y) - 1) + std::hypot(8.0, 2 * (1 - y) + std::numbers::pi * 0.8));
    }
    CutOut cut = slot(2.2, 0, 1.6);
    cut.from.y = mm(1);
    cut.to.y = mm(-20);
    for (int i = 0; i < 2; ++i) {
        part = withCuts(part, {cut});
        EXPECT_NEAR(derive(part).voltages.at(0).way.mm(), least, 1e-5) << i;
        std::swap(cut.from, cut.to);
    }
}

TEST(OtherFaces, ThroughRandomSlotsAirIsNeverLongerThanTheSurfaceAndNeverShorterThanStraight) {
    test::Dice dice(41);
    for (int i = 0; i < 40; ++i) {
        Part part = twoFaces();
        part.rules.boardThickness = mm(dice.between(0.8, 3.2));
        CutOut cut = slot(dice.between(2.6, 6.4), 0, dice.between(0.8, 2.4));
        cut.from.y = mm(dice.between(-6, 0));
        cut.to.y = mm(dice.between(1, 6));
        part = withCuts(part, {cut});
        const Footprint f = derive(part);
        const VoltagePair& v = f.voltages.at(0);
        ASSERT_LT(v.gap, noWay());
        ASSERT_LT(v.way, noWay());
        EXPECT_LE(v.gap.mm(), v.way.mm() + 1e-6) << i;
        const double flat = gap(landShape(f.pads[0]), landShape(f.pads[1])).mm();
        EXPECT_GE(v.gap.mm(), std::hypot(flat, part.rules.boardThickness.mm()) - 1e-6) << i;
        EXPECT_GE(v.way.mm(), flat + part.rules.boardThickness.mm() * 0.5) << i;
        // Drawn from its other end it is the same slot.
        Part turned = part;
        std::swap(turned.marks[0].points[0], turned.marks[0].points[1]);
        EXPECT_NEAR(derive(turned).voltages.at(0).way.mm(), v.way.mm(), 2e-6) << i;
        EXPECT_NEAR(derive(turned).voltages.at(0).gap.mm(), v.gap.mm(), 2e-6) << i;
        // A second slot far away changes nothing; a nearer one never makes it longer.
        Part more = part;
        more.marks.push_back(markOf(slot(60, 2, 1.6)));
        more.marks.back().id = "cut2";
        EXPECT_NEAR(derive(more).voltages.at(0).gap.mm(), v.gap.mm(), 1e-7);
    }
}

TEST(OtherFaces, WhatIsFarIsRightWithinATenthAndNeverTooShort) {
    // Ways beyond what has to be exact, against the full search, over random boards.
    test::Dice dice(43);
    for (int i = 0; i < 60; ++i) {
        Part part = twoFaces();
        part.rules.boardThickness = mm(dice.between(0.8, 2.4));
        for (int k = 0; k < 3; ++k) {
            CutOut cut = slot(dice.between(2.4, 6.6), 0, dice.between(0.8, 2.0));
            cut.id = "cut" + std::to_string(k);
            cut.from.y = mm(dice.between(-5, 1));
            cut.to = cut.from + Point{mm(dice.between(-1, 1)), mm(dice.between(1, 4))};
            if (dice.below(3) == 0) {
                cut.kind = CutOutKind::Window;
                cut.to = cut.from + Point{mm(1.2), mm(dice.between(1, 3))};
                cut.width = mm(0.2);
            }
            part.marks.push_back(markOf(cut));
        }
        const Footprint f = derive(part);
        std::vector<RoundedPolygon> cuts;
        for (const Shape& c : f.cutOuts) cuts.push_back(*c.rounded());
        const SurfaceMap surface(cuts);
        const RoundedPolygon a = landShape(f.pads[0]);
        const RoundedPolygon b = landShape(f.pads[1]);
        const auto way = [&](double exactTo) {
            return WallWays(part, f.board()).between("a", a, "b", b, surface, mm(exactTo)).surface;
        };
        const auto far = way(0.1);
        const auto exact = way(1000);
        ASSERT_EQ(far.has_value(), exact.has_value());
        if (!far) continue;
        EXPECT_GE(far->length.mm(), exact->length.mm() - 1e-6) << i;
        EXPECT_LT(far->length.mm(), exact->length.mm() + 0.1) << i;
    }
}

TEST(OtherFaces, ASlotIsNoHelpBetweenThemAndOpensNoTooShortAWay) {
    Part part = twoFaces();
    part.rules.iec.insulation = Insulation::Reinforced;
    EXPECT_FALSE(slotFor(part, derive(part), "p1", "p2")) << "nothing leads from one to the other yet";
    part = withCuts(part, {slot(4.5, 20, 1.6)});
    Footprint f = derive(part);
    const auto refused = slotFor(part, f, "p1", "p2");
    ASSERT_FALSE(refused);
    EXPECT_NE(refused.error().what.find("different faces"), std::string::npos);
    EXPECT_LT(f.voltages.at(0).gap, mm(8)) << "7.66 through the slot";
    // Two more pins between which a slot would help, beside the two that it would bring together.
    part = withCuts(part, {});
    part = *withPinCount(part, 0, 3);
    part.given["pitch"] = {"9", Unit::Mm};
    part.taken.erase("pitch");
    part.overrides["p3"].layers = PadLayers::Top;
    part.potentials[1].pins = {"p2", "p3"};
    part.potentials[0].pins = {"p1"};
    f = derive(part);
    ASSERT_NE(pairOf(f, "p1", "p3"), nullptr);
    EXPECT_FALSE(pairOf(f, "p1", "p3")->otherFaces);
    if (const auto put = slotFor(part, f, "p1", "p3")) {
        const Footprint after = derive(withCutOut(part, *put));
        EXPECT_GE(pairOf(after, "p1", "p2")->margin(), Length()) << "the slot has to stay far from both faces' copper";
    }
}

TEST(OtherFaces, AThroughPadSharesAFaceWithBoth) {
    Part part = twoFaces();
    part.overrides["p1"].layers = PadLayers::Through;
    const VoltagePair v = derive(part).voltages.at(0);
    EXPECT_FALSE(v.otherFaces);
    EXPECT_EQ(v.gap, mm(7));
}

}  // namespace
}  // namespace punch::wall_way_test
