// Lands, holes and slots as shapes: exact distances, what overrides do, the room of a pad and its best size.

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <random>

#include "core/clear/room.h"
#include "core/geometry/plane.h"
#include "core/geometry/shapes.h"
#include "core/size/fewest_drills.h"
#include "core/size/hole_fit.h"
#include "core/size/pad_rules.h"
#include "tests/support/parts.h"

namespace punch::lands_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }

Land randomLand(std::mt19937& random) {
    std::uniform_real_distribution<double> size(0.3, 4), place(-4, 4), turn(0, 360);
    Land land;
    land.shape = static_cast<LandShape>(random() % 6);
    land.at = {mm(place(random)), mm(place(random))};
    land.width = mm(size(random));
    land.length = mayBeLonger(land.shape) ? mm(size(random)) : land.width;
    land.corner = 0.3 * min(land.width, land.length);
    land.turn = Angle::fromDegrees(turn(random));
    return land;
}

/// Points on the edge, dense where it is straight too.
std::vector<plane::V> dense(const RoundedPolygon& shape) {
    std::vector<plane::V> points;
    const auto outline = outlineOf(shape, Length::fromNm(20));
    for (std::size_t i = 0; i < outline.size(); ++i) {
        const Point a = outline[i];
        const Point b = outline[(i + 1) % outline.size()];
        const int n = std::max(1, static_cast<int>(distance(a, b).mm() / 0.02));
        for (int k = 0; k < n; ++k)
            points.push_back({a.x.mm() + (b.x - a.x).mm() * k / n, a.y.mm() + (b.y - a.y).mm() * k / n});
    }
    return points;
}

TEST(LandShapes, DistancesMatchDenseSamplingForAllShapesAndTurns) {
    std::mt19937 random(31);
    int apart = 0;
    for (int i = 0; i < 10000; ++i) {
        const RoundedPolygon a = copperShape(randomLand(random));
        const RoundedPolygon b = copperShape(randomLand(random));
        const double exact = gap(a, b).mm();
        if (exact <= 0) continue;
        ++apart;
        // Sampled in two steps: the nearest places of a coarse look, then the segments around them in fine steps.
        const auto pa = dense(a);
        const auto pb = dense(b);
        double coarse = 1e9;
        std::size_t ia = 0;
        std::size_t ib = 0;
        const std::size_t skipA = std::max<std::size_t>(1, pa.size() / 60);
        const std::size_t skipB = std::max<std::size_t>(1, pb.size() / 60);
        for (std::size_t k = 0; k < pa.size(); k += skipA)
            for (std::size_t m = 0; m < pb.size(); m += skipB)
                if (const double d = std::hypot(pa[k].x - pb[m].x, pa[k].y - pb[m].y); d < coarse) {
                    coarse = d;
                    ia = k;
                    ib = m;
                }
        double best = coarse;
        for (bool better = true; better;) {
            better = false;
            const std::size_t ca = ia;
            const std::size_t cb = ib;
            for (std::size_t k = 0; k <= 2 * skipA; ++k)
                for (std::size_t m = 0; m <= 2 * skipB; ++m) {
                    const std::size_t ja = (ca + pa.size() + k - skipA) % pa.size();
                    const std::size_t jb = (cb + pb.size() + m - skipB) % pb.size();
                    const double d = std::hypot(pa[ja].x - pb[jb].x, pa[ja].y - pb[jb].y);
                    if (d < best - 1e-12) {
                        best = d;
                        ia = ja;
                        ib = jb;
                        better = true;
                    }
                }
        }
        // Between two samples the segments themselves.
        for (int da = -1; da <= 0; ++da)
            for (int db = -1; db <= 0; ++db) {
                const auto at = [](const std::vector<plane::V>& p, std::size_t k, int off) {
                    return p[(k + p.size() + static_cast<std::size_t>(off + 1) - 1) % p.size()];
                };
                const plane::V a1 = at(pa, ia, da), a2 = at(pa, ia, da + 1), b1 = at(pb, ib, db),
                               b2 = at(pb, ib, db + 1);
                best = std::min({best, plane::pointToSegment(a1, b1, b2), plane::pointToSegment(a2, b1, b2),
                                 plane::pointToSegment(b1, a1, a2), plane::pointToSegment(b2, a1, a2)});
            }
        ASSERT_NEAR(exact, best, 1e-3) << i;
    }
    EXPECT_GT(apart, 3000);
}

