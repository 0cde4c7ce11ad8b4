#pragma once
// What the rules of print ask for, as marks: the body on the assembly drawing, its outline, the first pin, reference
// and value. They have no identifier; all else is as for a mark that somebody added.

#include <vector>

#include "core/part/part.h"

namespace punch {

/// In the order in which they are printed: what is free for the later ones depends on the earlier.
std::vector<Mark> ruledMarks(const Part& part);

}  // namespace punch
