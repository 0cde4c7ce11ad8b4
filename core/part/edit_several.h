#pragma once
// Edits of several features at once.

#include <vector>

#include "core/base/result.h"
#include "core/part/part.h"

namespace punch {

/// Removes them all, or none: single features and faces; whole formations (one stays); positions of a grid, which are
/// left out; pins at the end of a row or ring. Their readings stay, as orphans. Errors: a pin that stands inside its
/// pattern, the last formation.
Result<Part> withoutFeatures(Part part, const std::vector<FeatureId>& features);

/// Changes what is set against the rules at each of them.
template <class Change>
Part withOverrides(Part part, const std::vector<std::string>& targets, Change change) {
    for (const std::string& target : targets) {
        PadOverride& o = part.overrides[target];
        change(o);
        // A reason alone sets nothing.
        PadOverride empty;
        empty.reason = o.reason;
        if (o == empty && o.unknown.empty()) part.overrides.erase(target);
    }
    return part;
}

/// What all of them have set alike.
PadOverride commonOverride(const Part& part, const std::vector<std::string>& targets);

}  // namespace punch
