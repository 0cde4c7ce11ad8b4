#pragma once
// A parameter of the model: what a formation, a feature or a picture leaves open, and what became of it.

#include <string>

#include "core/base/value.h"
#include "core/part/parameters.h"

namespace punch {

struct Parameter {
    PUNCH_VALUE(Parameter)
    enum class State { Free, Taken, Given, Formula };
    std::string name;   ///< "pitch"
    std::string words;  ///< "pitch", "peg, across"
    ParameterKind kind = ParameterKind::Other;
    double assumed = 0;  ///< mm or degrees; where it is drawn while nothing determines it
    bool isAngle = false;
    bool isPositive = false;  ///< a size, a pitch or a gap, which is drawn on its side of nothing
    State state = State::Free;
    double fixed = 0;   ///< mm or degrees, of Taken and Given
    int unknown = -1;   ///< index among the unknowns, of Free
    std::string typed;  ///< of Given and Formula
};

/// What is wrong with formulas, given values and letters, in words; such a parameter is free.
struct Complaint {
    std::string parameter, words;
};

}  // namespace punch
