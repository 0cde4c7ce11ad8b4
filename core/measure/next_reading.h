#pragma once
// The next reading: of all that a person can take on this part with calipers, the one that helps most.
//
// In this order: what makes a loose pad or bare hole firm; what makes a lead's or peg's size firm, since holes need
// it; what makes the body, the lead length and the height firm; then, while any pad's 95 % doubt is above a quarter of
// (hole - lead)/2, the one that leaves the smallest largest doubt. Ties go to the quicker one, which stands first in
// the list. When everything helpful was taken, the most helpful one is asked for once more.

#include <functional>
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

/// The 95 % doubt, mm, below which a pin or spot needs no other reading.
using Enough = std::function<double(const FeatureId&)>;
inline Enough enoughFor(double doubt) {
    return [doubt](const FeatureId&) { return doubt; };
}

/// Which pins are considered. The ends of rows and their neighbours, and the pins around a ring, have all the leverage
/// that a pattern gives (`Ends`); `All` takes every pair of a part's pins.
enum class Candidates { Ends, All };

/// `putOff`: readings that are not asked for now.
NextReading nextReading(const Part& part, const Adjustment& adjustment, const Enough& enough,
                        Candidates which = Candidates::Ends, const std::vector<Reading>& putOff = {});

/// The readings that calipers can take on this part, the quicker ones first.
std::vector<Reading> candidateReadings(const Part& part, Candidates which = Candidates::Ends);

}  // namespace punch
