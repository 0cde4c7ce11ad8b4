#include "core/measure/standard_sizes.h"

#include <gtest/gtest.h>

#include "tests/support/parts.h"

namespace punch::standard_sizes_test {
namespace {

Part readAs(int pins, double pitch) {
    Part part = test::bareRow(pins);
    const std::string last = "p" + std::to_string(pins);
    const double span = (pins - 1) * pitch;
    part = test::with(part, test::reading("p1", last, Contact::Outside, Axis::Along, {span + 0.6, span + 0.6}));
    return test::with(part, test::reading("p1", "", Contact::Size, Axis::Along, {0.6, 0.6}));
}

SizeAdvice pitchOf(const Part& part) { return *derive(part).size("pitch"); }

TEST(StandardSizes, FitUnlikelyExcluded) {
    EXPECT_EQ(fitOf(2.0), Fit::Fits);
    EXPECT_EQ(fitOf(2.1), Fit::Unlikely);
    EXPECT_EQ(fitOf(3.3), Fit::Unlikely);
    EXPECT_EQ(fitOf(3.4), Fit::Excluded);
    EXPECT_DOUBLE_EQ(makeTolerance(1.0), 0.005);
    EXPECT_DOUBLE_EQ(makeTolerance(10.0), 0.010);
}

TEST(StandardSizes, TellsTheTradesNumbers) {
    const Part part = readAs(4, 5.08);
    const SizeAdvice a = pitchOf(part);
    EXPECT_TRUE(a.firm);
    EXPECT_EQ(a.nearest[0].standard, 5.08_mm);
    EXPECT_EQ(a.nearest[0].fit, Fit::Fits);
    EXPECT_EQ(a.nearest[1].standard, 5.0_mm);
    EXPECT_EQ(a.nearest[1].fit, Fit::Excluded);
    EXPECT_NEAR(a.nearest[1].k, 0.08 / std::hypot(a.u, 0.005), 1e-6);
}

TEST(StandardSizes, TwoThatBothFitAskForALongerSpan) {
    // Two pins leave 2.50 and 2.54 apart by less than the doubt of the reading.
    const Part part = readAs(2, 2.52);
    const SizeAdvice a = pitchOf(part);
    EXPECT_NE(a.words.find("both fit"), std::string::npos) << a.words;
    EXPECT_NE(a.words.find("read across at least"), std::string::npos) << a.words;
}

TEST(StandardSizes, NoneFits) {
    const Part part = readAs(6, 4.50);
    const SizeAdvice a = pitchOf(part);
    EXPECT_EQ(a.nearest[0].fit, Fit::Excluded);
    EXPECT_NE(a.words.find("No standard pitch fits"), std::string::npos);
}

TEST(StandardSizes, ATakenValueThatReadingsSpeakAgainstShows) {
    Part part = test::demoPart();
    part.taken["pitch"] = 5_mm;
    const Footprint f = derive(part);
    EXPECT_NE(f.gauge("readings")->state, GaugeState::Go);
    EXPECT_NEAR(f.size("pitch")->asRead, 5.082, 0.001) << "what the readings say stays visible";
}

TEST(StandardSizes, LooseSaysNothing) {
    const Part part = *newRow(4);
    EXPECT_FALSE(pitchOf(part).firm);
    EXPECT_TRUE(pitchOf(part).words.empty());
}

}  // namespace
}  // namespace punch::standard_sizes_test
