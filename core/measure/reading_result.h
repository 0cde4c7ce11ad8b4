#pragma once
// What the adjustment says about each reading, as plain values.

#include <string>

#include "core/measure/raw_values.h"

namespace punch {

inline constexpr double kNinetyFive = 1.96;  ///< half interval in standard uncertainties
inline constexpr double kInDoubt = 3.29;     ///< |w| of a reading in doubt, 0.1 %

enum class ReadingState {
    Agrees,
    Unchecked,  ///< nothing checks this
    InDoubt,    ///< set aside
    OneOf,      ///< one of a group that cannot be told apart
    Unused,     ///< no usable value
    Orphan,     ///< its feature is gone, or the contact makes no sense on it
};

struct ReadingResult {
    ReadingState state = ReadingState::Unused;
    ReadingStats stats;
    double expected = 0;  ///< mm, what the adjustment says the reading should show
    double w = 0;         ///< standardised residual; 0 when nothing checks it
    double redundancy = 0;
    std::string words;  ///< what the notebook says under it; empty when all is well
};

}  // namespace punch
