#pragma once
// Slots: where in its formation's pattern a pin stands, before anything is known of sizes.

#include <vector>

#include "core/part/part.h"

namespace punch {

/// A pin's place in the pattern. Of a ring: row 0, `column` the steps from its start; the middle pin has row -1.
struct Slot {
    int row = 0;       ///< from the front
    int column = 0;    ///< from the left
    int columns = 1;   ///< positions in this row
    double place = 0;  ///< where along the row, in pitches from the left of the pattern; with a half for staggered rows
    /// Counted from the left or the right end of its row.
    int index(bool fromLeft) const { return fromLeft ? column : columns - 1 - column; }
};

/// One for each pin, in the order of `pins`. A twin has those of the formation that it mirrors.
std::vector<Slot> slotsOf(const Part& part, const Formation& formation);

/// How many pins the formation's own description asks for.
std::size_t slotCount(const Part& part, const Formation& formation);

/// The formation whose pattern this one has: itself, or of a twin the formation that it mirrors (through twins of
/// twins; itself when that is not there).
const Formation& shapeOf(const Part& part, const Formation& formation);

}  // namespace punch
