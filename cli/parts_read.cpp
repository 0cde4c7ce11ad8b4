#include "cli/parts_read.h"

#include <fmt/format.h>

#include <cstdio>
#include <filesystem>

#include "core/library/makes.h"
#include "core/part/file.h"

namespace punch {

int failed(const Problem& problem) {
    fmt::print(stderr, "punch: {}\n", problem.text());
    return kFailed;
}

Result<Part> loadFollowed(const std::string& file) {
    auto part = loadPart(file);
    if (!part || part->makes.empty()) return part;
    FollowedMakes now = withMakesAsTheyAre(*part, std::filesystem::absolute(file).parent_path());
    for (const std::string& words : now.changed) fmt::print(stderr, "punch: note: changed since: {}\n", words);
    for (const std::string& words : now.missing) fmt::print(stderr, "punch: note: {}\n", words);
    return now.part;
}

}  // namespace punch
