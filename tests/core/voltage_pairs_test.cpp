// Pairs of potentials: through air and over the surface, around slots, windows and holes, on every layer.

#include "core/clear/voltage_pairs.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "tests/support/cuts.h"
#include "tests/support/parts.h"

namespace punch::voltage_pairs_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }

/// Two pins 12 apart at 230 V and 0 V, reinforced at degree 3: 8.00 over the surface.
Part apart(double slotWidth) {
    Part part = test::bareRow(2);
    part.formations[0].lead = LeadShape::Round;
    part.taken["lead.width"] = mm(1.0);
    part.taken["pitch"] = mm(9);
    part.overrides[kWholePart].shape = LandShape::Round;
    part.rules.standard = VoltageStandard::Iec60664;
    part.rules.iec.pollution = PollutionDegree::Three;
    part.rules.iec.insulation = Insulation::Reinforced;
    part.potentials = {{"mains", PotentialKind::Ac, Voltage::fromVolts(230), "mains", {"p1"}, {}},
                       {"earth", PotentialKind::Ac, Voltage::fromVolts(0), "mains", {"p2"}, {}}};
    if (slotWidth > 0) {
        CutOut cut;
        cut.id = "cut1";
        cut.from = {mm(4.5), mm(-4)};
        cut.to = {mm(4.5), mm(4)};
        cut.width = mm(slotWidth);
        part = withCuts(part, {cut});
    }
    return part;
}

TEST(VoltagePairs, ASlotLengthensTheCreepageAndNotTheClearance) {
    const Footprint plain = derive(apart(0));
    const Footprint slotted = derive(apart(1.6));
    const VoltagePair& a = plain.voltages.front();
    const VoltagePair& b = slotted.voltages.front();
    EXPECT_EQ(a.gap, a.way);
    EXPECT_EQ(a.gap, b.gap);
    // By hand: from the land's middle to the end's middle hypot(4.5, 4), tangents, and the arc over the end.
    const double r = 0.8;
    const double d = std::hypot(4.5, 4.0);
    const double arc = 2 * std::numbers::pi - 2 * std::atan2(4.5, 4.0) - 2 * std::acos(r / d);
    EXPECT_NEAR(b.way.mm(), 2 * std::sqrt(d * d - r * r) + r * arc - slotted.pads[0].top.width.mm(), 1e-5);
    EXPECT_EQ(plain.gauge("voltage")->state, GaugeState::NoGo);
    EXPECT_NE(slotted.gauge("voltage")->state, GaugeState::NoGo);
    EXPECT_GT(b.path.size(), 3U);
}

TEST(VoltagePairs, ASlotNarrowerThanXIsCrossedAsIfItWereFilled) {
    // Degree 3 asks for 1.5 at the least milled width, so for 1.6 with its tolerance of 0.10.
    EXPECT_EQ(derive(apart(1.55)).voltages.front().way, derive(apart(0)).voltages.front().way);
    EXPECT_GT(derive(apart(1.6)).voltages.front().way, derive(apart(0)).voltages.front().way);
    Part two = apart(1.1);
    two.rules.iec.pollution = PollutionDegree::Two;
    EXPECT_GT(derive(two).voltages.front().way, derive(two).voltages.front().gap);
    two.marks[0].set["width"] = "1.05";
    EXPECT_EQ(derive(two).voltages.front().way, derive(two).voltages.front().gap);
    // Below 3 mm of clearance X may come down to a third of it, if the user says so.
    Part narrow = apart(0.9);
    narrow.rules.iec.insulation = Insulation::Basic;
    narrow.rules.iec.category = OvervoltageCategory::II;
    narrow.rules.iec.pollution = PollutionDegree::Two;
    EXPECT_EQ(derive(narrow).voltages.front().path.size(), 0U);
    narrow.rules.iec.narrowSlots = true;
    EXPECT_GT(derive(narrow).voltages.front().path.size(), 0U) << "1.5 mm of clearance: X is 0.5";
}

