#pragma once
// What every command of punch does alike: saying what failed, and reading a part with its makes as their files are now.

#include <cmath>
#include <string>

#include "core/base/result.h"
#include "core/part/part.h"

namespace punch {

/// Exit code where something cannot be read or written.
inline constexpr int kFailed = 2;

/// Says it on standard error; kFailed.
int failed(const Problem& problem);

/// The part of a file; where it takes several makes, with these as they are now, and what changed said on standard
/// error. Errors: as loadPart.
Result<Part> loadFollowed(const std::string& file);

/// A number of a JSON output to six digits, never minus nothing.
inline double kept(double v) { return std::round(v * 1e6) / 1e6 + 0.0; }

}  // namespace punch
