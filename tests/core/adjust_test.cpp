#include "core/measure/adjust.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "tests/support/parts.h"

namespace punch::adjust_test {
namespace {

using test::bareRow;
using test::reading;
using test::with;

TEST(Adjust, OutsideLessOneWidthGivesThePitch) {
    Part part = with(bareRow(4), reading("p1", "p4", Contact::Outside, Axis::Along, {16.24}));
    part = with(part, reading("p2", "", Contact::Size, Axis::Along, {1.00}));
    const Adjustment a(part);
    const Expr pitch = a.parameter("pitch");
    EXPECT_TRUE(a.firm(pitch));
    EXPECT_NEAR(pitch.value(), 15.24 / 3, 1e-9);
    const double u = a.readings()[0].stats.u;
    EXPECT_NEAR(a.u(pitch), std::sqrt(2.0) * u / 3, 1e-9);
    EXPECT_EQ(a.redundancy(), 0);
    EXPECT_EQ(a.readings()[0].state, ReadingState::Unchecked);
}

TEST(Adjust, TheWeightedMeanOfTwoWays) {
    // p from outside 1-4 and from inside 1-2, both with the width: solved by hand with the normal equations.
    Part part = with(bareRow(4), reading("p1", "p4", Contact::Outside, Axis::Along, {16.25}));
    part = with(part, reading("p1", "", Contact::Size, Axis::Along, {1.00}));
    part = with(part, reading("p1", "p2", Contact::Inside, Axis::Along, {4.09}));
    const Adjustment a(part);
    // Equal weights: minimise (3p+w-16.25)² + (w-1)² + (p-w-4.09)².
    // Normal equations: 10 p + 2 w = 52.84; 2 p + 3 w = 13.16.
    const double det = 10 * 3 - 2 * 2;
    EXPECT_NEAR(a.parameter("pitch").value(), (52.84 * 3 - 2 * 13.16) / det, 1e-9);
    EXPECT_NEAR(a.parameter("lead.width").value(), (10 * 13.16 - 2 * 52.84) / det, 1e-9);
    EXPECT_EQ(a.redundancy(), 1);
}

TEST(Adjust, LooseStaysWhereItIsAssumedAndIsSaid) {
    Part part = bareRow(4);
    const Adjustment none(part);
    EXPECT_FALSE(none.firm(none.parameter("pitch")));
    EXPECT_DOUBLE_EQ(none.parameter("pitch").value(), 5.08);
    part = with(part, reading("p1", "p4", Contact::Outside, Axis::Along, {16.24}));
    const Adjustment one(part);
    const Expr pitch = one.parameter("pitch");
    const Expr width = one.parameter("lead.width");
    EXPECT_FALSE(one.firm(pitch));
    EXPECT_FALSE(one.firm(width));
    EXPECT_TRUE(one.firm(3.0 * pitch + width)) << "what was read is known";
}

TEST(Adjust, ATakenValueBindsTheRest) {
    Part part = test::demoPart();
    const Adjustment taken(part);
    EXPECT_EQ(taken.parameter("pitch").value(), 5.08);
    EXPECT_EQ(taken.u(taken.parameter("pitch")), 0);
    const Adjustment free(part, "pitch");
    EXPECT_NEAR(free.parameter("pitch").value(), 5.0818, 5e-4);
    EXPECT_NEAR(free.doubt(free.parameter("pitch")), 0.0088, 5e-4);
}

TEST(Adjust, ABlunderIsSetAsideAndTheRestAgrees) {
    Part part = test::demoPart();
    part.readings[3].raw = reading("p1", "", Contact::Size, Axis::Along, {4.28, 4.29}).raw;  // 0.2 too long
    const Adjustment a(part);
    EXPECT_EQ(a.readings()[3].state, ReadingState::InDoubt);
    EXPECT_NEAR(a.readings()[3].expected, 4.08, 0.03);
    EXPECT_NE(a.readings()[3].words.find("off what the rest agree on"), std::string::npos);
    for (std::size_t i = 0; i < a.readings().size(); ++i)
        if (i != 3) {
            EXPECT_NE(a.readings()[i].state, ReadingState::InDoubt) << i;
        }
    EXPECT_TRUE(a.wholeTestHolds());
}

TEST(Adjust, TwoThatOnlyCheckEachOtherAreNamedTogether) {
    Part part = with(bareRow(4), reading("p1", "", Contact::Size, Axis::Along, {1.00}));
    part = with(part, reading("p2", "", Contact::Size, Axis::Along, {1.50}));
    const Adjustment a(part);
    EXPECT_EQ(a.readings()[0].state, ReadingState::OneOf);
    EXPECT_EQ(a.readings()[1].state, ReadingState::OneOf);
    EXPECT_NE(a.readings()[0].words.find("1, 2"), std::string::npos);
}

TEST(Adjust, ADirectDistanceIsSolvedByIteration) {
    // A peg 3 along and 4 across from pin 1: 5 apart, read over the outer edges of round features.
    Part part = bareRow(3);
    part.formations[0].lead = LeadShape::Round;
    part = withSpot(part);
    const FeatureId peg = part.spots[0].id;
    part = with(part, reading("p1", "", Contact::Size, Axis::Along, {1.0}));
    part = with(part, reading(peg, "", Contact::Size, Axis::Along, {2.0}));
    part = with(part, reading("p1", "p3", Contact::Outside, Axis::Along, {13.0}));
    part = with(part, reading("p1", peg, Contact::Outside, Axis::Direct, {5.0 + 1.5}));
    part = with(part, reading("p1", peg, Contact::Centres, Axis::Along, {3.0}));
    const Adjustment a(part);
    EXPECT_NEAR(a.features().at(peg).x.value(), 3.0, 1e-6);
    EXPECT_NEAR(a.features().at(peg).y.value(), -4.0, 1e-6) << "on the side where it is drawn";
}

TEST(Adjust, OrphansAreKeptAndSaid) {
    Part part = test::demoPart();
    part = *withPinCount(part, 0, 3);
    const Adjustment a(part);
    EXPECT_EQ(a.readings()[0].state, ReadingState::Orphan);
    EXPECT_NE(a.readings()[0].words.find("no longer there"), std::string::npos);
    part = *withPinCount(part, 0, 4);
    EXPECT_EQ(Adjustment(part).readings()[0].state, ReadingState::Orphan) << "a new pin is not the removed one";
}

TEST(Adjust, WeightsOfAValueSumToOne) {
    const Part part = test::demoPart();
    const Adjustment a(part, "pitch");
    double sum = 0;
    for (const auto& [index, weight] : a.weightsIn(a.parameter("pitch"))) sum += weight;
    EXPECT_NEAR(sum, 1.0, 0.02);
}

TEST(Adjust, StatedDoubtIsHonest) {
    // 800 simulated notebooks of a row, drawn from the stated laws; the last pin lies inside its 95 % interval.
    std::mt19937 random(20);
    std::normal_distribution<double> handling(0, 0.01);
    std::uniform_real_distribution<double> limit(-0.02, 0.02);
    const auto draw = [&](double truth) {
        const double bias = limit(random);
        std::vector<double> raw;
        for (int k = 0; k < 3; ++k) raw.push_back(std::round((truth + bias + handling(random)) * 100) / 100);
        return raw;
    };
    int inside = 0;
    const int trials = 800;
    for (int t = 0; t < trials; ++t) {
        const double p = std::uniform_real_distribution<double>(2, 6)(random);
        const double w = std::uniform_real_distribution<double>(0.5, 1.2)(random);
        Part part = bareRow(5);
        part = with(part, reading("p1", "p5", Contact::Outside, Axis::Along, draw(4 * p + w)));
        part = with(part, reading("p1", "p5", Contact::Inside, Axis::Along, draw(4 * p - w)));
        part = with(part, reading("p1", "", Contact::Size, Axis::Along, draw(w)));
        part = with(part, reading("p1", "p3", Contact::Outside, Axis::Along, draw(2 * p + w)));
        part = with(part, reading("p2", "p5", Contact::Inside, Axis::Along, draw(3 * p - w)));
        const Adjustment a(part);
        const Expr last = a.features().at("p5").x;
        inside += std::abs(last.value() - 4 * p) <= a.doubt(last);
    }
    EXPECT_GE(inside, trials * 93 / 100);
    EXPECT_LE(inside, trials * 98 / 100);
}

}  // namespace
}  // namespace punch::adjust_test
