// Drawings: what dimension texts say, DXF with all it may hold, pages of PDF.

#include <gtest/gtest.h>

#include <unistd.h>
#include <array>
#include <cmath>

#include <filesystem>
#include <fstream>
#include <random>

#include "core/drawing/dimension_text.h"
#include "core/drawing/evidence.h"
#include "core/drawing/find_in_drawing.h"
#include "core/drawing/pdf_pages.h"
#include "core/drawing/read_dxf.h"
#include "core/part/drawing_value.h"
#include "demo/maker/drawing_maker.h"
#include "tests/support/dxf_text.h"

namespace punch::drawing_test {
namespace {

using maker::DrawingSheet;

// ------------------------------------------------------------------ dimension texts

struct Said {
    const char* text;
    const char* typed;
    int count = 1;
    bool diameter = false, radius = false, reference = false;
    Unit unit = Unit::Mm;
};

TEST(DimensionText, ReadsWhatDrawingsSay) {
    const Said table[] = {
        {"20.3", "20.3"},
        {"20,3", "20.3"},
        {"20.3±0.2", "20.3 ±0.2"},
        {"20.3 +/- 0.2", "20.3 ±0.2"},
        {"20.3 +0.1 -0.2", "20.3 +0.1 -0.2"},
        {"20.3 +0.1/-0", "20.3 +0.1 -0"},
        {"20.3 −0.2", "20.3 +0 -0.2"},
        {"3,2 +0,1 -0", "3.2 +0.1 -0"},
        {"1.9-2.1", "1.9..2.1"},
        {"1.9 to 2.1", "1.9..2.1"},
        {"0.120in..0.140in", "0.120..0.140", 1, false, false, false, Unit::Inch},
        {"Ø1.65", "1.65", 1, true},
        {"4x Ø 1.65 ±0.05", "1.65 ±0.05", 4, true},
        {"4-Ø1.0", "1.0", 4, true},
        {"4 × 0.60 ±0.03", "0.60 ±0.03", 4},
        {"R2.5", "2.5", 1, false, true},
        {"(12.0)", "12.0", 1, false, false, true},
        {"12.0 REF", "12.0", 1, false, false, true},
        {"2.54 TYP.", "2.54"},
        {".100 in", "0.100", 1, false, false, false, Unit::Inch},
        {"0.5\"", "0.5", 1, false, false, false, Unit::Inch},
        {"100 mil", "100", 1, false, false, false, Unit::Mil},
        {"Pitch 2.54", "2.54"},
    };
    for (const Said& s : table) {
        const auto found = dimensionsIn(s.text, Unit::Mm);
        ASSERT_EQ(found.size(), 1U) << s.text;
        const OfferedDimension& d = found[0];
        EXPECT_EQ(d.typed, s.typed) << s.text;
        EXPECT_EQ(d.count, s.count) << s.text;
        EXPECT_EQ(d.diameter, s.diameter) << s.text;
        EXPECT_EQ(d.radius, s.radius) << s.text;
        EXPECT_EQ(d.reference, s.reference) << s.text;
        EXPECT_EQ(d.unit, s.unit) << s.text;
        // What is offered can be taken over as it stands.
        EXPECT_TRUE(parseDrawingValue(d.typed, d.unit)) << s.text;
    }
}

TEST(DimensionText, TheSameInBothUnitsIsOneValueTwice) {
    for (const char* text : {"0.800 [20.32]", "20.32 [0.800]", ".800/20.32", "20.32 (0.800)"}) {
        const auto mm = dimensionsIn(text, Unit::Mm);
        ASSERT_EQ(mm.size(), 2U) << text;
        EXPECT_EQ(mm[0].typed, "20.32") << text;
        EXPECT_EQ(mm[0].unit, Unit::Mm);
        EXPECT_EQ(mm[1].unit, Unit::Inch);
        EXPECT_NEAR(std::stod(mm[1].typed), 0.8, 1e-9);
        EXPECT_EQ(dimensionsIn(text, Unit::Inch)[0].unit, Unit::Inch) << text;
    }
}

TEST(DimensionText, LettersAnglesAndOtherTexts) {
    const auto letter = dimensionsIn("B", Unit::Mm);
    ASSERT_EQ(letter.size(), 1U);
    EXPECT_EQ(letter[0].letter, "B");
    EXPECT_EQ(dimensionsIn("L1", Unit::Mm)[0].letter, "L1");
    const auto angle = dimensionsIn("30°", Unit::Mm);
    ASSERT_EQ(angle.size(), 1U);
    EXPECT_TRUE(angle[0].angle);
    for (const char* text : {"", " ", "VIEW FROM BELOW", "scale 2:1", "Sheet 1 of 2", "±", "Ø", "4x", "-", "(",
                             "see note 3", "ABC", "2.54 blue"})
        EXPECT_TRUE(dimensionsIn(text, Unit::Mm).empty()) << text;
}

TEST(DimensionText, ARadiusBecomesADiameterWithItsTolerance) {
    const std::pair<const char*, std::array<double, 3>> table[] = {{"R2.5", {5.0, 5.0, 5.0}},
                                                                   {"R2.5 ±0.1", {5.0, 4.8, 5.2}},
                                                                   {"R 1.2..1.4", {2.6, 2.4, 2.8}},
                                                                   {"R3 +0.2 -0.1", {6.0, 5.8, 6.4}},
                                                                   {"Ø2.5 ±0.1", {2.5, 2.4, 2.6}}};
    for (const auto& [text, mm] : table) {
        const auto found = dimensionsIn(text, Unit::Mm);
        ASSERT_EQ(found.size(), 1U) << text;
        const auto value = parseDrawingValue(asDiameter(found[0]), Unit::Mm);
        ASSERT_TRUE(value) << text << " -> " << asDiameter(found[0]);
        EXPECT_NEAR(value->low.mm(), mm[1], 1e-9) << text;
        EXPECT_NEAR(value->high.mm(), mm[2], 1e-9) << text;
    }
}

TEST(DimensionText, NoTextEndsTheProgram) {
    std::mt19937 random(11);
    const std::string letters = "0123456789.,+-±Ø/x()[]R \"mminTYP°\x80\xC3";
    for (int i = 0; i < 20000; ++i) {
        std::string text;
        for (auto n = random() % 14; n > 0; --n) text += letters[random() % letters.size()];
        for (const OfferedDimension& d : dimensionsIn(text, Unit::Mm)) {
            EXPECT_GE(d.count, 1) << text;
            EXPECT_TRUE(!d.letter.empty() || std::isfinite(std::stod(d.typed))) << text;
        }
    }
}

// ------------------------------------------------------------------ DXF

/// Millimetres from the page's middle, y up.
maker::Spot2 mmAt(const Drawing& d, PixelPoint p, PixelPoint origin) {
    const double n = 25.4 / d.dpi;
    return {(p.x - origin.x) * n, (origin.y - p.y) * n};
}

TEST(Dxf, PlacesAreExactInEveryUnit) {
    DrawingSheet s(100, 80);
    s.circle({0, 0}, 1.0);
    s.circle({10.16, 2.54}, 3.2);
    s.line({-5, -5}, {12.345678, 7});
    const std::pair<int, double> units[] = {{4, 1.0}, {1, 25.4}, {9, 0.0254}, {5, 10.0}, {13, 0.001}};
    for (const auto& [code, mm] : units) {
        const auto d = dxfFromText(s.dxf(code, mm), "x.dxf");
        ASSERT_TRUE(d) << d.error().text();
        EXPECT_EQ(d->mmPerUnit, mm);
        ASSERT_EQ(d->arcs.size(), 2U);
        const maker::Spot2 second = mmAt(*d, d->arcs[1].centre, d->arcs[0].centre);
        EXPECT_NEAR(second.x, 10.16, 1e-9) << code;
        EXPECT_NEAR(second.y, 2.54, 1e-9) << code;
        EXPECT_NEAR(d->arcs[1].radius * 25.4 / d->dpi, 1.6, 1e-9);
        const maker::Spot2 end = mmAt(*d, d->paths[0].points[1], d->arcs[0].centre);
        EXPECT_NEAR(end.x, 12.345678, 1e-9);
    }
}

TEST(Dxf, WithoutUnitsItSaysSoAndTakesTheAnswer) {
    DrawingSheet s(100, 80);
    s.circle({0, 0}, 25.4);
    const auto asked = dxfFromText(s.dxf(0, 25.4), "x.dxf");
    ASSERT_TRUE(asked);
    EXPECT_FALSE(asked->mmPerUnit);
    EXPECT_NEAR(asked->arcs[0].radius * 25.4 / kDxfDpi, 0.5, 1e-9);
    const auto inches = dxfFromText(s.dxf(0, 25.4), "x.dxf", 25.4);
    EXPECT_NEAR(inches->arcs[0].radius * 25.4 / kDxfDpi, 12.7, 1e-9);
    const auto other = dxfFromText(s.dxf(4, 1, "AC9999"), "x.dxf");
    ASSERT_TRUE(other);
    ASSERT_EQ(other->notes.size(), 1U);
    EXPECT_NE(other->notes[0].find("AC9999"), std::string::npos);
}

TEST(Dxf, BulgesArcsBlocksAndMirrorsLieWhereTheyShould) {
    test::DxfText t;
    t.section("BLOCKS");
    t.add(0, "BLOCK").add(8, "0").add(2, "PAD").add(70, 0).add(10, 1.0).add(20, 0.0).add(30, 0.0);
    t.add(0, "CIRCLE").add(8, "0").add(10, 2.0).add(20, 0.0).add(40, 0.5);
    t.add(0, "ARC").add(8, "0").add(10, 1.0).add(20, 0.0).add(40, 1.0).add(50, 0.0).add(51, 90.0);
    t.add(0, "ENDBLK").add(8, "0");
    t.end();
    t.section("ENTITIES");
    // Turned by a quarter, twice as large: (2,0) less base (1,0) -> (0,2) -> at (10,2).
    t.add(0, "INSERT").add(8, "0").add(2, "PAD").add(10, 10.0).add(20, 0.0).add(41, 2.0).add(42, 2.0).add(50, 90.0);
    // Mirrored along x.
    t.add(0, "INSERT").add(8, "0").add(2, "PAD").add(10, 20.0).add(20, 0.0).add(41, -1.0).add(42, 1.0);
    // A slot as a closed polyline with two half circles.
    t.add(0, "LWPOLYLINE").add(8, "0").add(90, 4).add(70, 1);
    t.add(10, 0.0).add(20, 0.0).add(10, 2.0).add(20, 0.0).add(42, 1.0);
    t.add(10, 2.0).add(20, 1.0).add(10, 0.0).add(20, 1.0).add(42, 1.0);
    t.end();
    const auto d = dxfFromText(t.text(), "x.dxf", 1.0);
    ASSERT_TRUE(d) << d.error().text();
    ASSERT_EQ(d->arcs.size(), 6U);
    // The slot's half circles come first in the file's order of the model: find them by size.
    PixelPoint slot{};
    for (const DrawnArc& a : d->arcs)
        if (std::abs(a.sweep - 180) < 1e-6 && (slot.x == 0 || a.centre.x < slot.x)) slot = a.centre;
    const auto has = [&](double x, double y, double r, double sweep) {
        for (const DrawnArc& a : d->arcs) {
            const maker::Spot2 at = mmAt(*d, a.centre, slot);
            if (std::abs(at.x - x) < 1e-6 && std::abs(at.y + 0.5 - y) < 1e-6 && std::abs(a.radius / 100 - r) < 1e-6 &&
                std::abs(a.sweep - sweep) < 1e-6)
                return true;
        }
        return false;
    };
    EXPECT_TRUE(has(0, 0.5, 0.5, 180));
    EXPECT_TRUE(has(2, 0.5, 0.5, 180));
    EXPECT_TRUE(has(10, 2, 1.0, 360));
    EXPECT_TRUE(has(19, 0, 0.5, 360));
    EXPECT_TRUE(has(10, 0, 2.0, 90));
    EXPECT_TRUE(has(20, 0, 1.0, 90));
    for (const DrawnArc& a : d->arcs) {
        const maker::Spot2 c = mmAt(*d, a.centre, slot);
        const maker::Spot2 m = mmAt(*d, a.at(a.from + a.sweep / 2), slot);
        const double way = std::atan2(m.y - c.y, m.x - c.x) * 180 / M_PI;
        if (std::abs(a.radius / 100 - 2.0) < 1e-6) {  // first quadrant, turned by 90
            EXPECT_NEAR(way, 135, 1e-6);
        }
        if (std::abs(a.radius / 100 - 1.0) < 1e-6 && a.sweep < 100) {  // mirrored
            EXPECT_NEAR(way, 135, 1e-6);
        }
        if (std::abs(a.sweep - 180) < 1e-6) {
            EXPECT_NEAR(std::abs(way), c.x > 1 ? 0 : 180, 1e-6);
        }
    }
    // As a feature: one slot 3 x 1.
    const auto features = featuresDrawn(*d, {}, 0.01);
    const auto oval = std::find_if(features.begin(), features.end(),
                                   [](const SeenFeature& f) { return f.rim.shape == RimShape::Oval; });
    ASSERT_NE(oval, features.end());
    EXPECT_NEAR(oval->rim.width, 300, 1e-6);
    EXPECT_NEAR(oval->rim.height, 100, 1e-6);
    EXPECT_NEAR(std::abs(std::remainder(oval->rim.turn, 180.0)), 0, 1e-6);
}

TEST(Dxf, EllipsesAndSplinesBecomeChordsThroughTheirCurve) {
    test::DxfText t;
    t.section("ENTITIES");
    t.add(0, "ELLIPSE").add(8, "0").add(10, 0.0).add(20, 0.0).add(11, 4.0).add(21, 0.0).add(40, 0.5);
    t.add(41, 0.0).add(42, 2 * M_PI);
    // A cubic with four control points: the curve of Bézier, at its middle (0 + 3*0 + 3*10 + 10)/8 = 5, 6.
    t.add(0, "SPLINE").add(8, "0").add(70, 0).add(71, 3).add(72, 8).add(73, 4).add(74, 0);
    for (const double k : {0.0, 0.0, 0.0, 0.0, 1.0, 1.0, 1.0, 1.0}) t.add(40, k);
    for (const auto& [x, y] : {std::pair{0.0, 0.0}, {0.0, 8.0}, {10.0, 8.0}, {10.0, 0.0}}) t.add(10, x).add(20, y);
    t.end();
    const auto d = dxfFromText(t.text(), "x.dxf", 1.0);
    ASSERT_TRUE(d) << d.error().text();
    ASSERT_EQ(d->paths.size(), 2U);
    EXPECT_TRUE(d->paths[0].closed);
    const PixelPoint first = d->paths[1].points.front();
    const auto& spline = d->paths[1].points;
    const maker::Spot2 middle = mmAt(*d, spline[spline.size() / 2], first);
    EXPECT_NEAR(middle.x, 5, 1e-9);
    EXPECT_NEAR(middle.y, 6, 1e-9);
    double widest = 0;
    for (const PixelPoint& p : d->paths[0].points) widest = std::max(widest, std::abs(mmAt(*d, p, first).x));
    EXPECT_NEAR(widest, 4, 1e-9);
}

TEST(Dxf, DimensionsComeWithTheirTextAndTheirPlaces) {
    DrawingSheet s(100, 80);
    s.circle({0, 0}, 1);
    s.along({0, 0}, {10.16, 3}, 8, "10.16 %%p0.05");
    s.across({0, 0}, {4, 7.5}, -5);
    s.text({3, -9}, 2, "%%c1.65");
    const auto d = dxfFromText(s.dxf(), "x.dxf");
    ASSERT_TRUE(d) << d.error().text();
    const auto text = [&](const std::string& words) -> const DrawnText* {
        for (const DrawnText& t : d->texts)
            if (t.text == words) return &t;
        return nullptr;
    };
    const DrawnText* along = text("10.16 ±0.05");
    ASSERT_NE(along, nullptr);
    ASSERT_TRUE(along->spans);
    EXPECT_NEAR((along->spans->second.x - along->spans->first.x) * 0.01, 10.16, 1e-9);
    const DrawnText* across = text("7.5");
    ASSERT_NE(across, nullptr);
    EXPECT_NEAR(std::abs(across->turn), 90, 1e-9);
    ASSERT_NE(text("Ø1.65"), nullptr);
    const int near = textNear(*d, {along->middle.x + 20, along->middle.y}, 10);
    ASSERT_GE(near, 0);
    EXPECT_EQ(d->texts[static_cast<std::size_t>(near)].text, "10.16 ±0.05");
    EXPECT_EQ(textNear(*d, {along->middle.x, along->middle.y + 3000}, 10), -1);
    // A circle is met by a click inside it, an end by one beside it.
    const auto centre = placeNear(*d, {d->arcs[0].centre.x + 20, d->arcs[0].centre.y + 10}, 5);
    ASSERT_TRUE(centre);
    EXPECT_EQ(centre->kind, DrawnPlace::Kind::Centre);
    EXPECT_NEAR(centre->diameter, 100, 1e-9);
}

TEST(Dxf, BadFilesAreSaid) {
    const auto fails = [](std::string_view text, const char* words) {
        const auto d = dxfFromText(text, "x.dxf");
        ASSERT_FALSE(d) << text;
        EXPECT_NE(d.error().text().find(words), std::string::npos) << d.error().text();
    };
    fails("", "empty");
    fails("hello", "no DXF");
    fails("0\nSECTION\n2\nENTITIES\n0\nENDSEC\n0\nEOF\n", "nothing is drawn");
    test::DxfText far;
    far.section("ENTITIES").add(0, "LINE").add(8, "0").add(10, 0.0).add(20, 0.0).add(11, 1e8).add(21, 0.0).end();
    fails(far.text(), "large");
    test::DxfText nowhere;
    nowhere.section("ENTITIES").add(0, "LINE").add(8, "0").add(10, 1.0).add(20, 1.0).add(11, 1.0).add(21, 1.0).end();
    fails(nowhere.text(), "one place");
    EXPECT_FALSE(readDxf("/nowhere/x.dxf"));
    EXPECT_FALSE(readDxf("/tmp"));
    // A block that holds itself ends somewhere.
    test::DxfText self;
    self.section("BLOCKS").add(0, "BLOCK").add(2, "A").add(10, 0.0).add(20, 0.0);
    self.add(0, "LINE").add(8, "0").add(10, 0.0).add(20, 0.0).add(11, 1.0).add(21, 1.0);
    self.add(0, "INSERT").add(8, "0").add(2, "A").add(10, 1.0).add(20, 0.0).add(0, "ENDBLK").end();
    self.section("ENTITIES").add(0, "INSERT").add(8, "0").add(2, "A").add(10, 0.0).add(20, 0.0).end();
    EXPECT_TRUE(dxfFromText(self.text(), "x.dxf"));
}

TEST(Dxf, TornFilesEndInAMessageOrADrawing) {
    DrawingSheet s(100, 80);
    for (int i = 0; i < 6; ++i) s.circle({2.54 * i, 0}, 1);
    s.along({0, 0}, {12.7, 0}, 5);
    s.rectangle(-2, -2, 15, 3);
    const std::string whole = s.dxf();
    std::mt19937 random(5);
    for (int i = 0; i < 400; ++i) {
        std::string torn = whole.substr(0, random() % whole.size());
        for (auto n = random() % 4; n > 0 && !torn.empty(); --n)
            torn[random() % torn.size()] = static_cast<char>(random() % 256);
        const auto d = dxfFromText(torn, "x.dxf");
        if (d) {
            EXPECT_TRUE(d->width > 0 && d->height > 0);
        }
        if (!d) {
            EXPECT_FALSE(d.error().what.empty());
        }
    }
}

// ------------------------------------------------------------------ finding in drawings

TEST(Drawn, ARowIsFoundAsItIsDrawn) {
    DrawingSheet s(100, 80);
    s.rectangle(-3, -4, 23, 4);
    for (int i = 0; i < 9; ++i) s.circle({2.54 * i, 0}, 1.0);
    for (int i = 0; i < 9; ++i) s.circle({2.54 * i, 0}, 1.8);  // lands around the holes
    const auto d = dxfFromText(s.dxf(), "x.dxf");
    ASSERT_TRUE(d);
    for (const bool below : {false, true}) {
        FindOptions o;
        o.fromBelow = below;
        const auto found = findInDrawing(*d, o);
        ASSERT_TRUE(found);
        EXPECT_EQ(found->scale.from, ScaleFrom::Drawing);
        ASSERT_TRUE(found->formation);
        EXPECT_EQ(found->formation->kind, FormationKind::Row);
        ASSERT_EQ(found->features.size(), 9U);
        EXPECT_NEAR(found->formation->pitch->value, 2.54, 1e-9);
        EXPECT_EQ(standardPitch(*found->formation, withScaleU(*found, *found->formation->pitch)), 2.54);
        EXPECT_EQ(found->features[0].kind, FoundKind::Pad);
        EXPECT_NEAR(found->features[0].width, 1.8, 1e-9);
        EXPECT_NEAR(*found->features[0].seen.inner * found->scale.x, 1.0, 1e-9);
        EXPECT_NEAR(found->features[0].x, -10.16, 1e-9);
    }
    // At half size, by a known length.
    FindOptions half;
    half.pairs.push_back({d->arcs[0].centre, d->arcs[8].centre, 40.64, 0.3});
    const auto scaled = findInDrawing(*d, half);
    ASSERT_TRUE(scaled);
    EXPECT_NEAR(scaled->formation->pitch->value, 5.08, 1e-6);
    FindOptions outside;
    outside.region = PixelRegion{100000, 0, 10, 10};
    EXPECT_FALSE(findInDrawing(*d, outside));
}

TEST(Drawn, RectanglesOfFourLinesAndTheRegion) {
    DrawingSheet s(100, 80);
    for (const double x : {-1.27, 1.27})
        for (const double y : {-3.81, 3.81}) s.rectangle(x - 0.3, y - 0.2, x + 0.3, y + 0.2);
    s.circle({30, 0}, 1.0);
    const auto d = dxfFromText(s.dxf(), "x.dxf");
    ASSERT_TRUE(d);
    const auto all = featuresDrawn(*d, {}, 0.01);
    EXPECT_EQ(all.size(), 5U);
    PixelRegion left{0, 0, d->width / 2, d->height};
    const auto four = featuresDrawn(*d, left, 0.01);
    ASSERT_EQ(four.size(), 4U);
    EXPECT_NEAR(four[0].rim.width, 60, 1e-6);
    EXPECT_NEAR(four[0].rim.height, 40, 1e-6);
    EXPECT_EQ(four[0].rim.shape, RimShape::Rectangular);
}

// ------------------------------------------------------------------ PDF

class Pdf : public ::testing::Test {
protected:
    void SetUp() override {
        folder = std::filesystem::temp_directory_path() / ("punch-pdf-" + std::to_string(::getpid()));
        std::filesystem::create_directories(folder);
    }
    void TearDown() override { std::filesystem::remove_all(folder); }
    std::string write(const std::string& name, const std::string& bytes) const {
        std::ofstream(folder / name, std::ios::binary) << bytes;
        return (folder / name).string();
    }
    std::filesystem::path folder;
};

TEST_F(Pdf, APageHasItsSizeItsTextsAndItsLines) {
    DrawingSheet s(120, 80, 2);
    s.circle({0, 0}, 4);
    s.text({10, 5}, 2.2, "4x Ø1.65 ±0.05");
    s.across({0, 0}, {0, 7.5}, -10, "7.5 ±0.1");
    const std::string file = write("page.pdf", s.pdf(40, 30));
    ASSERT_EQ(evidenceKind(file), EvidenceKind::Pdf);
    const auto e = openEvidence(file, {});
    ASSERT_TRUE(e) << e.error().text();
    EXPECT_EQ(e->pdf->count(), 1);
    EXPECT_NEAR(e->picture->width, 120 / 25.4 * 600, 1.5);
    EXPECT_NEAR(e->picture->height, 80 / 25.4 * 600, 1.5);
    const double n = 600 / 25.4;
    const auto text = [&](const std::string& words) -> const DrawnText* {
        for (const DrawnText& t : e->drawing->texts)
            if (t.text == words) return &t;
        return nullptr;
    };
    const DrawnText* count = text("4x Ø1.65 ±0.05");
    ASSERT_NE(count, nullptr);
    EXPECT_NEAR(count->middle.x, (40 + 2 * 10) * n, 0.5 * n);
    EXPECT_NEAR(count->middle.y, (80 - 30 - 2 * 5) * n, 0.7 * n);
    const DrawnText* upright = text("7.5 ±0.1");
    ASSERT_NE(upright, nullptr);
    EXPECT_EQ(std::abs(upright->turn), 90);
    // The circle's rim is dark where it should be.
    const Grey grey = greyOf(*e->picture);
    EXPECT_LT(grey.sample((40 + 4) * n - 0.5, 50 * n - 0.5), 60);
    EXPECT_GT(grey.sample(41 * n, 49 * n), 240);
    // A region counts from its own corner, and is drawn as finely as asked.
    EvidenceChoice part;
    part.region = PixelRegion{600, 500, 700, 600};
    const auto cut = openEvidence(file, part);
    ASSERT_TRUE(cut);
    EXPECT_EQ(cut->picture->width, 700);
    const auto fine = cut->pdf->draw(0, *part.region, 3);
    ASSERT_TRUE(fine);
    EXPECT_EQ(fine->width, 2100);
    const Source source = sourceFrom(*cut, part, "drawing", "x.pdf");
    EXPECT_TRUE(source.exactScale);
    EXPECT_FALSE(source.dpiStated);
    EXPECT_EQ(source.left, 600);
    EXPECT_EQ(choiceOf(source).region, part.region);
}

TEST_F(Pdf, SizesOfWhatIsDrawnAreThoseOfTheLinesMiddles) {
    DrawingSheet s(120, 80, 2);
    for (int i = 0; i < 6; ++i) s.circle({2.54 * i - 6.35, 0}, 1.1);
    s.rectangle(-1.5, 5, 1.5, 7);
    s.text({0, 12}, 4, "OOO");  // letters are no pins
    const auto e = openEvidence(write("page.pdf", s.pdf(60, 30)), {});
    ASSERT_TRUE(e);
    FindOptions o;
    o.fromBelow = false;
    o.pairs = {{{100, 100}, {100 + 40 * 600 / 25.4, 100}, 20, 0.1}};
    const auto found = findInEvidence(*e, o);
    ASSERT_TRUE(found) << found.error().text();
    ASSERT_TRUE(found->formation);
    ASSERT_EQ(found->formation->positions.size(), 6U);
    ASSERT_EQ(found->features.size(), 7U) << "six pins and a rectangle";
    for (std::size_t i = 0; i < 6; ++i) EXPECT_NEAR(found->features[i].width, 1.1, 0.012) << i;
    EXPECT_NEAR(found->formation->pitch->value, 2.54, 0.003);
    EXPECT_NEAR(found->features[6].width, 3.0, 0.02);
    EXPECT_NEAR(found->features[6].height, 2.0, 0.02);
}

TEST_F(Pdf, BrokenAndLockedOnesAreSaid) {
    DrawingSheet s(50, 40);
    s.circle({0, 0}, 4);
    const std::string whole = s.pdf(20, 20);
    const auto broken = openEvidence(write("broken.pdf", whole.substr(0, 200)), {});
    ASSERT_FALSE(broken);
    EXPECT_NE(broken.error().text().find("broken"), std::string::npos) << broken.error().text();
    EXPECT_FALSE(openEvidence(write("none.pdf", "%PDF-1.7\n"), {}));
    EvidenceChoice second;
    second.page = 7;
    const auto missing = openEvidence(write("one.pdf", whole), second);
    ASSERT_FALSE(missing);
    EXPECT_NE(missing.error().text().find("no page 8"), std::string::npos);
    // An /Encrypt entry that asks for a password nobody gave: 40 bit, with keys made up.
    const auto locked = openEvidence(write("locked.pdf", test::lockedPdf()), {});
    ASSERT_FALSE(locked);
    EXPECT_NE(locked.error().text().find("password"), std::string::npos) << locked.error().text();
}

TEST_F(Pdf, TornPagesEndInAMessageOrAPage) {
    DrawingSheet s(50, 40);
    s.circle({0, 0}, 4);
    s.text({5, 5}, 2, "2.54");
    const std::string whole = s.pdf(20, 20);
    std::mt19937 random(3);
    for (int i = 0; i < 40; ++i) {
        std::string torn = whole;
        for (auto n = 1 + random() % 30; n > 0; --n) torn[random() % torn.size()] = static_cast<char>(random() % 256);
        if (i % 3 == 0) torn.resize(random() % torn.size());
        const auto e = openEvidence(write("torn.pdf", torn), {});
        if (!e) {
            EXPECT_FALSE(e.error().what.empty());
        }
    }
}

}  // namespace
}  // namespace punch::drawing_test
