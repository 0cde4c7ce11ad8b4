#pragma once
// Files appear whole or not at all.

#include <filesystem>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/result.h"

namespace punch {

/// Writes a temporary file beside `file`, flushes it to the disk and renames it over `file`.
/// Errors: folder missing or read-only, disk full. The old file is untouched then, and no temporary file stays.
Result<void> writeAtomically(const std::filesystem::path& file, std::string_view content);

struct NamedContent {
    std::string name;
    std::string content;
};

/// Stands in a folder while several files are put in place, and stays when that was cut short.
inline constexpr const char* kUnfinished = "UNFINISHED.txt";

/// Writes all files into `folder` (made when missing), or none: every file is written and flushed beside its place
/// before the first is renamed. A process that is killed between the renames leaves kUnfinished behind.
Result<void> writeAllAtomically(const std::filesystem::path& folder, const std::vector<NamedContent>& files);

/// Is it a file with an end, after links are resolved? Errors: missing, a folder, a device, a pipe, over `mostBytes`.
Result<void> plainFile(const std::filesystem::path& file, double mostBytes);

/// The whole file. Errors: as plainFile, unreadable, over `mostBytes`.
Result<std::string> readWhole(const std::filesystem::path& file, double mostBytes = 64e6);

}  // namespace punch
