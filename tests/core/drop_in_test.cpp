// Will it drop in? The best seat against a fine search, shares against closed forms, and who draws what.

#include "core/fit/drop_in.h"

#include <gtest/gtest.h>

#include <algorithm>
#include <boost/math/distributions/normal.hpp>
#include <cmath>
#include <random>

#include "core/derive.h"
#include "core/fit/best_seat.h"
#include "core/fit/random.h"
#include "core/measure/adjust.h"
#include "core/part/edit.h"
#include "tests/support/parts.h"

namespace punch::drop_in_test {
namespace {

double roomAt(const std::vector<Seat>& seats, double tx, double ty, double t) {
    double least = 1e9;
    for (const Seat& s : seats) {
        const double x = s.x + tx - t * s.y - s.hx;
        const double y = s.y + ty + t * s.x - s.hy;
        const double len2 = s.sx * s.sx + s.sy * s.sy;
        const double along = len2 > 0 ? std::clamp((x * s.sx + y * s.sy) / len2, -1.0, 1.0) : 0.0;
        least = std::min(least, s.room - std::hypot(x - along * s.sx, y - along * s.sy));
    }
    return least;
}

/// The best seat by brute force: a grid over shift and turn that is drawn tighter around its best again and again.
double searched(const std::vector<Seat>& seats, double arm) {
    double bx = 0;
    double by = 0;
    double bt = 0;
    double step = 0.1;
    double best = roomAt(seats, 0, 0, 0);
    while (step > 2e-8) {
        bool better = false;
        const double cx = bx;
        const double cy = by;
        const double ct = bt;
        for (int i = -4; i <= 4; ++i)
            for (int j = -4; j <= 4; ++j)
                for (int k = -4; k <= 4; ++k) {
                    const double r = roomAt(seats, cx + i * step, cy + j * step, ct + k * step / arm);
                    if (r > best) {
                        best = r;
                        bx = cx + i * step;
                        by = cy + j * step;
                        bt = ct + k * step / arm;
                        better = true;
                    }
                }
        if (!better) step /= 2.5;
    }
    return best;
}

std::vector<Seat> randomSeats(std::mt19937& random, int n, double off, bool slots) {
    std::uniform_real_distribution<double> place(-8, 8);
    std::normal_distribution<double> wander(0, off);
    std::uniform_real_distribution<double> room(0.05, 0.4);
    std::vector<Seat> seats;
    for (int i = 0; i < n; ++i) {
        Seat s;
        s.hx = place(random);
        s.hy = place(random);
        s.x = s.hx + wander(random);
        s.y = s.hy + wander(random);
        s.room = room(random);
        if (slots && i % 3 == 0) {
            s.sx = place(random) / 20;
            s.sy = place(random) / 20;
        }
        seats.push_back(s);
    }
    return seats;
}

TEST(BestSeat, OnePinStandsInTheMiddleOfItsHole) {
    const BestSeat b = bestSeat({{3, 4, 3.5, 3.8, 0, 0, 0.2}});
    EXPECT_NEAR(b.spare, 0.2, 2e-5);
    EXPECT_NEAR(b.shiftX, 0.5, 1e-3);
    EXPECT_TRUE(goesIn({{3, 4, 3.5, 3.8, 0, 0, 0.0001}}));
    EXPECT_FALSE(goesIn({{3, 4, 3.5, 3.8, 0, 0, -0.0001}}));
}

TEST(BestSeat, TwoPinsShareWhatTheirDistanceIsOff) {
    // 0.3 too far apart, rooms 0.2 and 0.4: both give up the same, (0.2 + 0.4 - 0.3) / 2 is left.
    const std::vector<Seat> seats = {{-5.15, 0, -5, 0, 0, 0, 0.2}, {5.15, 0, 5, 0, 0, 0, 0.4}};
    EXPECT_NEAR(bestSeat(seats).spare, 0.15, 1e-6);
}

TEST(BestSeat, IsAsGoodAsAFineSearchOverShiftAndTurn) {
    std::mt19937 random(7);
    for (int i = 0; i < 60; ++i) {
        const auto seats = randomSeats(random, 2 + i % 9, 0.02 + 0.01 * (i % 12), i % 2 == 1);
        const BestSeat b = bestSeat(seats);
        const double fine = searched(seats, 8);
        EXPECT_GE(b.spare, fine - 2e-6) << i;
        // And what it says is what the seat it names gives.
        EXPECT_NEAR(roomAt(seats, b.shiftX, b.shiftY, b.turn), b.spare, 2e-5) << i;
        EXPECT_LT(b.within, 1e-6) << i;
    }
}

TEST(BestSeat, YesAndNoAgreeWithItsRoomEverywhere) {
    std::mt19937 random(11);
    int in = 0;
    for (int i = 0; i < 3000; ++i) {
        const auto seats = randomSeats(random, 2 + i % 15, 0.01 * (1 + i % 20), i % 2 == 1);
        const double spare = bestSeat(seats, 1e-9).spare;
        if (std::abs(spare) < 1e-6) continue;
        EXPECT_EQ(goesIn(seats), spare > 0) << i << ": " << spare;
        in += spare > 0 ? 1 : 0;
    }
    EXPECT_GT(in, 500);
    EXPECT_LT(in, 2500);
}

TEST(Draw, IsUniformAndNormalAndItsOwnForEveryPurpose) {
    double sum = 0;
    double squares = 0;
    double product = 0;
    double u = 0;
    const int n = 200000;
    for (int i = 0; i < n; ++i) {
        const Draw d(5, static_cast<std::uint64_t>(i));
        const auto [a, b] = d.normals(3);
        sum += a + b;
        squares += a * a + b * b;
        product += a * b + a * d.normals(4).first + a * Draw(6, static_cast<std::uint64_t>(i)).normals(3).first;
        u += d.uniform(8);
    }
    EXPECT_NEAR(sum / (2 * n), 0, 0.006);
    EXPECT_NEAR(squares / (2 * n), 1, 0.01);
    EXPECT_NEAR(product / n, 0, 0.02);
    EXPECT_NEAR(u / n, 0.5, 0.003);
}

/// Round leads of 0.9 in holes of 1.0, of exactly known size and pitch; only the drill wanders.
Part wandering(int pins, double wander) {
    Part part = test::bareRow(pins);
    part.formations[0].lead = LeadShape::Round;
    part.taken["lead.width"] = 0.9_mm;
    part.taken["pitch"] = 5_mm;
    part.rules.hole = HoleRule::HouseFactor;
    part.rules.holeFactor = 1.0 / 0.9;
    part.rules.platedTolerance = Length();
    part.rules.fab.wander = Length::fromMm(wander);
    return part;
}

DropInShare shareOf(const Part& part, int trials = 40000) {
    return DropIn(part, Adjustment(part), derive(part)).share(trials, 3, 2);
}

TEST(DropIn, OnePinAlwaysGoesInWhenItIsThinner) {
    const DropInShare s = shareOf(wandering(1, 0.3));
    ASSERT_TRUE(s.known) << s.why;
    EXPECT_EQ(s.in, s.trials);
    // A finished size that runs from 0.1 below the lead to 0.3 above it goes in three times out of four.
    Part part = wandering(1, 0.3);
    part.overrides["p1"].hole = 0.8_mm;
    part.rules.platedTolerance = 0.4_mm;
    const DropInShare some = shareOf(part);
    EXPECT_LT(some.low, 0.75);
    EXPECT_GT(some.high, 0.75);
    EXPECT_NEAR(some.share, 0.75, 0.01);
}

TEST(DropIn, TwoPinsAlongTheirLineByTheClosedForm) {
    // The distance of the two holes is off by a normal of sqrt(2) wander; across the line a turn takes it up. Both have
    // 0.05 around the lead, so it goes in while the distance is off by at most 0.1.
    for (const double wander : {0.04, 0.06, 0.1}) {
        const DropInShare s = shareOf(wandering(2, wander));
        const boost::math::normal law(0, std::sqrt(2.0) * wander);
        const double expected = 2 * cdf(law, 0.1) - 1;
        EXPECT_LE(s.low, expected + 1e-3) << wander;
        EXPECT_GE(s.high, expected - 1e-3) << wander;
    }
}

TEST(DropIn, SameSeedSameResultWhateverTheThreads) {
    const Part part = test::demoPart();
    const Footprint f = derive(part);
    const DropIn gauge(part, Adjustment(part), f);
    DropInOptions options;
    options.trials = 3000;
    options.seed = 42;
    options.threads = 1;
    const DropInReport one = gauge.report(options);
    options.threads = 5;
    const DropInReport five = gauge.report(options);
    EXPECT_EQ(one.share.in, five.share.in);
    EXPECT_EQ(one.histogram, five.histogram);
    EXPECT_EQ(one.bandLow, five.bandLow);
    ASSERT_EQ(one.costs.size(), five.costs.size());
    for (std::size_t i = 0; i < one.costs.size(); ++i) EXPECT_EQ(one.costs[i].share, five.costs[i].share);
    options.seed = 43;
    EXPECT_NE(gauge.report(options).histogram, one.histogram);
}

TEST(DropIn, TellsWhatItCostsAndWhichHoleWouldDo) {
    const Part part = wandering(6, 0.045);
    Footprint f = derive(part);
    DropInOptions options;
    options.trials = 8000;
    const DropInReport r = dropIn(part, f, options);
    ASSERT_TRUE(r.share.known);
    EXPECT_LT(r.share.share, 0.9);
    EXPECT_EQ(f.gauge("drop-in")->state, GaugeState::NoGo);
    ASSERT_FALSE(r.costs.empty());
    EXPECT_EQ(r.costs.front().name, "place of the holes");
    EXPECT_NEAR(r.costs.front().share, 1, 1e-9) << "nothing else is wrong";
    ASSERT_FALSE(r.holes.empty());
    const Length least = r.holes.front().least;
    ASSERT_GT(least, 1.0_mm);
    // It is the least: at that size enough go in, one step below not.
    for (const bool enough : {true, false}) {
        Part tried = part;
        tried.overrides[kWholePart].hole = enough ? least : least - 0.05_mm;
        const DropInShare s = DropIn(tried, Adjustment(tried), derive(tried)).share(8000, options.seed, 2);
        EXPECT_EQ(s.share >= part.rules.dropInWanted, enough) << s.share;
    }
    // The histogram holds every trial, and what lies below nothing is what does not go in.
    int all = 0;
    int below = 0;
    for (std::size_t i = 0; i < r.histogram.size(); ++i) {
        all += r.histogram[i];
        if (r.histogramFrom + (static_cast<double>(i) + 1) * r.histogramStep <= 1e-12) below += r.histogram[i];
    }
    EXPECT_EQ(all, 8000);
    EXPECT_LE(below, 8000 - r.share.in);
}

TEST(DropIn, DoubtMakesABandAndADrawingASpread) {
    // Calipers alone: nothing says how parts differ, and what is not known makes the band.
    const Part part = test::demoPart();
    Footprint f = derive(part);
    DropInOptions options;
    options.trials = 2000;
    options.costs = options.holes = false;
    const DropInReport measured = dropIn(part, f, options);
    EXPECT_FALSE(measured.share.spreadKnown);
    EXPECT_LE(measured.bandLow, measured.bandHigh);
    // The same distance by a drawing with a wide tolerance: parts differ, and many do not go in.
    Part drawn = wandering(2, 0.0);
    drawn.taken.erase("pitch");
    Reading r;
    r.id = "r1";
    r.a = "p1";
    r.b = "p2";
    r.contact = Contact::Centres;
    r.drawing = DrawingValue{"5 ±0.2", Unit::Mm, DrawingForm::Tolerance, 5_mm, 4.8_mm, 5.2_mm};
    drawn.readings.push_back(r);
    Footprint g = derive(drawn);
    options.trials = 20000;
    options.costs = true;
    const DropInReport spread = dropIn(drawn, g, options);
    ASSERT_TRUE(spread.share.known) << spread.share.why;
    EXPECT_TRUE(spread.share.spreadKnown);
    // Uniform over ±0.2, in while within ±0.1: one half; and no doubt of the middle, so no band but that of chance.
    EXPECT_NEAR(spread.share.share, 0.5, 0.012);
    EXPECT_NEAR(spread.bandHigh - spread.bandLow, 0, 1e-12);
    EXPECT_NEAR(spread.costs.front().share, 1, 1e-9);
}

TEST(DropIn, SaysWhyNothingCanBeSaid) {
    Part part = test::bareRow(3);
    const DropInShare loose = derive(part).dropIn;
    EXPECT_FALSE(loose.known);
    EXPECT_NE(loose.why.find("loose"), std::string::npos);
    EXPECT_EQ(derive(part).gauge("drop-in")->state, GaugeState::Unknown);
}

TEST(Wilson, IsTheOneOfTheBooks) {
    // 95 % interval of 8 out of 10: 0.490 to 0.943 (Wilson 1927, as tabulated).
    const auto [low, high] = wilson(8, 10);
    EXPECT_NEAR(low, 0.490, 5e-4);
    EXPECT_NEAR(high, 0.943, 5e-4);
    EXPECT_EQ(wilson(0, 50).first, 0);
    EXPECT_EQ(wilson(50, 50).second, 1);
}

}  // namespace
}  // namespace punch::drop_in_test
