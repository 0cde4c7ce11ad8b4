#pragma once
// What goes over the standard streams of punch-solid. Both ends are of one build: there are no versions.
//
// A question: 8 bytes of length, then packed: what is asked (Question), the limits, what it is about. Answers: a
// letter, 8 bytes of length, and bytes. 'p' is a share of progress (a double), '+' the packed answer, '-' a packed
// Problem.

#include <cstdint>

namespace punch {

enum class Question : std::int32_t { ReadStep, Make, WriteStep, Measure };

inline constexpr char kProgressAnswer = 'p', kGoodAnswer = '+', kBadAnswer = '-';

}  // namespace punch
