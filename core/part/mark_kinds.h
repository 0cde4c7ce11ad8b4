#pragma once
// What each kind of mark is: its group, its places, its fields, and what it does at each stage. Files, forms and the
// stages read it from here.
//
// A new kind is a line in PUNCH_MARK_KINDS (mark.h) and a file in core/marks, which defines its kindInfo().

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
    const char* onlyWhen = nullptr;  ///< "form=circle", "form!=slot", "motion=slides|rises": it means nothing otherwise
    bool positive = false;           ///< a length that has to be more than nothing
};

/// How many places a kind has, and what they are.
struct MarkPoints {
    int least = 0, most = 0;
    bool area = false;  ///< they make an outline as the field "form" says
};

struct Part;
struct LaidMark;
struct Shape;
struct MarkScene;
class MarkLaying;
class MarkCopper;

/// What a kind does at each stage, in their order; what is none it does not do. Each stage's header tells what it hands
/// over and what it expects.
struct MarkActs {
    /// What a new one on this part has besides its places.
    void (*begin)(Mark& mark, const Part& part) = nullptr;
    /// Beyond places, lengths, angles and outline, which are laid for all kinds: core/shape/mark_laying.h.
    void (*lay)(MarkLaying& laying) = nullptr;
    /// What it keeps clear, if it does: core/shape/laid_marks.h.
    void (*keep)(const Mark& mark, const LaidMark& laid, Shape& room) = nullptr;
    /// What it cuts out of the board.
    void (*cut)(const Mark& mark, const LaidMark& laid, Shape& cut) = nullptr;
    /// Its copper, openings and paste: core/size/mark_copper.h.
    void (*copper)(MarkCopper& copper) = nullptr;
    /// Copper that gives way to what the others have laid.
    void (*givingWay)(MarkCopper& copper) = nullptr;
    /// When the copper of every number is known.
    void (*tell)(MarkCopper& copper) = nullptr;
    /// What it prints: core/dress/mark_scene.h.
    void (*ink)(const MarkScene& scene, const Mark& mark, const LaidMark& laid) = nullptr;
};

struct MarkKindInfo {
    MarkKind kind;
    MarkGroup group;
    MarkPoints points;
    std::vector<MarkField> fields;
    const char* help;
    std::vector<Anchored> begin = {};  ///< places of a new one on a part with a body
    MarkActs acts = {};
    bool hasPotential = false;  ///< a potential may be given to it
};

/// Defined once for each kind, in core/marks.
template <MarkKind kind>
MarkKindInfo kindInfo();

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
