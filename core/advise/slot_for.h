#pragma once
// "Put a slot here": the slot that brings two potentials to their creepage.

#include "core/base/result.h"
#include "core/footprint.h"

namespace punch {

/// The shortest slot found that brings every pair of these two potentials to its creepage, within the fab profile: a
/// mill bit wide enough to count at the pollution degree, clear of copper, holes and the board's edge. Half way between
/// them along x or y where that serves; shifted or slanting where that is shorter by a fifth or nothing else serves.
/// Errors: through air they are too near already; IPC-2221B, which knows no way over the surface; nothing clear of the
/// copper is long enough.
Result<CutOut> slotFor(const Part& part, const Footprint& footprint, const FeatureId& a, const FeatureId& b);

}  // namespace punch
