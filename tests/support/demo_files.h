#pragma once
// The demo's parts, all of them.

#include <algorithm>
#include <filesystem>
#include <string>
#include <vector>

#include "tests/support/parts.h"

namespace punch::test {

inline std::vector<std::string> demoFiles() {
    std::vector<std::string> files;
    for (const auto& entry : std::filesystem::directory_iterator(sourceFolder() + "/demo/fennel-house"))
        if (entry.path().extension() == ".punch") files.push_back(entry.path().string());
    std::sort(files.begin(), files.end());
    return files;
}

}  // namespace punch::test
