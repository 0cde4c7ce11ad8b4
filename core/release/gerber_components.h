#pragma once
// The component layer of Gerber X3 (The Gerber Layer Format Specification, 2022, 6): for each part on one side of a
// board its pick point with designator, value, footprint, height and turn, its outline and its pins, pin 1 a diamond.

#include <string>
#include <vector>

#include "core/approval/approval.h"
#include "core/base/result.h"
#include "core/release/ipc2581_out.h"

namespace punch {

/// `lies`: each part's footprint as it lies, in the order of `components`. Errors: a place that the format cannot hold.
Result<std::string> gerberComponents(const std::vector<IpcComponent>& components,
                                     const std::vector<const Footprint*>& lies, bool top, const std::string& name,
                                     const Stamp& stamp = {});

}  // namespace punch
