#pragma once
// The .punch file: a Part as JSON (docs/file-format.md, docs/punch.schema.json).
//
// Reading and writing are inverse: save, load, save is byte-identical, and fields that this version does not know
// are written back in their object. Lengths are numbers in mm, or strings with a unit ("0.1in").

#include <filesystem>
#include <string>
#include <string_view>

#include "core/base/result.h"
#include "core/part/part.h"

namespace punch {

inline constexpr int kFileVersion = 2;
inline constexpr const char* kFileSuffix = ".punch";

/// The text of a .punch file; ends with a newline.
std::string toText(const Part& part);

/// Errors: not JSON, not a .punch file, a newer version, a field of the wrong kind (named by its path), NaN.
Result<Part> fromText(std::string_view text, const std::string& where);

/// Errors: no such file, unreadable, and those of fromText.
Result<Part> loadPart(const std::filesystem::path& file);

/// Writes beside the file and renames, so that the old content stays whole until the new one is.
/// Errors: read-only folder, full disk, a folder in the way.
Result<void> savePart(const Part& part, const std::filesystem::path& file);

}  // namespace punch
