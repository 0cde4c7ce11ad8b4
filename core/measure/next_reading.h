#pragma once
// The next reading: of all that a person can take on this part, the one that helps most.
//
// In this order: what makes a loose pad or bare hole firm; what makes a lead's or peg's size firm, since holes need
// it; what makes the body, the lead length and the height firm; then, while any pad's 95 % doubt is above a quarter of
// (hole - lead)/2, what shrinks the largest doubt most. Ties go to the quicker one, which stands first in the list.

#include <optional>
#include <string>
#include <vector>

#include "core/part/part.h"

namespace punch {

class Adjustment;

struct NextReading {
    std::optional<Reading> reading;  ///< none: enough
    std::string words;               ///< "pins 1 and 4, outside", or why it is enough
};

/// `enough` is the 95 % doubt, mm, below which no pad needs another reading.
NextReading nextReading(const Part& part, const Adjustment& adjustment, double enough);

/// The readings that calipers can take on this part, the quicker ones first.
std::vector<Reading> candidateReadings(const Part& part);

}  // namespace punch