TEST(VoltagePairs, MetalOnTheBoardAndPhasesCount) {
    Part part = apart(0);
    part = withSpot(part, SpotKind::MountingHole);
    const FeatureId hole = part.spots[0].id;
    part.given[hole + ".x"] = {"4.5", Unit::Mm};
    part.given[hole + ".y"] = {"-6", Unit::Mm};
    part.given[hole + ".diameter"] = {"3.2", Unit::Mm};
    part.spots[0].head = mm(6);
    part.potentials[1].pins.push_back(hole);
    const Footprint f = derive(part);
    const auto it =
        std::find_if(f.voltages.begin(), f.voltages.end(), [&](const VoltagePair& v) { return v.b == hole; });
    ASSERT_NE(it, f.voltages.end());
    EXPECT_NEAR(it->gap.mm(), std::hypot(4.5, 6) - 3 - f.pads[0].top.width.mm() / 2, 1e-6);
    const auto back = fromText(toText(part), "x");
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(*back, part);
    // Two phases of one mains, 120 degrees apart: sqrt(3) times the voltage.
    Potential l1, l2;
    l1.volts = l2.volts = Voltage::fromVolts(230);
    l1.phase = Angle::fromDegrees(0);
    l2.phase = Angle::fromDegrees(120);
    EXPECT_NEAR(rmsBetween(l1, l2).volts(), 230 * std::sqrt(3.0), 1e-9);
    l2.phase.reset();
    l1.phase.reset();
    EXPECT_EQ(rmsBetween(l1, l2).volts(), 0);
    Potential peak;
    peak.kind = PotentialKind::Peak;
    peak.volts = Voltage::fromVolts(325);
    EXPECT_NEAR(peakBetween(peak, Potential{}).volts(), 325, 1e-9);
}

TEST(VoltagePairs, ManyPadsAreLookedUpAndNoneThatMattersIsMissed) {
    // A grid of 20 x 20 at two potentials in turn: the short list holds the same worst pair as testing all of them.
    Part part = *newPart({FormationKind::Grid, std::vector<int>(20, 20), {}, false, false, "", Axis::Along});
    part.body.present = false;
    part.formations[0].lead = LeadShape::Round;
    part.taken["lead.width"] = mm(0.6);
    part.taken["pitch"] = mm(3.5);
    part.taken["rowGap"] = mm(3.5);
    Potential a{"a", PotentialKind::Dc, Voltage::fromVolts(100), "", {}, {}};
    Potential b{"b", PotentialKind::Dc, Voltage::fromVolts(0), "", {}, {}};
    const auto& pins = part.formations[0].pins;
    for (std::size_t i = 0; i < pins.size(); ++i) (i % 3 == 0 ? a : b).pins.push_back(pins[i]);
    part.potentials = {a, b};
    const Footprint f = derive(part);
    Length worst = mm(1e3);
    for (std::size_t i = 0; i < f.pads.size(); ++i)
        for (std::size_t k = i + 1; k < f.pads.size(); ++k) {
            const bool ai = std::count(a.pins.begin(), a.pins.end(), f.pads[i].id) > 0;
            const bool ak = std::count(a.pins.begin(), a.pins.end(), f.pads[k].id) > 0;
            if (ai != ak) worst = min(worst, *copperGap(f.pads[i], f.pads[k]));
        }
    ASSERT_FALSE(f.voltages.empty());
    EXPECT_EQ(f.voltages.front().gap, worst);
    voltagePairs(part, f.board());
    EXPECT_LE(exactDistancesTaken(), 12 * f.pads.size());
}

