#include "core/base/cache_folder.h"

#include <cstdlib>

namespace punch {

namespace fs = std::filesystem;

fs::path cacheFolder(const std::string& name) {
    if (const char* cache = std::getenv("XDG_CACHE_HOME"); cache != nullptr && *cache == '/')
        return fs::path(cache) / "punchbit" / name;
    if (const char* home = std::getenv("HOME"); home != nullptr && *home == '/')
        return fs::path(home) / ".cache" / "punchbit" / name;
    return {};
}

}  // namespace punch
