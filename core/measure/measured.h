#pragma once
// What the stage of measuring says besides the values themselves: how each reading agrees, the ways to explain readings
// that contradict each other, sides that nobody said, what is loose, how parts of the kind differ, standard sizes,
// formulas and numbers that cannot be.

#include <optional>
#include <string>
#include <vector>

#include "core/base/length.h"
#include "core/base/value.h"
#include "core/measure/loose.h"
#include "core/measure/reading_result.h"
#include "core/measure/sides.h"
#include "core/measure/standard_sizes.h"
#include "core/model/parameter.h"
#include "core/part/part.h"

namespace punch {

class Adjustment;

/// A parameter of the part, or what follows from it.
struct ParameterValue {
    PUNCH_VALUE(ParameterValue)
    std::string name, words;
    Length value;
    std::optional<Length> doubt;  ///< none while it is loose; counts the ways to explain contradicting readings
    Length span;                  ///< between those ways
    bool taken = false;
    std::optional<Angle> angle, angleDoubt;  ///< of an angle, instead of value and doubt
    Parameter::State state = Parameter::State::Free;
    std::string typed;  ///< of a given value or a formula
    bool firm() const { return angle ? angleDoubt.has_value() : doubt.has_value(); }
};

/// How parts of the kind differ in what one reading says.
struct Spread {
    std::string reading;  ///< id
    Length sigma;         ///< standard deviation
    int specimens = 0;    ///< 0: a drawing's tolerance
};

/// One way to explain readings that contradict each other.
struct Explanation {
    std::vector<std::string> readings;  ///< ids of those that are wrong then
    double chi2 = 0;                    ///< v'Wv of the rest
};

struct Measured {
    PUNCH_VALUE(Measured)
    std::vector<ReadingResult> readings;  ///< in the order of the notebook
    std::vector<Explanation> ways;        ///< best first; empty when the readings have one explanation
    std::vector<OpenSide> openSides;      ///< sides that nobody said
    std::vector<SizeAdvice> sizes;        ///< pitches, row gaps, leads and pegs against standard values
    std::vector<Spread> spreads;          ///< empty: nothing says how parts of the kind differ
    std::vector<Complaint> complaints;    ///< formulas and numbers that cannot be
    std::vector<LooseMovement> loose;
};

Measured measured(const Part& part, const Adjustment& adjustment);

/// The parameters as adjusted; what holes and lands add to them: core/size/sized.h.
std::vector<ParameterValue> parametersOf(const Adjustment& adjustment);

}  // namespace punch
