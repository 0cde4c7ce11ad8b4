#include "core/clear/spacing.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/clear/ipc2221_table61.h"
#include "tests/support/parts.h"

namespace punch::spacing_test {
namespace {

TEST(Table61, EveryCell) {
    const double volts[] = {15, 30, 50, 100, 150, 170, 250, 300, 500};
    const double mm[9][7] = {{0.05, 0.1, 0.1, 0.05, 0.13, 0.13, 0.13}, {0.05, 0.1, 0.1, 0.05, 0.13, 0.25, 0.13},
                             {0.1, 0.6, 0.6, 0.13, 0.13, 0.4, 0.13},   {0.1, 0.6, 1.5, 0.13, 0.13, 0.5, 0.13},
                             {0.2, 0.6, 3.2, 0.4, 0.4, 0.8, 0.4},      {0.2, 1.25, 3.2, 0.4, 0.4, 0.8, 0.4},
                             {0.2, 1.25, 6.4, 0.4, 0.4, 0.8, 0.4},     {0.2, 1.25, 12.5, 0.4, 0.4, 0.8, 0.8},
                             {0.25, 2.5, 12.5, 0.8, 0.8, 1.5, 0.8}};
    const double perVolt[] = {0.0025, 0.005, 0.025, 0.00305, 0.00305, 0.00305, 0.00305};
    double low = 0;
    for (int row = 0; row < 9; ++row) {
        for (int c = 0; c < 7; ++c) {
            const auto column = static_cast<VoltageColumn>(c);
            EXPECT_EQ(ipc2221Spacing(column, Voltage::fromVolts(volts[row])), Length::fromMm(mm[row][c]))
                << volts[row] << " column " << c;
            EXPECT_EQ(ipc2221Spacing(column, Voltage::fromVolts(low + 0.5)), Length::fromMm(mm[row][c]))
                << "just above " << low;
        }
        low = volts[row];
    }
    for (int c = 0; c < 7; ++c)
        EXPECT_NEAR(ipc2221Spacing(static_cast<VoltageColumn>(c), Voltage::fromVolts(1500)).mm(),
                    mm[8][c] + 1000 * perVolt[c], 1e-9);
    EXPECT_NEAR(ipc2221Spacing(VoltageColumn::B2, Voltage::fromVolts(501)).mm(), 2.505, 1e-9);
    EXPECT_EQ(ipc2221Spacing(VoltageColumn::B2, Voltage::fromVolts(-50)), 0.6_mm);
}

Potential ac(double v, const char* source) { return {"x", PotentialKind::Ac, Voltage::fromVolts(v), source, {}, {}}; }
Potential dc(double v) { return {"x", PotentialKind::Dc, Voltage::fromVolts(v), "", {}, {}}; }

TEST(PairVoltage, SubtractsOrAddsBySource) {
    const double r2 = std::sqrt(2.0);
    EXPECT_NEAR(peakBetween(ac(230, "mains"), ac(0, "mains")).volts(), 230 * r2, 1e-9);
    EXPECT_NEAR(peakBetween(ac(230, "mains"), ac(24, "mains")).volts(), 206 * r2, 1e-9);
    EXPECT_NEAR(peakBetween(ac(230, "mains"), ac(24, "transformer")).volts(), 254 * r2, 1e-9);
    EXPECT_NEAR(peakBetween(dc(12), dc(-12)).volts(), 24, 1e-9);
    EXPECT_NEAR(peakBetween(dc(5), ac(230, "mains")).volts(), 5 + 230 * r2, 1e-9);
}

TEST(PairVoltage, WithoutASourceTheWorstPhaseIsTaken) {
    const double r2 = std::sqrt(2.0);
    EXPECT_NEAR(peakBetween(ac(230, ""), ac(230, "")).volts(), 460 * r2, 1e-9);
    EXPECT_NEAR(rmsBetween(ac(230, ""), ac(230, "mains")).volts(), 460, 1e-9);
    EXPECT_NEAR(rmsBetween(ac(230, ""), ac(0, "")).volts(), 230, 1e-9);
    // A phase says nothing without a source that it belongs to.
    Potential turned = ac(230, "");
    turned.phase = Angle::fromDegrees(120);
    EXPECT_NEAR(rmsBetween(turned, ac(230, "")).volts(), 460, 1e-9);
    EXPECT_TRUE(sourceOpen(ac(230, ""), ac(24, "transformer")));
    EXPECT_FALSE(sourceOpen(ac(230, ""), ac(0, "mains"))) << "nothing alternates against it";
    EXPECT_FALSE(sourceOpen(dc(5), ac(230, "")));
    // It may be mains: then the impulse of the category is asked.
    Rules iec;
    iec.standard = VoltageStandard::Iec60664;
    EXPECT_EQ(askedBetween(iec, ac(230, ""), ac(0, "")).impulse,
              askedBetween(iec, ac(230, "mains"), ac(0, "mains")).impulse);
}

TEST(RoundedPolygon, KnownGaps) {
    const auto disc = [](double x, double y, double d) {
        return RoundedPolygon::disc({Length::fromMm(x), Length::fromMm(y)}, Length::fromMm(d));
    };
    const auto square = [](double x, double y, double s) {
        return RoundedPolygon::rectangle(
            Rect::around({Length::fromMm(x), Length::fromMm(y)}, Length::fromMm(s), Length::fromMm(s)));
    };
    EXPECT_NEAR(gap(disc(0, 0, 2), disc(5, 0, 2)).mm(), 3, 1e-9);
    EXPECT_NEAR(gap(square(0, 0, 2), disc(4, 0, 2)).mm(), 2, 1e-9);
    EXPECT_NEAR(gap(square(0, 0, 2), disc(4, 5, 2)).mm(), 5 - 1, 1e-9) << "from the corner: 3, 4, 5";
    EXPECT_NEAR(gap(square(0, 0, 2), square(5, 6, 2)).mm(), 5, 1e-9);
    EXPECT_LT(gap(disc(0, 0, 2), disc(1, 0, 2)), Length());
    EXPECT_LE(gap(square(0, 0, 4), square(1, 1, 1)), Length()) << "one within the other";
}

TEST(RoundedPolygon, AgreesWithDenseSampling) {
    std::mt19937 random(5);
    std::uniform_real_distribution<double> place(-4, 4), size(0.2, 3);
    for (int t = 0; t < 200; ++t) {
        const Rect a = Rect::around({Length::fromMm(place(random)), Length::fromMm(place(random))},
                                    Length::fromMm(size(random)), Length::fromMm(size(random)));
        const Point c{Length::fromMm(place(random)), Length::fromMm(place(random))};
        const double d = size(random);
        double least = 1e9;
        for (int i = 0; i <= 2000; ++i) {
            const double k = i / 2000.0;
            for (const Point p : {Point{a.left + k * a.width(), a.top}, Point{a.left + k * a.width(), a.bottom},
                                  Point{a.left, a.bottom + k * a.height()}, Point{a.right, a.bottom + k * a.height()}})
                least = std::min(least, distance(p, c).mm());
        }
        const bool inside = c.x > a.left && c.x < a.right && c.y > a.bottom && c.y < a.top;
        const double expected = (inside ? 0 : least) - d / 2;
        EXPECT_NEAR(gap(RoundedPolygon::rectangle(a), RoundedPolygon::disc(c, Length::fromMm(d))).mm(), expected, 2e-3);
    }
}

TEST(Spacing, TheNearestIsFoundAmongMany) {
    Part part = test::bareRow(60);
    part.taken = {{"pitch", 2.54_mm}, {"lead.width", 0.64_mm}, {"lead.thickness", 0.64_mm}};
    const Footprint f = derive(part);
    const auto nearest = nearestCopper(f.board().copper());
    ASSERT_TRUE(nearest);
    EXPECT_NEAR(nearest->gap.mm(), 2.54 - f.pads[5].top.width.mm(), 1e-9);
    std::optional<Length> brute;
    for (std::size_t i = 0; i < f.pads.size(); ++i)
        for (std::size_t k = i + 1; k < f.pads.size(); ++k) {
            const Length g = gap(landShape(f.pads[i]), landShape(f.pads[k]));
            if (!brute || g < *brute) brute = g;
        }
    EXPECT_NEAR(nearest->gap.mm(), brute->mm(), 1e-9);
}

TEST(Spacing, PairsOfOnePotentialNeedNoDistance) {
    const Footprint f = derive(test::demoPart());
    EXPECT_EQ(f.voltages.size(), 4u) << "two against two";
    EXPECT_EQ(f.voltages[0].a, "p2");
    EXPECT_EQ(f.voltages[0].b, "p3");
    for (const Halo& h : f.halos) EXPECT_EQ(h.needed, 2.5_mm);
}

}  // namespace
}  // namespace punch::spacing_test
