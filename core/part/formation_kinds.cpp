#include "core/part/formation_kinds.h"

#include <algorithm>
#include <numeric>

namespace punch {

const std::vector<FormationTraits>& formationKinds() {
    using K = FormationKind;
    using N = NumberOrder;
    static const std::vector<FormationTraits> all = {
        {.kind = K::Row, .count = PinCount::One, .usual = {4}, .order = N::RowByRow, .straight = true},
        {.kind = K::TwoRows,
         .count = PinCount::TwoRows,
         .usual = {4, 4},
         .order = N::Around,
         .rows = true,
         .straight = true,
         .rowGap = true,
         .rowShift = true,
         .countWords = "front and rear row, as in 8 3"},
        {.kind = K::Staggered,
         .count = PinCount::Rows,
         .usual = {4, 4},
         .order = N::ZigZag,
         .rows = true,
         .straight = true,
         .rowGap = true,
         .staggers = true,
         .countWords = "each row from the front, as in 6 5"},
        {.kind = K::Grid,
         .count = PinCount::ColumnsByRows,
         .usual = {4, 4, 4},
         .order = N::RowByRow,
         .rows = true,
         .straight = true,
         .rowGap = true,
         .grid = true,
         .countWords = "columns x rows; %1 left out"},
        {.kind = K::Ring, .count = PinCount::One, .usual = {6}, .order = N::RowByRow, .around = true},
        {.kind = K::Single, .count = PinCount::None, .usual = {1}, .order = N::RowByRow},
        {.kind = K::Twin, .count = PinCount::None, .usual = {}, .order = N::RowByRow, .mirrors = true},
    };
    return all;
}

const FormationTraits& traitsOf(FormationKind kind) {
    return *std::find_if(formationKinds().begin(), formationKinds().end(),
                         [&](const FormationTraits& t) { return t.kind == kind; });
}

std::vector<int> rowsOfKind(FormationKind kind, const std::vector<int>& rows) {
    const int pins = std::accumulate(rows.begin(), rows.end(), 0);
    switch (traitsOf(kind).count) {
        case PinCount::TwoRows:
        case PinCount::Rows: return rows.size() == 2 ? rows : std::vector<int>{(pins + 1) / 2, std::max(pins / 2, 1)};
        case PinCount::ColumnsByRows:
            return std::vector<int>(rows.size() > 1 ? rows.size() : 2, std::max((pins + 1) / 2, 1));
        case PinCount::None:
        case PinCount::One: break;
    }
    return {std::max(pins, 1)};
}

}  // namespace punch
