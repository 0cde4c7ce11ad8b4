// Where what moves first touches: closed forms of arms and slides, and what guides them.

#include "core/solid/touch_search.h"
#include "core/base/angle.h"

#include <gtest/gtest.h>

#include <cmath>

#include "tests/support/solid_parts.h"

namespace punch::touch_search_test {
namespace {

using test::boxBody;
using test::madeSolid;

std::optional<FirstTouch> touch(const Solid& solid, const Motion& motion) {
    TouchSearch search;
    search.addMoving(solid, {}, 0);
    search.addStanding(solid, {}, 0);
    return search.first(motion);
}

TEST(TouchSearch, AnArmMeetsAPostAtItsAngle) {
    // An arm of half a width of 1 along x; a post whose near corner lies at 8, 5.
    const Solid solid = madeSolid({boxBody("arm", 0, -1, 12, 1, 0, 2), boxBody("post", 6, 5, 8, 7, 0, 4)});
    const auto met = touch(solid, {true, {}, {0, 0, 1}, 0, 90});
    ASSERT_TRUE(met);
    // The corner 8, 5 lies on the arm's side: r sin(phi - angle) = 1.
    const double r = std::hypot(8, 5), expected = (std::atan2(5, 8) - std::asin(1 / r)) * 180 / kPi;
    EXPECT_NEAR(met->at, expected, 2e-3);
    EXPECT_NEAR(std::hypot(met->where.x - 8, met->where.y - 5), 0, 0.05);
    // The other way round it meets nothing up to there.
    EXPECT_FALSE(touch(solid, {true, {}, {0, 0, 1}, 0, expected - 0.1}));
    const auto back = touch(solid, {true, {}, {0, 0, 1}, 0, -340});
    ASSERT_TRUE(back);
    EXPECT_LT(back->at, -250);
}

TEST(TouchSearch, ASlideMeetsWhatIsInItsWay) {
    const Solid solid = madeSolid({boxBody("slide", 0, 0, 4, 3, 0, 1), boxBody("stop", 9.5, 1, 10, 2, 0, 5)});
    const auto met = touch(solid, {false, {}, {1, 0, 0}, 0, 8});
    ASSERT_TRUE(met);
    EXPECT_NEAR(met->at, 5.5, 2e-3);
    EXPECT_NEAR(met->where.x, 9.5, 0.01);
    EXPECT_FALSE(touch(solid, {false, {}, {1, 0, 0}, 0, 5.49}));
    EXPECT_FALSE(touch(solid, {false, {}, {0, 0, 1}, 0, 8})) << "upwards nothing is in its way";
}

TEST(TouchSearch, WhatGuidesItDoesNotCount) {
    // A knob with a bore on its shaft, resting on a plate; and a stop that its lug meets.
    MadeBody knob{"knob", kNoColour, TurnedProfile{{{0, 0, 0}, {5, 0, 0}, {5, 4, 0}, {0, 4, 0}}}, {}, {}};
    knob.join.push_back({Prism{flatRectangle(4, -0.5, 7, 0.5), 0, 2}});
    knob.cut.push_back({Prism{flatCircle(0, 0, 3), -1, 5}});
    const MadeBody plate{"plate", kNoColour, Prism{flatRectangle(-9, -9, 9, 9), -1, 0}, {}, {}};
    const MadeBody shaft{"shaft", kNoColour, Prism{flatCircle(0, 0, 3), 0, 6}, {}, {}};
    const Motion full{true, {}, {0, 0, 1}, 0, 350};
    EXPECT_FALSE(touch(madeSolid({knob, plate, shaft}), full));
    const MadeBody stop = boxBody("stop", -0.5, 5.5, 0.5, 8, 0, 1);
    const auto met = touch(madeSolid({knob, plate, shaft, stop}), full);
    ASSERT_TRUE(met);
    // The lug's leading corner is 7, 0.5, its side 0.5 off the axis; the stop's near side lies at x = 0.5, from y 5.5.
    // Its corner 0.5, 5.5 meets the lug's side: r sin(phi - angle) = 0.5.
    const double r = std::hypot(0.5, 5.5), expected = (std::atan2(5.5, 0.5) - std::asin(0.5 / r)) * 180 / kPi;
    const double corner = (std::acos(0.5 / std::hypot(7, 0.5)) - std::atan2(0.5, 7)) * 180 / kPi;
    EXPECT_NEAR(met->at, std::min(expected, corner), 0.05);
}

TEST(TouchSearch, NothingThatMovesTouchesNothing) {
    TouchSearch search;
    EXPECT_FALSE(search.first({}));
    const Solid solid = madeSolid({boxBody("one", 0, 0, 1, 1, 0, 1)});
    search.addMoving(solid, {});
    EXPECT_FALSE(search.first({true, {}, {0, 0, 1}, 0, 360}));
}

}  // namespace
}  // namespace punch::touch_search_test
