#pragma once
// What the footprint of several makes says of each of them and of the holes that they share, as JSON (docs/derive-json).

#include <nlohmann/json.hpp>

#include "core/footprint.h"

namespace punch {

/// {"each": [...], "holes": [...]}; lengths in mm, shares from 0 to 1.
nlohmann::ordered_json makesJson(const Part& part, const Footprint& footprint);

}  // namespace punch
