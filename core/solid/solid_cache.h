#pragma once
// Triangles of solids that were read, kept by the digest of their file and how finely they were made, in the user's
// cache folder (XDG_CACHE_HOME/punchbit/solids): may be deleted at any time. What is damaged or of another build is not
// used.

#include <optional>
#include <string>

#include "core/solid/solid_worker.h"

namespace punch {

/// None where it was not kept, or cannot be used.
std::optional<Solid> keptSolid(const std::string& digest, const SolidLimits& limits = {});
/// Where it cannot be written nothing is kept. The oldest give way when there are more than `kMostKept` megabytes.
void keepSolid(const std::string& digest, const Solid& solid, const SolidLimits& limits = {});

inline constexpr double kMostKept = 500;

}  // namespace punch