TEST(LandShapes, AnOctagonIsAsWideAsItSaysAndHasEqualSides) {
    Land land{LandShape::Octagon, {}, mm(2), mm(2), {}, {}};
    const RoundedPolygon p = copperShape(land);
    ASSERT_EQ(p.corners.size(), 8U);
    const Rect box = boundsOf(p);
    EXPECT_NEAR(box.width().mm(), 2, 1e-9);
    EXPECT_NEAR(box.height().mm(), 2, 1e-9);
    for (std::size_t i = 0; i < 8; ++i)
        EXPECT_NEAR(distance(p.corners[i], p.corners[(i + 1) % 8]).mm(), 2 * std::tan(std::numbers::pi / 8), 1e-6);
}

/// Three blades of 0.8 x 2.4, exactly known, 7.5 apart.
Part blades() {
    Part part = test::bareRow(3);
    part.formations[0].lead = LeadShape::Rectangular;
    part.taken["lead.width"] = mm(0.8);
    part.taken["lead.thickness"] = mm(2.4);
    part.taken["pitch"] = mm(7.5);
    return part;
}

TEST(PlatedSlots, GiveBothSidesTheirOwnFit) {
    Part part = blades();
    const std::string f = part.formations[0].id;
    const Footprint round = derive(part);
    EXPECT_NEAR(round.pads[0].hole.mm(), std::ceil((std::hypot(0.8, 2.4) + 0.2) / 0.05) * 0.05, 1e-9);
    part.overrides[f].slot = true;
    const Footprint slotted = derive(part);
    const Pad& pad = slotted.pads[1];
    // Width 0.8 + 0.20 = 1.00, plating 0.10: the bit of 1.2 mills it, finished 1.10.
    EXPECT_NEAR(pad.hole.mm(), 1.10, 1e-9);
    // Length: 2.4 + 0.20 + what the rounded ends take: 1.10 - sqrt(1.10² - 0.80²) = 0.345; 2.945, up to 2.95.
    EXPECT_NEAR(pad.slotLength.mm(), 2.95, 1e-9);
    EXPECT_EQ(pad.slotTurn, Angle::fromDegrees(90)) << "along the blade's longer side";
    EXPECT_EQ(pad.top.shape, LandShape::Oval);
    // The blade's corners, shifted along by half of 0.20, still lie in the slot.
    const RoundedPolygon hole = holeShape(pad, false);
    for (const double sx : {-1.0, 1.0})
        for (const double sy : {-1.0, 1.0}) {
            const Point corner = pad.at + Point{mm(sx * 0.4), mm(sy * 1.2 + 0.1)};
            EXPECT_TRUE(contains(hole, corner));
        }
    EXPECT_EQ(slotted.gauge("lead-in-hole")->state, GaugeState::Go) << slotted.gauge("lead-in-hole")->words;
    EXPECT_EQ(slotted.gauge("ring")->state, GaugeState::Go);
    EXPECT_TRUE(slotted.dropIn.known);
    EXPECT_GT(slotted.dropIn.share, 0.9);
    // A blade thicker than the largest bit gets a slot all the same, with a word.
    part.taken["lead.width"] = mm(2.6);
    part.taken["lead.thickness"] = mm(4);
    EXPECT_EQ(derive(part).gauge("lead-in-hole")->words, "no mill bit is wide enough");
}

