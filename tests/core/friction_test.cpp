// Small answers that misled: each as it is now.

#include <gtest/gtest.h>

#include "core/advise/changes.h"
#include "core/measure/entry.h"
#include "core/release/tables.h"
#include "core/size/pad_rules.h"
#include "tests/support/cuts.h"
#include "tests/support/parts.h"

namespace punch::friction_test {
namespace {

TEST(Friction, AFreedPinIsLooseAndNotItsFellows) {
    Part part = test::bareRow(9);
    for (const Reading& r : {test::reading("p1", "p9", Contact::Outside, Axis::Along, {21.32}),
                             test::reading("p1", "", Contact::Size, Axis::Along, {1.0}),
                             test::reading("p1", "", Contact::Size, Axis::Across, {0.6})})
        part = withReading(part, r);
    const Footprint firm = derive(withMovedPin(part, "p5", true));
    EXPECT_EQ(firm.gauge("positions")->words, "1 of 9 pins loose");
    EXPECT_EQ(firm.gauge("positions")->about, std::vector<std::string>{"p5"});
    EXPECT_TRUE(firm.pad("p9")->firm);
}

TEST(Friction, PositionsThatAreFirmAndNotGoodEnoughSaySo) {
    Part part = test::bareRow(4);
    for (Reading r : {test::reading("p1", "p4", Contact::Outside, Axis::Along, {16.0}),
                      test::reading("p1", "", Contact::Size, Axis::Along, {1.0}),
                      test::reading("p1", "", Contact::Size, Axis::Across, {0.5})}) {
        r.instrument = "ruler";
        part = withReading(part, r);
    }
    const Footprint f = derive(part);
    const Gauge& g = *f.gauge("positions");
    ASSERT_EQ(g.state, GaugeState::NoGo);
    EXPECT_EQ(g.words.find("all firm"), std::string::npos);
}

TEST(Friction, AMirroredLugHasTheSlotOfItsOriginal) {
    Part part = withSpot(test::bareRow(3), SpotKind::Lug);
    const FeatureId lug = part.spots[0].id;
    part = withSpotTwin(part, lug);
    const FeatureId twin = part.spots[1].id;
    part.overrides[lug].plated = true;
    part.overrides[lug].slot = true;
    EXPECT_EQ(overrideForSpot(part, twin), part.overrides[lug]);
    part.overrides[twin].slot = false;
    EXPECT_NE(overrideForSpot(part, twin), part.overrides[lug]) << "its own comes first";
}

TEST(Friction, AWidthIsNotTheDiameterOfALug) {
    Part part = withSpot(test::bareRow(3), SpotKind::Lug);
    const auto typed = parseEntry(part, std::nullopt, "lug width 2.0", Unit::Mm, false);
    ASSERT_FALSE(typed);
    EXPECT_NE(typed.error().todo.find("Flat"), std::string::npos);
    part.spots[0].flat = true;
    EXPECT_TRUE(parseEntry(part, std::nullopt, "lug width 2.0", Unit::Mm, false));
}

TEST(Friction, PitchAndRowsAreUnderstood) {
    const auto pitch = parseEntry(test::bareRow(4), std::nullopt, "pitch 4.7", Unit::Mm, false);
    ASSERT_TRUE(pitch);
    EXPECT_EQ(pitch->reading.contact, Contact::Centres);
    EXPECT_NEAR(derive(withReading(test::bareRow(4), pitch->reading)).parameter("pitch")->value.mm(), 4.7, 1e-9);
    EXPECT_FALSE(parseEntry(test::bareRow(4), std::nullopt, "rows 5.9", Unit::Mm, false)) << "one row only";
    FormationPlan plan;
    plan.kind = FormationKind::TwoRows;
    plan.rows = {4, 4};
    const Part two = *newPart(plan);
    const auto rows = parseEntry(two, std::nullopt, "rows 5.9", Unit::Mm, false);
    ASSERT_TRUE(rows);
    EXPECT_NEAR(derive(withReading(two, rows->reading)).parameter("rowGap")->value.mm(), 5.9, 1e-9);
}

TEST(Friction, AThickLineOfInkIsWatchedAndAThinOneIsNoGo) {
    Part part = test::demoPart();
    part.dress.line = 2_mm;
    EXPECT_EQ(derive(part).gauge("silkscreen")->state, GaugeState::Watch);
    part.dress.line = 0.06_mm;
    EXPECT_EQ(derive(part).gauge("silkscreen")->state, GaugeState::NoGo);
}

TEST(Friction, InkKeepsClearOfWhatIsCutOut) {
    Part part = test::demoPart();
    CutOut window;
    window.id = "c900";
    window.name = "window";
    window.kind = CutOutKind::Window;
    // Across the outline at the rear.
    window.from = {4_mm, 4_mm};
    window.to = {10_mm, 7_mm};
    part = withCuts(part, {window});
    const Footprint f = derive(part);
    EXPECT_GE(*f.gauge("silkscreen")->value, 0.15 - 1e-6);
    const auto cut =
        std::count_if(f.silkscreen.begin(), f.silkscreen.end(), [](const Shape& s) { return s.shortened; });
    EXPECT_GE(cut, 1);
}

TEST(Friction, PinsBesideTheBodyAreSaid) {
    Part part = test::demoPart();
    EXPECT_EQ(derive(part).gauge("courtyard")->words.find("beside"), std::string::npos);
    part.given["body.rear"] = {"-2", Unit::Mm};
    const Footprint f = derive(part);
    const Gauge& g = *f.gauge("courtyard");
    EXPECT_NE(g.words.find("pins outside"), std::string::npos) << g.words;
}

TEST(Friction, TablesSayTheSlotsAndLandsOfLugs) {
    const auto part = loadPart(test::sourceFolder() + "/demo/fennel-house/HT-SEL6.punch");
    ASSERT_TRUE(part);
    const std::string table = *coordinateTable(*part, derive(*part));
    const auto at = table.find("\r\nlug,plated,");
    ASSERT_NE(at, std::string::npos);
    const std::string row = table.substr(at + 2, table.find('\r', at + 2) - at - 2);
    EXPECT_EQ(std::count(row.begin(), row.end(), ','), 12) << row;
    EXPECT_NE(row.find(",1.1000,"), std::string::npos) << row;
    EXPECT_NE(row.find(",2.4500,"), std::string::npos) << "the slot's length: " << row;
}

TEST(Friction, WhatAnEditMovedIsSaidAndNothingElse) {
    const Part part = test::demoPart();
    const Footprint before = derive(part);
    EXPECT_TRUE(whatChanged(part, before, before).empty());
    Part next = part;
    next.rules.level = Level::A;
    std::string all;
    for (const Change& c : whatChanged(next, before, derive(next))) all += fill(c.words, c.of, Unit::Mm, 2) + "\n";
    EXPECT_NE(all.find("hole 1.50 → 1.55"), std::string::npos) << all;
    EXPECT_EQ(all.find("moved by"), std::string::npos) << "no place moves: " << all;
}

}  // namespace
}  // namespace punch::friction_test
