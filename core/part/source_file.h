#pragma once
// Where a source's file lies: beside the part, and nowhere else, whatever the part's file says.

#include <filesystem>
#include <string>

#include "core/base/result.h"

namespace punch {

/// `named` as in Source::picture. The file need not exist. Errors: an absolute name, one with "..", one that leads out
/// of the part's folder once links are resolved, a part without a file.
Result<std::filesystem::path> sourceFile(const std::filesystem::path& partFile, const std::string& named);

/// May this address be opened in a browser? Only http and https are; everything else is shown and not opened.
bool mayBeOpened(const std::string& link);

}  // namespace punch
