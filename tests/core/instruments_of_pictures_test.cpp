// What else a picture is good for: level lines, edges, circles through places, photographs made square, outlines,
// comparing, drawings as instruments.

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

#include "core/derive.h"
#include "core/drawing/find_in_drawing.h"
#include "core/drawing/read_dxf.h"
#include "core/part/drawing_value.h"
#include "core/part/edit.h"
#include "core/part/file.h"
#include "core/picture/compare.h"
#include "core/picture/rectify.h"
#include "core/picture/rim.h"
#include "core/picture/take.h"
#include "core/shape/traced_outline.h"
#include "demo/maker/drawing_maker.h"
#include "demo/maker/scan_maker.h"

namespace punch::instruments_of_pictures_test {
namespace {

constexpr double kDegrees = 180 / std::numbers::pi;

/// A part with an empty picture of 1000 x 800 pixels at 254 dpi: 0.1 mm a pixel.
std::pair<Part, std::string> withBlank(Part part, PictureFace face = PictureFace::PartSide) {
    Source s;
    s.title = "blank";
    s.picture = "blank.png";
    s.width = 1000;
    s.height = 800;
    s.dpi = 254;
    s.dpiStated = true;
    s.face = face;
    return withSource(std::move(part), s);
}

Part row(int pins, double pitch) {
    Part p = *newRow(pins);
    p.formations[0].lead = LeadShape::Round;
    p = withGiven(p, "pitch", std::to_string(pitch), Unit::Mm);
    return p;
}

// ------------------------------------------------------------------ level lines and edges

TEST(Level, TwoPlacesOnALineStraightenThePicture) {
    for (const double turn : {-3.0, -0.4, 0.013, 2.5})
        for (const bool below : {false, true})
            for (const double way : {0.0, 90.0, 180.0}) {
                auto [part, source] = withBlank(*newRow(2), below ? PictureFace::SolderSide : PictureFace::PartSide);
                // 600 pixels along a direction that is `turn` off, as the part is seen from its own side.
                const double a = (way + turn) / kDegrees;
                const PixelPoint from{500 - (below ? -1 : 1) * 300 * std::cos(a), 400 + 300 * std::sin(a)};
                const PixelPoint to{500 + (below ? -1 : 1) * 300 * std::cos(a), 400 - 300 * std::sin(a)};
                const auto with = withLevel(part, source, from, to, 0.5);
                ASSERT_TRUE(with);
                const Footprint f = derive(*with);
                const ParameterValue* angle = f.parameter(source + ".angle");
                ASSERT_TRUE(angle != nullptr && angle->angle && angle->angleDoubt);
                EXPECT_NEAR(angle->angle->degrees(), turn, 0.002) << turn << below << way;
                // 0.5 px at each end over 600 px, 95 %. Unequal scales of the axes add next to nothing here.
                const double expected = 1.96 * std::sqrt(2.0) * 0.5 / 600 * kDegrees;
                EXPECT_NEAR(angle->angleDoubt->degrees(), expected, 0.15 * expected + 0.01);
            }
    auto [part, source] = withBlank(*newRow(2));
    EXPECT_FALSE(withLevel(part, source, {10, 10}, {12, 10}, 0.5));
    EXPECT_FALSE(withLevel(part, "gone", {10, 10}, {200, 10}, 0.5));
}

TEST(Level, ALineThatContradictsThePinsIsNamed) {
    auto [part, source] = withBlank(row(4, 5.08));
    for (int i = 0; i < 4; ++i)
        part =
            withPick(part, source, part.formations[0].pins[static_cast<std::size_t>(i)], {200 + 50.8 * i, 300}, 0.05);
    const auto agreeing = withLevel(part, source, {100, 700}, {900, 700.2}, 0.5);
    for (const ReadingResult& r : derive(*agreeing).readings) EXPECT_NE(r.state, ReadingState::InDoubt);
    const auto off = withLevel(part, source, {100, 700}, {900, 730}, 0.5);
    const Footprint f = derive(*off);
    EXPECT_EQ(f.readings.back().state, ReadingState::InDoubt);
    EXPECT_NE(f.readings.back().words.find("°"), std::string::npos) << f.readings.back().words;
    // It survives the file.
    const auto back = fromText(toText(*off), "x");
    ASSERT_TRUE(back);
    EXPECT_EQ(back->readings.back(), off->readings.back());
}

TEST(Edges, AFaceIsReadByAPlaceOnItsEdge) {
    for (const bool below : {false, true}) {
        auto [part, source] = withBlank(row(2, 20), below ? PictureFace::SolderSide : PictureFace::PartSide);
        const double side = below ? -1 : 1;
        const auto px = [&](double x, double y) { return PixelPoint{500 + side * 10 * x, 400 - 10 * y}; };
        part = withPick(part, source, part.formations[0].pins[0], px(-10, 0), 0.05);
        part = withPick(part, source, part.formations[0].pins[1], px(10, 0), 0.05);
        const std::size_t before = part.readings.size();
        part = withPick(part, source, kLeftFace, px(-14, 3), 0.1);
        EXPECT_EQ(part.readings.size(), before + 1) << "a face has one coordinate";
        part = withPick(part, source, kRightFace, px(13, -2), 0.1);
        part = withPick(part, source, kRearFace, px(2, 6), 0.1);
        part = withPick(part, source, kFrontFace, px(1, -7), 0.1);
        const Footprint f = derive(part);
        ASSERT_TRUE(f.body && f.body->allFirm()) << below;
        EXPECT_NEAR(f.body->rect.left.mm(), -14, 0.01);
        EXPECT_NEAR(f.body->rect.right.mm(), 13, 0.01);
        EXPECT_NEAR(f.body->rect.top.mm(), 6, 0.01);
        EXPECT_NEAR(f.body->rect.bottom.mm(), -7, 0.01);
    }
}

TEST(Rims, TheDoubtOfACircleThroughPlacesIsHonest) {
    std::mt19937 random(4);
    std::normal_distribution<double> noise(0, 0.5);
    for (const double arc : {360.0, 180.0, 100.0}) {
        double sum = 0, promised = 0;
        const int trials = 4000;
        for (int t = 0; t < trials; ++t) {
            std::vector<PixelPoint> places;
            for (int i = 0; i < 6; ++i) {
                const double a = arc * i / (arc > 359 ? 6 : 5) / kDegrees;
                places.push_back({100 + 40 * std::cos(a) + noise(random), 80 + 40 * std::sin(a) + noise(random)});
            }
            const auto c = circleThrough(places);
            ASSERT_TRUE(c);
            sum += std::pow(c->radius - 40, 2);
            promised += std::pow(0.5 * c->uRadius, 2);
        }
        EXPECT_NEAR(std::sqrt(sum / promised), 1, 0.08) << arc;
    }
    EXPECT_FALSE(circleThrough({{0, 0}, {1, 1}, {2, 2}}));
}

// ------------------------------------------------------------------ photographs

TEST(Square, AHomographyTakesCornersToCorners) {
    const std::array<PixelPoint, 4> corners{{{120, 90}, {820, 140}, {760, 610}, {80, 560}}};
    const auto h = homographyOf(85.6, 54, corners);
    ASSERT_TRUE(h);
    const double xs[] = {0, 85.6, 85.6, 0}, ys[] = {0, 0, 54, 54};
    for (std::size_t i = 0; i < 4; ++i) {
        const PixelPoint p = h->map(xs[i], ys[i]);
        EXPECT_NEAR(p.x, corners[i].x, 1e-9);
        EXPECT_NEAR(p.y, corners[i].y, 1e-9);
    }
    // Diagonals meet in the middle, in the picture and in the plane.
    const auto meet = [](PixelPoint a, PixelPoint b, PixelPoint c, PixelPoint d) {
        const double n = (a.x - b.x) * (c.y - d.y) - (a.y - b.y) * (c.x - d.x);
        const double p = a.x * b.y - a.y * b.x, q = c.x * d.y - c.y * d.x;
        return PixelPoint{(p * (c.x - d.x) - (a.x - b.x) * q) / n, (p * (c.y - d.y) - (a.y - b.y) * q) / n};
    };
    const PixelPoint m = meet(corners[0], corners[2], corners[1], corners[3]);
    EXPECT_NEAR(h->map(42.8, 27).x, m.x, 1e-9);
    EXPECT_NEAR(h->map(42.8, 27).y, m.y, 1e-9);
    EXPECT_FALSE(homographyOf(0, 54, corners));
    EXPECT_FALSE(homographyOf(85.6, 54, {{{0, 0}, {1, 1}, {2, 2}, {0, 5}}}));
    EXPECT_FALSE(homographyOf(85.6, 54, {{{0, 0}, {100, 100}, {100, 0}, {0, 100}}}));
}

TEST(Square, APhotographAtAnAngleMeasuresLikeAScan) {
    // A scan seen through a camera: every pixel of the photograph looks up its place on the scan.
    maker::Scene s;
    s.dpi = 300;
    s.pictureWidth = 60;
    s.pictureHeight = 45;
    s.dust = 0;
    s.tilt = 0;
    s.fromBelow = false;
    s.things = maker::rowOfPins(6, 3.0, 1.2);
    const maker::Scan scan = maker::makeScan(s);
    const std::array<PixelPoint, 4> seen{{{150, 60}, {830, 130}, {900, 690}, {60, 620}}};
    // Plane: pixels of the scan; the rectangle is the scan's whole field.
    const double w = scan.picture.width - 1, h = scan.picture.height - 1;
    const auto camera = homographyOf(w, h, seen);
    ASSERT_TRUE(camera);
    Picture photo;
    photo.width = 960;
    photo.height = 760;
    photo.channels = 1;
    photo.tone = scan.picture.tone;
    photo.data.assign(static_cast<std::size_t>(photo.width) * photo.height, 30);
    const Grey grey = greyOf(scan.picture);
    // The inverse by the four corners the other way round: from picture to plane, by Newton steps.
    for (int y = 0; y < photo.height; ++y)
        for (int x = 0; x < photo.width; ++x) {
            double px = w / 2, py = h / 2;
            for (int k = 0; k < 12; ++k) {
                const PixelPoint q = camera->map(px, py), qx = camera->map(px + 1, py), qy = camera->map(px, py + 1);
                const double a = qx.x - q.x, b = qy.x - q.x, c = qx.y - q.y, d = qy.y - q.y, det = a * d - b * c;
                if (std::abs(det) < 1e-9) break;
                px += (d * (x - q.x) - b * (y - q.y)) / det;
                py += (a * (y - q.y) - c * (x - q.x)) / det;
            }
            if (px >= 0 && py >= 0 && px <= w && py <= h)
                photo.row(y)[x] = static_cast<std::uint8_t>(std::lround(grey.sample(px, py)));
        }
    const double mmW = w / scan.pixelsPerMmX, mmH = h / scan.pixelsPerMmY;
    const auto square = madeSquare(photo, seen, mmW, mmH);
    ASSERT_TRUE(square) << square.error().text();
    EXPECT_FALSE(square->picture.notes.empty());
    FindOptions o;
    o.fromBelow = false;
    o.lookForRuler = false;
    o.pairs = {{square->corners[0], square->corners[1], mmW, 0.5}, {square->corners[1], square->corners[2], mmH, 0.5}};
    const auto found = findInPicture(square->picture, o);
    ASSERT_TRUE(found) << found.error().text();
    ASSERT_TRUE(found->formation);
    ASSERT_EQ(found->formation->positions.size(), 6U);
    EXPECT_NEAR(found->formation->pitch->value, 3.0, 0.01);
    EXPECT_NEAR(found->features[0].width, 1.2, 0.05);
    EXPECT_NEAR(found->angle, 0, 0.1);
}

// ------------------------------------------------------------------ outlines

TEST(Outline, DetailBelowASizeIsLeftOut) {
    // A rectangle 20 x 10 with a small notch, a small nose, and rounded corners of many places.
    std::vector<PixelPoint> ring{{0, 0},   {9, 0},      {9, 0.3},     {9.4, 0.3}, {9.4, 0}, {20, 0},
                                 {20, 10}, {12, 10.01}, {11.8, 10.2}, {11.6, 10}, {0, 10}};
    const auto plain = withoutDetail(ring, 0.5, true);
    EXPECT_EQ(plain.size(), 4U);
    for (const PixelPoint& c : {PixelPoint{0, 0}, {20, 0}, {20, 10}, {0, 10}})
        EXPECT_TRUE(std::any_of(plain.begin(), plain.end(), [&](PixelPoint p) { return p == c; }));
    EXPECT_EQ(withoutDetail(ring, 0, true).size(), ring.size());
    EXPECT_GE(withoutDetail(ring, 0.1, true).size(), 8U);
    // However large the detail, a ring of places stays within it.
    std::mt19937 random(9);
    std::uniform_real_distribution<double> u(0, 1);
    for (int t = 0; t < 300; ++t) {
        std::vector<PixelPoint> blob;
        for (int i = 0; i < 40; ++i) {
            const double a = i * 9 / kDegrees, r = 8 + 4 * u(random);
            blob.push_back({r * std::cos(a), r * std::sin(a)});
        }
        const auto less = withoutDetail(blob, 1.0, true);
        EXPECT_LE(less.size(), blob.size());
        EXPECT_GE(less.size(), 3U);
        for (const PixelPoint& p : less)
            EXPECT_TRUE(std::any_of(blob.begin(), blob.end(), [&](PixelPoint q) { return p == q; }));
    }
}

TEST(Outline, ATraceLiesOnThePartAndHalfOfOneIsMirrored) {
    for (const bool below : {false, true}) {
        auto [part, source] = withBlank(row(3, 10), below ? PictureFace::SolderSide : PictureFace::PartSide);
        const double side = below ? -1 : 1;
        const auto px = [&](double x, double y) { return PixelPoint{500 + side * 10 * x, 400 - 10 * y}; };
        part.body.trace = Trace{source, {px(-12, -5), px(12, -5), px(12, 4), px(0, 7), px(-12, 4)}, false, {}, {}};
        EXPECT_FALSE(derive(part).body->traced()) << "nothing joins the picture to the part yet";
        for (int i = 0; i < 3; ++i)
            part =
                withPick(part, source, part.formations[0].pins[static_cast<std::size_t>(i)], px(-10 + 10 * i, 0), 0.05);
        const Footprint f = derive(part);
        ASSERT_EQ(f.body->ring().size(), 5U);
        EXPECT_NEAR(f.body->ring()[0].x.mm(), -12, 0.01);
        EXPECT_NEAR(f.body->ring()[3].y.mm(), 7, 0.01);
        // The silkscreen follows it, a line's allowance outside, and the courtyard holds it.
        double top = -1e9;
        for (const Shape& s : f.silkscreen)
            if (s.name == "outline")
                for (const Point& p : s.points()) top = std::max(top, p.y.mm());
        EXPECT_GT(top, 7.1);
        EXPECT_LT(top, 7.4);
        EXPECT_GT(f.courtyard.top.mm(), 7.1);
        // Half of it, from the axis up the right side and back: the ends come to lie on the axis.
        part.body.trace = Trace{source, {px(0.05, -5), px(12, -5), px(12, 4), px(-0.04, 7)}, true, {}, {}};
        const Footprint g = derive(part);
        const std::vector<Point> ring = g.body->ring();
        ASSERT_EQ(ring.size(), 6U);
        for (const Point& p : ring)
            EXPECT_TRUE(std::any_of(ring.begin(), ring.end(), [&](const Point& q) {
                return std::abs(q.x.mm() + p.x.mm()) < 1e-6 && std::abs(q.y.mm() - p.y.mm()) < 1e-6;
            })) << "its mirror image is there too";
        const auto back = fromText(toText(part), "x");
        ASSERT_TRUE(back);
        EXPECT_EQ(back->body, part.body);
    }
}

// ------------------------------------------------------------------ comparing

TEST(Compare, PadsAreLaidOnWhatADrawingShows) {
    maker::DrawingSheet s(100, 80);
    std::mt19937 random(2);
    std::uniform_real_distribution<double> u(-0.05, 0.05);
    std::vector<maker::Spot2> off;
    // Turned by 7 degrees, shifted, each place a little off; one circle too many.
    const double c = std::cos(7 / kDegrees), sn = std::sin(7 / kDegrees);
    for (int i = 0; i < 6; ++i) {
        off.push_back({u(random), u(random)});
        const double x = 5.08 * i - 12.7 + off.back().x, y = (i == 5 ? 3.0 : 0.0) + off.back().y;
        s.circle({30 + c * x - sn * y, 20 + sn * x + c * y}, 1.0);
    }
    s.circle({60, 50}, 1.0);
    const auto d = dxfFromText(s.dxf(), "x.dxf");
    ASSERT_TRUE(d);
    FindOptions o;
    o.fromBelow = false;
    const auto found = findInDrawing(*d, o);
    ASSERT_TRUE(found);
    Part part = row(6, 5.08);
    part = withMovedPin(part, part.formations[0].pins[5], true);
    part = withGiven(part, part.formations[0].pins[5] + ".dx", "0", Unit::Mm);
    part = withGiven(part, part.formations[0].pins[5] + ".dy", "3", Unit::Mm);
    const Footprint f = derive(part);
    const auto laid = layOver(f, *found);
    ASSERT_TRUE(laid);
    ASSERT_EQ(laid->pairs.size(), 6U);
    EXPECT_EQ(laid->surplus.size(), 1U);
    EXPECT_TRUE(laid->alone.empty());
    for (std::size_t i = 0; i + 1 < laid->pairs.size(); ++i) EXPECT_GE(laid->pairs[i].off(), laid->pairs[i + 1].off());
    // What is left is what was put in, less the best shift and turn: compare differences of neighbours.
    std::map<FeatureId, Deviation> by;
    for (const Deviation& dev : laid->pairs) by[dev.id] = dev;
    double sum = 0;
    for (std::size_t i = 0; i < 6; ++i) sum += by[part.formations[0].pins[i]].x;
    EXPECT_NEAR(sum, 0, 1e-6) << "the best shift leaves nothing over";
    for (std::size_t i = 0; i + 1 < 5; ++i) {
        const double seen = by[part.formations[0].pins[i + 1]].x - by[part.formations[0].pins[i]].x;
        EXPECT_NEAR(seen, off[i + 1].x - off[i].x, 0.004);
    }
    EXPECT_LT(laid->rms, 0.08);
    // Something else altogether does not lie like it.
    Part other = row(3, 30);
    EXPECT_FALSE(layOver(derive(other), *found));
}

TEST(Compare, WhatWasReadIsComparedWhereTheAdjustmentPutIt) {
    auto [part, source] = withBlank(row(5, 5.0), PictureFace::SolderSide);
    const double a = 25.0 / kDegrees;  // so far that a wrong way back shows
    for (int i = 0; i < 5; ++i) {
        // The third pin stands 0.3 mm to the rear of its row.
        const double x = 5.0 * i - 10, y = i == 2 ? 0.3 : 0.0;
        const double sx = std::cos(a) * x - std::sin(a) * y, sy = std::sin(a) * x + std::cos(a) * y;
        part = withPick(part, source, part.formations[0].pins[static_cast<std::size_t>(i)],
                        {500 - 10 * sx, 400 - 10 * sy}, 0.5);
    }
    const auto deviations = deviationsRead(part, derive(part), source);
    ASSERT_EQ(deviations.size(), 5U);
    EXPECT_NEAR(deviations[2].y, 0.30, 0.03);  // in doubt, so that it does not pull the row towards it
    EXPECT_NEAR(deviations[2].x, 0, 0.03);
    EXPECT_NEAR(deviations[0].y, 0, 0.03);
    EXPECT_TRUE(deviationsRead(part, derive(part), "gone").empty());
}

// ------------------------------------------------------------------ drawings as instruments

TEST(DrawingSource, TakenFromADxfThePadsStandWhereTheyAreDrawn) {
    maker::DrawingSheet s(100, 80);
    const double at[][2] = {{-3.81, 0}, {-1.27, 0}, {1.27, 0}, {3.81, 0}, {-2.54, 5}, {0, 5}, {2.54, 5}};
    for (const auto& p : at) s.circle({p[0], p[1]}, 1.0);
    const auto d = dxfFromText(s.dxf(), "x.dxf");
    Source source;
    source.title = "drawing";
    source.picture = "x.dxf";
    source.width = d->width;
    source.height = d->height;
    source.dpi = d->dpi;
    source.dpiStated = source.exactScale = true;
    source.mmPerUnit = 1;
    source.face = PictureFace::PartSide;
    auto [part, id] = withSource(*newRow(4), source);
    FindOptions o;
    o.fromBelow = false;
    const auto found = findInDrawing(*d, o);
    auto taken = withFound(part, id, *found, {});
    ASSERT_TRUE(taken) << taken.error().text();
    const Footprint f = derive(*taken);
    ASSERT_EQ(f.pads.size(), 7U);
    for (const Pad& p : f.pads) {
        EXPECT_TRUE(p.firm);
        EXPECT_TRUE(std::any_of(std::begin(at), std::end(at),
                                [&](const auto& q) {
                                    return std::abs(p.at.x.mm() - q[0]) < 1e-4 &&
                                           std::abs(p.at.y.mm() - (q[1] - 2.5)) < 1e-4;
                                }))
            << p.at.x.mm() << " " << p.at.y.mm();
    }
    // Its doubt is that of a drawing without tolerances.
    const ParameterValue* pitch = f.parameter("pitch");
    ASSERT_TRUE(pitch != nullptr && pitch->firm());
    EXPECT_GT(pitch->doubt->mm(), 0.01);
    EXPECT_LT(pitch->doubt->mm(), 0.06);
    // A page whose scale nobody said has one scale for both axes, from one known length.
    Part page = part;
    page.sources[0].dpiStated = false;
    page = *withKnownLength(page, id, d->arcs[0].centre, d->arcs[3].centre, "15.24", Unit::Mm, 0.05);
    const auto twice =
        withFound(page, id,
                  *findInDrawing(*d,
                                 [&] {
                                     FindOptions scaled = o;
                                     scaled.pairs = {{d->arcs[0].centre, d->arcs[3].centre, 15.24, 0.05}};
                                     return scaled;
                                 }()),
                  {});
    ASSERT_TRUE(twice);
    const Footprint g = derive(*twice);
    EXPECT_NEAR(g.parameter("pitch")->value.mm(), 5.08, 0.002);
    EXPECT_NEAR(g.parameter("rowGap")->value.mm(), 10, 0.005);
}

TEST(DrawingSource, SinglesNeedALevelAndThenStandWhereTheyWereSeen) {
    maker::DrawingSheet s(100, 80);
    const double at[][2] = {{-7, 0}, {1.3, 0.4}, {6.1, -2.9}};
    for (const auto& p : at) s.circle({p[0], p[1]}, 1.0);
    const auto d = dxfFromText(s.dxf(), "x.dxf");
    auto [part, id] = withBlank(*newRow(4));
    part.sources[0].dpi = kDxfDpi;
    part.sources[0].exactScale = true;
    part.sources[0].width = d->width;
    part.sources[0].height = d->height;
    FindOptions o;
    o.fromBelow = false;
    TakeOptions singles;
    singles.asFormation = false;
    auto taken = withFound(part, id, *findInDrawing(*d, o), singles);
    ASSERT_TRUE(taken) << taken.error().text();
    EXPECT_EQ(taken->formations.size(), 3U);
    const auto level = withLevel(*taken, id, {100, 500}, {1500, 500}, 0.05);
    const Footprint f = derive(*level);
    ASSERT_EQ(f.pads.size(), 3U);
    std::vector<std::pair<double, double>> seen;
    for (const Pad& p : f.pads) seen.emplace_back(p.at.x.mm(), p.at.y.mm());
    std::sort(seen.begin(), seen.end());
    for (std::size_t i = 1; i < 3; ++i) {
        EXPECT_NEAR(seen[i].first - seen[0].first, at[i][0] - at[0][0], 0.01);
        EXPECT_NEAR(seen[i].second - seen[0].second, at[i][1] - at[0][1], 0.01);
    }
    // Taken again it is read anew, and nothing comes twice.
    const auto again = withFound(*level, id, *findInDrawing(*d, o), singles);
    ASSERT_TRUE(again);
    EXPECT_EQ(again->formations.size(), 3U);
    EXPECT_EQ(again->readings.size(), level->readings.size());
}

TEST(DrawingSource, WhatIsNewBesideTakenPinsIsAdded) {
    maker::DrawingSheet s(100, 80);
    for (int i = 0; i < 4; ++i) s.circle({2.54 * i, 0}, 1.0);
    const auto first = dxfFromText(s.dxf(), "x.dxf");
    s.circle({3.81, -5}, 2.0);
    auto [part, id] = withBlank(*newRow(4));
    part.sources[0].dpi = kDxfDpi;
    part.sources[0].exactScale = true;
    FindOptions o;
    o.fromBelow = false;
    const auto second = dxfFromText(s.dxf(), "x.dxf");
    const auto found = findInDrawing(*second, o);
    TakeOptions pins;
    pins.spots = false;
    auto taken = withFound(part, id, *found, pins);
    ASSERT_TRUE(taken);
    EXPECT_TRUE(taken->spots.empty());
    const auto more = withFound(*taken, id, *found, {});
    ASSERT_TRUE(more);
    ASSERT_EQ(more->spots.size(), 1U);
    const Footprint f = derive(*more);
    ASSERT_EQ(f.bareHoles.size(), 1U);
    EXPECT_TRUE(f.bareHoles[0].firm);
    EXPECT_NEAR(f.bareHoles[0].at.x.mm(), 0, 0.001);
    EXPECT_NEAR(f.bareHoles[0].at.y.mm(), -5, 0.001);
    ASSERT_TRUE(first);
}

TEST(DrawingSource, TakenOutItLeavesTheDrawingsValuesAndNothingElse) {
    auto [part, id] = withBlank(*newRow(2));
    part = withPick(part, id, part.formations[0].pins[0], {100, 100}, 0.1);
    part.body.trace = Trace{id, {{0, 0}, {10, 0}, {10, 10}}, false, {}, {}};
    Reading drawn;
    drawn.a = part.formations[0].pins[0];
    drawn.b = part.formations[0].pins[1];
    drawn.contact = Contact::Centres;
    drawn.drawing = *parseDrawingValue("5.08 ±0.05", Unit::Mm);
    drawn.source = id;
    drawn.place = PixelPoint{40, 50};
    part = withReading(std::move(part), drawn);
    part = withoutPicture(std::move(part), id);
    EXPECT_TRUE(part.sources.empty());
    EXPECT_FALSE(part.body.trace);
    ASSERT_EQ(part.readings.size(), 1U);
    EXPECT_FALSE(part.readings[0].place);
    EXPECT_TRUE(part.readings[0].source.empty());
    EXPECT_NEAR(derive(part).parameter("pitch")->value.mm(), 5.08, 1e-9);
}

TEST(Datum, BetweenTwoFeatures) {
    Part part = row(4, 2.5);
    part.datum = {DatumKind::Between, part.formations[0].pins[0], {}, part.formations[0].pins[1]};
    const Footprint f = derive(part);
    EXPECT_NEAR(f.pads[0].at.x.mm(), -1.25, 1e-9);
    EXPECT_NEAR(f.pads[3].at.x.mm(), 6.25, 1e-9);
    // A face gives one coordinate of its half.
    part.datum = {DatumKind::Between, kLeftFace, {}, kRightFace};
    const Footprint g = derive(part);
    EXPECT_NEAR(g.body->rect.left.mm(), -g.body->rect.right.mm(), 1e-9);
    const auto back = fromText(toText(part), "x");
    ASSERT_TRUE(back);
    EXPECT_EQ(back->datum, part.datum);
    part.datum.second = "gone";
    EXPECT_NEAR(derive(part).pads[0].at.x.mm(), -3.75, 1e-9);
}

}  // namespace
}  // namespace punch::instruments_of_pictures_test
