#pragma once
// What is wrong with the parts of a library, for people and for continuous integration.

#include <string>
#include <vector>

#include "core/library/library.h"

namespace punch {

/// JUnit XML: a case for each part, a failure where a gauge is no-go or the file cannot be read; what is unknown is
/// skipped, as it was not judged.
std::string junitReport(const std::vector<LibraryPart>& parts);
/// SARIF 2.1.0: a result for each gauge that is not go, places relative to `folder`.
std::string sarifReport(const std::vector<LibraryPart>& parts, const std::filesystem::path& folder);

}  // namespace punch
