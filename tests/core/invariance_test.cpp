// What must not change the result: order of readings, units, renaming, the datum's frame, the side one looks from.

#include <gtest/gtest.h>

#include <algorithm>

#include "core/verdicts/gauges.h"
#include "tests/support/parts.h"

namespace punch {
namespace {

void expectSamePlaces(const Footprint& a, const Footprint& b, double tolerance = 1e-9) {
    ASSERT_EQ(a.pads.size(), b.pads.size());
    for (std::size_t i = 0; i < a.pads.size(); ++i) {
        EXPECT_NEAR(a.pads[i].at.x.mm(), b.pads[i].at.x.mm(), tolerance);
        EXPECT_NEAR(a.pads[i].at.y.mm(), b.pads[i].at.y.mm(), tolerance);
        EXPECT_EQ(a.pads[i].hole, b.pads[i].hole);
    }
    for (std::size_t i = 0; i < a.bareHoles.size(); ++i) {
        EXPECT_NEAR(a.bareHoles[i].at.x.mm(), b.bareHoles[i].at.x.mm(), tolerance);
        EXPECT_NEAR(a.bareHoles[i].at.y.mm(), b.bareHoles[i].at.y.mm(), tolerance);
        EXPECT_NEAR(a.bareHoles[i].doubt.x->mm(), b.bareHoles[i].doubt.x->mm(), tolerance);
    }
    for (std::size_t i = 0; i < a.gauges.size(); ++i)
        EXPECT_EQ(a.gauges[i].state, b.gauges[i].state) << a.gauges[i].name;
}

TEST(Invariance, OrderOfReadings) {
    Part part = test::demoPart();
    part.taken.clear();
    const Footprint first = derive(part);
    std::mt19937 random(1);
    for (int i = 0; i < 20; ++i) {
        std::shuffle(part.readings.begin(), part.readings.end(), random);
        expectSamePlaces(first, derive(part));
    }
}

TEST(Invariance, UnitsOfTyping) {
    Part part = test::demoPart();
    const Footprint first = derive(part);
    for (Reading& r : part.readings)
        for (RawValue& v : r.raw) {
            const std::string typed = formatLength(v.value, Unit::Inch, 9);
            v.value = *parseLength(typed, Unit::Mm);
            v.typed = typed;
        }
    expectSamePlaces(first, derive(part), 1e-6);
}

TEST(Invariance, EndsOfAReadingMayBeSwapped) {
    Part part = test::demoPart();
    const Footprint first = derive(part);
    for (Reading& r : part.readings)
        if (!r.b.empty()) std::swap(r.a, r.b);
    expectSamePlaces(first, derive(part));
}

TEST(Invariance, AShiftedDatumMovesTheFrameOnly) {
    Part part = test::demoPart();
    const Footprint middle = derive(part);
    part.datum.kind = DatumKind::PinOne;
    const Footprint pin = derive(part);
    for (std::size_t i = 0; i < 4; ++i) {
        EXPECT_NEAR(middle.pads[i].at.x.mm() - pin.pads[i].at.x.mm(), -7.62, 1e-9);
        EXPECT_NEAR(middle.pads[i].doubt.fitted->mm(), pin.pads[i].doubt.fitted->mm(), 1e-9);
    }
    for (std::size_t i = 0; i < middle.gauges.size(); ++i) {
        EXPECT_EQ(middle.gauges[i].state, pin.gauges[i].state);
        if (middle.gauges[i].value) {
            EXPECT_NEAR(*middle.gauges[i].value, *pin.gauges[i].value, 1e-9) << middle.gauges[i].name;
        }
    }
}

TEST(Invariance, AMirroredPartMirrorsItsPlaces) {
    // The same notebook read with the peg drawn behind the row instead of before it.
    Part part = test::demoPart();
    const Footprint front = derive(part);
    part.assumed["peg5.y"] = 3.5_mm;
    const Footprint rear = derive(part);
    EXPECT_NEAR(front.bareHoles[0].at.y.mm(), -rear.bareHoles[0].at.y.mm(), 1e-9);
    EXPECT_NEAR(front.bareHoles[0].at.x.mm(), rear.bareHoles[0].at.x.mm(), 1e-9);
}

TEST(Invariance, DeriveIsPure) {
    const Part part = test::demoPart();
    const Part copy = part;
    const Footprint a = derive(part);
    const Footprint b = derive(part);
    EXPECT_EQ(part, copy);
    expectSamePlaces(a, b, 0);
}

TEST(Invariance, RandomPartsNeverFail) {
    // Readings at random between any features: whatever comes, derive gives a footprint with finite numbers.
    std::mt19937 random(9);
    for (int t = 0; t < 150; ++t) {
        Part part = *newRow(1 + static_cast<int>(random() % 12));
        part.formations[0].lead = static_cast<LeadShape>(random() % 3);
        for (unsigned i = 0; i < random() % 3; ++i) part = withSpot(part);
        std::vector<FeatureId> features = allPins(part);
        for (const Spot& p : part.spots) features.push_back(p.id);
        features.insert(features.end(), {kBody, kLeftFace, kRightFace, kFrontFace, kRearFace, "nowhere"});
        for (unsigned i = 0; i < random() % 14; ++i) {
            const auto contact = static_cast<Contact>(random() % 7);
            Reading r =
                test::reading(features[random() % features.size()],
                              contact == Contact::Size ? "" : features[random() % features.size()], contact,
                              static_cast<Axis>(random() % 4), {0.01 * static_cast<double>(1 + random() % 3000)});
            part = withReading(part, r);
        }
        const Footprint f = derive(part);
        for (const Pad& p : f.pads) {
            EXPECT_TRUE(p.at.x.isFinite() && p.at.y.isFinite() && p.hole.isFinite());
        }
        for (const Gauge& g : f.gauges) EXPECT_TRUE(!g.value || std::isfinite(*g.value)) << g.name;
        EXPECT_EQ(fromText(toText(part), "memory")->readings.size(), part.readings.size());
    }
}

}  // namespace
}  // namespace punch
