// Drop-in of whole parts: slots, ovals, pegs, specimens, worlds; and that more room never hurts.

#include <gtest/gtest.h>

#include <algorithm>
#include <boost/math/distributions/normal.hpp>
#include <cmath>

#include "core/fit/drop_in.h"
#include "core/measure/adjust.h"
#include "tests/support/parts.h"

namespace punch::drop_in_parts_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }

DropInShare shareOf(const Part& part, int trials = 20000, std::uint64_t seed = 5) {
    const Footprint f = derive(part);
    return DropIn(part, Adjustment(part), f).share(trials, seed, 2);
}

/// Nothing varies but what a test lets vary.
Part exact(Part part) {
    part.rules.platedTolerance = Length();
    part.rules.bareTolerance = Length();
    part.rules.fab.wander = Length();
    part.rules.fab.passes = Length();
    return part;
}

Part row(int pins, LeadShape shape, double width, double thickness, double pitch) {
    Part part = test::bareRow(pins);
    part.formations[0].lead = shape;
    part.taken["lead.width"] = mm(width);
    if (shape == LeadShape::Rectangular || shape == LeadShape::Oval) part.taken["lead.thickness"] = mm(thickness);
    part.taken["pitch"] = mm(pitch);
    return exact(part);
}

Reading drawn(const FeatureId& a, const FeatureId& b, Axis axis, double low, double high) {
    Reading r;
    r.a = a;
    r.b = b;
    r.contact = Contact::Centres;
    r.axis = axis;
    r.drawing = DrawingValue{
        fmt::format("{}..{}", low, high), Unit::Mm, DrawingForm::Limits, mm((low + high) / 2), mm(low), mm(high)};
    return r;
}

TEST(DropInParts, WhatIsCountedQuicklyIsWhatTheBestSeatsSay) {
    // The count takes a short way where a trial goes in beyond doubt; every trial's best seat has to agree.
    for (const LeadShape shape : {LeadShape::Round, LeadShape::Square, LeadShape::Rectangular, LeadShape::Oval})
        for (const double hole : {1.08, 1.16, 1.30}) {
            Part part = withSpot(test::bareRow(4));
            part.formations[0].lead = shape;
            const bool sides = shape == LeadShape::Rectangular || shape == LeadShape::Oval;
            part.taken["lead.width"] = mm(shape == LeadShape::Square ? 0.70 : 0.95);
            if (sides) part.taken["lead.thickness"] = mm(0.35);
            const FeatureId peg = part.spots[0].id;
            const std::pair<std::string, const char*> given[] = {
                {peg + ".x", "3"}, {peg + ".y", "-4"}, {peg + ".diameter", "1.5"}};
            for (const auto& [name, typed] : given) part.given[name] = {typed, Unit::Mm};
            part.rules.pinPlace = mm(0.02);
            part.overrides[part.formations[0].id].hole = mm(hole);
            if (hole == 1.30) part.overrides[part.formations[0].id].slot = sides;
            // The pitch differs from part to part.
            part = test::with(part, drawn("p1", "p4", Axis::Along, 15.2, 15.28));
            const Footprint f = derive(part);
            const DropIn trials(part, Adjustment(part), f);
            ASSERT_TRUE(trials.why().empty()) << trials.why();
            int in = 0;
            for (std::uint64_t t = 0; t < 1500; ++t) in += trials.spare(7, t) >= 0 ? 1 : 0;
            EXPECT_EQ(trials.share(1500, 7, 1).in, in) << static_cast<int>(shape) << " " << hole;
            EXPECT_EQ(trials.coarse(7).in, trials.share(trials.coarse(7).trials, 7, 1).in);
        }
}

