#include <gtest/gtest.h>

#include "core/measure/adjust.h"
#include "core/measure/chain_readings.h"
#include "core/size/drill_lists.h"
#include "core/size/hole_fit.h"
#include "tests/support/parts.h"

namespace punch::size_test {
namespace {

Part roundLead(double mm) {
    Part part = test::bareRow(2);
    part.formations[0].lead = LeadShape::Round;
    part.taken["lead.width"] = Length::fromMm(mm);
    part.taken["pitch"] = 5.08_mm;
    return part;
}
LeadFit fitOf(const Part& part) {
    const Adjustment adjustment(part);
    return fitLead(part, part.formations[0], adjustment, ChainReadings(part, adjustment));
}

TEST(DrillLists, MetricSteps) {
    const auto list = drillList({});
    EXPECT_EQ(list.front(), 0.2_mm);
    EXPECT_EQ(list.back(), 6.5_mm);
    EXPECT_EQ(list.size(), 57u + 35u);
    EXPECT_EQ(*nextDrillUp(list, 1.487_mm), 1.5_mm);
    EXPECT_EQ(*nextDrillUp(list, 1.5_mm), 1.5_mm);
    EXPECT_EQ(*nextDrillUp(list, 1.5001_mm), 1.55_mm);
    EXPECT_EQ(*nextDrillUp(list, 3.01_mm), 3.1_mm);
    EXPECT_FALSE(nextDrillUp(list, 6.6_mm));
}

TEST(DrillLists, InchAndOwn) {
    Rules rules;
    rules.drills = DrillList::Inch;
    const auto list = drillList(rules);
    EXPECT_EQ(list.front(), Length::fromInch(0.0135));
    EXPECT_EQ(list.back(), Length::fromInch(0.25));
    EXPECT_EQ(list.size(), 96u);
    EXPECT_EQ(*nextDrillUp(list, 1_mm), Length::fromInch(0.0400)) << "number 60";
    rules.drills = DrillList::Own;
    rules.ownDrills = {2_mm, 1_mm, Length()};
    EXPECT_EQ(drillList(rules), (std::vector<Length>{1_mm, 2_mm}));
}

TEST(HoleFit, EachLevelByTheTable) {
    const struct {
        Level level;
        double least, largest, allowance;
    } rows[] = {{Level::A, 0.25, 0.70, 0.40}, {Level::B, 0.20, 0.70, 0.25}, {Level::C, 0.15, 0.60, 0.20}};
    for (const auto& row : rows) {
        Part part = roundLead(1.0);
        part.rules.level = row.level;
        const LeadFit fit = fitOf(part);
        EXPECT_NEAR(fit.leastHole.mm(), 1.0 + row.least, 1e-9);
        EXPECT_NEAR(fit.hole.mm(), 1.0 + row.least, 1e-9) << "the sum stands in the list";
        EXPECT_NEAR(fit.largestAllowed.mm(), 1.0 + row.largest, 1e-9);
        EXPECT_NEAR(fit.land.mm(), fit.hole.mm() + 0.10 + 2 * 0.05 + row.allowance, 1e-9);
    }
}

TEST(HoleFit, ARectangularLeadCountsWithItsDiagonal) {
    Part part = test::bareRow(2);
    part.taken = {{"pitch", 5_mm}, {"lead.width", 0.8_mm}, {"lead.thickness", 0.6_mm}};
    EXPECT_NEAR(fitOf(part).section.across.mean.mm(), 1.0, 1e-12);
    part.formations[0].lead = LeadShape::Square;
    EXPECT_NEAR(fitOf(part).section.across.mean.mm(), 0.8 * std::sqrt(2.0), 1e-12);
}

TEST(HoleFit, UpperEndOfTheDoubtOrMean) {
    Part part = test::bareRow(1);
    part.formations[0].lead = LeadShape::Round;
    part = test::with(part, test::reading("p1", "", Contact::Size, Axis::Along, {1.0}));
    LeadFit fit = fitOf(part);
    EXPECT_NEAR(fit.leastHole.mm(), 1.0 + fit.section.across.doubt.mm() + 0.20, 1e-9);
    EXPECT_EQ(fit.hole, 1.25_mm);
    part.rules.leadAtMean = true;
    fit = fitOf(part);
    EXPECT_NEAR(fit.leastHole.mm(), 1.20, 1e-9);
    EXPECT_EQ(fit.hole, 1.2_mm);
}

TEST(HoleFit, HouseFactorAndFixedRing) {
    Part part = roundLead(1.0);
    part.rules.hole = HoleRule::HouseFactor;
    part.rules.holeFactor = 1.3;
    part.rules.land = LandRule::FixedRing;
    part.rules.ring = 20_mil;
    const LeadFit fit = fitOf(part);
    EXPECT_EQ(fit.hole, 1.3_mm);
    EXPECT_NEAR(fit.allowance.mm(), 0.3, 1e-9);
    EXPECT_NEAR(fit.land.mm(), 1.3 + 2 * 0.508, 1e-9);
}

TEST(HoleFit, SaysWhenNoDrillFitsOrTheNextIsTooLarge) {
    Part part = roundLead(6.4);
    EXPECT_TRUE(fitOf(part).beyondList);
    part = roundLead(1.0);
    part.rules.drills = DrillList::Own;
    part.rules.ownDrills = {2_mm};
    EXPECT_TRUE(fitOf(part).passesLargest);
    EXPECT_EQ(derive(part).gauge("lead-in-hole")->state, GaugeState::Watch);
}

TEST(HoleFit, PegClearance) {
    Part part = withSpot(roundLead(1.0));
    part.taken[part.spots[0].id + ".diameter"] = 1.5_mm;
    part.rules.pegClearance = 0.1_mm;
    const BareHole hole = fitSpot(part, part.spots[0], Adjustment(part));
    EXPECT_EQ(hole.size, 1.6_mm);
    EXPECT_EQ(hole.sizeLargest, 1.65_mm);
}

}  // namespace
}  // namespace punch::size_test
