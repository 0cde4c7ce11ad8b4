// What of a lead goes through the board: a drawing's limits, the doubt of what was measured, formed and kinked ends.

#include "core/size/lead_section.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/fit/drop_in.h"
#include "core/measure/entry.h"
#include "core/part/drawing_value.h"
#include "core/size/hole_fit.h"
#include "tests/support/dice.h"
#include "tests/support/parts.h"

namespace punch::lead_section_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }

Reading drawn(const FeatureId& a, Axis axis, const std::string& typed) {
    Reading r = test::reading(a, "", Contact::Size, axis, {});
    r.drawing = *parseDrawingValue(typed, Unit::Mm);
    return r;
}

/// Two pins whose places are given; leads are what the test is about.
Part row(LeadShape lead) {
    Part part = test::bareRow(2);
    part.formations[0].lead = lead;
    part.given["pitch"] = {"10", Unit::Mm};
    return part;
}

TEST(LeadSection, ADrawingsLimitsAreTheSmallestAndLargestLead) {
    const Part part = test::with(row(LeadShape::Round), drawn("p1", Axis::Along, "0.60..0.80"));
    const LeadFit fit = derive(part).leads[0];
    EXPECT_TRUE(fit.section.across.drawn);
    EXPECT_EQ(fit.section.across.least, mm(0.60));
    EXPECT_EQ(fit.section.across.most, mm(0.80));
    // IPC-2222, level B: 0.80 + 0.20, and no larger than 0.60 + 0.70.
    EXPECT_EQ(fit.leastHole, mm(1.00));
    EXPECT_EQ(fit.hole, mm(1.00));
    EXPECT_EQ(fit.largestAllowed, mm(1.30));
}

TEST(LeadSection, ToleranceAndPlainNominalAreLimitsToo) {
    Part part = test::with(row(LeadShape::Round), drawn("p1", Axis::Along, "0.64 +0.05 -0.02"));
    EXPECT_NEAR(derive(part).leads[0].section.across.most.mm(), 0.69, 1e-12);
    EXPECT_NEAR(derive(part).leads[0].section.across.least.mm(), 0.62, 1e-12);
    // ISO 2768-1 m: ±0.1 from 0.5 to 6.
    part = test::with(row(LeadShape::Round), drawn("p1", Axis::Along, "1.0"));
    EXPECT_NEAR(derive(part).leads[0].section.across.most.mm(), 1.1, 1e-12);
    part = test::with(row(LeadShape::Round), drawn("p1", Axis::Along, "1.0 exact"));
    EXPECT_NEAR(derive(part).leads[0].section.across.most.mm(), 1.0, 1e-9);
}

TEST(LeadSection, OverTheCornersBothSidesAreAtTheirLimit) {
    Part part = test::with(row(LeadShape::Rectangular), drawn("p1", Axis::Along, "1.00 ±0.05"));
    part = test::with(part, drawn("p2", Axis::Across, "0.60 ±0.03"));
    const LeadSection s = derive(part).leads[0].section;
    EXPECT_NEAR(s.across.most.mm(), std::hypot(1.05, 0.63), 1e-6);
    EXPECT_NEAR(s.across.least.mm(), std::hypot(0.95, 0.57), 1e-6);
    EXPECT_TRUE(s.widthIsWide);
}

TEST(LeadSection, WhatIsMeasuredHasItsDoubtAndTheDrawingOverrulesIt) {
    Part part = test::with(row(LeadShape::Round), test::reading("p1", "", Contact::Size, Axis::Along, {0.70, 0.70}));
    LeadSection s = derive(part).leads[0].section;
    EXPECT_FALSE(s.across.drawn);
    EXPECT_NEAR((s.across.most - s.across.mean).mm(), s.across.doubt.mm(), 1e-12);
    EXPECT_GT(s.across.doubt, mm(0.01));
    // One part in the hand says nothing of its kind; the drawing does.
    part = test::with(part, drawn("p2", Axis::Along, "0.60..0.80"));
    s = derive(part).leads[0].section;
    EXPECT_TRUE(s.across.drawn);
    EXPECT_EQ(s.across.most, mm(0.80));
    EXPECT_NEAR(s.across.mean.mm(), 0.70, 0.02);
}

TEST(LeadSection, ASizeBeyondItsDrawingKeepsItsDoubt) {
    Part part = test::with(row(LeadShape::Round), drawn("p1", Axis::Along, "0.60..0.64"));
    for (int i = 0; i < 3; ++i)
        part = test::with(part, test::reading(i % 2 == 0 ? "p1" : "p2", "", Contact::Size, Axis::Along, {0.80, 0.80}));
    const LeadSection s = derive(part).leads[0].section;
    EXPECT_GT(s.across.mean, mm(0.7));
    EXPECT_FALSE(s.across.drawn);
    EXPECT_GE(s.across.most, s.across.mean);
}

