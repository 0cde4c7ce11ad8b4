#pragma once
// Fab profiles that come with Punchbit, made up for the Fennel House: what a careful, a usual and a coarse board maker
// can do. A part keeps a copy of its own, which the user may change.

#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/part/land.h"

namespace punch {

/// In a library's folder.
inline constexpr const char* kProfilesFile = "fab-profiles.json";

/// "House" (the default), "Orchard Lane, fine" and "Barn, coarse".
const std::vector<FabProfile>& shippedProfiles();

/// Profiles of a library: the shipped ones, and those in `fab-profiles.json` in its folder, which win by name.
/// Errors: the file is there and cannot be read.
Result<std::vector<FabProfile>> profilesOf(const std::string& folder);
/// Adds a profile to a library's file, or replaces the one of its name.
Result<void> keepProfile(const std::string& folder, const FabProfile& profile);

}  // namespace punch
