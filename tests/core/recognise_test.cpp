#include "core/picture/recognise.h"

#include <gtest/gtest.h>

#include <cmath>
#include <numbers>
#include <random>

namespace punch::recognise_test {
namespace {

std::vector<FoundPlace> turned(std::vector<FoundPlace> places, double degrees) {
    const double c = std::cos(degrees * std::numbers::pi / 180);
    const double s = std::sin(degrees * std::numbers::pi / 180);
    for (FoundPlace& p : places) p = {c * p.x - s * p.y + 3.0, s * p.x + c * p.y - 7.0, p.u};
    return places;
}

std::vector<FoundPlace> shuffled(std::vector<FoundPlace> places, unsigned seed) {
    std::mt19937 random(seed);
    std::shuffle(places.begin(), places.end(), random);
    return places;
}

TEST(Recognise, ARowWithAGapKnowsItsPitchAndTurn) {
    std::vector<FoundPlace> row;
    for (const int i : {0, 1, 2, 4, 5}) row.push_back({5.08 * i, 0});
    const auto f = recogniseFormation(shuffled(turned(row, 2.5), 3));
    ASSERT_TRUE(f);
    EXPECT_EQ(f->kind, FormationKind::Row);
    EXPECT_NEAR(f->pitch->value, 5.08, 1e-9);
    EXPECT_NEAR(f->turn, 2.5, 1e-9);
    EXPECT_EQ(f->leftOut, std::vector<int>{3});
    EXPECT_EQ(f->rows, std::vector<int>{6});
    // u of the direction by hand: u / sqrt(sum of squared distances from the middle).
    double mean = 0, sum = 0;
    for (const FoundPlace& p : row) mean += p.x / 5;
    for (const FoundPlace& p : row) sum += (p.x - mean) * (p.x - mean);
    EXPECT_NEAR(f->uTurn, 0.002 / std::sqrt(sum) * 180 / std::numbers::pi, 1e-6);
}

TEST(Recognise, TwoUnlikeRowsThatAreNotAligned) {
    std::vector<FoundPlace> places;
    for (int i = 0; i < 8; ++i) places.push_back({2.54 * i, 0});
    for (int i = 0; i < 3; ++i) places.push_back({1.9 + 5.08 * i, 21.8});
    const auto f = recogniseFormation(shuffled(turned(places, -1.2), 9));
    ASSERT_TRUE(f);
    EXPECT_EQ(f->kind, FormationKind::TwoRows);
    EXPECT_EQ(f->rows, (std::vector<int>{8, 3}));
    EXPECT_NEAR(f->pitch->value, 2.54, 1e-9);
    EXPECT_NEAR(f->rearPitch->value, 5.08, 1e-9);
    EXPECT_NEAR(f->rowShift->value, 1.9, 1e-9);
    EXPECT_NEAR(f->rowGap->value, 21.8, 1e-9);
    EXPECT_NEAR(f->turn, -1.2, 1e-9);
}

TEST(Recognise, StaggeredRowsAreNoGrid) {
    std::vector<FoundPlace> places;
    for (int i = 0; i < 6; ++i) places.push_back({4.0 * i, 0});
    for (int i = 0; i < 5; ++i) places.push_back({4.0 * i + 2.0, 2.5});
    const auto f = recogniseFormation(shuffled(turned(places, 0.7), 1));
    ASSERT_TRUE(f);
    EXPECT_EQ(f->kind, FormationKind::Staggered);
    EXPECT_NEAR(f->pitch->value, 4.0, 1e-9);
    EXPECT_NEAR(f->rowGap->value, 2.5, 1e-9);
}

TEST(Recognise, AnUprightPairOfRowsRunsUpwards) {
    std::vector<FoundPlace> places;
    for (int i = 0; i < 7; ++i)
        for (const double x : {0.0, 7.62}) places.push_back({x, 2.54 * i});
    const auto f = recogniseFormation(shuffled(turned(places, 1.0), 2));
    ASSERT_TRUE(f);
    EXPECT_EQ(f->kind, FormationKind::TwoRows);
    EXPECT_NEAR(std::abs(std::remainder(f->turn - 1.0, 180)), 90, 1e-9);
    EXPECT_NEAR(f->pitch->value, 2.54, 1e-9);
}

TEST(Recognise, AGridWithPositionsLeftOut) {
    std::vector<FoundPlace> places;
    for (int row = 0; row < 3; ++row)
        for (int c = 0; c < 5; ++c)
            if (!(row == 1 && c == 2) && !(row == 2 && c == 4)) places.push_back({2.5 * c, 5.0 * row});
    const auto f = recogniseFormation(shuffled(turned(places, 2.0), 4));
    ASSERT_TRUE(f);
    EXPECT_EQ(f->kind, FormationKind::Grid);
    EXPECT_EQ(f->leftOut, (std::vector<int>{7, 14}));
    EXPECT_NEAR(f->rowGap->value, 5.0, 1e-9);
}

TEST(Recognise, ARingWithOneInTheMiddleAndAnArc) {
    std::vector<FoundPlace> ring;
    for (int i = 0; i < 6; ++i)
        ring.push_back({5 * std::cos((90 + 60 * i) * std::numbers::pi / 180),
                        5 * std::sin((90 + 60 * i) * std::numbers::pi / 180)});
    ring.push_back({0, 0});
    auto f = recogniseFormation(shuffled(turned(ring, 2.0), 6));
    ASSERT_TRUE(f);
    EXPECT_EQ(f->kind, FormationKind::Ring);
    EXPECT_TRUE(f->middle);
    EXPECT_FALSE(f->arc);
    EXPECT_NEAR(f->circle->value, 10, 1e-9);
    EXPECT_NEAR(f->turn, 2.0, 1e-9);
    EXPECT_EQ(f->positions.back().row, -1);

    std::vector<FoundPlace> arc;
    for (int i = 0; i < 6; ++i)
        arc.push_back({7.5 * std::cos((15 + 30 * i) * std::numbers::pi / 180),
                       7.5 * std::sin((15 + 30 * i) * std::numbers::pi / 180)});
    f = recogniseFormation(shuffled(turned(arc, -2.7), 8));
    ASSERT_TRUE(f);
    EXPECT_TRUE(f->arc);
    EXPECT_NEAR(f->circle->value, 15, 1e-9);
    EXPECT_NEAR(f->step->value, 30, 1e-9);
    EXPECT_NEAR(f->start->value, 15, 1e-9);
    EXPECT_NEAR(f->turn, -2.7, 1e-9);
}

TEST(Recognise, PlacesWithoutOrderAreNoFormation) {
    EXPECT_FALSE(recogniseFormation({{0, 0}, {3.3, 0.9}, {7.1, 5.2}, {1.4, 8.7}, {9.6, 2.2}, {5.1, 9.9}}));
    EXPECT_FALSE(recogniseFormation({}));
}

TEST(Recognise, FitsAreHonestAboutTurnAndPitch) {
    std::mt19937 random(11);
    std::normal_distribution<double> normal(0, 0.01);
    double turn2 = 0, pitch2 = 0;
    constexpr int kRuns = 300;
    for (int run = 0; run < kRuns; ++run) {
        std::vector<FoundPlace> places;
        for (int row = 0; row < 2; ++row)
            for (int i = 0; i < 6; ++i)
                places.push_back({2.54 * i + normal(random), 7.62 * row + normal(random), 0.01});
        const auto f = recogniseFormation(places);
        ASSERT_TRUE(f);
        turn2 += std::pow(f->turn / f->uTurn, 2) / kRuns;
        pitch2 += std::pow((f->pitch->value - 2.54) / f->pitch->u, 2) / kRuns;
    }
    EXPECT_GT(turn2, 0.6);
    EXPECT_LT(turn2, 1.3);
    EXPECT_GT(pitch2, 0.6);
    EXPECT_LT(pitch2, 1.3);
}

}  // namespace
}  // namespace punch::recognise_test
