#include "core/measure/chain_readings.h"

#include "core/measure/adjust.h"

#include <fmt/format.h>

namespace punch {

ChainReadings::ChainReadings(const Part& part, const Adjustment& adjustment) : adjustment_(adjustment) {
    const FeatureNames names(part);
    steps_.reserve(part.readings.size());
    for (std::size_t i = 0; i < part.readings.size(); ++i) {
        const Reading& r = part.readings[i];
        ChainStep step{readingWords(part, r, names), "", {}, {}, ChainStep::Link::Reading, r.id, 0};
        const double mean = adjustment.readings()[i].stats.mean;
        if (inDegrees(r.contact))
            step.detail = fmt::format("{:.2f}°", mean);
        else if (!r.sameAs.empty())
            step.detail = "same";
        else
            step.value = Length::fromMm(mean);
        steps_.push_back(std::move(step));
    }
}

Chain ChainReadings::behind(const Expr& value, std::size_t most, double least) const {
    Chain chain;
    for (const auto& [index, weight] : adjustment_.weightsIn(value)) {
        if (chain.size() >= most || weight < least) break;
        chain.push_back(steps_[index]);
        chain.back().weight = weight;
    }
    return chain;
}

}  // namespace punch
