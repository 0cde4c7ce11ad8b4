#pragma once
// A second look where a pattern says that something should stand: pins that are too faint to be found alone.

#include <vector>

#include "core/picture/find.h"

namespace punch {

/// Features at the empty positions of the formation that was found, and one step beyond the ends of its rows: a rim of
/// the others' size and tone, where the pattern expects it. Frame: pixels of `grey`.
std::vector<SeenFeature> seenOnSecondLook(const Grey& grey, const Found& found);

}  // namespace punch
