#pragma once
// The footprint as JSON for other programs (docs/derive-json.md). Lengths in mm from the datum, x right, y up, seen
// from the part side; rotation in degrees counter-clockwise; null where something is loose.

#include <optional>
#include <string>

#include "core/approval/approval.h"
#include "core/fit/drop_in.h"
#include "core/footprint.h"

namespace punch {

/// `report`: a full run of drop-in; without it the coarse share of the footprint is given. `standing` is that of
/// the part as it is kept; none: of `part`.
std::string deriveJson(const Part& part, const Footprint& footprint, const DropInReport* report = nullptr,
                       const std::optional<ApprovalState>& standing = {});

}  // namespace punch
