// Drawings over random input: dimension texts of every style, blocks within blocks, laying over, homographies, pages.

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "core/base/angle.h"
#include "core/derive.h"
#include "core/drawing/dimension_text.h"
#include "core/drawing/find_in_drawing.h"
#include "core/drawing/read_dxf.h"
#include "core/part/drawing_value.h"
#include "core/part/edit.h"
#include "core/picture/compare.h"
#include "core/picture/look_again.h"
#include "core/picture/rectify.h"
#include "demo/maker/drawing_maker.h"
#include "tests/support/dxf_text.h"

namespace punch::drawing_properties_test {
namespace {

double uniform(std::mt19937& r, double low, double high) {
    return std::uniform_real_distribution<double>(low, high)(r);
}

// ------------------------------------------------------------------ dimension texts

TEST(DimensionText, EveryStyleOfWritingAValueMeansTheSame) {
    std::mt19937 random(21);
    for (int t = 0; t < 3000; ++t) {
        const int value = 10 + static_cast<int>(random() % 9990);  // hundredths
        const int up = static_cast<int>(random() % 30), down = static_cast<int>(random() % 30);
        const auto number = [&](int hundredths, bool comma) {
            std::string s = fmt::format("{}.{:02d}", hundredths / 100, hundredths % 100);
            if (comma) s[s.find('.')] = ',';
            return s;
        };
        const bool comma = random() % 2 == 0;
        const std::string n = number(value, comma);
        std::string text = n;
        double low = value / 100.0, high = low;
        switch (random() % 5) {
            case 0:
                text += fmt::format("{}{}", random() % 2 ? " ±" : "±", number(up, comma));
                low -= up / 100.0;
                high += up / 100.0;
                break;
            case 1:
                text += fmt::format(" +{}{}{}", number(up, comma), random() % 2 ? " -" : "/-", number(down, comma));
                low -= down / 100.0;
                high += up / 100.0;
                break;
            case 2:
                text = n + ".." + number(value + up, comma);
                high += up / 100.0;
                break;
            case 3: text += " TYP"; break;
            default: break;
        }
        const int count = 1 + static_cast<int>(random() % 12);
        const bool diameter = random() % 3 == 0;
        if (diameter) text = "Ø" + text;
        if (count > 1) text = fmt::format("{}{}{}", count, random() % 2 ? "x " : "×", text);
        const auto found = dimensionsIn(text, Unit::Mm);
        ASSERT_EQ(found.size(), 1U) << text;
        EXPECT_EQ(found[0].count, count) << text;
        EXPECT_EQ(found[0].diameter, diameter) << text;
        const auto read = parseDrawingValue(found[0].typed, found[0].unit);
        ASSERT_TRUE(read) << text << " -> " << found[0].typed;
        EXPECT_NEAR(read->low.mm(), low, 1e-9) << text << " -> " << found[0].typed;
        EXPECT_NEAR(read->high.mm(), high, 1e-9) << text << " -> " << found[0].typed;
    }
}

TEST(DimensionText, InchesBesideMillimetresAreToldApart) {
    std::mt19937 random(22);
    for (int t = 0; t < 1000; ++t) {
        const double inch = std::round(uniform(random, 0.02, 3.0) * 1000) / 1000;
        const double mm = std::round(inch * 25.4 * 100) / 100;
        if (std::abs(mm / inch / 25.4 - 1) > 0.01 || mm < 1) continue;
        const std::string a = fmt::format("{:.3f}", inch), b = fmt::format("{:.2f}", mm);
        for (const std::string& text : {a + " [" + b + "]", b + " [" + a + "]", b + "/" + a}) {
            const auto found = dimensionsIn(text, Unit::Mm);
            ASSERT_EQ(found.size(), 2U) << text;
            EXPECT_EQ(found[0].typed, b) << text;
            EXPECT_EQ(found[0].unit, Unit::Mm) << text;
            EXPECT_EQ(found[1].typed, a) << text;
            EXPECT_EQ(found[1].unit, Unit::Inch) << text;
        }
    }
    // Two values that are no pair of units stay what they are.
    const auto two = dimensionsIn("2.54 / 3.81", Unit::Mm);
    ASSERT_EQ(two.size(), 2U);
    EXPECT_EQ(two[1].unit, Unit::Mm);
}

// ------------------------------------------------------------------ blocks

struct Turn {
    double sx, sy, turn, x, y;
    maker::Spot2 map(maker::Spot2 p) const {
        const double c = std::cos(turn * kRadians), s = std::sin(turn * kRadians);
        return {c * sx * p.x - s * sy * p.y + x, s * sx * p.x + c * sy * p.y + y};
    }
};

TEST(Dxf, BlocksWithinBlocksLandWhereComposingThemByHandPutsThem) {
    std::mt19937 random(23);
    for (int t = 0; t < 200; ++t) {
        const auto any = [&] {
            const double s = uniform(random, 0.3, 3) * (random() % 2 ? 1 : -1);
            // Evenly scaled, perhaps mirrored: circles stay circles.
            return Turn{s, std::abs(s) * (random() % 2 ? 1 : -1), uniform(random, -180, 180), uniform(random, -20, 20),
                        uniform(random, -20, 20)};
        };
        const Turn inner = any(), outer = any();
        const double bx = uniform(random, -3, 3), by = uniform(random, -3, 3);
        const double from = uniform(random, 0, 360), sweep = uniform(random, 20, 340);
        const maker::Spot2 c{uniform(random, -4, 4), uniform(random, -4, 4)};
        const double radius = uniform(random, 0.2, 2);
        test::DxfText d;
        const auto insert = [&](const char* block, const Turn& u) {
            d.add(0, "INSERT").add(8, "0").add(2, block).add(10, u.x).add(20, u.y).add(41, u.sx).add(42, u.sy);
            d.add(50, u.turn);
        };
        d.section("BLOCKS");
        d.add(0, "BLOCK").add(2, "IN").add(10, bx).add(20, by);
        d.add(0, "ARC").add(8, "0").add(10, c.x).add(20, c.y).add(40, radius).add(50, from).add(51, from + sweep);
        d.add(0, "ENDBLK");
        d.add(0, "BLOCK").add(2, "OUT").add(10, 0.0).add(20, 0.0);
        insert("IN", inner);
        d.add(0, "ENDBLK").end();
        d.section("ENTITIES");
        insert("OUT", outer);
        // Two small circles to hold on to.
        d.add(0, "CIRCLE").add(8, "0").add(10, 0.0).add(20, 0.0).add(40, 0.001);
        d.end();
        const auto drawing = dxfFromText(d.text(), "x.dxf", 1.0);
        ASSERT_TRUE(drawing) << drawing.error().text();
        ASSERT_EQ(drawing->arcs.size(), 2U);
        const bool firstIsMark = drawing->arcs[0].whole();
        const DrawnArc& arc = drawing->arcs[firstIsMark ? 1 : 0];
        const PixelPoint origin = drawing->arcs[firstIsMark ? 0 : 1].centre;
        const auto byHand = [&](double degrees) {
            const maker::Spot2 p{c.x + radius * std::cos(degrees * kRadians) - bx,
                                 c.y + radius * std::sin(degrees * kRadians) - by};
            return outer.map(inner.map(p));
        };
        const auto read = [&](double share) {
            const PixelPoint p = arc.at(arc.from + share * arc.sweep);
            return maker::Spot2{(p.x - origin.x) / 100, (origin.y - p.y) / 100};
        };
        // The same set of places; which end is the first depends on mirroring.
        const maker::Spot2 middle = byHand(from + sweep / 2), m = read(0.5);
        EXPECT_NEAR(m.x, middle.x, 1e-6) << t;
        EXPECT_NEAR(m.y, middle.y, 1e-6) << t;
        const maker::Spot2 a = byHand(from), b = byHand(from + sweep), p = read(0), q = read(1);
        const double straight = std::hypot(p.x - a.x, p.y - a.y) + std::hypot(q.x - b.x, q.y - b.y);
        const double crossed = std::hypot(p.x - b.x, p.y - b.y) + std::hypot(q.x - a.x, q.y - a.y);
        EXPECT_LT(std::min(straight, crossed), 1e-5) << t;
    }
}

TEST(Dxf, BulgesGoThroughTheirPoints) {
    std::mt19937 random(24);
    for (int t = 0; t < 300; ++t) {
        const maker::Spot2 a{uniform(random, -9, 9), uniform(random, -9, 9)};
        const maker::Spot2 b{uniform(random, -9, 9), uniform(random, -9, 9)};
        if (std::hypot(a.x - b.x, a.y - b.y) < 0.5) continue;
        const double bulge = uniform(random, -2.5, 2.5);
        if (std::abs(bulge) < 0.05) continue;
        test::DxfText d;
        d.section("ENTITIES").add(0, "LWPOLYLINE").add(8, "0").add(90, 2).add(70, 0);
        d.add(10, a.x).add(20, a.y).add(42, bulge).add(10, b.x).add(20, b.y);
        d.add(0, "CIRCLE").add(8, "0").add(10, 0.0).add(20, 0.0).add(40, 0.001).end();
        const auto drawing = dxfFromText(d.text(), "x.dxf", 1.0);
        ASSERT_TRUE(drawing);
        ASSERT_EQ(drawing->arcs.size(), 2U);
        const bool firstIsMark = drawing->arcs[0].whole();
        const DrawnArc& arc = drawing->arcs[firstIsMark ? 1 : 0];
        const PixelPoint o = drawing->arcs[firstIsMark ? 0 : 1].centre;
        EXPECT_NEAR(arc.sweep, 4 * std::atan(std::abs(bulge)) / kRadians, 1e-6);
        // The top of the bulge lies bulge times half the chord to the right of the way from a to b.
        const double chord = std::hypot(b.x - a.x, b.y - a.y);
        const maker::Spot2 top{(a.x + b.x) / 2 + bulge / 2 * (b.y - a.y), (a.y + b.y) / 2 - bulge / 2 * (b.x - a.x)};
        const PixelPoint m = arc.at(arc.from + arc.sweep / 2);
        EXPECT_NEAR((m.x - o.x) / 100, top.x, 1e-6 * chord + 1e-7);
        EXPECT_NEAR((o.y - m.y) / 100, top.y, 1e-6 * chord + 1e-7);
    }
}

// ------------------------------------------------------------------ nearness

TEST(Drawn, ClicksMeetWhatIsNearest) {
    Drawing d;
    d.width = d.height = 2000;
    d.paths.push_back({{{100, 100}, {500, 100}, {500, 400}}, false, false});
    d.paths.push_back({{{100, 800}, {200, 900}}, false, true});  // a curve's chords have no corners
    d.arcs.push_back({{1000, 1000}, 200, 0, 360});
    d.arcs.push_back({{1050, 1000}, 50, 0, 360});
    const auto corner = placeNear(d, {496, 104}, 10);
    ASSERT_TRUE(corner);
    EXPECT_EQ(corner->kind, DrawnPlace::Kind::End);
    EXPECT_EQ(corner->at, (PixelPoint{500, 100}));
    EXPECT_FALSE(placeNear(d, {100, 800}, 10));
    const auto small = placeNear(d, {1040, 1010}, 10);
    ASSERT_TRUE(small);
    EXPECT_NEAR(small->diameter, 100, 1e-9) << "the smallest circle around the click";
    const auto large = placeNear(d, {900, 900}, 10);
    ASSERT_TRUE(large);
    EXPECT_NEAR(large->diameter, 400, 1e-9);
    EXPECT_FALSE(placeNear(d, {1500, 1500}, 10));
    const auto piece = pieceNear(d, {300, 106}, 10);
    ASSERT_TRUE(piece);
    EXPECT_EQ(piece->first, (PixelPoint{100, 100}));
    EXPECT_EQ(piece->second, (PixelPoint{500, 100}));
    EXPECT_FALSE(pieceNear(d, {300, 130}, 10));
    EXPECT_FALSE(pieceNear(d, {150, 850}, 10));
    DrawnText text;
    text.middle = {600, 600};
    text.width = 200;
    text.height = 40;
    text.turn = 90;
    d.texts.push_back(text);
    EXPECT_EQ(textNear(d, {600, 690}, 1), 0) << "upright, along its line";
    EXPECT_EQ(textNear(d, {690, 600}, 1), -1);
    EXPECT_EQ(textNear(d, {625, 600}, 6), 0);
}

// ------------------------------------------------------------------ laying over

TEST(Compare, AnyTurnAndShiftIsTakenOutExactly) {
    std::mt19937 random(25);
    for (int t = 0; t < 60; ++t) {
        const int pins = 3 + static_cast<int>(random() % 10);
        Part part = *newRow(pins);
        part = withGiven(part, "pitch", "2.54", Unit::Mm);
        // One stands off, so that the row is not its own mirror image.
        const FeatureId odd = part.formations[0].pins[1];
        part = withMovedPin(part, odd, true);
        part = withGiven(part, odd + ".dx", "0.7", Unit::Mm);
        part = withGiven(part, odd + ".dy", "3.3", Unit::Mm);
        const Footprint f = derive(part);
        const double turn = uniform(random, -180, 180), x = uniform(random, -50, 50), y = uniform(random, -50, 50);
        Found found;
        found.scale = {0.01, 0.01, 0, 0, ScaleFrom::Drawing, {}, {}};
        std::vector<std::size_t> order(f.pads.size());
        for (std::size_t i = 0; i < order.size(); ++i) order[i] = i;
        std::shuffle(order.begin(), order.end(), random);
        const double c = std::cos(turn * kRadians), s = std::sin(turn * kRadians);
        for (const std::size_t i : order) {
            FoundFeature feature;
            feature.x = c * f.pads[i].at.x.mm() - s * f.pads[i].at.y.mm() + x;
            feature.y = s * f.pads[i].at.x.mm() + c * f.pads[i].at.y.mm() + y;
            found.features.push_back(feature);
        }
        const auto laid = layOver(f, found);
        ASSERT_TRUE(laid) << t;
        EXPECT_EQ(laid->pairs.size(), f.pads.size());
        EXPECT_LT(laid->rms, 1e-6) << t;
        EXPECT_NEAR(std::remainder(laid->turn + turn, 360.0), 0, 1e-5) << t;
        for (std::size_t k = 0; k < order.size(); ++k) {
            const auto [px, py] = laid->map(found.features[k].x, found.features[k].y);
            EXPECT_NEAR(px, f.pads[order[k]].at.x.mm(), 1e-5);
            EXPECT_NEAR(py, f.pads[order[k]].at.y.mm(), 1e-5);
        }
        // One pad less in the picture is named as alone.
        found.features.pop_back();
        const auto less = layOver(f, found);
        ASSERT_TRUE(less);
        ASSERT_EQ(less->alone.size(), 1U);
        EXPECT_EQ(less->alone[0], f.pads[order.back()].id);
    }
    Found none;
    EXPECT_FALSE(layOver(derive(*newRow(4)), none));
}

// ------------------------------------------------------------------ homographies

TEST(Square, StraightLinesStayStraightAndCornersHold) {
    std::mt19937 random(26);
    for (int t = 0; t < 300; ++t) {
        const double w = uniform(random, 5, 200), h = uniform(random, 5, 200);
        std::array<PixelPoint, 4> corners{{{0, 0}, {1000, 0}, {1000, 800}, {0, 800}}};
        for (PixelPoint& p : corners) p = {p.x + uniform(random, -220, 220), p.y + uniform(random, -180, 180)};
        const auto plane = homographyOf(w, h, corners);
        if (!plane) continue;  // by chance not convex
        const double ax = uniform(random, 0, w), ay = uniform(random, 0, h), bx = uniform(random, 0, w),
                     by = uniform(random, 0, h), k = uniform(random, 0, 1);
        const PixelPoint a = plane->map(ax, ay), b = plane->map(bx, by),
                         m = plane->map(ax + k * (bx - ax), ay + k * (by - ay));
        const double off = (b.x - a.x) * (m.y - a.y) - (b.y - a.y) * (m.x - a.x);
        EXPECT_NEAR(off, 0, 1e-5 * (1 + std::hypot(b.x - a.x, b.y - a.y) * std::hypot(m.x - a.x, m.y - a.y)));
        EXPECT_GT(plane->depth(ax, ay), 0) << "what lies in the rectangle is in front of the camera";
    }
}

TEST(Square, AScanStaysWhatItIs) {
    // Corners that are square already: pixels are copied, give or take a rounding.
    Picture p;
    p.width = 60;
    p.height = 50;
    p.channels = 3;
    std::mt19937 random(27);
    for (int i = 0; i < p.width * p.height * 3; ++i) p.data.push_back(static_cast<std::uint8_t>(random() % 256));
    const auto same = madeSquare(p, {{{0, 0}, {59, 0}, {59, 49}, {0, 49}}}, 59, 49);
    ASSERT_TRUE(same);
    EXPECT_EQ(same->picture.channels, 3);
    for (int y = 1; y < 48; ++y)
        for (int x = 1; x < 58; ++x) {
            const int sx = static_cast<int>(std::lround(x + same->corners[0].x));
            const int sy = static_cast<int>(std::lround(y + same->corners[0].y));
            if (sx >= same->picture.width || sy >= same->picture.height) continue;
            for (int c = 0; c < 3; ++c) EXPECT_NEAR(same->picture.row(sy)[3 * sx + c], p.row(y)[3 * x + c], 1);
        }
    EXPECT_NEAR(same->picture.dpi->x, 25.4, 1e-6);
    // Clicked the other way round it is the same picture, not one that is turned over; and each corner stays its own.
    const auto other = madeSquare(p, {{{59, 0}, {0, 0}, {0, 49}, {59, 49}}}, 59, 49);
    ASSERT_TRUE(other);
    EXPECT_EQ(other->picture.data, same->picture.data);
    EXPECT_NEAR(other->corners[0].x, same->corners[1].x, 1e-9);
    EXPECT_NEAR(other->corners[3].x, same->corners[2].x, 1e-9);
    EXPECT_NEAR(other->corners[3].y, same->corners[2].y, 1e-9);
    EXPECT_FALSE(madeSquare(p, {{{0, 0}, {59, 0}, {59, 49}, {0, 49}}}, -1, 49));
    EXPECT_FALSE(madeSquare(p, {{{0, 0}, {59, 0}, {59, 49}, {0, 49}}}, 1e9, 49));
}

// ------------------------------------------------------------------ pages

TEST(Page, TheWidthOfALineIsMeasuredWhateverItIs) {
    for (const double line : {0.8, 1.5, 4.0, 9.0}) {
        Grey page{120, 120, std::vector<std::uint8_t>(120 * 120, 255)};
        const double cx = 60.3, cy = 59.6, r = 25;
        for (int y = 0; y < 120; ++y)
            for (int x = 0; x < 120; ++x) {
                // Darkness by the share of the pixel that the line covers, in 8 x 8 places.
                int dark = 0;
                for (int j = 0; j < 8; ++j)
                    for (int i = 0; i < 8; ++i) {
                        const double d = std::hypot(x - 0.5 + (i + 0.5) / 8 - cx, y - 0.5 + (j + 0.5) / 8 - cy);
                        dark += std::abs(d - r) < line / 2 ? 1 : 0;
                    }
                page.data[static_cast<std::size_t>(y) * 120 + x] = static_cast<std::uint8_t>(255 - dark * 255 / 64);
            }
        Rim rim;
        rim.centre = {cx, cy};
        rim.width = rim.height = 2 * r - line;
        // A line thinner than a pixel is never wholly dark: it is taken for up to a pixel.
        EXPECT_NEAR(lineWidthAround(page, rim), std::max(line, 1.0), 0.25) << line;
    }
    Grey blank{60, 60, std::vector<std::uint8_t>(3600, 255)};
    Rim rim;
    rim.centre = {30, 30};
    rim.width = rim.height = 20;
    EXPECT_EQ(lineWidthAround(blank, rim), 0);
}

}  // namespace
}  // namespace punch::drawing_properties_test
