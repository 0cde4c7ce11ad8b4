#pragma once
// JSON from files of strangers: parsed within a depth that nothing we write comes near, so that no later step of
// copying, comparing or writing it runs out of stack.

#include <nlohmann/json.hpp>
#include <string>
#include <string_view>

#include "core/base/result.h"

namespace punch {

inline constexpr int kMostJsonDepth = 100;

/// Errors: no JSON or cut off, numbers beyond all bounds, nested deeper than kMostJsonDepth. `name` stands in messages.
Result<nlohmann::ordered_json> parseJson(std::string_view text, const std::string& name);

}  // namespace punch