TEST(Overrides, TheNearestWinsFieldByField) {
    Part part = blades();
    const std::string f = part.formations[0].id;
    part.overrides[kWholePart].land = mm(5);
    part.overrides[kWholePart].shape = LandShape::Octagon;
    part.overrides[f].land = mm(4.5);
    part.overrides["p3"].shape = LandShape::RoundedRectangle;
    part.overrides["p3"].landLength = mm(6);
    part.overrides["p3"].turn = Angle::fromDegrees(30);
    part.overrides["p3"].offsetX = mm(-0.4);
    part.overrides["p3"].inner = mm(4);
    const Footprint d = derive(part);
    EXPECT_EQ(d.pad("p1")->top.shape, LandShape::Octagon);
    EXPECT_EQ(d.pad("p1")->top.width, mm(4.5));
    const Pad& p3 = *d.pad("p3");
    EXPECT_EQ(p3.top.shape, LandShape::RoundedRectangle);
    EXPECT_EQ(p3.top.width, mm(4.5));
    EXPECT_EQ(p3.top.length, mm(6));
    EXPECT_EQ(p3.top.turn, Angle::fromDegrees(30));
    EXPECT_NEAR((p3.top.at.x - p3.at.x).mm(), -0.4, 1e-9);
    EXPECT_EQ(p3.inner.width, mm(4));
    EXPECT_EQ(p3.bottom, p3.top);
    EXPECT_TRUE(p3.overridden);
    // All of it survives the file, and goes without a trace when it is taken back.
    const auto back = fromText(toText(part), "x");
    ASSERT_TRUE(back) << back.error().text();
    EXPECT_EQ(back->overrides, part.overrides);
    Part without = withoutOverride(withoutOverride(withoutOverride(part, "p3"), f), kWholePart);
    EXPECT_EQ(without, blades());
}

TEST(Overrides, OfTheWholePartAreMeantForPinsAndLeaveThePegAlone) {
    Part part = test::demoPart();
    const Footprint before = derive(part);
    part.overrides[kWholePart].hole = mm(1.8);
    part.overrides[kWholePart].land = mm(3);
    part.overrides[kWholePart].slot = true;
    const Footprint after = derive(part);
    EXPECT_EQ(after.pads[0].hole, mm(1.8));
    EXPECT_EQ(after.bareHoles[0].size, before.bareHoles[0].size);
    EXPECT_EQ(after.bareHoles[0].slotLength, Length());
    part.overrides[after.bareHoles[0].id].hole = mm(2);
    EXPECT_EQ(derive(part).bareHoles[0].size, mm(2));
}

TEST(Ring, IsTheLeastWayFromTheWallToTheEdgeOnAnyLayer) {
    Part part = blades();
    Footprint d = derive(part);
    const Length allowance = fabricationAllowance(Level::B) / 2;
    Pad pad = d.pads[1];
    EXPECT_NEAR(ringOf(part.rules, pad).mm(), ((pad.top.width - pad.holeLargest) / 2 - allowance).mm(), 1e-6);
    // Off its hole by 0.3, the ring is 0.3 thinner on one side; smaller inside by 0.8, 0.4 on both.
    pad.top.at.x += mm(0.3);
    EXPECT_NEAR(ringOf(part.rules, pad).mm(), ((pad.bottom.width - pad.holeLargest) / 2 - allowance).mm() - 0.3, 1e-6);
    pad.top.at.x -= mm(0.3);
    pad.inner.width = pad.inner.length = pad.top.width - mm(0.8);
    EXPECT_NEAR(ringOf(part.rules, pad).mm(), ((pad.bottom.width - pad.holeLargest) / 2 - allowance).mm() - 0.4, 1e-6);
    // A land that does not cover its hole has less than none.
    pad.inner.at.x += mm(5);
    EXPECT_LT(ringOf(part.rules, pad), Length());
}

TEST(OvalLeads, HaveAThicknessAndGoThroughTheHoleOfTheirLongerSide) {
    Part part = test::bareRow(2);
    part.formations[0].lead = LeadShape::Oval;
    part.taken["lead.width"] = mm(1.0);
    part.taken["lead.thickness"] = mm(0.5);
    part.taken["pitch"] = mm(5);
    const Footprint f = derive(part);
    EXPECT_TRUE(f.pads[0].leadOval);
    EXPECT_EQ(f.pads[0].leadY, mm(0.5));
    EXPECT_NEAR(f.leads[0].section.across.mean.mm(), 1.0, 1e-9);
    EXPECT_EQ(f.pads[0].hole, mm(1.2));
    EXPECT_EQ(fromText(toText(part), "x")->formations[0].lead, LeadShape::Oval);
}