TEST(LeadSection, ALetterOfTheTableGivesItsLimitsByVariant) {
    Part part = row(LeadShape::Round);
    part.letters.variants = {"small", "large"};
    part.letters.variant = "small";
    part.letters.letters = {
        {"D", {*parseDrawingValue("0.60 ±0.02", Unit::Mm), *parseDrawingValue("1.00 ±0.05", Unit::Mm)}, {}}};
    Reading r = test::reading("p1", "", Contact::Size, Axis::Along, {});
    r.name = "D";
    Part read = test::with(part, r);
    EXPECT_NEAR(derive(read).leads[0].section.across.most.mm(), 0.62, 1e-12);
    read.letters.variant = "large";
    EXPECT_NEAR(derive(read).leads[0].section.across.most.mm(), 1.05, 1e-12);
    // As a formula the letter says the same.
    part.given["lead.width"] = {"D", Unit::Mm};
    EXPECT_NEAR(derive(part).leads[0].section.across.most.mm(), 0.62, 1e-12);
}

TEST(LeadSection, APegsLimitsMakeItsHole) {
    Part part = withSpot(row(LeadShape::Round), SpotKind::Peg);
    const FeatureId peg = part.spots.back().id;
    part = test::with(part, drawn(peg, Axis::Along, "1.50..1.62"));
    const BareHole hole = derive(part).bareHoles.at(0);
    EXPECT_EQ(hole.peg.across.most, mm(1.62));
    // 1.62 + 0.10, next drill up.
    EXPECT_EQ(hole.size, mm(1.75));
}

// ------------------------------------------------------------------ formed ends

Part formed(LeadEnd end) {
    Part part = row(LeadShape::Rectangular);
    part.formations[0].end = end;
    const auto give = [&](const char* name, const char* typed) { part.given[name] = {typed, Unit::Mm}; };
    give("lead.width", "0.8");
    give("lead.thickness", "0.4");
    give("lead.end.width", "1.2");
    give("lead.end.thickness", "0.3");
    return part;
}

TEST(FormedEnds, AFlattenedEndIsWhatTheHoleIsMadeFor) {
    const LeadFit fit = derive(formed(LeadEnd::Formed)).leads[0];
    EXPECT_TRUE(fit.section.byEnd);
    EXPECT_NEAR(fit.section.across.mean.mm(), std::hypot(1.2, 0.3), 1e-6);
    EXPECT_NEAR(fit.leastHole.mm(), std::hypot(1.2, 0.3) + 0.20, 1e-6);
    // A slot needs the end's width and the shank's thickness.
    EXPECT_EQ(fit.section.wide.mean, mm(1.2));
    EXPECT_EQ(fit.section.thick.mean, mm(0.4));
    EXPECT_EQ(fit.holeChain.front().label, "formed end over its corners");
}

TEST(FormedEnds, AKinkedEndSpringsAndMustBeLargerThanItsHole) {
    Part part = formed(LeadEnd::Sprung);
    const Footprint f = derive(part);
    EXPECT_FALSE(f.leads[0].section.byEnd);
    EXPECT_NEAR(f.leads[0].section.across.mean.mm(), std::hypot(0.8, 0.4), 1e-6);
    // 0.894 + 0.20, next 0.05 up: 1.10, below the kink of 1.20.
    EXPECT_EQ(f.pads[0].hole, mm(1.10));
    EXPECT_EQ(f.gauge("lead-in-hole")->state, GaugeState::Go);
    part.overrides[kWholePart].hole = mm(1.25);
    const Gauge slack = *derive(part).gauge("lead-in-hole");
    EXPECT_EQ(slack.state, GaugeState::Watch);
    EXPECT_EQ(slack.words, "kinked end does not hold");
}

