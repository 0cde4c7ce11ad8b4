#include "core/clear/iec60664.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cmath>

namespace punch {

namespace {

// Table F.1: volts to neutral, rated impulse by overvoltage category I to IV.
struct ImpulseRow {
    double upTo;
    std::array<double, 4> volts;
};
constexpr std::array<ImpulseRow, 6> kImpulse = {{{50, {330, 500, 800, 1500}},
                                                 {100, {500, 800, 1500, 2500}},
                                                 {150, {800, 1500, 2500, 4000}},
                                                 {300, {1500, 2500, 4000, 6000}},
                                                 {600, {2500, 4000, 6000, 8000}},
                                                 {1000, {4000, 6000, 8000, 12000}}}};
constexpr std::array<double, 9> kSeries = {330, 500, 800, 1500, 2500, 4000, 6000, 8000, 12000};

// Table F.2, inhomogeneous field: impulse volts, mm.
constexpr std::array<std::array<double, 2>, 17> kClearance = {{{330, 0.01},
                                                               {400, 0.02},
                                                               {500, 0.04},
                                                               {600, 0.06},
                                                               {800, 0.10},
                                                               {1000, 0.15},
                                                               {1200, 0.25},
                                                               {1500, 0.5},
                                                               {2000, 1.0},
                                                               {2500, 1.5},
                                                               {3000, 2.0},
                                                               {4000, 3.0},
                                                               {5000, 4.0},
                                                               {6000, 5.5},
                                                               {8000, 8.0},
                                                               {10000, 11},
                                                               {12000, 14}}};

// Table A.2: metres, factor.
constexpr std::array<std::array<double, 2>, 9> kAltitude = {{{2000, 1.00},
                                                             {3000, 1.14},
                                                             {4000, 1.29},
                                                             {5000, 1.48},
                                                             {6000, 1.70},
                                                             {7000, 1.95},
                                                             {8000, 2.25},
                                                             {9000, 2.62},
                                                             {10000, 3.02}}};

// Table F.4: r.m.s. volts; printed wiring at degree 1 and 2; degree 2 groups I, II, III; degree 3 groups I, II, III.
struct CreepageRow {
    double volts;
    std::array<double, 8> mm;
};
constexpr std::array<CreepageRow, 21> kCreepage = {
    {{10, {0.025, 0.04, 0.40, 0.40, 0.40, 1.00, 1.00, 1.00}}, {12.5, {0.025, 0.04, 0.42, 0.42, 0.42, 1.05, 1.05, 1.05}},
     {16, {0.025, 0.04, 0.45, 0.45, 0.45, 1.10, 1.10, 1.10}}, {20, {0.025, 0.04, 0.48, 0.48, 0.48, 1.20, 1.20, 1.20}},
     {25, {0.025, 0.04, 0.50, 0.50, 0.50, 1.25, 1.25, 1.25}}, {32, {0.025, 0.04, 0.53, 0.53, 0.53, 1.30, 1.30, 1.30}},
     {40, {0.025, 0.04, 0.56, 0.80, 1.10, 1.40, 1.60, 1.80}}, {50, {0.025, 0.04, 0.60, 0.85, 1.20, 1.50, 1.70, 1.90}},
     {63, {0.04, 0.063, 0.63, 0.90, 1.25, 1.60, 1.80, 2.00}}, {80, {0.063, 0.10, 0.67, 0.95, 1.30, 1.70, 1.90, 2.10}},
     {100, {0.10, 0.16, 0.71, 1.00, 1.40, 1.80, 2.00, 2.20}}, {125, {0.16, 0.25, 0.75, 1.05, 1.50, 1.90, 2.10, 2.40}},
     {160, {0.25, 0.40, 0.80, 1.10, 1.60, 2.00, 2.20, 2.50}}, {200, {0.40, 0.63, 1.00, 1.40, 2.00, 2.50, 2.80, 3.20}},
     {250, {0.56, 1.00, 1.25, 1.80, 2.50, 3.20, 3.60, 4.00}}, {320, {0.75, 1.60, 1.60, 2.20, 3.20, 4.00, 4.50, 5.00}},
     {400, {1.00, 2.00, 2.00, 2.80, 4.00, 5.00, 5.60, 6.30}}, {500, {1.30, 2.50, 2.50, 3.60, 5.00, 6.30, 7.10, 8.00}},
     {630, {1.80, 3.20, 3.20, 4.50, 6.30, 8.00, 9.00, 10.0}}, {800, {2.40, 4.00, 4.00, 5.60, 8.00, 10.0, 11.0, 12.5}},
     {1000, {3.20, 5.00, 5.00, 7.10, 10.0, 12.5, 14.0, 16.0}}}};

constexpr const char* kName = "IEC 60664-1";

}  // namespace

Result<Voltage> iecImpulse(OvervoltageCategory category, Voltage toNeutral) {
    const double volts = abs(toNeutral).volts();
    for (const ImpulseRow& row : kImpulse)
        if (volts <= row.upTo) return Voltage::fromVolts(row.volts[static_cast<std::size_t>(category)]);
    return problem(fmt::format("table F.1 ends at 1000 V to neutral, this is {:.0f} V", volts), kName,
                   "Find the distance by another rule and keep it by hand");
}

Result<Voltage> iecNextImpulse(Voltage impulse) {
    for (const double v : kSeries)
        if (v > impulse.volts() + 1e-9) return Voltage::fromVolts(v);
    return problem("the series of rated impulse voltages ends at 12 kV", kName,
                   "Find the distance by another rule and keep it by hand");
}

Result<Length> iecClearance(Voltage impulse, PollutionDegree pollution, bool printedWiring) {
    const double volts = abs(impulse).volts();
    const auto column =
        std::find_if(kClearance.begin(), kClearance.end(), [&](const auto& c) { return volts <= c[0] + 1e-9; });
    if (column == kClearance.end())
        return problem(fmt::format("table F.2 ends at 12 kV, this is {:.1f} kV", volts / 1000), kName,
                       "Find the distance by another rule and keep it by hand");
    const double least = pollution == PollutionDegree::Three ? 0.8
                         : pollution == PollutionDegree::One ? 0.0
                         : printedWiring                     ? 0.04
                                                             : 0.2;
    return Length::fromMm(std::max((*column)[1], least));
}

Result<double> iecAltitudeFactor(double metres) {
    if (!(metres <= kAltitude.back()[0]))
        return problem(fmt::format("table A.2 ends at 10 000 m, this is {:.0f} m", metres), kName,
                       "No factor is known there");
    if (metres <= kAltitude.front()[0]) return 1.0;
    for (std::size_t i = 1; i < kAltitude.size(); ++i)
        if (metres <= kAltitude[i][0]) {
            const double share = (metres - kAltitude[i - 1][0]) / (kAltitude[i][0] - kAltitude[i - 1][0]);
            return kAltitude[i - 1][1] + share * (kAltitude[i][1] - kAltitude[i - 1][1]);
        }
    return kAltitude.back()[1];
}

Result<Length> iecCreepage(Voltage rms, PollutionDegree pollution, MaterialGroup group, bool printedWiring) {
    const double volts = abs(rms).volts();
    std::size_t column = 2 + static_cast<std::size_t>(group);
    if (pollution == PollutionDegree::Three)
        column += 3;
    else if (printedWiring)
        column = pollution == PollutionDegree::One ? 0 : 1;
    if (volts <= kCreepage.front().volts) return Length::fromMm(kCreepage.front().mm[column]);
    for (std::size_t i = 1; i < kCreepage.size(); ++i)
        if (volts <= kCreepage[i].volts) {
            const CreepageRow &low = kCreepage[i - 1], &high = kCreepage[i];
            const double share = (volts - low.volts) / (high.volts - low.volts);
            return Length::fromMm(low.mm[column] + share * (high.mm[column] - low.mm[column]));
        }
    return problem(fmt::format("table F.4 ends at 1000 V r.m.s., this is {:.0f} V", volts), kName,
                   "Find the distance by another rule and keep it by hand");
}

Voltage iecRationalised(Voltage mains) {
    const double v = abs(mains).volts();
    if (v >= 110 && v <= 127) return Voltage::fromVolts(125);
    if (v >= 220 && v <= 240) return Voltage::fromVolts(250);
    if (v >= 380 && v <= 415) return Voltage::fromVolts(400);
    return mains;
}

Length iecLeastSlot(PollutionDegree pollution) {
    return Length::fromMm(pollution == PollutionDegree::One ? 0.25 : pollution == PollutionDegree::Two ? 1.0 : 1.5);
}

Result<IecAsk> iecAsk(const Insulating& rules, Voltage rms, Voltage peak, Voltage toNeutral, bool mains) {
    // A qualified coating (IEC 60664-3, type 1) brings degree 1 under it.
    const PollutionDegree pollution = rules.qualifiedCoating ? PollutionDegree::One : rules.pollution;
    const bool reinforced = rules.insulation == Insulation::Reinforced;
    const bool wiring = rules.printedWiring && !reinforced && pollution != PollutionDegree::Three;
    IecAsk ask;
    ask.rms = mains ? iecRationalised(rms) : abs(rms);
    auto impulse = iecImpulse(rules.category, toNeutral);
    if (impulse && reinforced) impulse = iecNextImpulse(*impulse);
    if (!impulse) return tl::make_unexpected(impulse.error());
    ask.impulse = *impulse;
    const auto byImpulse = iecClearance(*impulse, pollution, wiring);
    const auto byPeak = iecClearance(peak, pollution, wiring);
    const auto factor = iecAltitudeFactor(rules.altitude);
    const auto creepage = iecCreepage(ask.rms, pollution, rules.group, wiring);
    if (!byImpulse) return tl::make_unexpected(byImpulse.error());
    if (!byPeak) return tl::make_unexpected(byPeak.error());
    if (!factor) return tl::make_unexpected(factor.error());
    if (!creepage) return tl::make_unexpected(creepage.error());
    ask.clearance = *factor * max(*byImpulse, *byPeak);
    ask.creepage = max(reinforced ? 2.0 * *creepage : *creepage, ask.clearance);
    return ask;
}

}  // namespace punch
