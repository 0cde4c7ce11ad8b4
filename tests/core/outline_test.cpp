// Outlines of lines and arcs, cutting and joining areas, convex pieces, swept areas: against formulas and sampling.

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "core/base/angle.h"
#include "core/geometry/shapes.h"
#include "core/geometry/sweep.h"

namespace punch::outline_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }
Point at(double x, double y) { return {mm(x), mm(y)}; }

Ring anyRing(std::mt19937& random, int corners, double reach) {
    // A star around the origin: simple whatever its corners are.
    std::uniform_real_distribution<double> radius(0.3 * reach, reach);
    std::vector<Corner> all;
    for (int i = 0; i < corners; ++i) {
        const double a = 2 * kPi * i / corners, r = radius(random);
        Corner c{at(r * std::cos(a), r * std::sin(a)), CornerForm::Sharp, {}, {}};
        c.turn = static_cast<CornerForm>(random() % 3);
        c.size = mm(0.2 * reach / corners);
        all.push_back(c);
    }
    return ringThrough(all);
}

TEST(Rings, AreasAndBoundsOfArcsAreExact) {
    EXPECT_NEAR(areaOf(circle(at(3, 4), mm(2))), kPi, 1e-9);
    const Rect box = boundsOf(circle(at(3, 4), mm(2)));
    EXPECT_NEAR(box.left.mm(), 2, 1e-9);
    EXPECT_NEAR(box.top.mm(), 5, 1e-9);
    // A slot, 4 over its ends and 1 wide; a rounded square.
    EXPECT_NEAR(areaOf(ringOf(RoundedPolygon::stroke(at(0, 0), at(3, 0), mm(1)))), 3 + kPi / 4, 1e-9);
    const Ring rounded = ringThrough({{at(0, 0), CornerForm::Round, mm(1), {}},
                                      {at(4, 0), CornerForm::Round, mm(1), {}},
                                      {at(4, 4), CornerForm::Round, mm(1), {}},
                                      {at(0, 4), CornerForm::Bevel, mm(1), {}}});
    EXPECT_NEAR(areaOf(rounded), 16 - 3 * (1 - kPi / 4) - 0.5, 1e-9);
    EXPECT_NEAR(boundsOf(rounded).width().mm(), 4, 1e-9);
    // An edge that bulges outwards by its half is half a circle, whichever way the ring runs.
    for (const bool back : {false, true}) {
        std::vector<Corner> corners = {
            {at(0, 0), {}, {}, {}}, {at(2, 0), {}, {}, mm(1)}, {at(2, 2), {}, {}, {}}, {at(0, 2), {}, {}, {}}};
        if (back)
            corners = {
                {at(0, 2), {}, {}, {}}, {at(2, 2), {}, {}, mm(1)}, {at(2, 0), {}, {}, {}}, {at(0, 0), {}, {}, {}}};
        EXPECT_NEAR(std::abs(areaOf(ringThrough(corners))), 4 + kPi / 2, 1e-9);
        EXPECT_NEAR(boundsOf(ringThrough(corners)).right.mm(), 3, 1e-9);
    }
    // A corner never takes more than half of its edges.
    EXPECT_NEAR(areaOf(ringThrough({{at(0, 0), CornerForm::Round, mm(9), {}},
                                    {at(2, 0), CornerForm::Round, mm(9), {}},
                                    {at(2, 2), CornerForm::Round, mm(9), {}},
                                    {at(0, 2), CornerForm::Round, mm(9), {}}})),
                kPi, 1e-6);
}

TEST(Rings, ChordsLieOnTheSideThatIsAskedFor) {
    std::mt19937 random(3);
    for (int round = 0; round < 40; ++round) {
        const Ring ring = anyRing(random, 5 + round % 6, 6);
        const double exact = std::abs(areaOf(ring));
        const double inner = areaOf(Polygons{flattened(ring, chordError(), Chords::Inside)});
        const double outer = areaOf(Polygons{flattened(ring, chordError(), Chords::Outside)});
        EXPECT_LE(std::abs(inner), exact + 1e-9);
        EXPECT_GE(std::abs(outer), exact - 1e-9);
        EXPECT_LT(std::abs(outer) - std::abs(inner), 40 * 0.0022);
        std::uniform_real_distribution<double> any(-7, 7);
        for (int i = 0; i < 60; ++i) {
            const Point p = at(any(random), any(random));
            const bool in = contains(ring, p);
            EXPECT_TRUE(in || !contains(polygonsOf(ring, Chords::Inside), p));
            EXPECT_TRUE(!in || contains(polygonsOf(ring, Chords::Outside), p));
        }
        EXPECT_FALSE(crossesItself(ring));
        EXPECT_NEAR(areaOf(turned(ring, at(1, 1), 33)), areaOf(ring), 1e-6);
    }
    EXPECT_TRUE(crossesItself(ringOf({at(0, 0), at(2, 2), at(2, 0), at(0, 2)})));
    EXPECT_TRUE(crossesItself(ringOf({at(0, 0), at(2, 0), at(1, 0), at(1, 1)})));
}

