// Shapes, slots and overrides over random input: outlines, insides, what fits into a slot, what files keep.

#include "core/geometry/shapes.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/advise/ways_out.h"
#include "core/clear/room.h"
#include "core/size/fab_profiles.h"
#include "core/size/hole_fit.h"
#include "core/size/pad_rules.h"
#include "tests/support/cuts.h"
#include "tests/support/dice.h"
#include "tests/support/parts.h"

namespace punch::shapes_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }

using test::Dice;

Land randomLand(Dice& dice) {
    Land land;
    land.shape = static_cast<LandShape>(dice.below(6));
    land.at = {mm(dice.between(-5, 5)), mm(dice.between(-5, 5))};
    land.width = mm(dice.between(0.3, 4));
    land.length = mayBeLonger(land.shape) ? mm(dice.between(0.3, 4)) : land.width;
    land.corner = dice.between(0, 0.5) * min(land.width, land.length);
    land.turn = Angle::fromDegrees(dice.between(-180, 180));
    return land;
}

TEST(Shapes, AnOutlineLiesOnTheEdgeAndGoesAroundOnce) {
    Dice dice(1);
    for (int i = 0; i < 300; ++i) {
        const RoundedPolygon shape = copperShape(randomLand(dice));
        const auto outline = outlineOf(shape, Length::fromUm(1));
        ASSERT_GE(outline.size(), 3U);
        double area = 0;
        for (std::size_t k = 0; k < outline.size(); ++k) {
            const Point a = outline[k];
            const Point b = outline[(k + 1) % outline.size()];
            area += a.x.mm() * b.y.mm() - b.x.mm() * a.y.mm();
            // On the edge: no further in than the rounding, no further out.
            EXPECT_NEAR(gap(shape, RoundedPolygon::disc(a, Length())).mm(), 0, 1e-6);
        }
        EXPECT_GT(area, 0) << "counter-clockwise";
        const Rect box = boundsOf(shape);
        EXPECT_LE(area / 2, box.width().mm() * box.height().mm() + 1e-9);
        for (const Point& p : outline) {
            EXPECT_GE(p.x, box.left - Length::fromNm(1));
            EXPECT_LE(p.y, box.top + Length::fromNm(1));
        }
    }
}

TEST(Shapes, AreasAreThoseOfTheTextbook) {
    const auto area = [](const Land& land) {
        double a = 0;
        const auto outline = outlineOf(copperShape(land), Length::fromNm(10));
        for (std::size_t k = 0; k < outline.size(); ++k) {
            const Point p = outline[k];
            const Point q = outline[(k + 1) % outline.size()];
            a += p.x.mm() * q.y.mm() - q.x.mm() * p.y.mm();
        }
        return a / 2;
    };
    const double pi = std::numbers::pi;
    const Angle turn = Angle::fromDegrees(37);
    EXPECT_NEAR(area({LandShape::Round, {}, mm(2), mm(2), {}, turn}), pi, 1e-4);
    EXPECT_NEAR(area({LandShape::Square, {}, mm(2), mm(2), {}, turn}), 4, 1e-9);
    EXPECT_NEAR(area({LandShape::Rectangle, {}, mm(2), mm(3), {}, turn}), 6, 1e-9);
    EXPECT_NEAR(area({LandShape::Oval, {}, mm(2), mm(3), {}, turn}), 2 * 1 + pi, 1e-4);
    EXPECT_NEAR(area({LandShape::Oval, {}, mm(3), mm(2), {}, turn}), 2 * 1 + pi, 1e-4);
    EXPECT_NEAR(area({LandShape::RoundedRectangle, {}, mm(2), mm(3), mm(0.5), turn}), 6 - (4 - pi) * 0.25, 1e-4);
    EXPECT_NEAR(area({LandShape::Octagon, {}, mm(2), mm(2), {}, turn}), 8 * (std::sqrt(2.0) - 1), 1e-6);
}

TEST(Shapes, GrowingMovesEveryEdgeOutByAsMuch) {
    Dice dice(3);
    for (int i = 0; i < 200; ++i) {
        const Land land = randomLand(dice);
        const Length by = mm(dice.between(0.01, 0.3));
        const RoundedPolygon small = copperShape(land);
        const RoundedPolygon large = copperShape(grown(land, by));
        // Every place of the old edge lies inside, and none nearer to the new edge than `by`; where sides are straight
        // it is just that.
        double nearest = 1e9;
        const auto outer = outlineOf(large, Length::fromUm(1));
        for (std::size_t k = 0; k < outer.size(); ++k) {
            // Corners, and the middles of the sides between them.
            const Point p = outer[k];
            const Point q = outer[(k + 1) % outer.size()];
            for (const Point& at : {p, Point{(p.x + q.x) / 2, (p.y + q.y) / 2}})
                nearest = std::min(nearest, gap(small, RoundedPolygon::disc(at, Length())).mm());
        }
        EXPECT_NEAR(nearest, by.mm(), 2e-3) << static_cast<int>(land.shape);
        for (const Point& p : outlineOf(small, Length::fromUm(1))) EXPECT_TRUE(contains(large, p));
    }
}