TEST(VoltagePairs, TheShorterFaceCountsAndInnerCopperGoesThroughTheBoard) {
    // Lands that differ by layer: small above, large below; the slot lengthens both faces, the lower one is shorter.
    Part part = apart(1.6);
    part.overrides[part.formations[0].id].bottom = mm(3);
    const Footprint f = derive(part);
    Part below = apart(1.6);
    below.overrides[below.formations[0].id].land = mm(3);
    EXPECT_NEAR(f.voltages.front().way.mm(), derive(below).voltages.front().way.mm(), 1e-9);
    EXPECT_NEAR(f.voltages.front().gap.mm(), derive(below).voltages.front().gap.mm(), 1e-9);
    // Large copper inside shortens the way through, not the one over the surface.
    Part inside = apart(1.6);
    inside.overrides[inside.formations[0].id].inner = mm(4);
    const Footprint g = derive(inside);
    EXPECT_NEAR(g.voltages.front().gap.mm(), 9 - 4, 1e-9);
    EXPECT_NEAR(g.voltages.front().way.mm(), derive(apart(1.6)).voltages.front().way.mm(), 1e-9);
    // Lands on opposite sides share no layer: nothing is said about the way through the board.
    Part sides = apart(0);
    sides.overrides["p1"].layers = PadLayers::Top;
    sides.overrides["p2"].layers = PadLayers::Bottom;
    const Footprint h = derive(sides);
    EXPECT_FALSE(copperGap(*h.pad("p1"), *h.pad("p2")).has_value());
    EXPECT_GT(h.voltages.front().gap, mm(500));
}

TEST(VoltagePairs, ABareHoleAndAWindowAreGoneAroundToo) {
    // A hole of 3 for a screw right between the two: wider than X, so the way leads around it.
    Part part = apart(0);
    part = withSpot(part, SpotKind::MountingHole);
    const FeatureId hole = part.spots[0].id;
    part.given[hole + ".x"] = {"4.5", Unit::Mm};
    part.given[hole + ".y"] = {"0", Unit::Mm};
    part.given[hole + ".diameter"] = {"3", Unit::Mm};
    const Footprint f = derive(part);
    const double r = 1.5;
    const double d = 4.5;
    // Two tangents from the lands' middles and the arc between them.
    const double expected = 2 * std::sqrt(d * d - r * r) + r * (std::numbers::pi - 2 * std::acos(r / d));
    EXPECT_NEAR(f.voltages.front().way.mm(), expected - f.pads[0].top.width.mm(), 1e-5);
    // A window of 2 x 8 with corners of 0.5: over its shorter end, corner to corner.
    Part cut = apart(0);
    CutOut window;
    window.id = "cut9";
    window.kind = CutOutKind::Window;
    window.from = {mm(3.5), mm(-4)};
    window.to = {mm(5.5), mm(4)};
    window.width = mm(1);
    cut = withCuts(cut, {window});
    const Footprint g = derive(cut);
    const double corner = 0.5;
    const double x = 4.5 - 0.5;  // from a land's middle to the middle of the nearer corner
    const double y = 3.5;
    const double far = std::hypot(x - 0.0, y);
    const double alpha = std::atan2(y, x);
    // From the tangent's touch round to straight up, at each of two corners, and 1.0 between them.
    const double touch = std::acos(corner / far);
    const double up = std::numbers::pi / 2;
    const double from = alpha + std::numbers::pi - touch;  // direction of the touch seen from the corner's middle
    const double turn = from - up;
    EXPECT_NEAR(g.voltages.front().way.mm(),
                2 * (std::sqrt(far * far - corner * corner) + corner * turn) + 1.0 - g.pads[0].top.width.mm(), 1e-4);
    EXPECT_EQ(fromText(toText(cut), "x")->marks, cut.marks);
}

TEST(VoltagePairs, TheGaugeTakesTheWayThatHasLessToSpare) {
    Part part = apart(1.6);
    part.rules.iec.insulation = Insulation::Basic;
    part.rules.iec.category = OvervoltageCategory::IV;
    // Category IV at 230 V: 6000 V, 5.5 mm through air; creepage 4.00 would do, but is never less than the clearance.
    const Footprint f = derive(part);
    EXPECT_NEAR(f.voltages.front().clearance->mm(), 5.5, 1e-9);
    EXPECT_NEAR(*f.gauge("voltage")->limit, 5.5, 1e-9);
    EXPECT_NEAR(*f.gauge("voltage")->value, f.voltages.front().gap.mm(), 1e-9) << "through air there is less to spare";
    part.rules.iec.altitude = 20000;
    EXPECT_EQ(derive(part).gauge("voltage")->state, GaugeState::Unknown);
}

}  // namespace
}  // namespace punch::voltage_pairs_test
