#pragma once
// "Put a slot here": the slot that brings two potentials to their creepage.

#include "core/base/result.h"
#include "core/footprint.h"

namespace punch {

/// The shortest slot found that brings every pair of these two potentials to its creepage, within the fab profile: a
/// mill bit wide enough to count at the pollution degree, clear of copper and holes. Along x or y where that serves,
/// else square to the line that joins the pair. Errors: through air they are too near already; IPC-2221B, which knows
/// no way over the surface; nothing clear of the copper is long enough.
Result<CutOut> slotFor(const Part& part, const Footprint& footprint, const FeatureId& a, const FeatureId& b);

/// Adds a cut-out, with an identifier of its own.
Part withCutOut(Part part, CutOut cut);
Part withoutCutOut(Part part, const std::string& id);

}  // namespace punch
