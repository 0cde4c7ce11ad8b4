#include <gtest/gtest.h>

#include "core/model/contacts.h"
#include "core/part/numbering.h"
#include "tests/support/parts.h"

namespace punch::place_test {
namespace {

Part row(int pins) {
    Part part = test::bareRow(pins);
    part.taken = {{"pitch", 2.5_mm}, {"lead.width", 0.6_mm}, {"lead.thickness", 0.6_mm}};
    return part;
}
double x(const Footprint& f, const std::string& number) {
    for (const Pad& p : f.pads)
        if (p.number == number) return p.at.x.mm();
    ADD_FAILURE() << "no pad " << number;
    return 0;
}

TEST(Place, MiddleOfThePins) {
    const Footprint f = derive(row(5));
    EXPECT_NEAR(x(f, "1"), -5, 1e-9);
    EXPECT_NEAR(x(f, "3"), 0, 1e-9);
    EXPECT_NEAR(x(f, "5"), 5, 1e-9);
}

TEST(Place, DatumAtPinOneOrAnyFeature) {
    Part part = row(5);
    part.datum.kind = DatumKind::PinOne;
    EXPECT_NEAR(x(derive(part), "5"), 10, 1e-9);
    part.datum = {DatumKind::Feature, "p4", {}};
    EXPECT_NEAR(x(derive(part), "4"), 0, 1e-9);
    EXPECT_NEAR(x(derive(part), "1"), -7.5, 1e-9);
    part.datum = {DatumKind::Feature, "gone", {}};
    EXPECT_NEAR(x(derive(part), "3"), 0, 1e-9) << "a removed datum falls back to the middle";
}

TEST(Place, AFaceAsDatumGivesOneCoordinate) {
    Part part = test::demoPart();
    part.datum = {DatumKind::Feature, kLeftFace, {}};
    const Footprint f = derive(part);
    EXPECT_NEAR(f.body->rect.left.mm(), 0, 1e-9);
    EXPECT_NEAR(f.pads[0].at.y.mm(), 0, 1e-9);
    EXPECT_NEAR(f.pads[0].at.x.mm(), 2.726, 0.005);
}

TEST(Place, PinOneAtEitherEndAndNumbersEitherWay) {
    Part part = row(4);
    part.formations[0].numbers.fromLeft = false;
    EXPECT_NEAR(x(derive(part), "1"), 3.75, 1e-9);
    EXPECT_TRUE(derive(part).pads[0].first);
    part.formations[0].numbers = {};
    part.formations[0].numbers.start = 4;
    part.formations[0].numbers.step = -1;
    EXPECT_NEAR(x(derive(part), "4"), -3.75, 1e-9);
    EXPECT_NEAR(x(derive(part), "1"), 3.75, 1e-9);
    EXPECT_EQ(firstPin(part), "p4");
    EXPECT_EQ(pinByNumber(part, "4"), "p1");
}

TEST(Place, ReadingsStayOnTheirPinsWhenNumbersTurn) {
    Part part = test::demoPart();
    const Footprint before = derive(part);
    part.formations[0].numbers.fromLeft = false;
    const Footprint after = derive(part);
    EXPECT_EQ(readingWords(part, part.readings[1]), "pin 4, width");
    EXPECT_NEAR(after.pad("p1")->at.x.mm(), before.pad("p1")->at.x.mm(), 1e-12);
}

TEST(Place, DoubtAgainstTheFitIsNoLargerThanFromPinOne) {
    Part part = test::demoPart();
    part.taken.clear();
    part.datum.kind = DatumKind::PinOne;
    const Footprint f = derive(part);
    const Pad& last = *f.pad("p4");
    EXPECT_NEAR(last.doubt.x->mm(), 3 * kNinetyFive * f.size("pitch")->u, 1e-9) << "three pitches from pin 1";
    EXPECT_NEAR(last.doubt.fitted->mm(), 1.5 * kNinetyFive * f.size("pitch")->u, 1e-6)
        << "half of it against the best fit";
    EXPECT_NEAR(f.pad("p1")->doubt.x->mm(), 0, 1e-12);
}

TEST(Place, LooseIsSaidInWords) {
    Part part = withSpot(row(4));
    part = test::with(part, test::reading(part.spots[0].id, "p1", Contact::Centres, Axis::Across, {4.0}));
    const Footprint f = derive(part);
    ASSERT_EQ(f.loose.size(), 3u);
    EXPECT_EQ(f.loose[1].words, "peg diameter not measured yet");
    EXPECT_EQ(f.loose[2].words, "lead length not measured yet");
    EXPECT_EQ(f.loose[0].words, "peg hole is loose: not measured along the row yet");
    EXPECT_FALSE(f.bareHoles[0].firm);
    EXPECT_TRUE(f.bareHoles[0].doubt.y);
    EXPECT_FALSE(f.bareHoles[0].doubt.x);
}

TEST(Place, OnePinAlone) {
    const Footprint f = derive(row(1));
    ASSERT_EQ(f.pads.size(), 1u);
    EXPECT_TRUE(f.pads[0].firm);
    EXPECT_NEAR(f.pads[0].at.x.mm(), 0, 1e-12);
}

TEST(Edit, PinCountAndItsMistakes) {
    EXPECT_FALSE(newRow(0));
    EXPECT_FALSE(newRow(-3));
    EXPECT_FALSE(newRow(kMostPins + 1));
    EXPECT_FALSE(withPinCount(*newRow(4), 0, 0));
    Part part = *withPinCount(*newRow(4), 0, 2);
    part = *withPinCount(part, 0, 3);
    EXPECT_EQ(part.formations[0].pins.size(), 3u);
    EXPECT_NE(part.formations[0].pins[2], "p3") << "identifiers are not used again";
}

TEST(Edit, PotentialsAreOnePerPin) {
    Part part = *newRow(4);
    EXPECT_FALSE(withPotential(part, {"", PotentialKind::Ac, Voltage::fromVolts(230), "mains", {"p1"}, {}}));
    EXPECT_FALSE(withPotential(part, {"line", PotentialKind::Ac, Voltage::fromVolts(230), "mains", {}, {}}));
    EXPECT_FALSE(withPotential(part, {"line", PotentialKind::Ac, Voltage::fromVolts(1e6), "mains", {"p1"}, {}}));
    part = *withPotential(part, {"line", PotentialKind::Ac, Voltage::fromVolts(230), "mains", {"p1", "p2"}, {}});
    part = *withPotential(part, {"neutral", PotentialKind::Ac, Voltage::fromVolts(0), "mains", {"p2"}, {}});
    ASSERT_EQ(part.potentials.size(), 2u);
    EXPECT_EQ(part.potentials[0].pins, std::vector<FeatureId>{"p1"});
}

}  // namespace
}  // namespace punch::place_test