TEST(Shapes, AQuarterTurnIsExact) {
    Land land{LandShape::Rectangle, {mm(1), mm(2)}, mm(3), mm(1), {}, Angle::fromDegrees(90)};
    const Rect box = boundsOf(copperShape(land));
    EXPECT_EQ(box.width(), mm(1));
    EXPECT_EQ(box.height(), mm(3));
    land.turn = Angle::fromDegrees(-180);
    EXPECT_EQ(boundsOf(copperShape(land)).width(), mm(3));
}

TEST(Slots, ABladeShiftsInItsSlotByWhatIsPromisedAndNoMore) {
    // spareRoom() against a search: how far can the blade go along and across before a corner leaves the slot?
    Dice dice(5);
    for (int i = 0; i < 200; ++i) {
        LeadSection lead;
        lead.thick.mean = mm(dice.between(0.3, 1.2));
        lead.wide.mean = lead.thick.mean + mm(dice.between(0.2, 3));
        lead.across.mean = hypot(lead.thick.mean, lead.wide.mean);
        const Length width = lead.thick.mean + mm(dice.between(0.05, 0.4));
        const Length length = lead.wide.mean + mm(dice.between(0.3, 1.0));
        const Length spare = spareRoom(lead, width, length, false);
        const RoundedPolygon slot = slotShape({}, width, length, Angle());
        const auto fits = [&](double dx, double dy) {
            for (const double sx : {-1.0, 1.0})
                for (const double sy : {-1.0, 1.0}) {
                    const Point corner{sx * lead.wide.mean / 2 + mm(dx), sy * lead.thick.mean / 2 + mm(dy)};
                    if (gap(slot, RoundedPolygon::disc(corner, Length())) > Length::fromNm(1)) return false;
                }
            return true;
        };
        if (spare < Length()) {
            EXPECT_FALSE(fits(0, 0) && fits(0.001, 0) && fits(-0.001, 0));
            continue;
        }
        const double half = spare.mm() / 2;
        // Half of it to each side, along; across when the blade's corners lie in the straight part.
        EXPECT_TRUE(fits(half - 1e-6, 0)) << i;
        EXPECT_TRUE(fits(-half + 1e-6, 0)) << i;
        const bool straight = lead.wide.mean + width < length + mm(1e-9);
        if (straight) {
            EXPECT_TRUE(fits(0, half - 1e-6));
            EXPECT_FALSE(fits(half + 1e-4, 0) && fits(0, half + 1e-4)) << "one of both binds";
        }
    }
}

TEST(Slots, EveryRandomBladeGetsASlotThatTakesIt) {
    Dice dice(7);
    for (int i = 0; i < 80; ++i) {
        Part part = test::bareRow(2);
        part.formations[0].lead = LeadShape::Rectangular;
        part.taken["lead.width"] = mm(dice.between(0.3, 1.8));
        part.taken["lead.thickness"] = mm(dice.between(0.3, 3.0));
        part.taken["pitch"] = mm(12);
        part.rules.level = static_cast<Level>(dice.below(3));
        part.rules.fab = shippedProfiles()[static_cast<std::size_t>(dice.below(3))];
        part.overrides[part.formations[0].id].slot = true;
        const Footprint f = derive(part);
        const Pad& pad = f.pads[0];
        const LeadFit& lead = f.leads[0];
        if (pad.slotLength <= Length()) continue;
        EXPECT_GE(holeSpare(f, pad) + Length::fromNm(2), min(lead.allowance, pad.hole - lead.section.thick.mean)) << i;
        EXPECT_GE(pad.hole, lead.section.thick.mean);
        EXPECT_GE(pad.slotLength, lead.section.wide.mean);
        EXPECT_NE(f.gauge("ring")->state, GaugeState::NoGo) << i << " " << f.gauge("ring")->words;
        if (!lead.beyondList) {
            const auto& mills = part.rules.fab.mills;
            EXPECT_TRUE(std::any_of(mills.begin(), mills.end(), [&](Length m) {
                return abs(m - pad.hole - part.rules.fab.plating) < Length::fromNm(2);
            })) << "its width is that of a bit";
        }
    }
}

