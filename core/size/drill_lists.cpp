#include "core/size/drill_lists.h"

#include <algorithm>

namespace punch {
namespace {

std::vector<Length> metric() {
    std::vector<Length> list;
    for (int um = 200; um <= 3000; um += 50) list.push_back(Length::fromUm(um));
    for (int um = 3100; um <= 6500; um += 100) list.push_back(Length::fromUm(um));
    return list;
}

std::vector<Length> inch() {
    // Number drills 80 down to 1, thousandths of an inch times ten. Source: ASME B94.11M.
    static constexpr int numbers[] = {
        135,  145,  160,  180,  200,  210,  225,  240,  250,  260,  280,  292,  310,  320,  330,  350,
        360,  370,  380,  390,  400,  410,  420,  430,  465,  520,  550,  595,  635,  670,  700,  730,
        760,  785,  810,  820,  860,  890,  935,  960,  980,  995,  1015, 1040, 1065, 1100, 1110, 1130,
        1160, 1200, 1285, 1360, 1405, 1440, 1470, 1495, 1520, 1540, 1570, 1590, 1610, 1660, 1695, 1730,
        1770, 1800, 1820, 1850, 1890, 1910, 1935, 1960, 1990, 2010, 2040, 2055, 2090, 2130, 2210, 2280};
    std::vector<Length> list;
    for (const int n : numbers) list.push_back(Length::fromInch(n / 1e4));
    for (int n = 1; n <= 16; ++n) list.push_back(Length::fromInch(n / 64.0));
    std::sort(list.begin(), list.end());
    return list;
}

}  // namespace

std::vector<Length> drillList(const Rules& rules) {
    if (rules.drills == DrillList::Metric) return metric();
    if (rules.drills == DrillList::Inch) return inch();
    std::vector<Length> own = rules.ownDrills;
    std::erase_if(own, [](Length d) { return d <= Length(); });
    std::sort(own.begin(), own.end());
    return own;
}

std::optional<Length> nextDrillUp(const std::vector<Length>& list, Length least) {
    // A nanometre of rounding must not cost a whole drill step.
    const auto it = std::lower_bound(list.begin(), list.end(), least - Length::fromNm(1));
    if (it == list.end()) return {};
    return *it;
}

}  // namespace punch
