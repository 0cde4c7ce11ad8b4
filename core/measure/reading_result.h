#pragma once
// What the adjustment says about each reading, as plain values.

#include <string>

#include "core/base/value.h"
#include "core/measure/raw_values.h"

namespace punch {

inline constexpr double kNinetyFive = 1.96;  ///< half interval in standard uncertainties
inline constexpr double kInDoubt = 3.29;     ///< |w| of a reading in doubt, 0.1 %

enum class ReadingState {
    Agrees,
    Unchecked,   ///< nothing checks this
    InDoubt,     ///< set aside
    OneOf,       ///< in one of several ways to explain the readings
    Impossible,  ///< no part could show it; left out
    Unused,      ///< no usable value
    Orphan,      ///< its feature is gone, or the contact makes no sense on it
};

inline const char* nameOf(ReadingState state) {
    switch (state) {
        case ReadingState::Agrees: return "agrees";
        case ReadingState::Unchecked: return "unchecked";
        case ReadingState::InDoubt: return "in doubt";
        case ReadingState::OneOf: return "one of";
        case ReadingState::Impossible: return "impossible";
        case ReadingState::Orphan: return "orphan";
        case ReadingState::Unused: break;
    }
    return "unused";
}
/// Is the reading one that cannot be relied on: set aside, in question, or impossible?
inline bool isDoubtful(ReadingState state) {
    return state == ReadingState::InDoubt || state == ReadingState::OneOf || state == ReadingState::Impossible;
}

struct ReadingResult {
    PUNCH_VALUE(ReadingResult)
    ReadingState state = ReadingState::Unused;
    ReadingStats stats;
    double expected = 0;  ///< mm, what the adjustment says the reading should show
    double w = 0;         ///< standardised residual; 0 when nothing checks it
    double redundancy = 0;
    std::string words;  ///< what the notebook says under it; empty when all is well
};

}  // namespace punch