TEST(FormedEnds, ItsWidthIsReadAcrossTheEndAndIsAskedFor) {
    Part part = formed(LeadEnd::Formed);
    part.given.erase("lead.end.width");
    Footprint f = derive(part);
    EXPECT_FALSE(f.leads[0].sized) << "the end is not measured";
    EXPECT_EQ(f.gauge("lead-in-hole")->state, GaugeState::Unknown);
    ASSERT_TRUE(f.next.reading);
    EXPECT_TRUE(f.next.reading->atEnd) << f.next.words;
    EXPECT_EQ(readingWords(part, *f.next.reading), "pin 1, width of its end");
    const auto entry = parseEntry(part, {}, "1 end width 1.35", Unit::Mm, false);
    ASSERT_TRUE(entry) << entry.error().text();
    EXPECT_TRUE(entry->reading.atEnd);
    part = test::with(part, entry->reading);
    f = derive(part);
    EXPECT_TRUE(f.leads[0].sized);
    EXPECT_NEAR(f.leads[0].section.wide.mean.mm(), 1.35, 1e-6);
    EXPECT_NEAR(f.pads[0].leadX.mm(), 0.8, 1e-9) << "the shank stays as it is";
    // Through a file and back.
    const auto back = fromText(toText(part), "memory");
    ASSERT_TRUE(back);
    EXPECT_EQ(*back, part);
    // Of a plain lead there is no end to read.
    part.formations[0].end = LeadEnd::Plain;
    EXPECT_FALSE(parseEntry(part, {}, "1 end width 1.35", Unit::Mm, false));
    EXPECT_EQ(derive(part).readings.back().state, ReadingState::Orphan);
}

TEST(FormedEnds, DropInFeelsTheEnd) {
    // The hole takes the shank with ease and the end with nothing to spare.
    Part part = formed(LeadEnd::Plain);
    part.overrides[kWholePart].hole = mm(1.24);
    part.rules.fab.wander = mm(0.04);
    EXPECT_EQ(derive(part).dropIn.in, derive(part).dropIn.trials);
    part.formations[0].end = LeadEnd::Formed;
    const DropInShare tight = derive(part).dropIn;
    EXPECT_LT(tight.share, 0.9);
    EXPECT_GT(tight.share, 0.0);
    part.formations[0].end = LeadEnd::Sprung;
    EXPECT_EQ(derive(part).dropIn.in, derive(part).dropIn.trials);
}

// ------------------------------------------------------------------ ovals between jaws

TEST(OvalLeads, FlatJawsSpanATurnedOvalAsItIs) {
    test::Dice dice(9);
    for (int i = 0; i < 200; ++i) {
        Feature f;
        f.oval = true;
        const double x = dice.between(0.2, 2);
        const double y = dice.between(0.2, 2);
        f.halfX = Expr(x);
        f.halfY = Expr(y);
        f.turn = Expr(dice.between(-180, 180));
        // Against the points of its outline: two discs and what is between them.
        const double r = std::min(x, y);
        const double t = Angle::fromDegrees(f.turn->value()).radians();
        double along = 0;
        double across = 0;
        for (int k = 0; k < 7200; ++k) {
            const double a = k * 3.14159265358979 / 3600;
            const double px = (std::cos(a) >= 0 ? x - r : r - x) + r * std::cos(a);
            const double py = (std::sin(a) >= 0 ? y - r : r - y) + r * std::sin(a);
            along = std::max(along, std::cos(t) * px - std::sin(t) * py);
            across = std::max(across, std::sin(t) * px + std::cos(t) * py);
        }
        EXPECT_NEAR(f.half(Axis::Along).value(), along, 1e-5) << i;
        EXPECT_NEAR(f.half(Axis::Across).value(), across, 1e-5) << i;
    }
}

TEST(OvalLeads, AroundARingTheyAreReadTrue) {
    // Six oval leads around a ring, read across by jaws: the circle comes out as it was made.
    FormationPlan plan;
    plan.kind = FormationKind::Ring;
    plan.rows = {6};
    Part made = *newPart(plan);
    made.formations[0].lead = LeadShape::Oval;
    made.taken["circle"] = mm(11.3);
    made.taken["lead.width"] = mm(1.4);
    made.taken["lead.thickness"] = mm(0.6);
    made.turned["start"] = Angle::fromDegrees(90);
    const test::Truth truth(made);
    Part part = made;
    part.taken.clear();
    for (Reading r : {test::reading("p1", "p4", Contact::Outside, Axis::Direct, {}),
                      test::reading("p2", "p6", Contact::Outside, Axis::Along, {}),
                      test::reading("p1", "", Contact::Size, Axis::Along, {}),
                      test::reading("p1", "", Contact::Size, Axis::Across, {})}) {
        r.raw.push_back({mm(truth.shown(r)), fmt::format("{:.9f}", truth.shown(r)), Unit::Mm, false, {}});
        part = test::with(part, r);
    }
    const Footprint f = derive(part);
    EXPECT_NEAR(f.parameter("circle")->value.mm(), 11.3, 1e-4);
    EXPECT_EQ(f.gauge("readings")->state, GaugeState::Go);
}

}  // namespace
}  // namespace punch::lead_section_test
