#include "core/clear/ipc2221_table61.h"

#include <array>

namespace punch {
namespace {

struct Row {
    double upTo;  // volts
    std::array<double, 7> mm;
};

//                                    B1    B2    B3    B4    A5    A6    A7
constexpr std::array<Row, 9> kRows = {{{15, {0.05, 0.1, 0.1, 0.05, 0.13, 0.13, 0.13}},
                                       {30, {0.05, 0.1, 0.1, 0.05, 0.13, 0.25, 0.13}},
                                       {50, {0.1, 0.6, 0.6, 0.13, 0.13, 0.4, 0.13}},
                                       {100, {0.1, 0.6, 1.5, 0.13, 0.13, 0.5, 0.13}},
                                       {150, {0.2, 0.6, 3.2, 0.4, 0.4, 0.8, 0.4}},
                                       {170, {0.2, 1.25, 3.2, 0.4, 0.4, 0.8, 0.4}},
                                       {250, {0.2, 1.25, 6.4, 0.4, 0.4, 0.8, 0.4}},
                                       {300, {0.2, 1.25, 12.5, 0.4, 0.4, 0.8, 0.8}},
                                       {500, {0.25, 2.5, 12.5, 0.8, 0.8, 1.5, 0.8}}}};
// Millimetres for each volt above 500.
constexpr std::array<double, 7> kPerVolt = {0.0025, 0.005, 0.025, 0.00305, 0.00305, 0.00305, 0.00305};

}  // namespace

Length ipc2221Spacing(VoltageColumn column, Voltage peak) {
    const auto c = static_cast<std::size_t>(column);
    const double volts = abs(peak).volts();
    for (const Row& row : kRows)
        if (volts <= row.upTo) return Length::fromMm(row.mm[c]);
    return Length::fromMm(kRows.back().mm[c] + kPerVolt[c] * (volts - 500.0));
}

}  // namespace punch
