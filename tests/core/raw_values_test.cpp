#include "core/measure/raw_values.h"

#include <gtest/gtest.h>

#include <cmath>

#include "tests/support/parts.h"

namespace punch::raw_values_test {
namespace {

using test::reading;

double handWorked(double limit, double s2, double n, double step) {
    return std::sqrt(limit * limit / 3 + s2 / n + step * step / 12);
}

TEST(RawValues, OneReadingByHand) {
    // 16.25 16.23 16.26: mean 16.24667, (n-1)s² = 4.6667e-4; s² = (8e-4 + 4.6667e-4) / 10.
    const Part part =
        test::with(test::bareRow(4), reading("p1", "p4", Contact::Outside, Axis::Along, {16.25, 16.23, 16.26}));
    const auto s = readingStats(part).at(0);
    EXPECT_NEAR(s.mean, 16.246667, 1e-6);
    EXPECT_NEAR(s.u, handWorked(0.02, 1.26667e-4, 3, 0.01), 1e-8);
}

TEST(RawValues, PooledOverOneInstrumentAndContact) {
    Part part = test::bareRow(4);
    part = test::with(part, reading("p1", "p4", Contact::Outside, Axis::Along, {10.00, 10.04}));
    part = test::with(part, reading("p1", "", Contact::Size, Axis::Along, {1.00}));
    part = test::with(part, reading("p1", "p2", Contact::Centres, Axis::Along, {2.54}));
    const auto s = readingStats(part);
    const double pooled = (8 * 1e-4 + 8e-4) / 9;
    EXPECT_NEAR(s[0].u, handWorked(0.02, pooled, 2, 0.01), 1e-9);
    EXPECT_NEAR(s[1].u, handWorked(0.02, pooled, 1, 0.01), 1e-9) << "edge to edge shares the pool";
    EXPECT_NEAR(s[2].u, handWorked(0.02, 9e-4, 1, 0.01), 1e-9) << "the same edge has a pool of its own";
}

TEST(RawValues, LimitGrowsAboveAHundredMillimetres) {
    Part part = test::bareRow(2);
    part = test::with(part, reading("p1", "p2", Contact::Outside, Axis::Along, {150.0}));
    EXPECT_NEAR(readingStats(part)[0].u, handWorked(0.03, 1e-4, 1, 0.01), 1e-9);
}

TEST(RawValues, EqualValuesDoNotAverageTheStepAway) {
    Part part = test::bareRow(2);
    part = test::with(part, reading("p1", "p2", Contact::Outside, Axis::Along, std::vector<double>(100, 5.0)));
    EXPECT_GT(readingStats(part)[0].u, std::sqrt(0.02 * 0.02 / 3 + 0.01 * 0.01 / 12));
}

TEST(RawValues, AnOddValueIsAskedAboutAndStaysOut) {
    Part part = test::bareRow(4);
    part = test::with(part, reading("p1", "p4", Contact::Outside, Axis::Along, {16.25, 17.25, 16.26}));
    auto s = readingStats(part)[0];
    EXPECT_EQ(s.asked, (std::vector<bool>{false, true, false}));
    EXPECT_NEAR(s.mean, 16.255, 1e-9);
    EXPECT_FALSE(s.question.empty());
    part.readings[0].raw[1].meant = true;
    s = readingStats(part)[0];
    EXPECT_NEAR(s.mean, 16.58667, 1e-5) << "meant: it counts";
    EXPECT_TRUE(s.question.empty());
}

TEST(RawValues, OddMeansSixHandlingsAndFourSteps) {
    // Edge to edge: 6 x 0.01 = 0.06, more than 4 steps.
    Part part = test::bareRow(4);
    part = test::with(part, reading("p1", "p4", Contact::Outside, Axis::Along, {16.00, 16.00, 16.06}));
    EXPECT_TRUE(readingStats(part)[0].question.empty());
    part.readings[0].raw[2].value = 16.07_mm;
    EXPECT_FALSE(readingStats(part)[0].question.empty());
    // A micrometer: 6 x 0.003 = 0.018.
    part.readings[0].instrument = "micrometer";
    part.readings[0].raw[2].value = 16.019_mm;
    EXPECT_FALSE(readingStats(part)[0].question.empty());
    part.readings[0].raw[2].value = 16.018_mm;
    EXPECT_TRUE(readingStats(part)[0].question.empty());
}

TEST(RawValues, TwoThatContradictGiveNoMean) {
    const Part part = test::with(test::bareRow(4), reading("p1", "p4", Contact::Outside, Axis::Along, {16.25, 17.25}));
    const auto s = readingStats(part)[0];
    EXPECT_FALSE(s.usable);
    EXPECT_NE(s.question.find("which is meant"), std::string::npos);
}

TEST(RawValues, AnUnknownInstrumentIsSaid) {
    Part part = test::with(test::bareRow(4), reading("p1", "p4", Contact::Outside, Axis::Along, {16.25}));
    part.readings[0].instrument = "yardstick";
    EXPECT_FALSE(readingStats(part)[0].usable);
    EXPECT_NE(readingStats(part)[0].question.find("yardstick"), std::string::npos);
}

}  // namespace
}  // namespace punch::raw_values_test
