#include "core/verdicts/gauges.h"

#include <gtest/gtest.h>

#include "tests/support/parts.h"

namespace punch::gauges_test {
namespace {

GaugeState state(const Part& part, const char* gauge) { return derive(part).gauge(gauge)->state; }

TEST(Gauges, ReadingsInDoubtAreNamed) {
    Part part = test::demoPart();
    part.readings[3].raw = test::reading("", "", Contact::Size, Axis::Along, {4.28, 4.29}).raw;
    const Footprint f = derive(part);
    const Gauge& g = *f.gauge("readings");
    EXPECT_EQ(g.state, GaugeState::Watch);
    EXPECT_EQ(g.about, std::vector<std::string>{part.readings[3].id});
    EXPECT_EQ(g.words, "14 of 15 agree");
}

TEST(Gauges, LooseIsNoGoOnceSomethingIsRead) {
    Part part = withSpot(test::demoPart());
    const Gauge g = *derive(part).gauge("positions");
    EXPECT_EQ(g.state, GaugeState::NoGo);
    EXPECT_EQ(g.words, "peg2 is loose");
    EXPECT_EQ(state(part, "hole-to-hole"), GaugeState::Unknown) << "a loose hole is no fact";
}

TEST(Gauges, ThinRing) {
    Part part = test::demoPart();
    part.rules.ring = 0.22_mm;  // (1.94 - 1.60)/2 - 0.125 = 0.045 of 0.05
    EXPECT_EQ(state(part, "ring"), GaugeState::NoGo);
    part.rules.ring = 0.227_mm;
    EXPECT_EQ(state(part, "ring"), GaugeState::Watch);
    part.rules.land = LandRule::Ipc2221;
    EXPECT_EQ(state(part, "ring"), GaugeState::Go) << "at its limit by construction";
}

TEST(Gauges, VoltageBreaksAndHolds) {
    Part part = test::demoPart();
    part.rules.ring = 0.55_mm;  // lands 2.60, 2.48 apart
    EXPECT_EQ(state(part, "voltage"), GaugeState::NoGo);
    part.rules.ring = 0.35_mm;  // lands 2.20, 2.88 apart
    EXPECT_EQ(state(part, "voltage"), GaugeState::Go);
    part.potentials.pop_back();
    EXPECT_EQ(state(part, "voltage"), GaugeState::Unknown);
}

TEST(Gauges, VoltagesWithoutASourceAreNotOneNetAndItIsAsked) {
    Part part = test::demoPart();
    for (Potential& p : part.potentials) p.volts = Voltage::fromVolts(20);
    EXPECT_EQ(state(part, "voltage"), GaugeState::Go) << "of one source there is nothing between them";
    for (Potential& p : part.potentials) p.source.clear();
    // 40 V r.m.s. apart, 57 V peak: 0.6 is asked, and there.
    const Footprint f = derive(part);
    EXPECT_EQ(f.gauge("voltage")->state, GaugeState::Watch);
    EXPECT_NE(f.gauge("voltage")->words.find("which source?"), std::string::npos);
    for (Potential& p : part.potentials) p.volts = Voltage::fromVolts(300);
    EXPECT_EQ(state(part, "voltage"), GaugeState::NoGo) << "849 V peak";
}

TEST(Gauges, VoltageWatchedWithinTheDoubtOfThePitch) {
    Part part = test::demoPart();
    part.taken.clear();
    part.rules.column = VoltageColumn::B4;  // 0.8 asked: far away, so the doubt does not matter
    EXPECT_EQ(state(part, "voltage"), GaugeState::Go);
    // 15 V ask for 0.10 (table 6-1, B2). 5.08 less lands of 4.965 leave 0.115, more than a tenth over; a steel ruler
    // knows the pitch to some tenths only.
    part = test::demoPart();
    part.rules.column = VoltageColumn::B2;
    for (Potential& p : part.potentials) p.volts = Voltage::fromVolts(abs(p.volts) > Voltage() ? 10 : 0);
    part.overrides[kWholePart].land = 4.965_mm;
    for (Reading& r : part.readings) r.instrument = "ruler";
    EXPECT_EQ(state(part, "voltage"), GaugeState::Go) << "the pitch is taken";
    part.taken.clear();
    const Footprint f = derive(part);
    EXPECT_GT(f.gauge("voltage")->margin.value(), 0.01);
    EXPECT_GT(f.parameter("pitch")->doubt->mm(), f.gauge("voltage")->margin.value());
    EXPECT_EQ(f.gauge("voltage")->state, GaugeState::Watch);
}

TEST(Gauges, CopperTooNearAPegTakesTheGaugeOver) {
    Part part = test::demoPart();
    part.rules.ring = 1.9_mm;  // land 5.30 reaches the peg hole 4.0 away
    const Gauge g = *derive(part).gauge("copper-to-copper");
    EXPECT_EQ(g.state, GaugeState::NoGo);
    EXPECT_EQ(g.about.size(), 2u);
}

TEST(Gauges, LeadPastTheBoard) {
    Part part = test::demoPart();
    for (const auto& [thickness, expected] : {std::pair{1.6, GaugeState::Go},
                                              {2.4, GaugeState::Watch},
                                              {2.49, GaugeState::Watch},
                                              {2.6, GaugeState::NoGo},
                                              {0.8, GaugeState::Watch},
                                              {0.6, GaugeState::NoGo}}) {
        part.rules.boardThickness = Length::fromMm(thickness);
        EXPECT_EQ(state(part, "lead-past-board"), thickness == 2.4 ? GaugeState::Go : expected) << thickness;
    }
    part.rules.boardThickness = 1.6_mm;
    part.body.standoff = 1_mm;
    EXPECT_EQ(state(part, "lead-past-board"), GaugeState::NoGo);
}

TEST(Gauges, ARelaxedCourtyardBreaksItsRule) {
    Part part = test::demoPart();
    part.dress.courtyardExcess = 0.3_mm;
    EXPECT_EQ(state(part, "courtyard"), GaugeState::NoGo);
    part.dress.density = Density::B;
    EXPECT_EQ(state(part, "courtyard"), GaugeState::Go);
    part.dress.courtyardExcess.reset();
    EXPECT_EQ(derive(part).courtyardExcess, 0.25_mm);
}

TEST(Gauges, WorstStateFirst) {
    EXPECT_EQ(worstState(derive(test::demoPart()).gauges), GaugeState::Watch);
    EXPECT_EQ(worstState(derive(*newRow(3)).gauges), GaugeState::Unknown);
    EXPECT_EQ(worstState({}), GaugeState::Go);
}

TEST(Gauges, WordsFollowTheUnit) {
    const Footprint f = derive(test::demoPart());
    const Gauge& v = *f.gauge("voltage");
    EXPECT_EQ(fill(v.words, v.of, Unit::Mm, 2), "2.58 of 2.50 mm");
    EXPECT_EQ(fill(v.words, v.of, Unit::Mil, 2), "102 of 98 mil");
    EXPECT_EQ(fill("plain", {}, Unit::Mm), "plain");
}

}  // namespace
}  // namespace punch::gauges_test
