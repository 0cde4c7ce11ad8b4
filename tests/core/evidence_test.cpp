// Evidence besides calipers along a row: drawings, letters, heights, angles, rims, steps, specimens, equal readings.

#include <gtest/gtest.h>

#include <cmath>
#include <limits>

#include "core/measure/adjust.h"
#include "core/measure/between.h"
#include "core/measure/drawn_range.h"
#include "core/measure/entry.h"
#include "core/measure/instruments.h"
#include "core/part/drawing_value.h"
#include "tests/support/parts.h"

namespace punch::evidence_test {
namespace {

using test::reading;

DrawingValue drawn(const char* typed, Unit unit = Unit::Mm) {
    const auto v = parseDrawingValue(typed, unit);
    EXPECT_TRUE(v) << typed << ": " << (v ? "" : v.error().text());
    return v ? *v : DrawingValue{};
}

// ------------------------------------------------------------------ drawings

TEST(Drawings, EveryFormIsRead) {
    const struct {
        const char* typed;
        DrawingForm form;
        double low, high;
    } cases[] = {{"20.3", DrawingForm::Plain, 20.1, 20.5},
                 {"20.3 ±0.15", DrawingForm::Tolerance, 20.15, 20.45},
                 {"20.3+-0.15", DrawingForm::Tolerance, 20.15, 20.45},
                 {"20.3 +0.2 -0.1", DrawingForm::Tolerance, 20.2, 20.5},
                 {"20.3 -0.1 +0", DrawingForm::Tolerance, 20.2, 20.3},
                 {"20.1..20.5", DrawingForm::Limits, 20.1, 20.5},
                 {"20.1 to 20.5", DrawingForm::Limits, 20.1, 20.5},
                 {"0.8in ±0.01in", DrawingForm::Tolerance, 20.066, 20.574},
                 {"20.3 exact", DrawingForm::Exact, 20.3, 20.3},
                 {"(33.3-19.4)/2 ±0.1", DrawingForm::Tolerance, 6.85, 7.05}};
    for (const auto& c : cases) {
        const DrawingValue v = drawn(c.typed);
        EXPECT_EQ(v.form, c.form) << c.typed;
        EXPECT_NEAR(drawnRange(v).low, c.low, 1e-9) << c.typed;
        EXPECT_NEAR(drawnRange(v).high, c.high, 1e-9) << c.typed;
    }
    EXPECT_NEAR(drawn("800 ±5", Unit::Mil).nominal.mm(), 20.32, 1e-9);
    for (const char* wrong : {"", "abc", "20 ±", "± 2", "20.5..20.1", "20 ±-1", "..", "20 .. "})
        EXPECT_FALSE(parseDrawingValue(wrong, Unit::Mm)) << wrong;
}

TEST(Drawings, Iso2768MediumAtItsBounds) {
    const std::pair<double, double> table[] = {{0.49, 0.05}, {0.5, 0.1}, {6, 0.1},     {6.01, 0.2}, {30, 0.2},
                                               {30.1, 0.3},  {120, 0.3}, {120.1, 0.5}, {400, 0.5},  {400.1, 0.8}};
    for (const auto& [size, tolerance] : table) EXPECT_EQ(iso2768Medium(size), tolerance) << size;
}

TEST(Drawings, ATolerancesDoubtIsRectangularAndItIsSpread) {
    Part part = test::bareRow(4);
    Reading r = reading("p1", "p4", Contact::Centres, Axis::Along, {});
    r.drawing = drawn("15.24 ±0.30");
    part = withReading(part, r);
    const Adjustment a(part);
    EXPECT_NEAR(a.readings()[0].stats.u, 0.30 / std::sqrt(3.0), 1e-12);
    const Footprint f = derive(part);
    ASSERT_EQ(f.spreads.size(), 1u);
    EXPECT_EQ(f.spreads[0].specimens, 0);
    EXPECT_NEAR(f.spreads[0].sigma.mm(), 0.30 / std::sqrt(3.0), 1e-6);
    EXPECT_TRUE(derive(test::demoPart()).spreads.empty()) << "calipers on one part say nothing of others";
}

TEST(Drawings, LettersFollowTheVariant) {
    Part part = test::bareRow(4);
    part.letters.variants = {"short", "long"};
    part.letters.variant = "long";
    part.letters.letters = {{"B", {drawn("9.0 ±0.1"), drawn("0.6in ±0.1")}, {}}};
    part.letters.letters[0].byVariant[1] = drawn("0.6in ±0.1mm");
    Reading r = reading("p1", "p4", Contact::Centres, Axis::Along, {});
    r.name = "B";
    part = withReading(part, r);
    EXPECT_NEAR(test::paramValue(derive(part), "pitch"), 5.08, 1e-9);
    part.letters.variant = "short";
    EXPECT_NEAR(test::paramValue(derive(part), "pitch"), 3.0, 1e-9);
    part.readings[0].name = "Q";
    const Footprint f = derive(part);
    EXPECT_EQ(f.readings[0].state, ReadingState::Unused);
    EXPECT_NE(f.readings[0].words.find("“Q”"), std::string::npos) << f.readings[0].words;
    // A letter in a formula brings its own doubt.
    part.readings.clear();
    part.given["pitch"] = {"B/3", Unit::Mm};
    const Footprint g = derive(part);
    EXPECT_NEAR(test::paramValue(g, "pitch"), 3.0, 1e-9);
    EXPECT_NEAR(g.parameter("pitch")->doubt->mm(), kNinetyFive * 0.1 / std::sqrt(3.0) / 3, 1e-9);
}

TEST(Drawings, FromBelowExchangesLeftAndRight) {
    Part part = *newRow(4);
    part.given["pitch"] = {"5", Unit::Mm};
    part.given["lead.width"] = {"1", Unit::Mm};
    Reading r = reading(kLeftFace, "p4", Contact::FaceCentre, Axis::Along, {});
    r.drawing = drawn("3 exact");
    r.fromBelow = true;
    part = withReading(part, r);
    const Footprint f = derive(part);
    EXPECT_NEAR(test::paramValue(f, "body.right"), 18, 1e-6) << "the drawing's left is the part's right";
    EXPECT_FALSE(f.parameter("body.left")->firm());
    EXPECT_NE(readingWords(part, part.readings[0]).find("from below"), std::string::npos);
    // A coordinate from below runs the other way along, and the same way across.
    part = withSpot(test::bareRow(2));
    const FeatureId peg = part.spots[0].id;
    for (const auto& [axis, mm] : {std::pair{Axis::Along, 4.0}, std::pair{Axis::Across, -3.0}}) {
        Reading c = reading("p1", peg, Contact::Centres, axis, {mm});
        c.isSigned = true;
        c.fromBelow = true;
        part = withReading(part, c);
    }
    const Adjustment a(part);
    EXPECT_NEAR(a.features().at(peg).x.value(), -4, 1e-9);
    EXPECT_NEAR(a.features().at(peg).y.value(), -3, 1e-9);
}

// ------------------------------------------------------------------ other readings

TEST(Contacts2, HeightsAnglesAndRims) {
    Part part = withFace(*newRow(3), FaceKind::Knob, Axis::Height, true);
    const FeatureId knob = part.faces[0].id;
    part.given = {{"pitch", {"4", Unit::Mm}},
                  {"lead.length", {"3", Unit::Mm}},
                  {"body.height", {"9", Unit::Mm}},
                  {knob + ".at", {"15", Unit::Mm}},
                  {"lead.width", {"1", Unit::Mm}}};
    part.formations[0].lead = LeadShape::Round;
    const test::Truth truth(part);
    EXPECT_NEAR(truth.shown(reading(kTopFace, "p1", Contact::Outside, Axis::Height, {})), 12, 1e-12)
        << "over top and tip";
    EXPECT_NEAR(truth.shown(reading(kSeatingPlane, knob, Contact::Outside, Axis::Height, {})), 15, 1e-12);
    EXPECT_NEAR(truth.shown(reading(knob, kTopFace, Contact::Outside, Axis::Height, {})), 6, 1e-12) << "a depth";
    EXPECT_TRUE(std::isnan(truth.shown(reading("p1", "p2", Contact::Outside, Axis::Height, {}))));
    Reading angle = reading("p1", "p3", Contact::Angle, Axis::Direct, {});
    EXPECT_NEAR(truth.shown(angle), 0, 1e-12);
    angle.c = "p2";
    EXPECT_NEAR(truth.shown(angle), 0, 1e-9) << "1-3-2: back along the same line";
    EXPECT_NEAR(truth.shown(reading("p1", "", Contact::Rim, Axis::Along, {})), 1, 1e-12);
}

TEST(Contacts2, AnAngleOfThreePinsOnARing) {
    FormationPlan plan;
    plan.kind = FormationKind::Ring;
    plan.rows = {6};
    Part part = *newPart(plan);
    part.given = {{"circle", {"10", Unit::Mm}}, {"start", {"17", Unit::Mm}}};
    const test::Truth truth(part);
    Reading r = reading("p1", "p2", Contact::Angle, Axis::Direct, {});
    r.c = "p3";
    EXPECT_NEAR(truth.shown(r), 120, 1e-9) << "of a regular hexagon";
    r.c.clear();
    EXPECT_NEAR(truth.shown(r), 17 + 120, 1e-9);
    r.fromBelow = true;
    EXPECT_NEAR(truth.shown(r), 180 - 137, 1e-9);
    // Read near the other end of the scale it is the same angle.
    part.given.erase("start");
    part.turned["start"] = Angle::fromDegrees(20);
    r.fromBelow = false;
    r.instrument = kProtractor;
    r.raw.push_back({});
    r.raw[0].angle = Angle::fromDegrees(137 - 360);
    part = withReading(part, r);
    const Adjustment a(part);
    EXPECT_NEAR(a.parameter("start").value(), 17, 1e-6);
    EXPECT_NEAR(a.readings()[0].stats.u, std::sqrt(0.25 / 3 + 0.09 + 0.25 / 12), 1e-9);
}

TEST(Contacts2, ThreeChordsGiveADiameter) {
    EXPECT_NEAR(*rimDiameter(3, 4, 5), 5, 1e-12);
    EXPECT_NEAR(*rimDiameter(std::sqrt(3.0), std::sqrt(3.0), std::sqrt(3.0)), 2, 1e-12);
    EXPECT_FALSE(rimDiameter(1, 2, 3));
    EXPECT_FALSE(rimDiameter(0, 0, 0));
    Part part = withSpot(test::bareRow(2), SpotKind::MountingHole);
    part = withReading(part, reading(part.spots[0].id, "", Contact::Rim, Axis::Along, {2.6, 2.6, 2.6, 2.6, 2.6, 2.6}));
    const Adjustment a(part);
    EXPECT_NEAR(a.readings()[0].stats.mean, 2.6 * 2 / std::sqrt(3.0), 1e-9);
    // Equilateral: D = abc / 2K has the derivative D/(3a)... each chord moves D by 2/(3 sqrt 3).
    const double chord = std::sqrt(0.02 * 0.02 / 3 + 0.01 * 0.01 / 2 + 0.01 * 0.01 / 12);
    EXPECT_NEAR(a.readings()[0].stats.u, chord * 2 / (3 * std::sqrt(3.0)) * std::sqrt(3.0), 1e-6);
    part.readings[0].raw.resize(4);
    EXPECT_EQ(Adjustment(part).readings()[0].state, ReadingState::Unused);
}

TEST(Contacts2, StepsOfAGridAndEqualReadings) {
    Part part = test::bareRow(10);
    Reading r = reading("p1", "p10", Contact::Centres, Axis::Along, {22.86});
    r.instrument = kGridSteps;
    part = withReading(part, r);
    EXPECT_NEAR(Adjustment(part).readings()[0].stats.u, 0.1 / std::sqrt(3.0), 1e-12) << "the grid's limit alone";
    // A width found equal to another: their difference is nothing, within what the caliper could miss.
    part = withSpot(withSpot(test::bareRow(2)));
    part = withReading(part, reading(part.spots[0].id, "", Contact::Size, Axis::Along, {1.5}));
    Reading same = reading(part.spots[1].id, "", Contact::Size, Axis::Along, {});
    same.sameAs = part.readings[0].id;
    part = withReading(part, same);
    const Adjustment a(part);
    const Expr& second = a.parameter(part.spots[1].id + ".diameter");
    EXPECT_NEAR(second.value(), 1.5, 1e-9);
    EXPECT_NEAR(a.u(second), std::hypot(a.readings()[0].stats.u, a.readings()[1].stats.u), 1e-9);
    part.readings.erase(part.readings.begin());
    EXPECT_EQ(Adjustment(part).readings()[0].state, ReadingState::Orphan);
}

TEST(Specimens, WhatDiffersBetweenThemIsSpread) {
    Part part = test::bareRow(2);
    const double widths[] = {1.00, 1.10, 0.96};
    for (int s = 0; s < 3; ++s) {
        Reading r = reading("p1", "", Contact::Size, Axis::Along, {widths[s], widths[s]});
        r.specimen = s + 1;
        part = withReading(part, r);
    }
    const auto stats = readingStats(part);
    const double reading2 = 0.02 * 0.02 / 3 + 0.01 * 0.01 * 8 / 11 / 2 + 0.01 * 0.01 / 12;
    const double between = (0.02 * 0.02 + 0.08 * 0.08 + 0.06 * 0.06) / 2;  // about their mean of 1.02
    EXPECT_NEAR(stats[0].spread, std::sqrt(between - reading2), 1e-9);
    EXPECT_EQ(stats[0].specimens, 3);
    EXPECT_NEAR(stats[0].u, std::sqrt(reading2 + stats[0].spread * stats[0].spread), 1e-9);
    const Adjustment a(part);
    EXPECT_NEAR(a.parameter("lead.width").value(), 1.02, 1e-9);
    for (const ReadingResult& r : a.readings()) EXPECT_EQ(r.state, ReadingState::Agrees);
    // The same values on one part contradict each other.
    for (Reading& r : part.readings) r.specimen = 0;
    EXPECT_NE(Adjustment(part).readings()[1].state, ReadingState::Agrees);
}

TEST(Instruments, OwnOnesCountAndOneWithoutErrorIsSaid) {
    Part part = test::bareRow(2);
    part.instruments.push_back({"own-1", "gauge block", 0, 0, 0, 0, 0, 0});
    Reading r = reading("p1", "", Contact::Size, Axis::Along, {1.0, 1.0, 1.0});
    r.instrument = "own-1";
    part = withReading(part, r);
    const Adjustment a(part);
    EXPECT_GT(a.readings()[0].stats.u, 0);
    EXPECT_NE(a.readings()[0].words.find("no error at all"), std::string::npos);
    EXPECT_TRUE(a.firm(a.parameter("lead.width")));
    EXPECT_EQ(toText(*fromText(toText(part), "memory")), toText(part));
}

// ------------------------------------------------------------------ between, zeros

TEST(BetweenFeatures, TrueCentresAndEdgesWithTheirDoubt) {
    const Part part = test::demoPart();
    const auto b = between(part, "p1", "p4");
    ASSERT_TRUE(b);
    EXPECT_NEAR(b->direct->value.mm(), 15.24, 1e-9);
    EXPECT_NEAR(b->direct->doubt->mm(), 0, 1e-9) << "the pitch is taken";
    EXPECT_NEAR(b->outside->value.mm(), 16.242, 0.002);
    EXPECT_NEAR(b->inside->value.mm(), 14.238, 0.002);
    const auto face = between(part, kRearFace, "peg5");
    ASSERT_TRUE(face);
    EXPECT_FALSE(face->along);
    EXPECT_NEAR(face->across->value.mm(), -8.899, 0.002);
    EXPECT_FALSE(between(part, "p1", "p1"));
    EXPECT_FALSE(between(part, "p1", "gone"));
}

TEST(Zeros, AnUnknownZeroIsFoundFromOutsideAndInside) {
    Part part = test::bareRow(5);
    const double zero = 0.15;
    for (const auto& [a, b, contact, mm] :
         std::vector<std::tuple<FeatureId, FeatureId, Contact, double>>{{"p1", "p5", Contact::Outside, 20.6},
                                                                        {"p1", "p5", Contact::Inside, 19.4},
                                                                        {"p1", "", Contact::Size, 0.6},
                                                                        {"p1", "p2", Contact::Inside, 4.4},
                                                                        {"p1", "p3", Contact::Outside, 10.6},
                                                                        {"p2", "p5", Contact::Inside, 14.4}})
        part = withReading(part, reading(a, b, contact, Axis::Along, {mm + zero, mm + zero}));
    part.zeros = {"caliper-0.01"};
    const Adjustment a(part);
    EXPECT_NEAR(a.parameter("zero.caliper-0.01").value(), zero, 1e-6);
    EXPECT_NEAR(a.parameter("pitch").value(), 5.0, 1e-6);
}

// ------------------------------------------------------------------ typed

TEST(EntryWords, EveryKindOfReadingCanBeTyped) {
    FormationPlan plan;
    plan.kind = FormationKind::TwoRows;
    plan.rows = {4, 4};
    Part part = withFace(withSpot(withSpot(*newPart(plan)), SpotKind::Lock), FaceKind::Knob, Axis::Height, true);
    part.letters.variants = {"v"};
    part.letters.variant = "v";
    part.letters.letters = {{"B", {drawn("15.24")}, {}}};
    part = withReading(part, reading("p1", "p4", Contact::Outside, Axis::Along, {16}));
    const auto typed = [&](const char* text) {
        const auto e = parseEntry(part, {}, text, Unit::Mm);
        EXPECT_TRUE(e) << text << ": " << (e ? "" : e.error().text());
        return e ? e->reading : Reading{};
    };
    EXPECT_EQ(typed("1 4 centres 9 steps 0.1in").instrument, kGridSteps);
    EXPECT_NEAR(typed("1 4 centres 9 steps 0.1in").raw[0].value.mm(), 22.86, 1e-9);
    const Reading coordinate = typed("1 peg along coordinate -3.5");
    EXPECT_TRUE(coordinate.isSigned);
    EXPECT_NEAR(coordinate.raw[0].value.mm(), -3.5, 1e-9);
    EXPECT_EQ(typed("1 2 4 angle 30").c, "p4");
    EXPECT_NEAR(typed("1 2 angle 30.5").raw[0].angle.degrees(), 30.5, 1e-12);
    EXPECT_EQ(typed("peg rim 1.1 1.2 1.3").contact, Contact::Rim);
    EXPECT_EQ(typed("body across 10.2 ±0.1").drawing->form, DrawingForm::Tolerance);
    EXPECT_EQ(typed("body along drawing 20.7").drawing->form, DrawingForm::Plain);
    EXPECT_EQ(typed("1 4 centres letter B").name, "B");
    EXPECT_TRUE(typed("left 1 near below 2.2").fromBelow);
    EXPECT_EQ(typed("1 width specimen 2 1.00").specimen, 2);
    EXPECT_EQ(typed("2 width same 1").sameAs, part.readings[0].id);
    EXPECT_EQ(typed("A = 20.3 ±0.2").contact, Contact::Quantity);
    EXPECT_EQ(typed("seat knob face height 15").b, part.faces[0].id);
    EXPECT_EQ(typed("1 5 outside 8.2").axis, Axis::Across) << "facing pins are read across";
    for (const char* wrong :
         {"1 2 3 4 angle 3", "1 coordinate 3", "1 width same 7", "1 4 centres letter Z", "= 3", "in = 3",
          "1 width specimen x 3", "1 2 angle 30mm", "x steps 3", "1 4 centres 0 steps 0.1in"})
        EXPECT_FALSE(parseEntry(part, {}, wrong, Unit::Mm)) << wrong;
}

TEST(BadFiles, NumbersThatAreNone) {
    std::string text = toText(test::demoPart());
    const auto with = [&](const std::string& from, const std::string& to) {
        std::string t = text;
        t.replace(t.find(from), from.size(), to);
        return fromText(t, "memory");
    };
    EXPECT_FALSE(with("16.25", "NaN"));
    EXPECT_FALSE(with("16.25", "1e999"));
    EXPECT_FALSE(with("16.25", "\"1/0\""));
    EXPECT_FALSE(with("16.25", "-1e12"));
    EXPECT_FALSE(with("16.25", "null"));
    EXPECT_FALSE(with("\"outside\"", "\"sideways\""));
    EXPECT_TRUE(with("16.25", "\"0.64in\""));
    Part part = test::bareRow(2);
    part.formations[0].pins.clear();
    for (int i = 0; i < 10000; ++i) part.formations[0].pins.push_back("p" + std::to_string(i + 1));
    const auto many = fromText(toText(part), "memory");
    ASSERT_FALSE(many);
    EXPECT_NE(many.error().text().find("10000 pins are more"), std::string::npos) << many.error().text();
}

}  // namespace
}  // namespace punch::evidence_test
