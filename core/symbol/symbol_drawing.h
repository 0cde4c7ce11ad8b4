#pragma once
// What hands add to the symbol that the rule draws: plain shapes for a switch, a relay, a socket, attributes, what of
// the rule's own is shown; as ink and as words.
//
// One shape or attribute a line, places in mm from the middle of the block, y up:
//   line 0 0  2.54 0  2.54 1.27       through all its places
//   arc 0 0  1 1  2 0                 from the first through the second to the third
//   circle 0 0  1.27 0                around the first, through the second
//   polygon 0 0  1 0  1 1             closed; "filled" at the end fills it
//   text 0 2.54 "NO"
//   Rating = 230 V 5 A                an attribute; "shown" at the end shows it under the value
//   without block, without reference, without value
// "in POWER" at the end of a shape's line says which element it is on.

#include <string>
#include <string_view>
#include <vector>

#include "core/base/result.h"
#include "core/symbol/block_symbol.h"

namespace punch {

inline constexpr std::size_t kMostSymbolShapes = 2000;

/// Errors: a line that is none of these, with its number.
Result<SymbolDrawing> symbolDrawingFromText(std::string_view text);
std::string symbolDrawingText(const SymbolDrawing& drawing);

/// The ink of one shape, its places counted from `middle`.
std::vector<Shape> inkOf(const SymbolShape& shape, Point middle);

/// Ready-made ones, to begin with: what it is called, and its lines.
struct SymbolBeginning {
    const char* name;
    const char* lines;
};
const std::vector<SymbolBeginning>& symbolBeginnings();

/// Reference letters by class of part.
struct ReferenceLetter {
    const char* part;     ///< "connector, fixed"
    const char* ieee315;  ///< IEEE 315, clause 22
    const char* iec81346; ///< IEC 81346-2, table 1
};
const std::vector<ReferenceLetter>& referenceLetters();

}  // namespace punch
