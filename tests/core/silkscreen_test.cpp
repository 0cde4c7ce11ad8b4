#include "core/dress/silkscreen.h"

#include <gtest/gtest.h>

#include "core/dress/stroke_text.h"
#include "tests/support/parts.h"

namespace punch::silkscreen_test {
namespace {

/// A demo part whose outline runs through its lands.
Part crossing() {
    Part part = test::demoPart();
    part.taken["body.rear"] = Length::fromMm(0.6);
    part.readings.erase(part.readings.begin() + 7);
    part.readings.erase(part.readings.begin() + 6);
    part.taken["body.front"] = Length::fromMm(-4);
    return part;
}

TEST(Silkscreen, OutlineStandsAtItsAllowance) {
    const Footprint f = derive(test::demoPart());
    Rect box;
    for (const Shape& s : f.silkscreen)
        if (s.name == "outline")
            for (const Point& p : s.points()) box.add(p);
    EXPECT_NEAR((f.body->rect.left - box.left).mm(), 0.15, 1e-6);
    EXPECT_NEAR((box.top - f.body->rect.top).mm(), 0.15, 1e-6);
}

TEST(Silkscreen, InkIsCutAwayFromOpeningsAndHoles) {
    const Footprint f = derive(crossing());
    int pieces = 0;
    for (const Shape& s : f.silkscreen) pieces += s.name == "outline";
    EXPECT_GE(pieces, 4) << "cut at the lands";
    const auto nearest = nearestInk(f.board(), f);
    ASSERT_TRUE(nearest);
    EXPECT_TRUE(nearest->cut);
    EXPECT_GE(nearest->gap.mm(), 0.15 - 1e-6);
    EXPECT_LE(nearest->gap.mm(), 0.152);
    EXPECT_EQ(f.gauge("silkscreen")->state, GaugeState::Go) << "at its limit by construction";
}

TEST(Silkscreen, NothingReachesCopperForAnyMark) {
    for (const PinOneMark mark : {PinOneMark::Outside, PinOneMark::Inside, PinOneMark::None})
        for (const bool fromLeft : {true, false}) {
            Part part = test::demoPart();
            part.dress.mark = mark;
            part.formations[0].numbers.fromLeft = fromLeft;
            const Footprint f = derive(part);
            EXPECT_GE(nearestInk(f.board(), f)->gap, leastInkGap());
            int marks = 0;
            for (const Shape& s : f.silkscreen) marks += s.name == "pin 1 mark";
            EXPECT_EQ(marks > 0, mark != PinOneMark::None);
        }
}

TEST(Silkscreen, TheMarkStandsAtPinOnesEnd) {
    Part part = test::demoPart();
    for (const bool fromLeft : {true, false}) {
        part.formations[0].numbers.fromLeft = fromLeft;
        int marks = 0;
        for (const Shape& s : derive(part).silkscreen) {
            if (s.name != "pin 1 mark") continue;
            ++marks;
            EXPECT_EQ(s.points()[0].x < Length(), fromLeft);
        }
        EXPECT_GT(marks, 0);
    }
}

TEST(StrokeText, CapitalsHaveTheirHeight) {
    Rect box;
    for (const Shape& s : strokeText("X", {1_mm, 2_mm}, 1_mm, 0.15_mm, "t"))
        for (const Point& p : s.points()) box.add(p);
    EXPECT_NEAR(box.height().mm(), 1.0, 1e-6);
    EXPECT_NEAR(box.middle().y.mm(), 2.0, 1e-6);
    EXPECT_NEAR(box.middle().x.mm(), 1.0, 0.1);
    EXPECT_FALSE(strokeText("é", {}, 1_mm, 0.15_mm, "t").empty())
        << "a letter that is not there becomes a question mark";
    EXPECT_TRUE(strokeText("", {}, 1_mm, 0.15_mm, "t").empty());
}

}  // namespace
}  // namespace punch::silkscreen_test
