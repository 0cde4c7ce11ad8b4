#pragma once
// Pads out of files that others wrote: what lies on a board there, whoever made it. One reader for each format
// (gerber_pads, drill_holes, ipc2581_pads, csv_pads); here stands what they give.
//
// Frame: mm, x right, y up, seen from the part side; the file's own origin.

#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/library/pad_set.h"
#include "core/part/land.h"

namespace punch {

struct ForeignPad {
    std::string number;  ///< empty: the file does not say
    double x = 0, y = 0;
    LandShape shape = LandShape::Round;
    double landX = 0, landY = 0;  ///< along its own axes; 0: no copper
    double turn = 0;              ///< degrees, counter-clockwise, of the land
    double hole = 0;              ///< finished; of a slot its width; 0: none
    double holeX = 0, holeY = 0;  ///< the hole's middle from the pad's
    double slotLength = 0;        ///< over its rounded ends; 0: a round hole
    double slotTurn = 0;          ///< degrees
    bool plated = true;
};

struct ForeignPattern {
    std::string name;  ///< of the land pattern, or of the component on the board
    std::vector<ForeignPad> pads;
};

struct ForeignFile {
    std::vector<ForeignPattern> patterns;
    std::vector<std::string> notes;  ///< what was left out, and why
};

/// As a pattern that can be compared and searched for. Pads without a number are told apart as "#1", "#2".
PadPattern patternOf(const ForeignPattern& foreign);

/// By what they hold, whatever their names end in: Gerber copper with drill files (several are one board), IPC-2581 or
/// CSV. Errors: none of them, files that do not belong together, no pads, more than 50 MB.
Result<ForeignFile> readForeign(const std::vector<std::string>& files);

inline constexpr std::size_t kMostForeignPads = 100000;

}  // namespace punch
