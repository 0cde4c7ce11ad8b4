#pragma once
// Slips of the hand, found and asked about: never blocking, never mended by themselves.
//
//   a value off by 25.4, 1000, 10, 100 (unit, decimal point) or 2 (a radius for a diameter, a half for a whole)
//   outside typed as inside, or the other way round
//   left and right exchanged on a drawing seen from below; numbers that run mirrored against it
//   a caliper that was not zeroed: one constant explains what many residuals show
//   a size that no part of this kind has, before anything can check it

#include <optional>
#include <string>
#include <vector>

#include "core/part/part.h"

namespace punch {

class Adjustment;
struct OpenSide;
struct SizeAdvice;

struct Slip {
    std::string reading;         ///< id; empty when it is about the whole notebook
    std::string words;           ///< "16250 mm: was 16.25 mm meant (decimal point)?"
    std::string todo;            ///< what the proposed change does: "Take 16.25 mm"
    std::optional<Part> mended;  ///< the part with the slip mended
};

/// At most one for each reading, in the order of the notebook; what concerns all of them, or several, stands first.
std::vector<Slip> findSlips(const Part& part, const Adjustment& adjustment, const std::vector<SizeAdvice>& sizes,
                            const std::vector<OpenSide>& sides);

}  // namespace punch
