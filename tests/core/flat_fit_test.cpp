// Laying places onto others: exact where they agree, whatever a few of them do.

#include "core/solid/flat_fit.h"
#include "core/base/angle.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/base/vec3.h"
#include "tests/support/dice.h"

namespace punch::flat_fit_test {
namespace {

Flatly anywhere(test::Dice& dice) {
    const double a = dice.between(0, 2 * kPi);
    return {std::cos(a), std::sin(a), dice.between(-50, 50), dice.between(-50, 50)};
}

std::vector<Flat> somewhere(test::Dice& dice, int n) {
    std::vector<Flat> all;
    for (int i = 0; i < n; ++i) all.push_back({dice.between(-20, 20), dice.between(-20, 20)});
    return all;
}

TEST(FlatFit, ExactPlacesAreLaidExactly) {
    test::Dice dice(1);
    for (int round = 0; round < 300; ++round) {
        const auto from = somewhere(dice, 2 + dice.below(30));
        const Flatly truth = anywhere(dice);
        std::vector<Flat> to;
        for (const Flat& p : from) to.push_back(truth(p));
        const Flatly is = fitted(from, to, std::vector<double>(from.size(), 1));
        for (const Flat& p : from) EXPECT_LT(far(is(p), truth(p)), 1e-10);
        // Never a mirror image.
        EXPECT_NEAR(is.c * is.c + is.s * is.s, 1, 1e-12);
    }
}

TEST(FlatFit, TheFewThatAreOffDragNothingAndAreToldApart) {
    test::Dice dice(2);
    for (int round = 0; round < 300; ++round) {
        const int n = 6 + dice.below(40), bad = 1 + dice.below(n / 3);
        const auto from = somewhere(dice, n);
        const Flatly truth = anywhere(dice);
        std::vector<Flat> to;
        for (int i = 0; i < n; ++i) {
            Flat p = truth(from[static_cast<std::size_t>(i)]);
            const double a = dice.between(0, 2 * kPi), by = i < bad ? dice.between(0.25, 3) : 0;
            to.push_back({p.x + by * std::cos(a), p.y + by * std::sin(a)});
        }
        const FlatFit fit = settled(fitted(from, to, std::vector<double>(from.size(), 1)), from, to);
        EXPECT_EQ(fit.count(), static_cast<std::size_t>(n - bad)) << round;
        for (int i = 0; i < n; ++i) EXPECT_EQ(fit.counted[static_cast<std::size_t>(i)], i >= bad) << round;
        for (const Flat& p : from) EXPECT_LT(far(fit.place(p), truth(p)), 1e-6) << round;
        EXPECT_LT(fit.rms, 1e-6);
    }
}

TEST(FlatFit, WhatReadingsScatterIsNobodysFault) {
    test::Dice dice(3);
    for (int round = 0; round < 100; ++round) {
        const auto from = somewhere(dice, 12);
        const Flatly truth = anywhere(dice);
        std::vector<Flat> to;
        for (const Flat& p : from) {
            const Flat q = truth(p);
            to.push_back({q.x + dice.between(-0.03, 0.03), q.y + dice.between(-0.03, 0.03)});
        }
        const FlatFit fit = settled(fitted(from, to, std::vector<double>(from.size(), 1)), from, to);
        EXPECT_EQ(fit.count(), 12U) << "below a tenth of a millimetre nobody calls a lead bent";
        EXPECT_GT(fit.rms, 0.002);
        EXPECT_LT(fit.rms, 0.04);
    }
}

TEST(FlatFit, OneOrCoincidentPlacesMoveAndDoNotTurn) {
    const Flatly one = fitted({{1, 2}}, {{5, -3}}, {1});
    EXPECT_EQ(one.c, 1);
    EXPECT_EQ(one.s, 0);
    EXPECT_NEAR(far(one({1, 2}), {5, -3}), 0, 1e-12);
    const Flatly same = fitted({{1, 1}, {1, 1}}, {{2, 0}, {4, 0}}, {1, 1});
    EXPECT_EQ(same.c, 1);
    EXPECT_NEAR(far(same({1, 1}), {3, 0}), 0, 1e-12);
    // Weights of nothing leave a place out.
    const Flatly left = fitted({{0, 0}, {1, 0}, {9, 9}}, {{0, 0}, {0, 1}, {-50, 3}}, {1, 1, 0});
    EXPECT_NEAR(far(left({1, 0}), {0, 1}), 0, 1e-12);
}

TEST(FlatFit, TheLimitGoesByTheBetterHalf) {
    EXPECT_DOUBLE_EQ(offLimit({0, 0, 0, 5}), kLeastOff);
    EXPECT_NEAR(offLimit({0.1, 0.1, 0.1, 0.1, 5}), 4 * 1.4826 * 0.1, 1e-12);
}

TEST(Poses, FollowEachOtherAndComeBack) {
    test::Dice dice(4);
    for (int round = 0; round < 200; ++round) {
        const auto any = [&] {
            Pose p = turnAbout({dice.between(-1, 1), dice.between(-1, 1), dice.between(0.1, 1)}, dice.between(0, 360));
            p.move = {dice.between(-9, 9), dice.between(-9, 9), dice.between(-9, 9)};
            return p;
        };
        const Pose a = any(), b = any();
        const Vec3 p{dice.between(-5, 5), dice.between(-5, 5), dice.between(-5, 5)};
        EXPECT_LT(norm(after(a, b)(p) - a(b(p))), 1e-12);
        EXPECT_LT(norm(inverse(a)(a(p)) - p), 1e-12);
        EXPECT_LT(norm(cross(a.x, a.y) - a.z), 1e-12) << "right-handed";
    }
    EXPECT_LT(norm(turnAbout({0, 0, 1}, 90)({1, 0, 0}) - Vec3{0, 1, 0}), 1e-12) << "counter-clockwise";
}

}  // namespace
}  // namespace punch::flat_fit_test
