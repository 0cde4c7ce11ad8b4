// IEC 60664-1: every cell of the tables, their ends, and what pairs of potentials ask.

#include "core/clear/iec60664.h"

#include <gtest/gtest.h>

#include <sstream>

#include "core/clear/spacing.h"
#include "core/derive.h"
#include "core/part/edit.h"
#include "core/part/file.h"
#include "tests/support/parts.h"

namespace punch::iec60664_test {
namespace {

Voltage v(double volts) { return Voltage::fromVolts(volts); }

/// The standard's tables once more, as text, so that a slip in one of both shows.
std::vector<std::vector<double>> table(const char* text) {
    std::vector<std::vector<double>> rows;
    std::istringstream lines(text);
    for (std::string line; std::getline(lines, line);) {
        std::istringstream in(line);
        std::vector<double> row;
        for (double x; in >> x;) row.push_back(x);
        if (!row.empty()) rows.push_back(row);
    }
    return rows;
}

TEST(Iec60664, EveryCellOfTheImpulseTable) {
    const auto rows = table(R"(
        50 330 500 800 1500
        100 500 800 1500 2500
        150 800 1500 2500 4000
        300 1500 2500 4000 6000
        600 2500 4000 6000 8000
        1000 4000 6000 8000 12000)");
    double below = 0;
    for (const auto& row : rows) {
        for (int c = 0; c < 4; ++c) {
            const auto category = static_cast<OvervoltageCategory>(c);
            EXPECT_EQ(iecImpulse(category, v(row[0]))->volts(), row[static_cast<std::size_t>(c) + 1]);
            // Just above the row before it is this row already.
            EXPECT_EQ(iecImpulse(category, v(below + 0.5))->volts(), row[static_cast<std::size_t>(c) + 1]);
            EXPECT_EQ(iecImpulse(category, v(-row[0]))->volts(), row[static_cast<std::size_t>(c) + 1]);
        }
        below = row[0];
    }
    EXPECT_FALSE(iecImpulse(OvervoltageCategory::I, v(1000.1)));
    EXPECT_FALSE(iecImpulse(OvervoltageCategory::II, v(1e6)));
    const double series[] = {330, 500, 800, 1500, 2500, 4000, 6000, 8000, 12000};
    for (std::size_t i = 0; i + 1 < std::size(series); ++i)
        EXPECT_EQ(iecNextImpulse(v(series[i]))->volts(), series[i + 1]);
    EXPECT_FALSE(iecNextImpulse(v(12000)));
}

TEST(Iec60664, EveryCellOfTheClearanceTable) {
    const double kv[] = {0.33, 0.40, 0.50, 0.60, 0.80, 1.0, 1.2, 1.5, 2.0, 2.5, 3.0, 4.0, 5.0, 6.0, 8.0, 10, 12};
    const double mm[] = {0.01, 0.02, 0.04, 0.06, 0.10, 0.15, 0.25, 0.5, 1.0, 1.5, 2.0, 3.0, 4.0, 5.5, 8.0, 11, 14};
    for (std::size_t i = 0; i < std::size(kv); ++i) {
        const auto at = [&](PollutionDegree d, bool wiring) { return iecClearance(v(kv[i] * 1000), d, wiring)->mm(); };
        EXPECT_DOUBLE_EQ(at(PollutionDegree::One, false), mm[i]) << kv[i];
        EXPECT_DOUBLE_EQ(at(PollutionDegree::Two, false), std::max(mm[i], 0.2)) << kv[i];
        EXPECT_DOUBLE_EQ(at(PollutionDegree::Two, true), std::max(mm[i], 0.04)) << kv[i];
        EXPECT_DOUBLE_EQ(at(PollutionDegree::Three, false), std::max(mm[i], 0.8)) << kv[i];
        // A little above a column the next one holds.
        if (i + 1 < std::size(kv)) {
            EXPECT_DOUBLE_EQ(iecClearance(v(kv[i] * 1000 + 1), PollutionDegree::One, false)->mm(), mm[i + 1]);
        }
    }
    EXPECT_FALSE(iecClearance(v(12001), PollutionDegree::One, false));
}

TEST(Iec60664, EveryCellOfTheCreepageTableAndBetween) {
    const auto rows = table(R"(
        10   0.025 0.04  0.40 0.40 0.40 1.00 1.00 1.00
        12.5 0.025 0.04  0.42 0.42 0.42 1.05 1.05 1.05
        16   0.025 0.04  0.45 0.45 0.45 1.10 1.10 1.10
        20   0.025 0.04  0.48 0.48 0.48 1.20 1.20 1.20
        25   0.025 0.04  0.50 0.50 0.50 1.25 1.25 1.25
        32   0.025 0.04  0.53 0.53 0.53 1.30 1.30 1.30
        40   0.025 0.04  0.56 0.80 1.10 1.40 1.60 1.80
        50   0.025 0.04  0.60 0.85 1.20 1.50 1.70 1.90
        63   0.04  0.063 0.63 0.90 1.25 1.60 1.80 2.00
        80   0.063 0.10  0.67 0.95 1.30 1.70 1.90 2.10
        100  0.10  0.16  0.71 1.00 1.40 1.80 2.00 2.20
        125  0.16  0.25  0.75 1.05 1.50 1.90 2.10 2.40
        160  0.25  0.40  0.80 1.10 1.60 2.00 2.20 2.50
        200  0.40  0.63  1.00 1.40 2.00 2.50 2.80 3.20
        250  0.56  1.00  1.25 1.80 2.50 3.20 3.60 4.00
        320  0.75  1.60  1.60 2.20 3.20 4.00 4.50 5.00
        400  1.00  2.00  2.00 2.80 4.00 5.00 5.60 6.30
        500  1.30  2.50  2.50 3.60 5.00 6.30 7.10 8.00
        630  1.80  3.20  3.20 4.50 6.30 8.00 9.00 10.0
        800  2.40  4.00  4.00 5.60 8.00 10.0 11.0 12.5
        1000 3.20  5.00  5.00 7.10 10.0 12.5 14.0 16.0)");
    ASSERT_EQ(rows.size(), 21U);
    const auto at = [](double volts, std::size_t column) {
        const bool wiring = column < 2;
        const auto degree = column == 0  ? PollutionDegree::One
                            : column < 5 ? PollutionDegree::Two
                                         : PollutionDegree::Three;
        const auto group = static_cast<MaterialGroup>(wiring ? 0 : (column - 2) % 3);
        return iecCreepage(v(volts), degree, group, wiring)->mm();
    };
    for (std::size_t i = 0; i < rows.size(); ++i)
        for (std::size_t c = 0; c < 8; ++c) {
            EXPECT_NEAR(at(rows[i][0], c), rows[i][c + 1], 1e-9) << rows[i][0] << " column " << c;
            if (i > 0) {
                EXPECT_NEAR(at((rows[i - 1][0] + rows[i][0]) / 2, c), (rows[i - 1][c + 1] + rows[i][c + 1]) / 2, 1e-9);
            }
        }
    EXPECT_NEAR(at(3, 4), 0.40, 1e-9);
    EXPECT_FALSE(iecCreepage(v(1000.5), PollutionDegree::Two, MaterialGroup::III, false));
    // Degree 1 without the columns of printed wiring takes those of degree 2.
    EXPECT_EQ(iecCreepage(v(250), PollutionDegree::One, MaterialGroup::II, false)->mm(), 1.8);
}

TEST(Iec60664, AltitudeIsLinearBetweenItsRowsAndEndsAtTenThousand) {
    const double rows[][2] = {{2000, 1.00}, {3000, 1.14}, {4000, 1.29}, {5000, 1.48}, {6000, 1.70},
                              {7000, 1.95}, {8000, 2.25}, {9000, 2.62}, {10000, 3.02}};
    for (const auto& row : rows) EXPECT_NEAR(*iecAltitudeFactor(row[0]), row[1], 1e-12);
    EXPECT_EQ(*iecAltitudeFactor(0), 1.0);
    EXPECT_NEAR(*iecAltitudeFactor(2500), 1.07, 1e-12);
    EXPECT_NEAR(*iecAltitudeFactor(9500), 2.82, 1e-12);
    EXPECT_FALSE(iecAltitudeFactor(10001));
    EXPECT_FALSE(iecAltitudeFactor(std::nan("")));
}

TEST(Iec60664, MainsCountsWithItsRationalisedVoltage) {
    for (const double volts : {110.0, 115.0, 120.0, 127.0}) EXPECT_EQ(iecRationalised(v(volts)).volts(), 125);
    for (const double volts : {220.0, 230.0, 240.0}) EXPECT_EQ(iecRationalised(v(volts)).volts(), 250);
    for (const double volts : {380.0, 400.0, 415.0}) EXPECT_EQ(iecRationalised(v(volts)).volts(), 400);
    for (const double volts : {109.0, 128.0, 200.0, 277.0}) EXPECT_EQ(iecRationalised(v(volts)).volts(), volts);
    EXPECT_EQ(iecLeastSlot(PollutionDegree::One).mm(), 0.25);
    EXPECT_EQ(iecLeastSlot(PollutionDegree::Two).mm(), 1.0);
    EXPECT_EQ(iecLeastSlot(PollutionDegree::Three).mm(), 1.5);
}

TEST(Iec60664, MainsOfTwoHundredAndThirtyVolts) {
    // By hand: category II, 230 V to neutral: row 300, 2500 V, 1.5 mm; creepage 250 V, group III, degree 2: 2.5 mm.
    Insulating rules;
    const auto basic = iecAsk(rules, v(230), v(325.3), v(230), true);
    ASSERT_TRUE(basic);
    EXPECT_NEAR(basic->clearance.mm(), 1.5, 1e-9);
    EXPECT_NEAR(basic->creepage.mm(), 2.5, 1e-9);
    EXPECT_EQ(basic->impulse.volts(), 2500);
    // Reinforced: 4000 V, 3.0 mm; creepage twice, 5.0 mm. Category III: 4000 becomes 6000, so 5.5 mm, and the creepage
    // is never less.
    rules.insulation = Insulation::Reinforced;
    EXPECT_NEAR(iecAsk(rules, v(230), v(325.3), v(230), true)->clearance.mm(), 3.0, 1e-9);
    EXPECT_NEAR(iecAsk(rules, v(230), v(325.3), v(230), true)->creepage.mm(), 5.0, 1e-9);
    rules.category = OvervoltageCategory::III;
    EXPECT_NEAR(iecAsk(rules, v(230), v(325.3), v(230), true)->clearance.mm(), 5.5, 1e-9);
    EXPECT_NEAR(iecAsk(rules, v(230), v(325.3), v(230), true)->creepage.mm(), 5.5, 1e-9);
    // At 4500 m the clearance takes 1.385; the creepage only follows it.
    rules.insulation = Insulation::Basic;
    rules.altitude = 4500;
    const auto high = iecAsk(rules, v(230), v(325.3), v(230), true);
    EXPECT_NEAR(high->clearance.mm(), 3.0 * 1.385, 1e-9);
    EXPECT_NEAR(high->creepage.mm(), 3.0 * 1.385, 1e-9);
    // Printed wiring under a coating that qualifies: degree 1, 0.56 mm; but never less than the clearance.
    rules = {};
    rules.category = OvervoltageCategory::I;
    rules.printedWiring = true;
    EXPECT_NEAR(iecAsk(rules, v(230), v(325.3), v(230), true)->creepage.mm(), 1.0, 1e-9);
    rules.qualifiedCoating = true;
    EXPECT_NEAR(iecAsk(rules, v(230), v(325.3), v(230), true)->creepage.mm(), 0.56, 1e-9);
    EXPECT_NEAR(iecAsk(rules, v(230), v(325.3), v(230), true)->clearance.mm(), 0.5, 1e-9);
    // The printed wiring columns serve neither reinforced insulation nor degree 3.
    rules.qualifiedCoating = false;
    rules.pollution = PollutionDegree::Three;
    EXPECT_NEAR(iecAsk(rules, v(230), v(325.3), v(230), true)->creepage.mm(), 4.0, 1e-9);
    rules.altitude = 12000;
    EXPECT_FALSE(iecAsk(rules, v(230), v(325.3), v(230), true));
}

TEST(Iec60664, ThePairOfAPartAsksByItsStandard) {
    Part part = test::demoPart();
    part.rules.standard = VoltageStandard::Iec60664;
    const Footprint f = derive(part);
    ASSERT_FALSE(f.voltages.empty());
    const VoltagePair& w = f.voltages.front();
    ASSERT_TRUE(w.clearance && w.creepage);
    EXPECT_NEAR(w.needed.mm(), 2.5, 1e-9);
    EXPECT_EQ(w.rms.volts(), 250);
    const auto back = fromText(toText(part), "x");
    ASSERT_TRUE(back);
    EXPECT_EQ(back->rules, part.rules);
    // Beyond the table nothing is promised, and nothing is made up.
    part.rules.iec.altitude = 11000;
    const Footprint high = derive(part);
    EXPECT_FALSE(high.voltages.front().refused.empty());
    EXPECT_EQ(high.gauge("voltage")->state, GaugeState::Unknown);
    // A d.c. and an a.c. potential: sqrt(dc² + ac²) for the surface.
    Potential dc, ac;
    dc.kind = PotentialKind::Dc;
    dc.volts = v(-48);
    ac.volts = v(24);
    ac.source = "transformer";
    EXPECT_NEAR(rmsBetween(dc, ac).volts(), std::hypot(48, 24), 1e-9);
    const VoltagePair low = askedBetween(part.rules, dc, ac);
    EXPECT_FALSE(low.refused.empty()) << "still too high";
    part.rules.iec.altitude = 100;
    const VoltagePair fine = askedBetween(part.rules, dc, ac);
    ASSERT_TRUE(fine.clearance);
    EXPECT_EQ(fine.impulse.volts(), 500);
    EXPECT_NEAR(fine.clearance->mm(), 0.2, 1e-9);
    EXPECT_NEAR(fine.creepage->mm(), 1.20 + (std::hypot(48, 24) - 50) / 13 * 0.05, 1e-6);
}

}  // namespace
}  // namespace punch::iec60664_test