TEST(DropInParts, TheLeastHoleIsTheOneAtWhichAsManyGoInAsAreWanted) {
    // Two round pins of 0.80 whose holes wander by 0.03: every size of the list by its own count.
    Part part = row(2, LeadShape::Round, 0.80, 0, 5);
    part.rules.fab.wander = mm(0.03);
    part.overrides[kWholePart].hole = mm(1.00);
    const auto leastFor = [&](double wanted) {
        part.rules.dropInWanted = wanted;
        DropInOptions options;
        options.trials = 3000;
        options.costs = options.band = false;
        const Footprint f = derive(part);
        return DropIn(part, Adjustment(part), f).report(options).holes.at(0).least;
    };
    const auto inAt = [&](Length hole) {
        Part other = part;
        other.overrides[kWholePart].hole = hole;
        return shareOf(other, 3000, 1).in;
    };
    for (const double wanted : {0.5, 0.9, 0.99}) {
        const Length least = leastFor(wanted);
        ASSERT_GT(least, Length()) << wanted;
        EXPECT_GE(inAt(least), wanted * 3000) << wanted;
        EXPECT_LT(inAt(least - mm(0.05)), wanted * 3000) << wanted;
        // Just as many as go in there may be wanted, and one more may not.
        const int in = inAt(least);
        EXPECT_EQ(leastFor(in / 3000.0), least);
        if (in < 3000) {
            EXPECT_GT(leastFor((in + 1) / 3000.0), least);
        }
    }
    // All of them: where nothing is left to wander out of.
    EXPECT_GT(leastFor(1.0), mm(0.9));
}

TEST(DropInParts, ASquareLeadNeedsRoomForItsCorners) {
    // A square of 0.64 measures 0.905 over its corners: a hole of 0.90 does not take it, one of 0.91 does.
    Part part = row(1, LeadShape::Square, 0.64, 0, 5);
    part.overrides[kWholePart].hole = mm(0.90);
    EXPECT_EQ(shareOf(part, 200).in, 0);
    part.overrides[kWholePart].hole = mm(0.91);
    EXPECT_EQ(shareOf(part, 200).in, 200);
    // An oval of 1.0 x 0.6 goes through a round hole of 1.0, a rectangle of that size does not.
    part = row(1, LeadShape::Oval, 1.0, 0.6, 5);
    part.overrides[kWholePart].hole = mm(1.001);
    EXPECT_EQ(shareOf(part, 200).in, 200);
    part = row(1, LeadShape::Rectangular, 1.0, 0.6, 5);
    part.overrides[kWholePart].hole = mm(1.001);
    EXPECT_EQ(shareOf(part, 200).in, 0);
}

TEST(DropInParts, ASlotTakesUpWhatLiesAlongItAndNothingAcross) {
    // Two blades, their distance uniform within ±0.4; slots along the row have 0.3 of play each: 0.6 in all, all go in.
    const auto blades = [](double slotAlong) {
        Part part = row(2, LeadShape::Rectangular, 2.0, 0.8, 10);
        part.taken.erase("pitch");
        part.readings = {drawn("p1", "p2", Axis::Along, 9.6, 10.4)};
        part.readings[0].id = "r1";
        part.overrides[kWholePart].hole = mm(1.0);
        part.overrides[kWholePart].holeLength = mm(slotAlong);
        return part;
    };
    // Between rounded ends a blade of 2.0 x 0.8 has length - 1.0 + sqrt(1.0² - 0.8²) - 2.0 to move: 0.6 at 3.0.
    EXPECT_EQ(shareOf(blades(3.0), 4000).in, 4000);
    // At 2.6 it is 0.2 each, so within ±0.2 of ±0.4: one half.
    const DropInShare half = shareOf(blades(2.6));
    EXPECT_NEAR(half.share, 0.5, 0.012);
    EXPECT_TRUE(half.spreadKnown);
    // Slots across the row: the blades are turned, and the row's spread meets the slots' narrow side.
    Part across = row(2, LeadShape::Rectangular, 0.8, 2.0, 10);
    across.taken.erase("pitch");
    across.readings = {drawn("p1", "p2", Axis::Along, 9.6, 10.4)};
    across.readings[0].id = "r1";
    across.overrides[kWholePart].hole = mm(1.0);
    across.overrides[kWholePart].holeLength = mm(3.0);
    // Across there is 0.2 of play each, when the blade lies in the slot's straight part: again one half.
    EXPECT_NEAR(shareOf(across).share, 0.5, 0.012);
}

