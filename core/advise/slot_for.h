#pragma once
// "Put a slot here": the slot that brings two potentials to their creepage.

#include <optional>

#include "core/base/result.h"
#include "core/footprint.h"
#include "core/part/cut_out.h"

namespace punch {

/// The least nominal width of a slot that the board maker mills and that lengthens a way where `clearance` is asked
/// for: X and the tolerance of a milled width. By IPC-2221B, which knows no such way, what can be milled.
Length leastSlotWidth(const Rules& rules, std::optional<Length> clearance);
/// The narrowest mill bit of the fab profile from there on; without one that least width.
Length usualSlotWidth(const Rules& rules);

/// The shortest slot found that brings every pair of these two potentials to its creepage, within the fab profile: a
/// mill bit wide enough to count at the pollution degree, clear of copper, holes and the board's edge. Half way between
/// them along x or y where that serves; shifted or slanting where that is shorter by a fifth or nothing else serves.
/// Errors: through air they are too near already; IPC-2221B, which knows no way over the surface; the two lie on
/// different faces, between which a slot only opens a way; nothing clear of the copper is long enough, or it would open
/// too short a way between others on different faces.
Result<CutOut> slotFor(const Part& part, const Footprint& footprint, const FeatureId& a, const FeatureId& b);

/// A cut-out that was drawn freely, attached to the pads or holes it lies between, else to the nearest one, so that it
/// goes where they go. Without any it stays where it is from the origin.
CutOut attachedToNearest(CutOut cut, const Footprint& footprint);

}  // namespace punch
