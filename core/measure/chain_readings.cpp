#include "core/measure/chain_readings.h"

#include "core/measure/adjust.h"

namespace punch {

Chain readingsBehind(const Part& part, const Adjustment& adjustment, const Expr& value, std::size_t most,
                     double least) {
    Chain chain;
    for (const auto& [index, weight] : adjustment.weightsIn(value)) {
        if (chain.size() >= most || weight < least) break;
        const Reading& r = part.readings[index];
        const Length mean = Length::fromMm(adjustment.readings()[index].stats.mean);
        chain.push_back({readingWords(part, r), "", {}, mean, ChainStep::Link::Reading, r.id, weight});
    }
    return chain;
}

}  // namespace punch
