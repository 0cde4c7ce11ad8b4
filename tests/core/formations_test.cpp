// Formations: places, published geometry, formulas, numbers.

#include <gtest/gtest.h>

#include <cmath>

#include "core/part/numbering.h"
#include "core/part/slots.h"
#include "tests/support/parts.h"

namespace punch::formations_test {
namespace {

FormationPlan plan(FormationKind kind, std::vector<int> rows) {
    FormationPlan p;
    p.kind = kind;
    p.rows = std::move(rows);
    return p;
}

Part bare(const FormationPlan& p) {
    Part part = *newPart(p);
    part.body.present = false;
    return part;
}

Part given(Part part, std::initializer_list<std::pair<const char*, const char*>> values) {
    for (const auto& [name, typed] : values) part.given[name] = {typed, Unit::Mm};
    return part;
}

Point at(const Footprint& f, const std::string& number) {
    for (const Pad& p : f.pads)
        if (p.number == number) return p.at;
    ADD_FAILURE() << "no pad " << number;
    return {};
}

void expectAt(const Footprint& f, const std::string& number, double x, double y) {
    EXPECT_NEAR(at(f, number).x.mm(), x, 1e-9) << number;
    EXPECT_NEAR(at(f, number).y.mm(), y, 1e-9) << number;
}

// ------------------------------------------------------------------ published geometry

TEST(PublishedGeometry, DualInLinePackageOfJedecMs001) {
    // 16 leads, 2.54 apart, rows 7.62 apart, numbered around: 1 to 8 in front, 9 to 16 back along the rear.
    Part part = given(bare(plan(FormationKind::TwoRows, {8, 8})), {{"pitch", "0.1in"}, {"rowGap", "300mil"}});
    const Footprint f = derive(part);
    expectAt(f, "1", -8.89, -3.81);
    expectAt(f, "8", 8.89, -3.81);
    expectAt(f, "9", 8.89, 3.81);
    expectAt(f, "16", -8.89, 3.81);
    for (int n = 1; n <= 8; ++n) {
        const Point a = at(f, std::to_string(n));
        const Point b = at(f, std::to_string(17 - n));
        EXPECT_NEAR(a.x.mm(), b.x.mm(), 1e-9);
        EXPECT_NEAR((b.y - a.y).mm(), 7.62, 1e-9);
    }
    EXPECT_TRUE(f.pads[0].firm);
}

TEST(PublishedGeometry, TypeC96OfIec60603) {
    // IEC 60603-2 (DIN 41612) type C, 96 contacts: three rows of 32 on a 2.54 grid, 78.74 from first to last.
    Part part = given(bare(plan(FormationKind::Grid, {32, 32, 32})), {{"pitch", "2.54"}, {"rowGap", "2.54"}});
    part.formations[0].numbers.rowLetters = true;
    const Footprint f = derive(part);
    ASSERT_EQ(f.pads.size(), 96u);
    expectAt(f, "A1", -39.37, -2.54);
    expectAt(f, "A32", 39.37, -2.54);
    expectAt(f, "B1", -39.37, 0);
    expectAt(f, "C32", 39.37, 2.54);
    EXPECT_NEAR((at(f, "C32").x - at(f, "C1").x).mm(), 78.74, 1e-9);
}

TEST(PublishedGeometry, NineWaysOfIec60807) {
    // IEC 60807-2, 9 contacts: 5 + 4, 2.77 apart, the rows 2.84 apart and half a pitch along.
    Part part = given(bare(plan(FormationKind::Staggered, {5, 4})), {{"pitch", "2.77"}, {"rowGap", "2.84"}});
    part.formations[0].numbers.order = NumberOrder::RowByRow;
    const Footprint f = derive(part);
    expectAt(f, "1", -5.54, -1.42);
    expectAt(f, "5", 5.54, -1.42);
    expectAt(f, "6", -4.155, 1.42);
    expectAt(f, "9", 4.155, 1.42);
    EXPECT_NEAR((at(f, "5").x - at(f, "1").x).mm(), 11.08, 1e-9);
}

TEST(PublishedGeometry, DrawnFromMeasuredSpansTheyLandThereToo) {
    // The same nine ways from two readings, by calipers on a perfect part.
    Part part = bare(plan(FormationKind::Staggered, {5, 4}));
    part.formations[0].lead = LeadShape::Round;
    part = test::with(part, test::reading("p1", "p5", Contact::Outside, Axis::Along, {12.08}));
    part = test::with(part, test::reading("p1", "", Contact::Size, Axis::Along, {1.00}));
    part = test::with(part, test::reading("p1", "p6", Contact::Outside, Axis::Across, {3.84}));
    const Footprint f = derive(part);
    EXPECT_NEAR(test::paramValue(f, "pitch"), 2.77, 1e-9);
    EXPECT_NEAR(test::paramValue(f, "rowGap"), 2.84, 1e-9);
}

// ------------------------------------------------------------------ places

TEST(Formations, ARingIsCountedFromItsStart) {
    Part part = bare(plan(FormationKind::Ring, {6}));
    part.formations[0].middle = true;
    part.formations[0].pins.push_back("middle");
    part = given(part, {{"circle", "10"}, {"start", "90"}});
    Footprint f = derive(part);
    expectAt(f, "1", 0, 5);
    expectAt(f, "2", -5 * std::cos(M_PI / 6), 2.5);
    expectAt(f, "7", 0, 0);
    part.formations[0].clockwise = true;
    f = derive(part);
    expectAt(f, "2", 5 * std::cos(M_PI / 6), 2.5);
    part.formations[0].numbers.fromLeft = false;
    expectAt(derive(part), "2", -5 * std::cos(M_PI / 6), 2.5);
    expectAt(derive(part), "1", 0, 5);
}

TEST(Formations, AnArcHasAStep) {
    Part part = bare(plan(FormationKind::Ring, {3}));
    part.formations[0].arc = true;
    part = given(part, {{"circle", "20"}, {"start", "0deg"}, {"step", "360/12"}});
    part.datum = {DatumKind::PinOne, {}, {}};
    const Footprint f = derive(part);
    expectAt(f, "2", 10 * (std::cos(M_PI / 6) - 1), 5);
    expectAt(f, "3", -5, 10 * std::sin(M_PI / 3));
}

TEST(Formations, AGridLeavesPositionsOut) {
    FormationPlan p = plan(FormationKind::Grid, {3, 3, 3});
    p.leftOut = {4};
    Part part = given(bare(p), {{"pitch", "2"}, {"rowGap", "3"}});
    const Footprint f = derive(part);
    ASSERT_EQ(f.pads.size(), 8u);
    expectAt(f, "A1", -2, -3);
    expectAt(f, "B1", -2, 0);
    expectAt(f, "B3", 2, 0);
    expectAt(f, "C2", 0, 3);
    part.formations[0].numbers.rowLetters = false;
    part.formations[0].numbers.order = NumberOrder::RowByRow;
    expectAt(derive(part), "5", 2, 0);
}

TEST(Formations, ASecondRowTurnsAndATwinMirrors) {
    Part part =
        given(*withFormation(bare(plan(FormationKind::Row, {3})), plan(FormationKind::Row, {2})), {{"pitch", "2"}});
    const std::string f2 = part.formations[1].id;
    part.given[f2 + ".x"] = {"1", Unit::Mm};
    part.given[f2 + ".y"] = {"5", Unit::Mm};
    part.given[f2 + ".turn"] = {"90deg", Unit::Mm};
    part.given[f2 + ".pitch"] = {"3", Unit::Mm};
    part.datum = {DatumKind::PinOne, {}, {}};
    expectAt(derive(part), "4", 1, 5);
    expectAt(derive(part), "5", 1, 8);
    FormationPlan twin = plan(FormationKind::Twin, {});
    twin.twinOf = f2;
    twin.mirror = Axis::Along;
    part = *withFormation(part, twin);
    part.given[part.formations[2].id + ".axis"] = {"2*pitch", Unit::Mm};
    expectAt(derive(part), "6", 7, 5);
    expectAt(derive(part), "7", 7, 8);
}

TEST(Formations, APinStandsOffByAReadingOfItsOwn) {
    Part part = withMovedPin(bare(plan(FormationKind::Row, {5})), "p3", true);
    part.formations[0].lead = LeadShape::Round;
    part = given(part, {{"pitch", "2.5"}, {"lead.width", "0.6"}});
    part = test::with(part, test::reading("p1", "p3", Contact::Centres, Axis::Along, {5.3}));
    Reading r = test::reading("p1", "p3", Contact::Centres, Axis::Across, {-0.4});
    r.isSigned = true;
    part = test::with(part, r);
    part.datum = {DatumKind::PinOne, {}, {}};
    const Footprint f = derive(part);
    EXPECT_NEAR(at(f, "3").x.mm(), 5.3, 1e-9);
    EXPECT_NEAR(at(f, "3").y.mm(), -0.4, 1e-9);
    expectAt(f, "4", 7.5, 0);
}

TEST(Formations, TwinsOfNothingOrOfThemselvesAreSaid) {
    FormationPlan twin = plan(FormationKind::Twin, {});
    twin.twinOf = "f1";
    Part part = *withFormation(bare(plan(FormationKind::Row, {3})), twin);
    part = *withFormation(part, [&] {
        FormationPlan other = twin;
        other.twinOf = part.formations[1].id;
        return other;
    }());
    EXPECT_TRUE(derive(part).complaints.empty()) << "a twin of a twin is one";
    for (const std::string& of :
         std::vector<std::string>{"nowhere", part.formations[1].id, part.formations[2].id, ""}) {
        Part broken = part;
        broken.formations[1].twinOf = of;
        const Footprint f = derive(broken);
        EXPECT_FALSE(f.complaints.empty()) << of;
        EXPECT_EQ(f.pads.size(), 9u);
        for (const Pad& p : f.pads) EXPECT_TRUE(p.at.x.isFinite());
    }
    part = withSpotTwin(withSpot(bare(plan(FormationKind::Row, {3}))), "peg");
    Part spots = withSpot(bare(plan(FormationKind::Row, {3})));
    spots = withSpotTwin(spots, spots.spots[0].id);
    spots.spots[0].twinOf = spots.spots[1].id;
    EXPECT_FALSE(derive(spots).complaints.empty());
}

// ------------------------------------------------------------------ formulas

TEST(Formulas, NamesUnitsAndArithmetic) {
    Part part = bare(plan(FormationKind::TwoRows, {4, 4}));
    part = given(part, {{"pitch", "0.1in"}, {"rowGap", "A - 2*edge"}, {"rowShift", "pitch/2 + 5mil"}});
    const auto named = [&](const char* name, const char* typed) {
        Reading r;
        r.contact = Contact::Quantity;
        r.name = name;
        r.drawing = DrawingValue{typed,
                                 Unit::Mm,
                                 DrawingForm::Tolerance,
                                 Length::fromMm(std::atof(typed)),
                                 Length::fromMm(std::atof(typed) - 0.1),
                                 Length::fromMm(std::atof(typed) + 0.1)};
        part = withReading(part, r);
    };
    named("A", "20");
    named("edge", "3");
    const Footprint f = derive(part);
    EXPECT_TRUE(f.complaints.empty()) << f.complaints[0].words;
    EXPECT_NEAR(test::paramValue(f, "rowGap"), 14, 1e-9);
    EXPECT_NEAR(test::paramValue(f, "rowShift"), 1.27 + 0.127, 1e-9);
    // u² = u(A)² + 4 u(edge)², each rectangular over ± 0.1.
    EXPECT_NEAR(f.parameter("rowGap")->doubt->mm(), kNinetyFive * std::sqrt(5.0) * 0.1 / std::sqrt(3.0), 1e-7);
    EXPECT_EQ(f.parameter("rowGap")->state, Parameter::State::Formula);
}

TEST(Formulas, CyclesAndUnknownNamesAreNamed) {
    Part part = bare(plan(FormationKind::TwoRows, {4, 4}));
    part = given(part, {{"pitch", "rowGap/2"}, {"rowGap", "rowShift + 1mm"}, {"rowShift", "pitch*2"}});
    Footprint f = derive(part);
    ASSERT_EQ(f.complaints.size(), 1u);
    EXPECT_NE(f.complaints[0].words.find("pitch → rowGap → rowShift → pitch"), std::string::npos)
        << f.complaints[0].words;
    part = given(part, {{"pitch", "2"}, {"rowGap", "K*2"}, {"rowShift", "pitch + 3"}});
    f = derive(part);
    ASSERT_EQ(f.complaints.size(), 2u);
    EXPECT_NE(f.complaints[0].words.find("K"), std::string::npos);
    EXPECT_NE(f.complaints[1].words.find("mixed"), std::string::npos) << f.complaints[1].words;
    part = given(part, {{"rowGap", "rowGap"}, {"rowShift", "pitch*pitch"}});
    f = derive(part);
    ASSERT_EQ(f.complaints.size(), 2u);
    part = given(part, {{"rowGap", "pitch/0"}, {"rowShift", "((("}});
    EXPECT_NO_THROW(f = derive(part));
    EXPECT_TRUE(std::isfinite(f.pads.back().at.y.mm()));
}

TEST(Formulas, AReadingsNameStandsForWhatItMeasures) {
    // The gap follows from a reading on the body, whose doubt it carries.
    Part part = *newPart(plan(FormationKind::TwoRows, {4, 4}));
    Reading r = test::reading(kBody, "", Contact::Size, Axis::Across, {20.00});
    r.name = "depth";
    part = withReading(given(part, {{"rowGap", "depth - 10mm"}}), r);
    Footprint f = derive(part);
    EXPECT_TRUE(f.complaints.empty());
    EXPECT_NEAR(test::paramValue(f, "rowGap"), 10, 1e-9);
    EXPECT_TRUE(f.parameter("rowGap")->firm());
    // A reading on the very pins that follow from it goes in a circle.
    Reading across = test::reading("p1", "p5", Contact::Centres, Axis::Across, {12});
    across.name = "B";
    part = withReading(given(part, {{"rowGap", "B - 1mm"}}), across);
    f = derive(part);
    ASSERT_EQ(f.complaints.size(), 1u);
    EXPECT_NE(f.complaints[0].words.find("circle"), std::string::npos) << f.complaints[0].words;
}

// ------------------------------------------------------------------ numbers

std::string numbers(const Part& part) {
    std::string all;
    for (const FeatureId& id : part.formations[0].pins) all += (all.empty() ? "" : " ") + pinNumber(part, id);
    return all;
}

TEST(Numbers, EveryOrderOfTwoRows) {
    Part part = bare(plan(FormationKind::TwoRows, {3, 3}));
    Numbering& n = part.formations[0].numbers;
    n.order = NumberOrder::Around;
    EXPECT_EQ(numbers(part), "1 2 3 6 5 4");
    n.order = NumberOrder::RowByRow;
    EXPECT_EQ(numbers(part), "1 2 3 4 5 6");
    n.order = NumberOrder::ZigZag;
    EXPECT_EQ(numbers(part), "1 3 5 2 4 6");
    n.fromFront = false;
    EXPECT_EQ(numbers(part), "2 4 6 1 3 5");
    n.fromLeft = false;
    EXPECT_EQ(numbers(part), "6 4 2 5 3 1");
    n = {};
    n.order = NumberOrder::Around;
    n.fromLeft = false;
    n.start = 10;
    n.step = 2;
    n.prefix = "T";
    EXPECT_EQ(numbers(part), "T14 T12 T10 T16 T18 T20");
    n = {};
    n.rowLetters = true;
    n.fromFront = false;
    EXPECT_EQ(numbers(part), "B1 B2 B3 A1 A2 A3");
    n = {};
    n.order = NumberOrder::Clicked;
    n.clicked = {"p5", "p1", "p6"};
    EXPECT_EQ(numbers(part), "2 4 5 6 1 3");
    n.own = {{"p2", "S"}};
    EXPECT_EQ(numbers(part), "2 S 5 6 1 3");
    EXPECT_EQ(pinByNumber(part, "S"), "p2");
}

TEST(Numbers, LettersSkipTheOnesThatMislead) {
    EXPECT_EQ(rowLetter(0), "A");
    EXPECT_EQ(rowLetter(8), "J") << "no I";
    EXPECT_EQ(rowLetter(19), "Y");
    EXPECT_EQ(rowLetter(20), "AA");
    EXPECT_EQ(rowLetter(21), "AB");
}

TEST(Numbers, SortAsPeopleDo) {
    EXPECT_TRUE(numberLess("9", "10"));
    EXPECT_TRUE(numberLess("A9", "A10"));
    EXPECT_TRUE(numberLess("A10", "B1"));
    EXPECT_FALSE(numberLess("10", "9"));
    EXPECT_FALSE(numberLess("7", "7"));
}

TEST(Numbers, DoubledOnesAreNamedUnlessShared) {
    Part part = *withFormation(bare(plan(FormationKind::Row, {3})), plan(FormationKind::Row, {2}));
    EXPECT_TRUE(doubledNumbers(part).empty()) << "a new formation goes on counting";
    part.formations[1].numbers.start = 3;
    EXPECT_EQ(doubledNumbers(part), std::vector<std::string>{"3"});
    ASSERT_EQ(derive(part).complaints.size(), 1u);
    part.formations[1].numbers.shared = true;
    EXPECT_TRUE(doubledNumbers(part).empty());
}

// ------------------------------------------------------------------ edits

TEST(FormationEdits, PinsKeepTheirIdentifiersByPlace) {
    Part part = bare(plan(FormationKind::TwoRows, {3, 3}));
    part = *withShape(part, "f1", plan(FormationKind::TwoRows, {2, 4}));
    const auto& pins = part.formations[0].pins;
    ASSERT_EQ(pins.size(), 6u);
    EXPECT_EQ(pins[0], "p1");
    EXPECT_EQ(pins[1], "p2");
    EXPECT_EQ(pins[2], "p4") << "the rear row's first stays its first";
    EXPECT_EQ(pins[4], "p6");
    EXPECT_NE(pins[5], "p3") << "a new place has a new pin";
}

TEST(FormationEdits, RefusalsSayWhatAndWhatToDo) {
    const auto wrong = [](const FormationPlan& p) {
        const auto part = newPart(p);
        return part ? std::string("taken") : part.error().text();
    };
    EXPECT_NE(wrong(plan(FormationKind::Row, {0})).find("at least one pin"), std::string::npos);
    EXPECT_NE(wrong(plan(FormationKind::Row, {10000})).find("more than"), std::string::npos);
    EXPECT_NE(wrong(plan(FormationKind::Grid, {100, 100, 100, 2000})).find("more than"), std::string::npos);
    EXPECT_NE(wrong(plan(FormationKind::Grid, {3, 4})).find("same columns"), std::string::npos);
    EXPECT_NE(wrong(plan(FormationKind::TwoRows, {3})).find("two numbers"), std::string::npos);
    EXPECT_NE(wrong(plan(FormationKind::Twin, {3})).find("no formation to mirror"), std::string::npos);
    FormationPlan p = plan(FormationKind::Grid, {2, 2});
    p.leftOut = {9};
    EXPECT_NE(wrong(p).find("outside the grid"), std::string::npos);
    p.leftOut = {0, 1, 2, 3};
    EXPECT_NE(wrong(p).find("no pin is left"), std::string::npos);
    EXPECT_FALSE(withoutFormation(bare(plan(FormationKind::Row, {3})), "f9"));
}

TEST(FormationEdits, RemovingTheFirstPassesItsPlaceOn) {
    Part part = *withFormation(bare(plan(FormationKind::Row, {3})), plan(FormationKind::Row, {2}));
    const std::string f2 = part.formations[1].id;
    part.taken["pitch"] = 2_mm;
    part.taken[f2 + ".pitch"] = 3_mm;
    part = *withoutFormation(part, "f1");
    ASSERT_EQ(part.formations.size(), 1u);
    EXPECT_EQ(part.taken.at("pitch"), 3_mm);
    EXPECT_EQ(part.taken.size(), 1u);
}

}  // namespace
}  // namespace punch::formations_test
