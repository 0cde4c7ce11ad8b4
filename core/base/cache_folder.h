#pragma once
// Where what can be made again is kept: $XDG_CACHE_HOME/punchbit, else ~/.cache/punchbit.

#include <filesystem>
#include <string>

namespace punch {

/// A folder of this name in it, which need not be there yet; empty where there is no home.
std::filesystem::path cacheFolder(const std::string& name);

}  // namespace punch
