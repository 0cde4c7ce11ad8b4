#pragma once
// What the kinds of formations are: one row for each. Where their pins stand is said by core/part/slots and
// core/model/features, how they are recognised in places by core/picture/recognise; all else reads this table.

#include <vector>

#include "core/part/formation.h"

namespace punch {

/// What is typed for a formation's pins.
enum class PinCount {
    None,           ///< nothing: one pin, or as many as the mirrored formation
    One,            ///< "4"
    TwoRows,        ///< "8 3", front and rear
    Rows,           ///< "6 5 6", from the front
    ColumnsByRows,  ///< "4 x 3"
};

struct FormationTraits {
    FormationKind kind;
    PinCount count;
    std::vector<int> usual;       ///< rows of a new one
    NumberOrder order;            ///< of its numbers at first
    bool rows = false;            ///< keeps the pins of each row
    bool straight = false;        ///< its rows give a direction: it may be turned against others
    bool rowGap = false;          ///< its rows lie apart by a parameter
    bool rowShift = false;        ///< its rear row lies along by a parameter, and may have a pitch of its own
    bool staggers = false;        ///< every second row is shifted by half a pitch
    bool around = false;          ///< pins on a circle, perhaps one in the middle, or on an arc
    bool grid = false;            ///< equal columns, positions may be left out, rows are lettered
    bool mirrors = false;         ///< is the mirror image of another one
    const char* countWords = "";  ///< what is typed, in a few words
};

const std::vector<FormationTraits>& formationKinds();
const FormationTraits& traitsOf(FormationKind kind);
inline const FormationTraits& traitsOf(const Formation& f) { return traitsOf(f.kind); }

/// About as many pins in the rows of another kind: what a formation is given when its kind is changed.
std::vector<int> rowsOfKind(FormationKind kind, const std::vector<int>& rows);

}  // namespace punch
