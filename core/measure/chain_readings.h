#pragma once
// The first links of a chain: which readings stand behind a value, with their weight in it.

#include <vector>

#include "core/base/chain.h"
#include "core/model/expr.h"
#include "core/part/part.h"

namespace punch {

class Adjustment;

/// Writes chains of one adjusted part; the words of its readings are made once.
class ChainReadings {
public:
    ChainReadings(const Part& part, const Adjustment& adjustment);

    /// The readings behind `value`, the weightiest first: at most `most`, none below the share `least`.
    Chain behind(const Expr& value, std::size_t most, double least) const;

private:
    const Adjustment& adjustment_;
    std::vector<ChainStep> steps_;  ///< one for each reading, without its weight
};

}  // namespace punch
