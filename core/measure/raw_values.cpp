#include "core/measure/raw_values.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>

#include "core/measure/instruments.h"

namespace punch {
namespace {

constexpr double kPriorWeight = 8;  // how many degrees of freedom the table's s0 counts for
constexpr double kOddBySpread = 6;  // times s0
constexpr double kOddBySteps = 4;   // times the step

double median(std::vector<double> v) {
    std::sort(v.begin(), v.end());
    const std::size_t n = v.size();
    return n % 2 == 1 ? v[n / 2] : (v[n / 2 - 1] + v[n / 2]) / 2;
}

struct Pool {
    double sum = 0;      // of (n-1) s²
    double freedom = 0;  // of (n-1)
};

}  // namespace

std::vector<ReadingStats> readingStats(const Part& part) {
    std::vector<ReadingStats> stats(part.readings.size());
    std::vector<std::vector<double>> counted(part.readings.size());
    std::map<std::pair<std::string, Handling>, Pool> pools;

    for (std::size_t j = 0; j < part.readings.size(); ++j) {
        const Reading& r = part.readings[j];
        ReadingStats& s = stats[j];
        s.asked.assign(r.raw.size(), false);
        const Instrument* instrument = instrumentByName(r.instrument);
        if (instrument == nullptr) {
            s.question = fmt::format("the instrument “{}” is not known: choose one", r.instrument);
            continue;
        }
        if (r.raw.empty()) {
            s.question = "no value yet";
            continue;
        }
        std::vector<double> all;
        for (const RawValue& raw : r.raw) all.push_back(raw.value.mm());
        const double middle = median(all);
        const Handling handling = handlingOf(r.contact);
        const double far =
            std::max(kOddBySpread * startingHandling(*instrument, handling), kOddBySteps * instrument->step);
        for (std::size_t k = 0; k < all.size(); ++k) {
            // The tolerance keeps a value exactly at the bound on the side that decimals mean.
            s.asked[k] = std::abs(all[k] - middle) > far + 1e-9 && !r.raw[k].meant;
            if (!s.asked[k]) {
                counted[j].push_back(all[k]);
                continue;
            }
            const std::string typed = fmt::format("{:.3f} mm", all[k]);
            s.question =
                all.size() == 2
                    ? fmt::format("{:.3f} and {:.3f} mm cannot both be right: which is meant?", all[0], all[1])
                    : fmt::format("{} lies {:.3f} mm from its fellows: is it meant?", typed, std::abs(all[k] - middle));
        }
        if (counted[j].empty()) continue;
        s.usable = true;
        const auto n = static_cast<double>(counted[j].size());
        s.mean = std::accumulate(counted[j].begin(), counted[j].end(), 0.0) / n;
        Pool& pool = pools[{r.instrument, handling}];
        for (const double v : counted[j]) pool.sum += (v - s.mean) * (v - s.mean);
        pool.freedom += n - 1;
    }

    for (std::size_t j = 0; j < part.readings.size(); ++j) {
        if (!stats[j].usable) continue;
        const Reading& r = part.readings[j];
        const Instrument& instrument = *instrumentByName(r.instrument);
        const Handling handling = handlingOf(r.contact);
        const double s0 = startingHandling(instrument, handling);
        const Pool& pool = pools[{r.instrument, handling}];
        const double s2 = (kPriorWeight * s0 * s0 + pool.sum) / (kPriorWeight + pool.freedom);
        const double limit = std::abs(stats[j].mean) > 100 ? instrument.limitLong : instrument.limit;
        stats[j].u = std::sqrt(limit * limit / 3 + s2 / static_cast<double>(counted[j].size()) +
                               instrument.step * instrument.step / 12);
    }
    return stats;
}

}  // namespace punch
