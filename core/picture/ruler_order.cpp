#include "core/picture/ruler_order.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

namespace punch {

namespace {

constexpr double kLonger = 1.1;  // longer marks by the others
constexpr double kApart = 0.9;   // share of the marks on their side of the middle

/// The value below which a share of them lies.
double shareOf(std::vector<double> v, double share) {
    std::sort(v.begin(), v.end());
    return v[std::min(v.size() - 1, static_cast<std::size_t>(share * static_cast<double>(v.size())))];
}

/// The phase at which every `period`th is longer than all others; -1 when at none.
int phaseOf(const std::vector<double>& lengths, int period) {
    int best = -1;
    double most = kLonger;
    for (int phase = 0; phase < period; ++phase) {
        std::vector<double> chosen, rest;
        for (std::size_t i = 0; i < lengths.size(); ++i)
            if (lengths[i] > 0) (static_cast<int>(i) % period == phase ? chosen : rest).push_back(lengths[i]);
        // Two of many may be longer by chance.
        if (chosen.size() < (period == 10 ? 3u : 2u) || rest.size() < 2) continue;
        // Nearly all of them, by nearly all of the others: the longer ones may differ among themselves.
        const double shorter = shareOf(chosen, 1 - kApart), longer = shareOf(rest, kApart);
        if (longer <= 0 || shorter / longer <= most) continue;
        most = shorter / longer;
        best = phase;
    }
    return best;
}

}  // namespace

std::vector<int> orderOfLengths(const std::vector<double>& lengths) {
    std::vector<int> order;
    std::vector<double> now = lengths;
    while (now.size() >= 4) {
        int period = 0, phase = -1;
        // Among millimetres the tens may be the only longer ones, or may be so much longer that the fives hide.
        for (const int p : {2, 5, 10}) {
            phase = phaseOf(now, p);
            if (phase < 0) continue;
            period = p;
            break;
        }
        if (period == 0) break;
        order.push_back(period);
        std::vector<double> next;
        for (std::size_t i = static_cast<std::size_t>(phase); i < now.size(); i += static_cast<std::size_t>(period))
            next.push_back(now[i]);
        now = std::move(next);
    }
    return order;
}

std::vector<double> stepsByOrder(const std::vector<int>& order) {
    if (order.empty()) return {};
    // Millimetres before tenths of an inch.
    if (order.front() == 5 || order.front() == 10) return {1.0, 2.54};
    const auto halved = static_cast<std::size_t>(
        std::find_if(order.begin(), order.end(), [](int p) { return p != 2; }) - order.begin());
    if (halved == 1 && order.size() > 1) return {0.5, 1.27};
    if (halved < 2) return {};
    std::vector<double> steps;
    // Halved as often as lengths differ, to a whole inch; the longest may be no longer than the halves of an inch.
    for (const int more : {0, 1, -1}) {
        const int times = static_cast<int>(halved) + more;
        if (times >= 2 && times <= 6) steps.push_back(25.4 / std::pow(2.0, times));
    }
    return steps;
}

std::string orderWords(const std::vector<int>& order) {
    std::string words;
    int product = 1;
    for (const int p : order) {
        product *= p;
        words += fmt::format("{}{}{}", words.empty() ? "every " : ", ", product,
                             product == 2   ? "nd"
                             : product == 3 ? "rd"
                                            : "th");
    }
    return words.empty() ? words : words + " longer";
}

}  // namespace punch
