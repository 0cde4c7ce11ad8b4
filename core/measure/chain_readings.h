#pragma once
// The first links of a chain: which readings stand behind a value, with their weight in it.

#include "core/footprint.h"
#include "core/model/expr.h"

namespace punch {

class Adjustment;

/// The readings behind `value`, the weightiest first: at most `most`, none below the share `least`.
Chain readingsBehind(const Part& part, const Adjustment& adjustment, const Expr& value, std::size_t most, double least);

}  // namespace punch
