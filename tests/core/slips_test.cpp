// Slips of the hand: each kind is asked about with the right mending, honest notebooks are left in peace.

#include "core/measure/slips.h"

#include <gtest/gtest.h>

#include <cmath>

#include "tests/support/notebooks.h"

namespace punch::slips_test {
namespace {

using test::reading;

/// A row read so well that every reading has others to check it. Pitch 5, lead 0.8 x 0.6, with a body.
Part wellRead() {
    Part part = *newRow(5);
    const auto add = [&](const FeatureId& a, const FeatureId& b, Contact contact, Axis axis, double mm) {
        part = withReading(part, reading(a, b, contact, axis, {mm, mm}));
    };
    add("p1", "p5", Contact::Outside, Axis::Along, 20.80);
    add("p1", "p5", Contact::Inside, Axis::Along, 19.20);
    add("p1", "p3", Contact::Outside, Axis::Along, 10.80);
    add("p2", "p5", Contact::Inside, Axis::Along, 14.20);
    add("p1", "p2", Contact::Inside, Axis::Along, 4.20);
    add("p1", "", Contact::Size, Axis::Along, 0.80);
    add("p5", "", Contact::Size, Axis::Along, 0.80);
    add(kBody, "", Contact::Size, Axis::Along, 26.00);
    add(kLeftFace, "p1", Contact::FaceNear, Axis::Along, 2.60);
    add(kRightFace, "p5", Contact::FaceNear, Axis::Along, 2.60);
    add(kLeftFace, "p1", Contact::FaceFar, Axis::Along, 3.40);
    add(kLeftFace, "p3", Contact::FaceNear, Axis::Along, 12.60);
    return part;
}

Part withValue(Part part, std::size_t i, double mm) {
    for (RawValue& v : part.readings[i].raw) {
        v.value = Length::fromMm(mm);
        v.typed = fmt::format("{:g}", mm);
    }
    return part;
}

const Slip* about(const Footprint& f, const Part& part, std::size_t i) {
    for (const Slip& s : f.slips)
        if (s.reading == part.readings[i].id) return &s;
    return nullptr;
}

TEST(Slips, AGoodNotebookIsLeftInPeace) {
    EXPECT_TRUE(derive(wellRead()).slips.empty());
    EXPECT_TRUE(derive(test::demoPart()).slips.empty());
    test::Notebooks notebooks(4);
    int asked = 0;
    for (int t = 0; t < 300; ++t) {
        const auto c = notebooks.draw(test::kAllKinds[notebooks.index(std::size(test::kAllKinds))]);
        const Part part = notebooks.notebook(c, notebooks.instrument(), notebooks.whole(4, 14));
        asked += !derive(part).slips.empty();
    }
    EXPECT_LT(asked, 15);
}

TEST(Slips, AFactorIsFoundAndMended) {
    const Part good = wellRead();
    const struct {
        std::size_t reading;
        double factor;
        const char* words;
    } cases[] = {{0, 1 / 25.4, "inches"},   {2, 25.4, "typed as inches"}, {4, 1 / 0.0254, "mil"}, {3, 1000, "µm"},
                 {0, 100, "decimal point"}, {2, 10, "decimal point"},     {5, 0.5, "half"},       {6, 2, "double"}};
    for (const auto& c : cases) {
        SCOPED_TRACE(fmt::format("reading {} times {}", c.reading, c.factor));
        const double real = good.readings[c.reading].raw[0].value.mm();
        const Part part = withValue(good, c.reading, std::round(real * c.factor * 1e4) / 1e4);
        const Footprint f = derive(part);
        const Slip* slip = about(f, part, c.reading);
        ASSERT_NE(slip, nullptr);
        EXPECT_NE(slip->words.find(c.words), std::string::npos) << slip->words;
        ASSERT_TRUE(slip->mended);
        EXPECT_NEAR(slip->mended->readings[c.reading].raw[0].value.mm(), real, 0.011);
        EXPECT_TRUE(derive(*slip->mended).slips.empty());
    }
}

TEST(Slips, OutsideTypedAsInsideAndTheOtherEdge) {
    Part part = wellRead();
    part.readings[2].contact = Contact::Inside;
    const Footprint f = derive(part);
    const Slip* slip = about(f, part, 2);
    ASSERT_NE(slip, nullptr);
    EXPECT_NE(slip->words.find("outside"), std::string::npos) << slip->words;
    ASSERT_TRUE(slip->mended);
    EXPECT_EQ(slip->mended->readings[2].contact, Contact::Outside);
    part = wellRead();
    part.readings[11].contact = Contact::FaceFar;
    const Footprint g = derive(part);
    ASSERT_NE(about(g, part, 11), nullptr);
    EXPECT_EQ(about(g, part, 11)->mended->readings[11].contact, Contact::FaceNear);
}

TEST(Slips, OneRawValueFarFromItsFellowsByAFactor) {
    Part part = wellRead();
    part.readings[0].raw.push_back({Length::fromMm(0.8189), "0.8189", Unit::Mm, false, {}});
    const Footprint f = derive(part);
    const Slip* slip = about(f, part, 0);
    ASSERT_NE(slip, nullptr);
    EXPECT_NE(slip->words.find("inches"), std::string::npos) << slip->words;
    EXPECT_NEAR(slip->mended->readings[0].raw[2].value.mm(), 20.8, 0.005);
    EXPECT_EQ(slip->mended->readings[0].raw[0].value, part.readings[0].raw[0].value) << "its fellows stay";
    EXPECT_NEAR(test::paramValue(f, "pitch"), 5.0, 1e-3) << "it moved nothing";
}

TEST(Slips, AnImplausibleSizeIsAskedAboutBeforeAnythingChecksIt) {
    const auto only = [](Reading r) {
        const Part part = withReading(test::bareRow(4), std::move(r));
        const Footprint f = derive(part);
        return f.slips.empty() ? std::string() : f.slips[0].words;
    };
    EXPECT_NE(only(reading("p1", "", Contact::Size, Axis::Along, {100})).find("2.54 mm"), std::string::npos);
    EXPECT_NE(only(reading("p1", "p4", Contact::Outside, Axis::Along, {640})).find("16.256 mm"), std::string::npos)
        << only(reading("p1", "p4", Contact::Outside, Axis::Along, {640}));
    EXPECT_NE(only(reading("p1", "", Contact::Size, Axis::Along, {0.04})).find("1.016 mm"), std::string::npos);
    EXPECT_TRUE(only(reading("p1", "", Contact::Size, Axis::Along, {1.0})).empty());
    EXPECT_TRUE(only(reading("p1", "p4", Contact::Outside, Axis::Along, {16.25})).empty());
}

TEST(Slips, ACaliperThatWasNotZeroed) {
    Part part = wellRead();
    for (Reading& r : part.readings)
        for (RawValue& v : r.raw) v.value += Length::fromMm(0.20);
    const Footprint f = derive(part);
    ASSERT_FALSE(f.slips.empty());
    EXPECT_NE(f.slips[0].words.find("zeroed"), std::string::npos) << f.slips[0].words;
    EXPECT_NE(f.slips[0].words.find("+0.200 mm"), std::string::npos) << f.slips[0].words;
    ASSERT_TRUE(f.slips[0].mended);
    const Footprint mended = derive(*f.slips[0].mended);
    EXPECT_NEAR(test::paramValue(mended, "lead.width"), 0.8, 1e-6);
    EXPECT_TRUE(mended.slips.empty());
}

TEST(Slips, NumbersThatRunMirroredAgainstADrawing) {
    // The drawing, seen from below, puts its pin 1 near its left edge: 3 from there, 9 from the other.
    Part part = wellRead();
    part = withReading(part, reading(kRightFace, "p5", Contact::FaceCentre, Axis::Along, {3.0, 3.0}));
    part = withReading(part, reading(kRightFace, "p4", Contact::FaceCentre, Axis::Along, {8.0}));
    const auto drawn = [&](const FeatureId& pin, double mm) {
        Reading r = reading(kLeftFace, pin, Contact::FaceCentre, Axis::Along, {});
        r.fromBelow = true;
        r.drawing = DrawingValue{"",
                                 Unit::Mm,
                                 DrawingForm::Tolerance,
                                 Length::fromMm(mm),
                                 Length::fromMm(mm - 0.05),
                                 Length::fromMm(mm + 0.05)};
        part = withReading(part, r);
    };
    drawn("p1", 3.0);
    drawn("p2", 8.0);
    const Footprint f = derive(part);
    const auto slip = std::find_if(f.slips.begin(), f.slips.end(),
                                   [](const Slip& s) { return s.words.find("mirrored") != std::string::npos; });
    ASSERT_NE(slip, f.slips.end());
    ASSERT_TRUE(slip->mended);
    EXPECT_FALSE(slip->mended->formations[0].numbers.fromLeft);
    for (const ReadingResult& r : derive(*slip->mended).readings) EXPECT_NE(r.state, ReadingState::InDoubt);
}

TEST(Slips, WhatIsMeantIsNotAskedAgain) {
    Part part = withReading(test::bareRow(4), reading("p1", "", Contact::Size, Axis::Along, {100}));
    for (RawValue& v : part.readings[0].raw) v.meant = true;
    EXPECT_TRUE(derive(part).slips.empty());
}

}  // namespace
}  // namespace punch::slips_test
