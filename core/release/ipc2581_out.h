#pragma once
// The land pattern as IPC-2581 revision C: padstacks, lands on each layer, the package's outline, pin 1, courtyard,
// keepouts, and one component of it on its proof board, with its kind for the bill of material.
//
// Coordinates in mm, six digits; origin at the datum, seen from the part side. What the standard has no element for
// stands in comments of its elements.

#include <string>

#include "core/approval/approval.h"
#include "core/base/result.h"
#include "core/footprint.h"
#include "core/geometry/frame.h"
#include "core/release/proof_board.h"

namespace punch {

/// Errors: a place or size that is no number.
Result<std::string> ipc2581(const Part& part, const Footprint& footprint, const Stamp& stamp = {});

/// One of the parts on a board: its footprint in its own frame, and how it lies.
struct IpcComponent {
    const Part* part = nullptr;
    const Footprint* footprint = nullptr;
    std::string designator;
    Frame frame;
};
/// A board of several: `all` is what lies on its layers. Errors: no parts, and as above.
Result<std::string> ipc2581(const Part& whole, const Footprint& all, const ProofBoard& board,
                            const std::vector<IpcComponent>& components, const Stamp& stamp = {});

}  // namespace punch