PadOverride randomOverride(Dice& dice) {
    PadOverride o;
    const auto maybe = [&](std::optional<Length>& field, double low, double high) {
        if (dice.coin()) field = Length::fromUm(std::round(dice.between(low, high) * 1000));
    };
    if (dice.coin()) o.shape = static_cast<LandShape>(dice.below(6));
    maybe(o.land, 0.5, 5);
    maybe(o.landLength, 0.5, 5);
    maybe(o.corner, 0.05, 1);
    maybe(o.offsetX, -1, 1);
    maybe(o.offsetY, -1, 1);
    maybe(o.inner, 0.5, 4);
    maybe(o.bottom, 0.5, 4);
    maybe(o.hole, 0.3, 3);
    maybe(o.holeLength, 0.3, 5);
    maybe(o.maskMargin, 0, 0.3);
    if (dice.coin()) o.turn = Angle::fromDegrees(dice.below(720) / 2.0 - 180);
    if (dice.coin()) o.slot = dice.coin();
    if (dice.coin()) o.plated = dice.coin();
    if (dice.coin()) o.layers = static_cast<PadLayers>(dice.below(3));
    if (dice.coin()) o.tented = dice.coin();
    if (dice.coin()) o.paste = dice.coin();
    if (dice.coin()) o.reason = "because “so”";
    return o;
}

TEST(Overrides, SurviveTheFileAndNeverEndTheProgram) {
    Dice dice(11);
    for (int i = 0; i < 120; ++i) {
        Part part = test::demoPart();
        for (const char* key : {"p1", "p3", "f1", "peg5", "part"})
            if (dice.coin()) part.overrides[key] = randomOverride(dice);
        for (int k = dice.below(3); k > 0; --k) {
            CutOut cut;
            cut.kind = dice.coin() ? CutOutKind::Slot : CutOutKind::Window;
            cut.from = {Length::fromUm(std::round(dice.between(-9000, 9000))), mm(dice.below(9))};
            cut.to = {mm(dice.below(9)), Length::fromUm(std::round(dice.between(-9000, 9000)))};
            cut.width = Length::fromUm(std::round(dice.between(100, 3000)));
            part = withCutOut(part, cut);
        }
        part.rules.fab = shippedProfiles()[static_cast<std::size_t>(dice.below(3))];
        const auto back = fromText(toText(part), "x");
        ASSERT_TRUE(back) << back.error().text();
        ASSERT_EQ(*back, part) << i;
        // Whatever was set, the footprint is one: finite numbers, a state for each gauge, every layer exported.
        const Footprint f = derive(part);
        EXPECT_EQ(f.pads.size(), 4U);
        EXPECT_GE(f.gauges.size(), 12U);
        for (const Pad& p : f.pads)
            for (const Land* land : {&p.top, &p.inner, &p.bottom}) {
                EXPECT_TRUE(land->width.isFinite() && land->length.isFinite());
                EXPECT_GE(land->length, Length());
            }
        for (const VoltagePair& v : f.voltages) EXPECT_TRUE(v.gap.isFinite() && v.way.isFinite());
        EXPECT_TRUE(f.courtyard.width().isFinite());
    }
}

TEST(Room, BestPadsOfRandomPartsFailNothingThatPassedBefore) {
    Dice dice(13);
    int done = 0;
    for (int i = 0; i < 40; ++i) {
        Part part = test::bareRow(3 + dice.below(4));
        part.formations[0].lead = LeadShape::Round;
        part.taken["lead.width"] = mm(dice.between(0.5, 1.2));
        part.taken["pitch"] = mm(dice.between(3, 9));
        part.rules.fab = shippedProfiles()[static_cast<std::size_t>(dice.below(3))];
        part.rules.level = static_cast<Level>(dice.below(3));
        if (dice.coin()) {
            Potential a{"a", PotentialKind::Dc, Voltage::fromVolts(dice.between(10, 300)), "", {}, {}};
            Potential b{"b", PotentialKind::Dc, Voltage::fromVolts(0), "", {}, {}};
            for (std::size_t k = 0; k < part.formations[0].pins.size(); ++k)
                (k % 2 == 0 ? a : b).pins.push_back(part.formations[0].pins[k]);
            part.potentials = {a, b};
        }
        const Footprint before = derive(part);
        const auto best = withBestPads(part);
        if (!best) {
            EXPECT_FALSE(best.error().what.empty());
            continue;
        }
        ++done;
        const Footprint after = derive(*best);
        for (const Gauge& g : before.gauges)
            if (g.state != GaugeState::NoGo) {
                EXPECT_NE(after.gauge(g.name)->state, GaugeState::NoGo) << i << " " << g.name;
            }
        const auto room = roomOfFormation(*best, after, part.formations[0].id);
        ASSERT_TRUE(room);
        EXPECT_LT((room->most - room->now).mm(), 0.05 + 1e-6) << "the next step would be too much";
        EXPECT_GE(room->most, room->now - Length::fromNm(2));
    }
    EXPECT_GT(done, 25);
}

}  // namespace
}  // namespace punch::shapes_test
