#pragma once
// A trial board as files: Gerber and drill for a fab, IPC-2581, the table of what is placed, the bill of what is
// bought.

#include <vector>

#include "core/base/atomic_file.h"
#include "core/board/laid_board.h"

namespace punch {

/// CSV (RFC 4180): designator, part, value, side, pick point, datum, turn; only what is placed. mm from the board's
/// origin, x right, y up, seen from the top; degrees counter-clockwise, seen from the top, on both sides.
std::string placementTable(const LaidBoard& board);
/// CSV: quantity, designators, part, value, description; only what is bought, the same parts in one line.
std::string billOfMaterial(const LaidBoard& board);

/// Gerber and drill, their names beginning with the board's. Errors: a part that cannot be read, nothing on it, and as
/// the formats'.
Result<std::vector<NamedContent>> fabFiles(const LaidBoard& board);
/// These, and IPC-2581 and both tables, their names beginning with the board's. Errors: a part that cannot be read, and
/// as the formats'.
Result<std::vector<NamedContent>> boardFiles(const LaidBoard& board);

}  // namespace punch
