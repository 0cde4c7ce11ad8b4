#pragma once
// Recognising a formation in the places of what was found: a row, two rows, staggered rows, a grid, a ring or an arc,
// with positions left out, and how far it is turned.
//
// Method   straight lines of places along the directions that pairs of them give; the fewest lines that take in all
//          places win. Along the lines the pitch is the largest step of which all distances are multiples. Five or more
//          places at equal angles on a circle are a ring. The pattern's parameters and its turn are then fitted to all
//          places together, and their doubt is what the places allow (their own u, or their scatter when that is more).

#include <optional>
#include <string>
#include <vector>

#include "core/part/formation.h"

namespace punch {

/// Frame: mm, x right, y up, seen from the part side.
struct FoundPlace {
    double x = 0, y = 0;
    double u = 0.002;  ///< mm, standard uncertainty of each coordinate
};

struct FittedValue {
    double value = 0;
    double u = 0;  ///< standard uncertainty
};

/// Where a place stands in the pattern.
struct PatternSlot {
    int place = -1;  ///< index of the place that was given
    int row = 0;     ///< from the front; of a ring 0, its middle -1
    int column = 0;  ///< from the left of its row, empty positions counted; of a ring: steps from its start
};

struct RecognisedFormation {
    FormationKind kind = FormationKind::Single;
    std::vector<PatternSlot> positions;  ///< geometric order: row by row from the front, or around from the start
    std::vector<int> rows;               ///< positions in each row, empty ones counted
    std::vector<int> leftOut;            ///< empty positions, counted row by row, or around
    double turn = 0, uTurn = 0;          ///< degrees, counter-clockwise, that make it stand straight when taken off
    FoundPlace origin;  ///< leftmost position of the front row, or the middle of the ring; not straightened
    std::optional<FittedValue> pitch;      ///< mm, of rows and grids
    std::optional<FittedValue> rearPitch;  ///< of two unlike rows
    std::optional<FittedValue> rowGap;
    std::optional<FittedValue> rowShift;  ///< of two rows that are not aligned
    std::optional<FittedValue> circle;    ///< mm, diameter of a ring
    std::optional<FittedValue> start;     ///< degrees, direction of its first place, when straight
    std::optional<FittedValue> step;      ///< degrees, counter-clockwise
    bool arc = false, middle = false;
    double scatter = 0;  ///< mm, r.m.s. of the places about the pattern, each coordinate
};

/// None when the places make no pattern. Places are taken as one formation, none is left aside.
std::optional<RecognisedFormation> recogniseFormation(const std::vector<FoundPlace>& places);

}  // namespace punch
