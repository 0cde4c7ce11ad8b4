// Flat sections through triangles: what is cut is what is there, whatever lies how.

#include "core/solid/sections.h"
#include "core/base/angle.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/solid/solid_worker.h"
#include "tests/support/dice.h"

namespace punch::sections_test {
namespace {

/// A closed ring of corners, upright from one height to another: triangles as a kernel would make them.
Solid upright(const std::vector<Flat>& ring, double low, double high) {
    Solid s;
    s.bodies.push_back({"ring", kNoColour, 0, true});
    const int n = static_cast<int>(ring.size());
    SolidFace wall;
    for (const Flat& p : ring) {
        s.corners.push_back({p.x, p.y, low});
        s.corners.push_back({p.x, p.y, high});
    }
    for (int i = 0; i < n; ++i) {
        const int a = 2 * i, b = 2 * ((i + 1) % n);
        s.triangles.push_back({a, b, b + 1});
        s.triangles.push_back({a, b + 1, a + 1});
    }
    wall.count = static_cast<int>(s.triangles.size());
    s.faces.push_back(wall);
    return s;
}

std::vector<Flat> disc(double x, double y, double r, int n, double turn = 0) {
    std::vector<Flat> ring;
    for (int i = 0; i < n; ++i)
        ring.push_back({x + r * std::cos(turn + 2 * kPi * i / n), y + r * std::sin(turn + 2 * kPi * i / n)});
    return ring;
}

std::vector<Flat> rectangle(double x, double y, double along, double across, double degrees) {
    const double c = std::cos(degrees * kPi / 180), s = std::sin(degrees * kPi / 180);
    std::vector<Flat> ring;
    for (const auto& [i, k] : {std::pair(-0.5, -0.5), std::pair(0.5, -0.5), std::pair(0.5, 0.5), std::pair(-0.5, 0.5)})
        ring.push_back({x + c * i * along - s * k * across, y + s * i * along + c * k * across});
    return ring;
}

TEST(Sections, ARingIsCutIntoItself) {
    test::Dice dice(5);
    for (int round = 0; round < 200; ++round) {
        const double x = dice.between(-50, 50), y = dice.between(-50, 50), r = dice.between(0.2, 6);
        const int n = 8 + dice.below(60);
        const double low = dice.between(-5, 0), high = low + dice.between(0.5, 9);
        const Sections sections(upright(disc(x, y, r, n, dice.between(0, 6)), low, high), Pose());
        EXPECT_DOUBLE_EQ(sections.low(), low);
        EXPECT_DOUBLE_EQ(sections.high(), high);
        const auto loops = sections.at(dice.between(low + 0.01, high - 0.01));
        ASSERT_EQ(loops.size(), 1U) << round;
        EXPECT_EQ(loops[0].points.size(), static_cast<std::size_t>(n)) << "corners on straight lines are left out";
        EXPECT_NEAR(loops[0].area, n / 2.0 * r * r * std::sin(2 * kPi / n), 1e-9 * r * r * n);
        // Its corners lie on the circle, so the circle is exact.
        const SectionShape shape = shapeOf(loops[0]);
        EXPECT_TRUE(shape.round);
        EXPECT_NEAR(shape.middle.x, x, 1e-9);
        EXPECT_NEAR(shape.middle.y, y, 1e-9);
        EXPECT_NEAR(shape.along, 2 * r, 1e-9);
        EXPECT_TRUE(sections.at(low - 0.1).empty());
        EXPECT_TRUE(sections.at(high + 0.1).empty());
    }
}

TEST(Sections, ARectangleKeepsItsSidesItsMiddleAndItsTurn) {
    test::Dice dice(6);
    for (int round = 0; round < 200; ++round) {
        const double along = dice.between(0.5, 6), across = along * dice.between(0.1, 0.95),
                     turn = dice.between(-89, 89);
        const double x = dice.between(-30, 30), y = dice.between(-30, 30);
        const auto loops = Sections(upright(rectangle(x, y, along, across, turn), 0, 3), Pose()).at(1.234);
        ASSERT_EQ(loops.size(), 1U);
        const SectionShape shape = shapeOf(loops[0]);
        EXPECT_TRUE(shape.rectangle);
        EXPECT_FALSE(shape.round);
        EXPECT_NEAR(shape.along, along, 1e-9);
        EXPECT_NEAR(shape.across, across, 1e-9);
        EXPECT_NEAR(std::remainder(shape.turn - turn, 180.0), 0, 1e-7);
        EXPECT_NEAR(shape.middle.x, x, 1e-9);
        EXPECT_NEAR(shape.middle.y, y, 1e-9);
    }
}

TEST(Sections, WhatIsNeitherHasTheMiddleOfItsArea) {
    // A T: its middle by parts. The bar 6 x 1 over a stem 1 x 4.
    const std::vector<Flat> t = {{-0.5, 0}, {0.5, 0}, {0.5, 4}, {3, 4}, {3, 5}, {-3, 5}, {-3, 4}, {-0.5, 4}};
    const auto loops = Sections(upright(t, 0, 1), Pose()).at(0.5);
    ASSERT_EQ(loops.size(), 1U);
    const SectionShape shape = shapeOf(loops[0]);
    EXPECT_FALSE(shape.round);
    EXPECT_FALSE(shape.rectangle);
    EXPECT_NEAR(shape.middle.x, 0, 1e-9);
    EXPECT_NEAR(shape.middle.y, (6 * 4.5 + 4 * 2) / 10, 1e-9);
    // A regular pentagon is no circle: five corners could be many things.
    const auto five = Sections(upright(disc(0, 0, 1, 5), 0, 1), Pose()).at(0.5);
    EXPECT_FALSE(shapeOf(five[0]).round);
}

TEST(Sections, AtACornersOwnHeightNothingIsLost) {
    const Sections sections(upright(disc(0, 0, 2, 24), 0, 3), Pose());
    // At the lower end all corners count as above it; at the upper end too, and nothing is there any more.
    EXPECT_TRUE(sections.at(0).empty());
    EXPECT_EQ(sections.at(3).size(), 1U);
    EXPECT_EQ(sections.at(1e-12).size(), 1U);
}

TEST(Sections, SumUpToTheVolumeOfWhatWasMade) {
    test::Dice dice(7);
    SolidWorker worker;
    SolidsToMake all;
    FlatArea tube = flatCircle(3, 1, 4);
    tube.holes.push_back(flatCircle(3, 1, 2).outer);
    all.bodies.push_back({"tube", kNoColour, Prism{tube, 0, 5}, {}, {}});
    all.bodies.push_back({"cone",
                          kNoColour,
                          TurnedProfile{{{0, 0, 0}, {3, 0, 0}, {0.5, 6, 0}, {0, 6, 0}}},
                          {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {-6, 2, 1}},
                          {}});
    all.bodies.push_back({"ball", kNoColour, Ball{5}, {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {12, 0, 2}}, {}});
    all.pose = after(Pose{{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {40, -7, 3}}, turnAbout({1, 1, 0.3}, 71));
    SolidLimits fine;
    fine.angle = 4;
    fine.deflection = 0.002;
    const auto solid = worker.make(all, fine);
    ASSERT_TRUE(solid) << solid.error().text();
    double volume = 0;
    for (const SolidBody& b : solid->bodies) volume += b.volume;
    // In any frame.
    for (int round = 0; round < 4; ++round) {
        const Pose pose =
            turnAbout({dice.between(-1, 1), dice.between(-1, 1), dice.between(0.1, 1)}, dice.between(0, 360));
        const Sections sections(*solid, pose);
        const int n = 400;
        const double step = (sections.high() - sections.low()) / n;
        double sum = 0;
        for (int i = 0; i < n; ++i)
            for (const SectionLoop& l : sections.at(sections.low() + (i + 0.5) * step)) sum += l.area * step;
        EXPECT_NEAR(sum, volume, 0.004 * volume) << round;
    }
    // A hole is a loop of its own, the other way round.
    const Sections straight(*solid, inverse(all.pose));
    int holes = 0;
    for (const SectionLoop& l : straight.at(2.5)) {
        if (l.area >= 0) continue;
        ++holes;
        EXPECT_NEAR(shapeOf(l).middle.x, 3, 1e-6);
        EXPECT_NEAR(shapeOf(l).along, 2, 1e-6);
    }
    EXPECT_EQ(holes, 1);
}

TEST(Sections, OfNothingAreNone) {
    const Sections none(Solid{}, Pose{});
    EXPECT_TRUE(none.at(0).empty());
    EXPECT_EQ(none.low(), none.high());
}

}  // namespace
}  // namespace punch::sections_test