TEST(DropInParts, APegIsHeldByItsOwnHoleAndThePassShiftsIt) {
    // One pin and a peg: the pin's hole is wide, the peg's has 0.1 of play on each side; the pass shifts it by a normal
    // along the line of both. Across it a turn takes it up.
    Part part = row(1, LeadShape::Round, 1.0, 0, 5);
    part = withSpot(part, SpotKind::Peg);
    const FeatureId peg = part.spots[0].id;
    part.given[peg + ".x"] = {"8", Unit::Mm};
    part.given[peg + ".y"] = {"0", Unit::Mm};
    part.given[peg + ".diameter"] = {"2", Unit::Mm};
    part.overrides["p1"].hole = mm(1.1);
    part.overrides[peg].hole = mm(2.2);
    part.rules.fab.passes = mm(0.1);
    const boost::math::normal law(0, 0.1);
    const DropInShare s = shareOf(part, 40000);
    const double expected = 2 * cdf(law, 0.05 + 0.1) - 1;  // both plays together
    EXPECT_LE(s.low, expected + 2e-3);
    EXPECT_GE(s.high, expected - 2e-3);
    // Without another pass nothing is left to go wrong.
    part.rules.fab.passes = Length();
    EXPECT_EQ(shareOf(part, 500).in, 500);
}

TEST(DropInParts, APinsPlaceInThePartIsUniform) {
    // Two pins, each off by up to 0.1 along and across: along the line their distance is triangular over ±0.2.
    Part part = row(2, LeadShape::Round, 0.9, 0, 30);
    part.overrides[kWholePart].hole = mm(1.0);
    part.rules.pinPlace = mm(0.1);
    // In while within ±0.1: 1 - (1 - 0.1 / 0.2)² = 0.75. Across the line the turn of so long a part takes it up.
    EXPECT_NEAR(shareOf(part, 40000).share, 0.75, 0.01);
    EXPECT_TRUE(shareOf(part, 10).spreadKnown);
}

TEST(DropInParts, SpecimensSpreadAndTheirMeanIsDoubt) {
    // Three specimens whose distance differs by far more than reading it: parts spread, and the middle is not known
    // well.
    Part part = row(2, LeadShape::Round, 0.9, 0, 10);
    part.taken.erase("pitch");
    part.overrides[kWholePart].hole = mm(1.1);
    for (int k = 0; k < 3; ++k) {
        Reading r =
            test::reading("p1", "p2", Contact::Centres, Axis::Along, {10 + 0.15 * (k - 1), 10 + 0.15 * (k - 1)});
        r.specimen = k + 1;
        part = withReading(part, r);
    }
    Footprint f = derive(part);
    ASSERT_FALSE(f.spreads.empty());
    DropInOptions options;
    options.trials = 20000;
    options.holes = false;
    const DropInReport report = dropIn(part, f, options);
    ASSERT_TRUE(report.share.known) << report.share.why;
    EXPECT_TRUE(report.share.spreadKnown);
    // One draw for the kind, not one for each specimen: normal with the spread that is said, within the play of 0.2.
    const double sigma = f.spreads.front().sigma.mm();
    EXPECT_NEAR(sigma, 0.15, 0.03);
    const boost::math::normal law(0, sigma);
    EXPECT_NEAR(report.share.share, 2 * cdf(law, 0.2) - 1, 0.01);
    EXPECT_GT(report.bandHigh - report.bandLow, 0.02) << "the mean of three is not known better";
    EXPECT_LE(report.bandLow, report.share.share);
    EXPECT_EQ(report.costs.size(), 2U) << "the spread, and the finished sizes";
}

TEST(DropInParts, MoreRoomNeverHurtsAndTighterToleranceNeverCosts) {
    Part part = test::demoPart();
    part.rules.fab.wander = mm(0.05);
    const Footprint f = derive(part);
    const DropIn tight(part, Adjustment(part), f);
    Part wider = part;
    for (const Formation& formation : part.formations) wider.overrides[formation.id].hole = f.leads[0].hole + mm(0.1);
    const Footprint g = derive(wider);
    const DropIn wide(wider, Adjustment(wider), g);
    int less = 0;
    for (std::uint64_t t = 0; t < 2000; ++t) less += wide.spare(9, t) < tight.spare(9, t) - 2e-6 ? 1 : 0;
    EXPECT_EQ(less, 0) << "the same trial with larger holes";
    Footprint h = f;
    DropInOptions options;
    options.trials = 4000;
    options.holes = options.band = false;
    const DropInReport report = dropIn(part, h, options);
    for (const ToleranceCost& c : report.costs) {
        EXPECT_GE(c.share, 0);
        EXPECT_LE(c.share, 1);
        EXPECT_NEAR(c.cost, c.share - report.share.share, 1e-12);
    }
    for (std::size_t i = 1; i < report.costs.size(); ++i) EXPECT_GE(report.costs[i - 1].cost, report.costs[i].cost);
}

}  // namespace
}  // namespace punch::drop_in_parts_test
