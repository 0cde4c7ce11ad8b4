// Lands, holes and slots as shapes: exact distances, what overrides do, the room of a pad and its best size.

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <random>

#include "core/clear/room.h"
#include "core/clear/voltage_pairs.h"
#include "core/size/fewest_drills.h"
#include "core/size/hole_fit.h"
#include "core/size/pad_rules.h"
#include "tests/support/parts.h"

namespace punch {
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
                const plane::V a1 = at(pa, ia, da), a2 = at(pa, ia, da + 1), b1 = at(pb, ib, db), b2 = at(pb, ib, db + 1);
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

// ---------------------------------------------------------------- voltage around cuts

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
        part.cutOuts = {cut};
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
    two.cutOuts[0].width = mm(1.05);
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
    const auto it = std::find_if(f.voltages.begin(), f.voltages.end(), [&](const VoltagePair& v) { return v.b == hole; });
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
    voltagePairs(part, f);
    EXPECT_LE(exactDistancesTaken(), 12 * f.pads.size());
}

}  // namespace
}  // namespace punch
