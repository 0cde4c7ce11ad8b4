#pragma once
// Edits of a Part that more than one caller needs: each takes a Part and gives the changed one, or a Problem.

#include "core/base/result.h"
#include "core/part/part.h"

namespace punch {

inline constexpr int kMostPins = 2000;

/// A loose row of `pins` pins with a body of plausible size around it. Errors: fewer than 1 or more than kMostPins.
Result<Part> newRow(int pins);

/// Changes the number of pins at the right end; readings on removed pins stay, as orphans.
Result<Part> withPinCount(Part part, std::size_t formation, int pins);

/// Adds a peg, drawn in front of the row's middle until it is measured.
Part withPeg(Part part);

/// Draws a peg at a place while nothing determines it. The place also says on which side of a pin its readings go.
/// Frame: the leftmost pin of the first formation.
Part withPegDrawnAt(Part part, const FeatureId& peg, Point place);

/// Removes a peg; its readings stay, as orphans.
Part withoutFeature(Part part, const FeatureId& id);

/// Adds a reading at the end, or before position `at`, and gives it its identifier.
Part withReading(Part part, Reading reading, std::optional<std::size_t> at = {});

/// Takes or releases a standard value for a parameter ("pitch").
Part withTaken(Part part, const std::string& parameter, std::optional<Length> value);

/// Gives `pins` a potential of this name; an existing one of that name is replaced. A pin has one potential.
/// Errors: no pins, no name, more than 100 kV.
Result<Part> withPotential(Part part, Potential potential);

/// A value that can be no size of a part: zero, negative, over 1 m, or far from anything on this part (400 mm for a
/// lead's width). Checked when a reading is entered, so that mm typed as mil is asked about.
Result<Length> plausibleSize(const Part& part, const Reading& reading, Length value);

}  // namespace punch
