#pragma once
// A turned profile as it is typed: "3 0, 3 2.5, 1.5 4": distance from the axis and height of each corner, mm.

#include <string>
#include <utility>
#include <vector>

#include "core/base/result.h"

namespace punch {

using ProfileCorner = std::pair<double, double>;  ///< radius, height

/// Errors: what is no pair of numbers; less than two corners; a radius below 0; a profile that does not rise, or
/// encloses nothing.
Result<std::vector<ProfileCorner>> turnedProfile(const std::string& typed);

}  // namespace punch