TEST(Room, OfALandThatIsTooNarrowSaysThatNoWidthHelps) {
    Part part = test::bareRow(3);
    part.formations[0].lead = LeadShape::Round;
    part.taken["lead.width"] = mm(1.0);
    part.taken["pitch"] = mm(5);
    part.overrides[kWholePart].shape = LandShape::Oval;
    part.overrides[kWholePart].land = mm(2.2);
    part.overrides[kWholePart].landLength = mm(1.5);
    const Footprint f = derive(part);
    const auto width = roomOfFormation(part, f, part.formations[0].id, false);
    const auto length = roomOfFormation(part, f, part.formations[0].id, true);
    ASSERT_TRUE(width && length);
    EXPECT_GT(width->least, mostLand());
    EXPECT_LT(width->most, width->least);
    EXPECT_NEAR(length->least.mm(), 1.65, 1e-6) << "1.30 + 2 x 0.05 + 0.25";
    EXPECT_FALSE(withBestPad(part, f, "p2")) << "the width has no room";
}

TEST(Positions, AScrewsHoleHasNothingOfThePartInIt) {
    Part part = withSpot(test::demoPart(), SpotKind::MountingHole);
    const FeatureId hole = part.spots.back().id;
    part.given[hole + ".x"] = {"-3", Unit::Mm};
    part.given[hole + ".y"] = {"9", Unit::Mm};
    part.given[hole + ".diameter"] = {"3.2", Unit::Mm};
    EXPECT_NE(derive(part).gauge("positions")->state, GaugeState::NoGo);
}

TEST(FewestDrills, FormationsShareWhereTheLimitsAllowIt) {
    Rules rules;
    std::vector<LeadFit> leads(4);
    const auto set = [&](std::size_t i, double hole, double most) {
        leads[i].hole = mm(hole);
        leads[i].holeLargest = leads[i].hole + rules.platedTolerance;
        leads[i].largestAllowed = mm(most);
        leads[i].land = mm(hole + 0.5);
    };
    set(0, 1.0, 1.4);
    set(1, 1.2, 1.7);
    set(2, 1.35, 1.9);
    set(3, 1.6, 2.0);
    shareDrills(rules, leads);
    // 1.0 may grow to 1.3 and meets 1.2; 1.35 may grow to 1.8 and meets 1.6: two drills instead of four.
    EXPECT_EQ(leads[0].hole, mm(1.2));
    EXPECT_EQ(leads[1].hole, mm(1.2));
    EXPECT_EQ(leads[2].hole, mm(1.6));
    EXPECT_EQ(leads[3].hole, mm(1.6));
    EXPECT_NEAR(leads[0].land.mm(), 1.7, 1e-9);
    for (const LeadFit& l : leads) EXPECT_LE(l.holeLargest, l.largestAllowed);
}

/// A random part of one or two rows at random voltages, sizes all known.
Part randomPart(std::mt19937& random) {
    const int pins = 3 + static_cast<int>(random() % 5);
    std::uniform_real_distribution<double> pitch(3.5, 8), lead(0.5, 1.1), volts(5, 400);
    Part part = test::bareRow(pins);
    part.formations[0].lead = LeadShape::Round;
    part.taken["lead.width"] = mm(lead(random));
    part.taken["pitch"] = mm(pitch(random));
    if (random() % 2 == 0) part.rules.standard = VoltageStandard::Iec60664;
    if (random() % 3 == 0) part.overrides[kWholePart].shape = static_cast<LandShape>(random() % 6);
    part.rules.column = VoltageColumn::B2;
    part.rules.iec.category = OvervoltageCategory::I;
    for (int i = 0; i < pins; i += 2) {
        Potential p;
        p.name = "n" + std::to_string(i);
        p.volts = Voltage::fromVolts(volts(random) * (random() % 3 == 0 ? 0.1 : 0.6));
        p.source = "a source of its own";
        p.pins = {part.formations[0].pins[static_cast<std::size_t>(i)]};
        if (i + 1 < pins && random() % 2 == 0) {
            Potential q;
            q.name = "q" + std::to_string(i);
            q.pins = {part.formations[0].pins[static_cast<std::size_t>(i + 1)]};
            part.potentials.push_back(q);
        }
        part.potentials.push_back(p);
    }
    return part;
}

