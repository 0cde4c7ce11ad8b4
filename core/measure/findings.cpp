#include "core/measure/findings.h"

#include <fmt/format.h>

#include "core/measure/adjust.h"
#include "core/part/numbering.h"

namespace punch {

std::vector<Spread> spreadsOf(const Part& part, const Adjustment& adjustment) {
    std::vector<Spread> all;
    for (std::size_t i = 0; i < part.readings.size(); ++i) {
        const ReadingStats& s = adjustment.readings()[i].stats;
        if (s.usable && s.spread > 0) all.push_back({part.readings[i].id, Length::fromMm(s.spread), s.specimens});
    }
    return all;
}

std::vector<Model::Complaint> complaintsOf(const Part& part, const Adjustment& adjustment) {
    std::vector<Model::Complaint> all = adjustment.model().complaints();
    for (const auto& [key, o] : part.overrides)
        if (o.plated && spotOf(part, key) == nullptr)
            all.push_back(
                {key,
                 "plated or bare is said of pegs and lugs; a pin's hole is plated, or it has none on a surface land"});
    for (const std::string& number : doubledNumbers(part))
        all.push_back({"numbers", fmt::format("the number {} stands at more than one pin", number)});
    return all;
}

std::vector<Explanation> explanationsOf(const Part& part, const Adjustment& adjustment) {
    std::vector<Explanation> all;
    for (const Way& way : adjustment.ways()) {
        all.push_back({{}, way.chi2});
        for (const std::size_t i : way.readings) all.back().readings.push_back(part.readings[i].id);
    }
    return all;
}

}  // namespace punch
