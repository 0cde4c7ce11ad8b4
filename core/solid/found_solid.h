#pragma once
// What of a solid is kept with a part: its leads, its outline from above, its height.

#include "core/part/solid_file.h"
#include "core/solid/leads.h"

namespace punch {

/// For one way to stand. Name, file and digest are left to whoever knows them.
SolidFile foundIn(const Solid& solid, const Standing& standing);
/// The same for a file that is there already and stands in its own way: what was found is found anew, leads keep the
/// feature that they were where they still are.
SolidFile foundAgain(const Solid& solid, SolidFile file);
/// What one of its bodies sweeps as it moves, and where it first touches the others.
void findMotion(const Solid& solid, const Standing& standing, SolidMotion& motion);
/// SHA-1 of a file's bytes, as text.
std::string digestOf(const std::string& bytes);

}  // namespace punch
