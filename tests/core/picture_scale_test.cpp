#include "core/model/picture_scale.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>

namespace punch::picture_scale_test {
namespace {

TEST(PictureScale, ThirtyMillimetresOfRulerGiveATenthOfAPercentOfUncertainty) {
    // numbers.md: a limit of 0.05 for any two graduations, so 30 mm give 0.2 % at 95 %, 150 mm 0.04 %.
    const auto s = scaleByPairs({{{0, 0}, {708.66, 0}, 30, 0.0}});
    ASSERT_TRUE(s);
    EXPECT_NEAR(s->x, 30 / 708.66, 1e-12);
    EXPECT_NEAR(1.96 * s->ux / s->x, 1.96 * 0.05 / std::sqrt(3.0) / 30, 1e-6);
    const auto longer = scaleByPairs({{{0, 0}, {3543.3, 0}, 150, 0.0}});
    EXPECT_NEAR(1.96 * longer->ux / longer->x, 0.000377, 1e-5);
    // The other axis has half a percent more.
    EXPECT_NEAR(1.96 * s->uy / s->y, std::hypot(0.001886, 0.005), 1e-5);
    EXPECT_NEAR(s->y, s->x, 1e-9);
}

TEST(PictureScale, PairsOnBothAxesGiveEachItsOwnScaleWithoutPullingThemTogether) {
    const auto s = scaleByPairs({{{10, 10}, {710, 10}, 29.7}, {{10, 10}, {10, 710}, 29.55}});
    ASSERT_TRUE(s);
    EXPECT_NEAR(s->x, 29.7 / 700, 1e-9);
    EXPECT_NEAR(s->y, 29.55 / 700, 1e-9);
}

TEST(PictureScale, SlantedPairsAreAdjustedTogetherAndTheOddOneShows) {
    const double sx = 0.0424, sy = 0.0422;
    std::vector<ScalePair> pairs;
    std::mt19937 random(5);
    std::uniform_real_distribution<double> place(0, 1500);
    for (int i = 0; i < 6; ++i) {
        ScalePair p{{place(random), place(random)}, {place(random), place(random)}, 0};
        p.length = std::hypot(sx * (p.b.x - p.a.x), sy * (p.b.y - p.a.y));
        pairs.push_back(p);
    }
    auto s = scaleByPairs(pairs);
    ASSERT_TRUE(s);
    EXPECT_NEAR(s->x, sx, 1e-7);
    EXPECT_NEAR(s->y, sy, 1e-7);
    pairs[3].length += 1.0;
    s = scaleByPairs(pairs);
    for (std::size_t i = 0; i < pairs.size(); ++i) EXPECT_LE(std::abs(s->w[i]), std::abs(s->w[3]));
    EXPECT_GT(std::abs(s->w[3]), 3.29);
}

TEST(PictureScale, WhatSaysNothingIsRefused) {
    EXPECT_FALSE(scaleByPairs({}));
    EXPECT_FALSE(scaleByPairs({{{5, 5}, {5, 5}, 30}}));
    EXPECT_FALSE(scaleByPairs({{{5, 5}, {500, 5}, 0}}));
    EXPECT_FALSE(scaleByPairs({{{5, 5}, {500, 5}, -3}}));
    const auto zero = scaleByPairs({{{1, 2}, {300, 2}, 10}, {{5, 5}, {5.5, 5}, 30}});
    ASSERT_FALSE(zero);
    EXPECT_EQ(zero.error().where, "length 2 for the scale");
}

}  // namespace
}  // namespace punch::picture_scale_test
