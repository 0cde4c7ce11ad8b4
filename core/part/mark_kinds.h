#pragma once
// Which kinds of marks there are, and what each has: the one table that files, forms and drawing read.
//
// A new kind is an identifier (mark.h), its name (names.h), a row here, and the function that draws it
// (core/dress/mark_table.h) or lays it into the board (core/shape/laid_marks.h).

#include <string>
#include <string_view>
#include <vector>

#include "core/base/result.h"
#include "core/part/mark.h"

namespace punch {

/// What a mark is for: the groups of the list on the bench.
enum class MarkGroup { WayRound, Room, Board, Copper, Print };

enum class MarkValue {
    Length,   ///< typed, with units, arithmetic and names of parameters
    Angle,    ///< degrees, counter-clockwise
    Choice,   ///< one of `choices`
    Flag,     ///< "yes" or "no"
    Text,     ///< with fields of the part: {reference}, {name}, {value}, {description}
    Pins,     ///< numbers and names, or "all"
    Feature,  ///< one feature
    Count,    ///< a whole number, not negative
    Figure,   ///< rings as core/part/figure.h keeps them
    Drawn,    ///< a value as a drawing states it: "1.50..1.70", "1.6 ±0.1"
};

struct MarkField {
    const char* key;    ///< in files
    const char* label;  ///< in the form
    MarkValue value;
    std::string usual;  ///< what it is while nothing is set
    const char* help;
    std::vector<const char*> choices = {};
    const char* onlyWhen = nullptr;  ///< "form=circle", "form!=slot": it means nothing otherwise
};

/// How many places a kind has, and what they are.
struct MarkPoints {
    int least = 0, most = 0;
    bool area = false;  ///< they make an outline as the field "form" says
};

struct MarkKindInfo {
    MarkKind kind;
    MarkGroup group;
    MarkPoints points;
    std::vector<MarkField> fields;
    const char* help;
};

inline constexpr int kMostMarkPoints = 400;

const std::vector<MarkKindInfo>& markKinds();
const MarkKindInfo& markKind(MarkKind kind);
/// None when the kind has no such field.
const MarkField* markField(MarkKind kind, std::string_view key);
const char* groupWords(MarkGroup group);

/// What is set, else the usual. The field has to be one of its kind.
std::string valueOf(const Mark& mark, std::string_view key);
bool flagOf(const Mark& mark, std::string_view key);
/// Does the field mean anything, as the others are set?
bool applies(const Mark& mark, const MarkField& field);
/// Checks a value as it is typed. Lengths and angles may name parameters, which only an adjusted part can resolve; of
/// them it is checked whether they can be read. Errors: what it is not, and what it may be.
Result<std::string> checkedMarkValue(const MarkField& field, const std::string& typed);

}  // namespace punch