TEST(Polygons, ConvexPiecesCoverTheAreaAndNothingElse) {
    std::mt19937 random(9);
    const Length slack = Length::fromUm(0.5);
    for (int round = 0; round < 25; ++round) {
        Polygons area = polygonsOf(anyRing(random, 7, 8));
        area = without(area, polygonsOf(circle(at(0.5, 0.2), mm(1.2))));
        if (round % 2 == 0) area = without(area, polygonsOf(circle(at(-1.2, 0.9), mm(0.8))));
        const auto pieces = convexPieces(area, slack);
        double sum = 0;
        Polygons cover;
        for (const RoundedPolygon& p : pieces) {
            ASSERT_GE(p.corners.size(), 3u);
            for (std::size_t i = 0; i < p.corners.size(); ++i) {
                const Point a = p.corners[i], b = p.corners[(i + 1) % p.corners.size()],
                            c = p.corners[(i + 2) % p.corners.size()];
                EXPECT_GE((b.x - a.x).nm() * (c.y - b.y).nm() - (b.y - a.y).nm() * (c.x - b.x).nm(), 0);
            }
            sum += areaOf(Polygons{p.corners});
            for (const auto& ring : polygonsOf(p)) cover.push_back(ring);
        }
        cover = united(cover);
        EXPECT_NEAR(areaOf(cover), areaOf(area), 2e-4);
        EXPECT_LT(areaOf(without(area, cover)), 1e-4) << "all of it is covered";
        EXPECT_LT(areaOf(without(cover, area)), 1e-4) << "and nothing else";
        EXPECT_NEAR(sum, areaOf(grown(area, -slack)), 1e-3) << "pieces do not lie on each other";
    }
}

TEST(Sweep, ASlideHoldsEveryPlaceOfTheShapeAndLittleMore) {
    std::mt19937 random(17);
    std::uniform_real_distribution<double> any(-9, 9);
    for (int round = 0; round < 30; ++round) {
        Polygons shape = polygonsOf(anyRing(random, 6, 4), Chords::Outside);
        if (round % 3 == 0) shape = without(shape, polygonsOf(circle(at(0, 0), mm(1))));
        const Point by = at(any(random), any(random));
        const Polygons swept = slid(shape, by);
        Polygons steps;
        for (int k = 0; k <= 60; ++k) {
            const double t = k / 60.0;
            for (const auto& ring : shape) {
                std::vector<Point> moved;
                for (const Point& p : ring) moved.push_back({p.x + t * by.x, p.y + t * by.y});
                steps.push_back(moved);
            }
            if (k % 20 == 0) steps = united(steps);
        }
        const Polygons sampled = united(steps);
        EXPECT_LT(areaOf(without(sampled, swept)), 1e-6) << round;
        EXPECT_LT(areaOf(without(swept, grown(sampled, mm(0.12)))), 1e-6) << round;
    }
    // A square slid askew: its own area and two parallelograms.
    const Polygons square = polygonsOf(rectangleRing(Rect::around(at(0, 0), mm(2), mm(2))));
    EXPECT_NEAR(areaOf(slid(square, at(3, 1))), 4 + 2 * 3 + 2 * 1, 1e-9);
    EXPECT_NEAR(areaOf(slid(square, at(0, 0))), 4, 1e-9);
}

TEST(Sweep, ASwingHoldsEveryPlaceOfTheShapeWithinTenMicrometres) {
    std::mt19937 random(23);
    std::uniform_real_distribution<double> any(-8, 8);
    std::uniform_real_distribution<double> turn(-350, 350);
    for (int round = 0; round < 24; ++round) {
        const Polygons shape = polygonsOf(anyRing(random, 5, 4), Chords::Outside);
        const Point axis = at(any(random), any(random));
        const double angle = turn(random);
        const Polygons swept = swung(shape, axis, angle);
        const Polygons rounded = grown(swept, Length::fromNm(3));  // corners are whole nanometres
        // Places of the shape: each corner and the edges' middles, at any angle.
        for (int k = 0; k < 300; ++k) {
            const double a = angle * (k / 299.0);
            for (std::size_t i = 0; i < shape[0].size(); i += 3) {
                const Point p = shape[0][i], q = shape[0][(i + 1) % shape[0].size()];
                const Point middle{(p.x + q.x) / 2, (p.y + q.y) / 2};
                EXPECT_TRUE(contains(rounded, turned(p, axis, a)));
                EXPECT_TRUE(contains(rounded, turned(middle, axis, a)));
            }
        }
        // No more: whatever lies in it is within 10 µm of some place of the shape, which turned back holds it.
        const Rect box = boundsOf(swept);
        std::uniform_real_distribution<double> x(box.left.mm(), box.right.mm()), y(box.bottom.mm(), box.top.mm());
        const Polygons grownShape = grown(shape, Length::fromUm(10));
        for (int i = 0; i < 150; ++i) {
            const Point p = at(x(random), y(random));
            if (!contains(swept, p)) continue;
            bool met = false;
            const int steps = static_cast<int>(std::abs(angle) * 8) + 2;
            for (int k = 0; k <= steps && !met; ++k) met = contains(grownShape, turned(p, axis, -angle * k / steps));
            EXPECT_TRUE(met) << round;
        }
    }
    // A bar that turns by a quarter about its end: a quarter of a disc and half of itself.
    const Polygons bar = polygonsOf(rectangleRing({mm(0), mm(5), mm(0), mm(0.000002), false}));
    EXPECT_NEAR(areaOf(swung(bar, at(0, 0), 90)), kPi * 25 / 4, 0.02);
    EXPECT_NEAR(areaOf(swung(bar, at(0, 0), 720)), kPi * 25, 0.02);
    EXPECT_NEAR(areaOf(swung(polygonsOf(circle(at(4, 0), mm(2))), at(0, 0), 360)), kPi * (25 - 9), 0.03);
}

}  // namespace
}  // namespace punch::outline_test
