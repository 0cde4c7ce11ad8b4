#pragma once
// What the parameters of a part are called, in files, formulas and on the bench, and what kind each of them is.

#include <string>
#include <string_view>
#include <vector>

#include "core/part/part.h"

namespace punch {

enum class ParameterKind {
    Pitch,
    RearPitch,
    RowGap,
    RowShift,
    Circle,
    Start,
    Step,
    Turn,
    LeadWidth,
    LeadThickness,
    LeadLength,
    EndWidth,
    EndThickness,
    BodyHeight,
    Diameter,
    Width,
    Thickness,
    Scale,
    Other,  ///< a coordinate, a named value
};

struct ParameterTraits {
    ParameterKind kind;
    const char* ending;     ///< of its name, after the formation's or feature's and a point: "f2.pitch", "peg5.width"
    bool positive = false;  ///< is drawn on its side of nothing
    bool size = false;      ///< cannot be at or below nothing
    bool pattern = false;   ///< shapes the places of a formation's pins, and has a chain of its own
};

/// Are they those of a formation, its pattern and its leads?
inline bool isOfFormation(ParameterKind kind) { return kind <= ParameterKind::EndThickness; }

/// One row for each kind but Other.
const std::vector<ParameterTraits>& parameterKinds();
ParameterKind parameterKind(std::string_view name);
/// Of Other: nothing is said.
const ParameterTraits& traitsOf(ParameterKind kind);

/// Stands before the names of a formation's parameters: empty for the first formation, "f2." for others.
std::string parameterPrefix(const Part& part, const Formation& formation);
/// The same for its lead: that of the formation whose shape a twin mirrors.
std::string leadPrefix(const Part& part, const Formation& formation);

}  // namespace punch
