#pragma once
// What no part could show, however well the rest agrees: a length typed negative where no direction gives it a sign,
// an outside smaller than the inside over the same two features, a size at or below nothing.

#include <string>
#include <vector>

#include "core/measure/reading_result.h"
#include "core/part/part.h"

namespace punch {

class Adjustment;

/// Readings that cannot be, and what is wrong with them.
struct Impossible {
    std::vector<std::size_t> readings;
    std::string words;  ///< "outside 16.25 mm is less than inside 17 mm"
};

/// By the typed values alone.
std::vector<Impossible> negativeLengths(const Part& part, const std::vector<ReadingResult>& readings);

/// Of readings that are used: outside less than inside.
std::vector<Impossible> outsideBelowInside(const Part& part, const std::vector<ReadingResult>& readings);

/// Sizes at or below nothing at the solution, with the readings that they come from.
std::vector<Impossible> sizesBelowNothing(const Part& part, const Adjustment& adjustment);

}  // namespace punch
