// Distances and interference of solids against closed forms; what is picked in them, and lengths between its faces.

#include <gtest/gtest.h>

#include <cmath>

#include "core/base/angle.h"
#include "core/solid/pick.h"
#include "core/solid/solid_worker.h"

namespace punch::solid_distances_test {
namespace {

Pose at(double x, double y, double z) { return {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {x, y, z}}; }

MadeBody block(double x, double y, double z, Pose pose = {}) {
    return {"block", kNoColour, Prism{flatRectangle(0, 0, x, y), 0, z}, pose, {}};
}
MadeBody ball(double d, Pose pose) { return {"ball", kNoColour, Ball{d}, pose, {}}; }
MadeBody rod(double d, double length, Pose pose) {
    return {"rod", kNoColour, Prism{flatCircle(0, 0, d), 0, length}, pose, {}};
}

SolidDistance between(MadeBody a, MadeBody b) {
    SolidsToMake all;
    all.bodies = {std::move(a), std::move(b)};
    SolidWorker worker;
    const auto d = worker.measure(all, 0, 1);
    EXPECT_TRUE(d) << d.error().text();
    return d.value_or(SolidDistance{});
}

TEST(SolidDistances, AreThoseOfClosedForms) {
    // Faces, a corner over a corner, a ball over a face, balls, rods that cross.
    EXPECT_NEAR(between(block(2, 2, 2), block(1, 1, 1, at(3.25, 0.5, 0.5))).distance, 1.25, 1e-6);
    EXPECT_NEAR(between(block(1, 1, 1), block(1, 1, 1, at(2, 3, 4))).distance, std::sqrt(1. + 4 + 9), 1e-6);
    EXPECT_NEAR(between(block(4, 4, 1), ball(2, at(2, 2, 2.4))).distance, 0.4, 1e-6);
    EXPECT_NEAR(between(ball(2, at(0, 0, 0)), ball(3, at(3, 4, 0))).distance, 5 - 1 - 1.5, 1e-6);
    const Pose lying = after(at(-5, 0, 2.5), turnAbout({0, 1, 0}, 90));
    EXPECT_NEAR(between(rod(1, 10, after(at(0, -5, 0), turnAbout({1, 0, 0}, -90))), rod(2, 10, lying)).distance,
                2.5 - 0.5 - 1, 1e-6);
    // A lead of 0.9 in a hole of 1.2, off its middle by 0.05.
    MadeBody board = block(6, 6, 1.6, at(-3, -3, -1.6));
    board.cut.push_back({Prism{flatCircle(3, 3, 1.2), -1, 3}});
    EXPECT_NEAR(between(board, rod(0.9, 4, at(0.05, 0, -3))).distance, 0.15 - 0.05, 1e-6);
}

TEST(SolidDistances, WhatOverlapsSaysByWhichVolume) {
    const SolidDistance boxes = between(block(2, 2, 2), block(2, 2, 2, at(1.5, 1, 0)));
    EXPECT_EQ(boxes.distance, 0);
    EXPECT_NEAR(boxes.common, 0.5 * 1 * 2, 1e-6);
    // Two balls of radius 1 whose middles are 1 apart: pi (4 + d) (2 - d)^2 / 12.
    const SolidDistance balls = between(ball(2, at(0, 0, 0)), ball(2, at(1, 0, 0)));
    EXPECT_NEAR(balls.common, kPi * 5 / 12, 1e-5);
    const SolidDistance apart = between(block(1, 1, 1), block(1, 1, 1, at(1.001, 0, 0)));
    EXPECT_NEAR(apart.distance, 0.001, 1e-9);
    EXPECT_EQ(apart.common, 0);
}

TEST(SolidDistances, ABodyThatIsNotThereIsSaid) {
    SolidsToMake all;
    all.bodies = {block(1, 1, 1)};
    SolidWorker worker;
    const auto d = worker.measure(all, 0, 4);
    ASSERT_FALSE(d);
    EXPECT_EQ(d.error().what, "there is no such body");
}

class Picking : public testing::Test {
protected:
    void SetUp() override {
        SolidsToMake all;
        // A block of 10 x 6 x 4 with a bore of 2 through it, and a ball beside it.
        MadeBody b{"block", kNoColour, Prism{flatRectangle(0, 0, 10, 6), 0, 4}, {}, {}};
        b.cut.push_back({Prism{flatCircle(3, 3, 2), -1, 5}});
        all.bodies = {b, ball(2, at(15, 3, 1))};
        SolidWorker worker;
        auto made = worker.make(all);
        ASSERT_TRUE(made) << made.error().text();
        solid = std::move(*made);
    }
    SpaceThing thing(Vec3 from, Vec3 along) {
        const auto hit = pick(solid, pose, from, along);
        EXPECT_TRUE(hit.has_value());
        if (!hit) return {};
        return thingOf(solid.faces[hit->face], pose, hit->at);
    }
    Solid solid;
    Pose pose;
};

TEST_F(Picking, MeetsTheNearestFaceAndNothingBeside) {
    const auto top = pick(solid, {}, {7, 3, 50}, {0, 0, -1});
    ASSERT_TRUE(top);
    EXPECT_NEAR(top->far, 46, 1e-9);
    EXPECT_EQ(solid.faces[top->face].kind, SurfaceKind::Plane);
    EXPECT_NEAR(solid.faces[top->face].axis.z, 1, 1e-9);
    EXPECT_FALSE(pick(solid, {}, {3, 3, 50}, {0, 0, -1})) << "through the bore";
    EXPECT_FALSE(pick(solid, {}, {12, 3, 50}, {0, 0, -1}));
    // Cut away above half its height, its upper face is not there: the next one is its underside.
    const auto cut = pick(solid, {}, {7, 3, 50}, {0, 0, -1}, [](Vec3 p) { return p.z < 2; });
    ASSERT_TRUE(cut);
    EXPECT_NEAR(cut->at.z, 0, 1e-9);
    // Turned and moved with its part.
    const Pose turned = after(at(1, 2, 3), turnAbout({1, 0, 0}, 90));
    const auto there = pick(solid, turned, turned({7, 3, 50}), turned.turned({0, 0, -1}));
    ASSERT_TRUE(there);
    EXPECT_NEAR(norm(there->at - turned({7, 3, 4})), 0, 1e-9);
}

TEST_F(Picking, LengthsBetweenFacesEdgesAndAxes) {
    for (const Pose& p : {Pose{}, after(at(-4, 1, 9), turnAbout({1, 2, 3}, 77))}) {
        pose = p;
        const auto see = [&](Vec3 from, Vec3 along) { return thing(pose(from), pose.turned(along)); };
        const SpaceThing top = see({7, 3, 50}, {0, 0, -1}), under = see({7, 3, -50}, {0, 0, 1}),
                         left = see({-50, 1, 1}, {1, 0, 0}), bore = see({3, 3, 9}, {0.15, 0, -1});
        ASSERT_EQ(bore.kind, SpaceThing::Kind::Axis);
        EXPECT_NEAR(bore.radius, 1, 1e-9);
        const SpaceMeasure height = measured(top, under);
        ASSERT_TRUE(height.length);
        EXPECT_NEAR(*height.length, 4, 1e-9);
        EXPECT_FALSE(height.angle);
        EXPECT_NEAR(*measured(left, bore).length, 3, 1e-9);
        EXPECT_NEAR(*measured(bore, left).length, 3, 1e-9);
        const SpaceMeasure square = measured(top, left);
        EXPECT_FALSE(square.length);
        EXPECT_NEAR(*square.angle, 90, 1e-9);
        EXPECT_NEAR(*measured(top, bore).angle, 90, 1e-9);
        const SpaceThing middle = see({15, 3, 50}, {0, 0, -1});
        EXPECT_NEAR(*measured(middle, bore).length, 12, 1e-9);
        EXPECT_NEAR(*measured(middle, under).length, 1, 1e-9);
        // Edges: the front one above, and the right one, which pass each other at a corner.
        const auto edgeAt = [&](Vec3 from, Vec3 along) {
            const auto hit = pick(solid, pose, pose(from), pose.turned(along));
            EXPECT_TRUE(hit);
            return hit ? edgeNear(solid, pose, *hit, 0.2) : std::nullopt;
        };
        const auto front = edgeAt({5, 0.1, 50}, {0, 0, -1}), right = edgeAt({9.95, 3, 50}, {0, 0, -1});
        ASSERT_TRUE(front);
        ASSERT_TRUE(right);
        EXPECT_NEAR(front->length, 10, 1e-9);
        EXPECT_NEAR(*measured(*front, *right).angle, 90, 1e-9);
        EXPECT_NEAR(*measured(*front, *right).length, 0, 1e-9);
        EXPECT_NEAR(*measured(*front, bore).length, 3, 1e-9);
        EXPECT_FALSE(edgeAt({5, 3, 50}, {0, 0, -1})) << "in the middle of a face";
        EXPECT_FALSE(edgeAt({4.05, 3, 50}, {0, 0, -1})) << "the rim of a bore is round";
    }
}

}  // namespace
}  // namespace punch::solid_distances_test
