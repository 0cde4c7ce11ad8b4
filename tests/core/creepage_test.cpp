// Creepage around slots: hand-worked ways, and an independent visibility graph over arcs cut into chords.

#include "core/clear/creepage.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <queue>
#include <random>

#include "core/geometry/shapes.h"

namespace punch::creepage_test {
namespace {

using plane::V;

Point at(double x, double y) { return {Length::fromMm(x), Length::fromMm(y)}; }
RoundedPolygon disc(double x, double y, double d) { return RoundedPolygon::disc(at(x, y), Length::fromMm(d)); }
RoundedPolygon slot(double x1, double y1, double x2, double y2, double w) {
    return RoundedPolygon::stroke(at(x1, y1), at(x2, y2), Length::fromMm(w));
}
double way(const std::vector<RoundedPolygon>& cuts, const RoundedPolygon& a, const RoundedPolygon& b) {
    return SurfaceMap(cuts).way(a, b)->length.mm();
}

/// From a point at distance d from the middle of a rounded end of radius r: the tangent's length and its angle.
struct Tangent {
    double length, angle;
};
Tangent tangent(double d, double r) { return {std::sqrt(d * d - r * r), std::acos(r / d)}; }

TEST(Creepage, IsTheGapWhereNothingIsCut) {
    const auto w = SurfaceMap({}).way(disc(0, 0, 2), disc(10, 0, 3));
    EXPECT_NEAR(w->length.mm(), 7.5, 1e-9);
    EXPECT_TRUE(w->straight);
    EXPECT_EQ(w->path.size(), 2U);
}

TEST(Creepage, OneSlotAcrossTheWayIsGoneAroundOnItsRoundedEnd) {
    // Points at (-3, 0) and (3, 0), a slot of 1.6 along y from -5 to 2: the shorter way is over its end at (0, 2).
    // By hand: from the middle of the end to a point is hypot(3, 2); the tangent from there; and the arc between.
    const double r = 0.8;
    const double d = std::hypot(3.0, 2.0);
    const Tangent t = tangent(d, r);
    // The line from the end's middle to a point makes this angle with straight down.
    const double down = std::atan2(3.0, 2.0);
    // Over the top: a full turn less what lies between both points and both tangents.
    const double arc = 2 * std::numbers::pi - 2 * down - 2 * t.angle;
    const double expected = 2 * t.length + r * arc;
    const double lands = 0.5;  // of radius each: the tangents start that much later
    EXPECT_NEAR(way({slot(0, -5, 0, 2, 1.6)}, disc(-3, 0, 2 * lands), disc(3, 0, 2 * lands)), expected - 2 * lands,
                1e-6);
}

TEST(Creepage, TwoSlotsInTheWayAddUp) {
    // Two equal slots at x = -2 and x = 2 that reach up to y = 1 (middle of the end), pieces of copper at x = -6 and 6:
    // the way lies over both ends, with a straight line between their tops.
    const double r = 0.5;
    const double d = std::hypot(4.0, 1.0);
    const Tangent t = tangent(d, r);
    const double down = std::atan2(4.0, 1.0);
    // On each end from the tangent's touch to straight up.
    const double arc = std::numbers::pi - down - t.angle;
    EXPECT_NEAR(way({slot(-2, -9, -2, 1, 1), slot(2, -9, 2, 1, 1)}, disc(-6, 0, 0.4), disc(6, 0, 0.4)),
                2 * (t.length - 0.2) + 2 * r * arc + 4, 1e-6);
}

TEST(Creepage, SlotsThatOverlapCloseTheWayBetweenThem) {
    // An upside-down T: through its foot there is no way, around its arms there is.
    const std::vector<RoundedPolygon> cross = {slot(0, -5, 0, 5, 1), slot(-4, 0, 4, 0, 1)};
    const double around = way(cross, disc(-2, -2, 0.5), disc(-2, 2, 0.5));
    // Over the end at (-4, 0): tangents from two points 2 right and 2 up and down of it.
    const Tangent t = tangent(std::hypot(2.0, 2.0), 0.5);
    const double arc = 2 * std::numbers::pi - std::numbers::pi / 2 - 2 * t.angle;
    EXPECT_NEAR(around, 2 * (t.length - 0.25) + 0.5 * arc, 1e-6);
}

TEST(Creepage, ARingOfSlotsHasNoWayOut) {
    const std::vector<RoundedPolygon> ring = {slot(-3, -3, 3, -3, 1), slot(3, -3, 3, 3, 1), slot(3, 3, -3, 3, 1),
                                              slot(-3, 3, -3, -3, 1)};
    EXPECT_FALSE(SurfaceMap(ring).way(disc(0, 0, 1), disc(10, 0, 1)).has_value());
}

TEST(Creepage, ASharpWindowIsGoneAroundOnItsCorners) {
    // A rectangle 4 x 6 without rounding between two small lands at 5 to the left and right of its middle, 2 below its
    // top.
    const RoundedPolygon window =
        RoundedPolygon::rectangle(Rect::around(at(0, -1), Length::fromMm(4), Length::fromMm(6)));
    EXPECT_NEAR(way({window}, disc(-5, 0, 0.2), disc(5, 0, 0.2)), 2 * (std::hypot(3.0, 2.0) - 0.1) + 4, 1e-5);
}

TEST(Creepage, LeavesASquareLandAtACornerOrSquareToItsSide) {
    // A wide land below a slot's end: the way starts square to its side, touching the end.
    const RoundedPolygon wide =
        RoundedPolygon::rectangle(Rect::around(at(0, -4), Length::fromMm(10), Length::fromMm(2)));
    // Slot along x from -20 to 1 at y = 0: the way up passes its end at x = 1 + 0.5, straight from the side y = -3.
    const double up = way({slot(-20, 0, 1, 0, 1)}, wide, disc(-1, 3, 1));
    const Tangent t = tangent(std::hypot(2.0, 3.0), 0.5);
    // From straight to the right of the end's middle round to the touch of the tangent to (-1, 3).
    const double toward = std::atan2(3.0, -2.0);
    const double arc = toward - t.angle;
    EXPECT_NEAR(up, 3 + 0.5 * arc + t.length - 0.5, 1e-6);
}

TEST(Creepage, AStraightWayThatJustTouchesASlotsEndIsFound) {
    // Two long lands face each other, 6 apart; a slot between them ends at x = 3.5. The first nearest pair, at their
    // left ends, is cut off; the line along x = 3.5 touches the end and is as short.
    const auto wide = [](double y) {
        return RoundedPolygon::rectangle(Rect::around(at(5, y), Length::fromMm(10), Length::fromMm(1)));
    };
    EXPECT_NEAR(way({slot(-20, 2, 3, 2, 1)}, wide(-1.5), wide(5.5)), 6, 1e-6);
    EXPECT_NEAR(way({slot(-20, 2, 3, 2, 1)}, wide(5.5), wide(-1.5)), 6, 1e-6);
    // And with the slot from the other side.
    EXPECT_NEAR(way({slot(7, 2, 30, 2, 1), slot(-20, 3, 5, 3, 1)}, wide(-1.5), wide(5.5)), 6, 1e-6);
}

// ---------------------------------------------------------------- an independent graph

bool insideConvex(const std::vector<V>& p, V q) {
    for (std::size_t i = 0; i < p.size(); ++i)
        if (plane::cross(p[i], p[(i + 1) % p.size()], q) < 1e-9) return false;
    return true;
}

/// Does the open segment pass through the inside of a convex polygon? By clipping it against every side.
bool passesThrough(V a, V b, const std::vector<V>& p) {
    double from = 0;
    double to = 1;
    for (std::size_t i = 0; i < p.size(); ++i) {
        const V c = p[i];
        const V d = p[(i + 1) % p.size()];
        const double len = std::hypot(d.x - c.x, d.y - c.y);
        const double fa = plane::cross(c, d, a) / len - 1e-7;
        const double fb = plane::cross(c, d, b) / len - 1e-7;
        if (fa <= 0 && fb <= 0) return false;
        if (fa < 0) from = std::max(from, fa / (fa - fb));
        if (fb < 0) to = std::min(to, fa / (fa - fb));
    }
    return to - from > 1e-9;
}

std::vector<V> chords(const RoundedPolygon& shape) {
    std::vector<V> p;
    for (const Point& q : outlineOf(shape, Length::fromNm(100))) p.push_back({q.x.mm(), q.y.mm()});
    return p;
}

/// Dijkstra over the corners of polygons (arcs in chords of 0.1 µm sagitta) between two round lands taken as points.
double visibilityGraph(const std::vector<RoundedPolygon>& cuts, V a, V b) {
    std::vector<std::vector<V>> polygons;
    std::vector<V> nodes = {a, b};
    for (const RoundedPolygon& c : cuts) polygons.push_back(chords(c));
    for (std::size_t k = 0; k < polygons.size(); ++k)
        for (const V& v : polygons[k]) {
            bool covered = false;
            for (std::size_t o = 0; o < polygons.size(); ++o)
                covered = covered || (o != k && insideConvex(polygons[o], v));
            if (!covered) nodes.push_back(v);
        }
    std::vector<double> best(nodes.size(), 1e9);
    std::priority_queue<std::pair<double, std::size_t>, std::vector<std::pair<double, std::size_t>>, std::greater<>>
        queue;
    best[0] = 0;
    queue.emplace(0, 0);
    while (!queue.empty()) {
        const auto [d, i] = queue.top();
        queue.pop();
        if (d > best[i]) continue;
        if (i == 1) return d;
        for (std::size_t k = 0; k < nodes.size(); ++k) {
            const double length = d + std::hypot(nodes[k].x - nodes[i].x, nodes[k].y - nodes[i].y);
            if (length >= best[k]) continue;
            bool free = true;
            for (const auto& p : polygons) free = free && !passesThrough(nodes[i], nodes[k], p);
            if (!free) continue;
            best[k] = length;
            queue.emplace(length, k);
        }
    }
    return 1e9;
}

TEST(Creepage, AgreesWithAVisibilityGraphOverChords) {
    std::mt19937 random(4711);
    std::uniform_real_distribution<double> place(-6, 6);
    std::uniform_real_distribution<double> width(0.8, 2.4);
    int bent = 0;
    for (int scene = 0; scene < 8; ++scene) {
        std::vector<RoundedPolygon> cuts;
        const int n = 1 + scene % 4;
        while (static_cast<int>(cuts.size()) < n) {
            const RoundedPolygon cut =
                slot(place(random) / 2, place(random), place(random) / 2, place(random), width(random));
            if (gap(cut, disc(-8, 0, 1.5)) > Length() && gap(cut, disc(8, 0, 1.5)) > Length()) cuts.push_back(cut);
        }
        const double graph = visibilityGraph(cuts, {-8, 0}, {8, 0});
        const auto w = SurfaceMap(cuts).way(disc(-8, 0, 1), disc(8, 0, 1));
        ASSERT_EQ(w.has_value(), graph < 1e8) << "scene " << scene;
        if (!w) continue;
        EXPECT_NEAR(w->length.mm() + 1, graph, 1e-3) << "scene " << scene;
        bent += w->straight ? 0 : 1;
        // The path that is drawn is as long as what is said, and comes near no cut's inside.
        double drawn = 0;
        for (std::size_t i = 1; i < w->path.size(); ++i) drawn += distance(w->path[i - 1], w->path[i]).mm();
        EXPECT_NEAR(drawn, w->length.mm(), 5e-3);
        for (const Point& p : w->path)
            for (const RoundedPolygon& cut : cuts) EXPECT_GT(gap(cut, RoundedPolygon::disc(p, Length())).mm(), -1e-5);
    }
    EXPECT_GE(bent, 5);
}

TEST(Creepage, NeverShorterThanTheGapAndNeverLongerForLess) {
    std::mt19937 random(99);
    std::uniform_real_distribution<double> place(-5, 5);
    for (int i = 0; i < 300; ++i) {
        const RoundedPolygon a = slotShape(at(-8, place(random)), Length::fromMm(1), Length::fromMm(2.5),
                                           Angle::fromDegrees(place(random) * 30));
        const RoundedPolygon b =
            RoundedPolygon::rectangle(Rect::around(at(8, place(random)), Length::fromMm(2), Length::fromMm(3)));
        std::vector<RoundedPolygon> cuts;
        double before = 0;
        for (int k = 0; k < 4; ++k) {
            const auto w = SurfaceMap(cuts).way(a, b);
            if (!w) break;
            EXPECT_GE(w->length, gap(a, b) - Length::fromNm(1));
            // One more cut makes no way shorter; and there is no way one way only.
            EXPECT_GE(w->length.mm(), before - 1e-6);
            const auto back = SurfaceMap(cuts).way(b, a);
            ASSERT_TRUE(back.has_value());
            EXPECT_NEAR(back->length.mm(), w->length.mm(), 1e-6);
            before = w->length.mm();
            cuts.push_back(slot(place(random), place(random), place(random), place(random), 1.0));
        }
    }
}

}  // namespace
}  // namespace punch::creepage_test
