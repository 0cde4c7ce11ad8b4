// Surface lands against hand-worked values, IPC-7351B section 3.

#include "core/size/surface_lands.h"

#include <gtest/gtest.h>

#include <random>

namespace punch::surface_lands_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }
Limits limits(double a, double b) { return {mm(a), mm(b)}; }

TEST(SurfaceLands, TheTableIsInOrder) {
    for (std::size_t i = 0; i < landGoals().size(); ++i) EXPECT_EQ(static_cast<std::size_t>(landGoals()[i].form), i);
    EXPECT_EQ(landGoals().size(), 8U);
    // A most, C least material, everywhere.
    for (const LandGoals& g : landGoals())
        for (const auto& row : {g.toe, g.heel, g.side, g.courtyard}) {
            EXPECT_GE(row[0], row[1]);
            EXPECT_GE(row[1], row[2]);
        }
}

/// Worked by hand: chip, gull wing and no-lead with F = P = 0.10.
TEST(SurfaceLands, EqualTheWorkedExamples) {
    const auto expect = [](PackageSize p, double z, double g, double x) {
        const SurfaceLands s = surfaceLands(p, {}, mm(0.15));
        EXPECT_NEAR(s.z.mm(), z, 1e-4);
        EXPECT_NEAR(s.g.mm(), g, 1e-4);
        EXPECT_NEAR(s.x.mm(), x, 1e-4);
    };
    const PackageSize chip{limits(1.50, 1.70), limits(0.20, 0.50), limits(0.70, 0.90), LeadForm::Chip, Density::B};
    expect(chip, 2.4449, 0.6446, 0.9449);
    PackageSize most = chip;
    most.density = Density::A;
    expect(most, 2.8449, 0.6446, 1.0449);
    expect({limits(5.80, 6.20), limits(0.40, 1.27), limits(0.31, 0.51), LeadForm::GullWing, Density::B}, 6.9243, 2.9754,
           0.6149);
    expect({limits(3.90, 4.10), limits(0.30, 0.50), limits(0.18, 0.30), LeadForm::NoLead, Density::B}, 4.7449, 2.9990,
           0.2855);
}

/// Every form and density once more, by the equations written out: sizes without spread leave F and P alone.
TEST(SurfaceLands, EveryFormAndDensityByHand) {
    struct Case {
        LeadForm form;
        double toe[3], heel[3], side[3];
    };
    // Straight from the published tables; J leads have their goals turned round.
    const Case cases[] = {
        {LeadForm::GullWing, {0.55, 0.35, 0.15}, {0.45, 0.35, 0.25}, {0.05, 0.03, 0.01}},
        {LeadForm::FineGullWing, {0.55, 0.35, 0.15}, {0.45, 0.35, 0.25}, {0.01, -0.02, -0.04}},
        {LeadForm::JLead, {0.55, 0.35, 0.15}, {0.10, 0.00, -0.10}, {0.05, 0.03, 0.01}},
        {LeadForm::Chip, {0.55, 0.35, 0.15}, {0, 0, 0}, {0.05, 0, -0.05}},
        {LeadForm::SmallChip, {0.30, 0.20, 0.10}, {0, 0, 0}, {0.05, 0, -0.05}},
        {LeadForm::FlatLead, {0.30, 0.20, 0.10}, {0, 0, 0}, {0.05, 0, -0.05}},
        {LeadForm::NoLead, {0.40, 0.30, 0.20}, {0, 0, 0}, {-0.04, -0.04, -0.04}},
        {LeadForm::Castellated, {0.65, 0.55, 0.45}, {0.25, 0.15, 0.05}, {0.05, -0.05, -0.15}},
    };
    const Density densities[] = {Density::A, Density::B, Density::C};
    for (const Case& c : cases)
        for (int d = 0; d < 3; ++d) {
            PackageSize p{limits(6, 6), limits(0.8, 0.8), limits(0.5, 0.5), c.form, densities[d]};
            p.fabrication = mm(0.06);
            p.placement = mm(0.08);  // together 0.10
            const SurfaceLands s = surfaceLands(p, {}, mm(0.15));
            EXPECT_NEAR(s.z.mm(), 6 + 2 * c.toe[d] + 0.10, 1e-9);
            EXPECT_NEAR(s.g.mm(), 4.4 - 2 * c.heel[d] - 0.10, 1e-9);
            EXPECT_NEAR(s.x.mm(), 0.5 + 2 * c.side[d] + 0.10, 1e-9);
            EXPECT_NEAR(s.length.mm(), (s.z - s.g).mm() / 2, 0.0251);
            EXPECT_NEAR(s.apart.mm(), (s.z + s.g).mm() / 2, 0.0251);
            EXPECT_NEAR(std::remainder(s.apart.mm(), 0.05), 0, 1e-9);
            EXPECT_EQ(s.chain.size(), 3U);
        }
}

TEST(SurfaceLands, AreTrimmedWhereCopperWouldComeTooNear) {
    std::mt19937 random(6);
    std::uniform_real_distribution<double> any(0.02, 1);
    int trimmed = 0;
    for (int round = 0; round < 400; ++round) {
        const double l = 1 + 3 * any(random), t = 0.2 + 0.3 * any(random), w = 0.2 + 0.4 * any(random);
        const PackageSize p{limits(l, l + 0.3 * any(random)), limits(t, t + 0.2 * any(random)),
                            limits(w, w + 0.1 * any(random)), static_cast<LeadForm>(random() % 8),
                            static_cast<Density>(random() % 4)};
        const Length pitch = mm(0.4 + 0.5 * any(random)), gap = mm(0.15);
        const SurfaceLands s = surfaceLands(p, pitch, gap);
        EXPECT_GE((pitch - s.width).mm(), 0.15 - 1e-9) << "neighbours";
        EXPECT_GE((s.apart - s.length).mm(), 0.15 - 1e-9) << "facing";
        EXPECT_EQ(s.trimmed.empty(), s.g >= gap && s.x <= pitch - gap);
        EXPECT_EQ(s.trimmed.find("heel") != std::string::npos, s.g < gap);
        EXPECT_EQ(s.trimmed.find("sides") != std::string::npos, s.x > pitch - gap);
        trimmed += !s.trimmed.empty();
    }
    EXPECT_GT(trimmed, 40);
}

}  // namespace
}  // namespace punch::surface_lands_test