TEST(Room, JustInsidePassesEveryGaugeAndJustOutsideFailsTheOneNamed) {
    std::mt19937 random(2024);
    int upper = 0;
    std::set<std::string> bound;
    for (int i = 0; i < 60; ++i) {
        Part part = randomPart(random);
        const std::string f = part.formations[0].id;
        const Footprint d = derive(part);
        const auto room = roomOfFormation(part, d, f);
        ASSERT_TRUE(room);
        if (room->most < room->least + mm(0.002)) continue;
        const auto stateAt = [&](Length size, const std::string& gauge) {
            Part tried = part;
            tried.overrides[f].land = size;
            if (tried.overrides.contains(kWholePart) && mayBeLonger(*tried.overrides[kWholePart].shape))
                tried.overrides[f].landLength = size;
            return derive(tried).gauge(gauge)->state;
        };
        // Of a land that may be longer the room is that of its width alone.
        if (part.overrides.contains(kWholePart) && mayBeLonger(*part.overrides[kWholePart].shape)) continue;
        const Length hair = Length::fromNm(200);
        for (const char* gauge : {"ring", "copper-to-copper", "voltage"}) {
            EXPECT_NE(stateAt(room->least + hair, gauge), GaugeState::NoGo) << i << " " << gauge;
            EXPECT_NE(stateAt(room->most - hair, gauge), GaugeState::NoGo) << i << " " << gauge;
        }
        EXPECT_EQ(stateAt(room->least - hair, room->leastBy), GaugeState::NoGo) << i;
        if (room->most >= mostLand()) continue;
        ++upper;
        bound.insert(room->mostBy);
        const std::string named = room->mostBy == "mask web" ? "copper-to-copper" : room->mostBy;
        EXPECT_EQ(stateAt(room->most + hair, named), GaugeState::NoGo) << i << " " << room->mostBy;
    }
    EXPECT_GT(upper, 20);
    EXPECT_GE(bound.size(), 2U) << "voltage and copper both bind somewhere";
}

TEST(Room, TheDemoPartHasABestPadOf255) {
    const Part part = test::demoPart();
    const Footprint d = derive(part);
    const std::string f = part.formations[0].id;
    const auto room = roomOfFormation(part, d, f);
    ASSERT_TRUE(room);
    EXPECT_EQ(room->mostBy, "voltage");
    EXPECT_NEAR(room->best.mm(), 2.55, 1e-9);
    const auto best = withBestPad(part, d, f);
    ASSERT_TRUE(best) << best.error().text();
    const Footprint after = derive(*best);
    EXPECT_NEAR(after.pads[0].top.width.mm(), 2.55, 1e-9);
    EXPECT_NE(after.gauge("voltage")->state, GaugeState::NoGo);
    EXPECT_NE(best->overrides.at(f).reason.find("voltage"), std::string::npos);
    // It is the largest: one step more fails.
    Part more = *best;
    more.overrides[f].land = mm(2.60);
    EXPECT_EQ(derive(more).gauge("voltage")->state, GaugeState::NoGo);
}

TEST(Room, SaysSoWhereThereIsNone) {
    Part part = test::bareRow(4);
    part.formations[0].lead = LeadShape::Round;
    part.taken["lead.width"] = mm(1.0);
    part.taken["pitch"] = mm(1.7);
    const Footprint d = derive(part);
    const auto best = withBestPad(part, d, part.formations[0].id);
    ASSERT_FALSE(best);
    EXPECT_NE(best.error().what.find("no room"), std::string::npos);
}

}  // namespace
}  // namespace punch::lands_test
