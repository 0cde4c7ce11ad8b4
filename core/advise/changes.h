#pragma once
// What an edit moved: from the footprint before to the one after, in a few words each.

#include <string>
#include <vector>

#include "core/footprint.h"

namespace punch {

struct Change {
    std::string words;  ///< template, see fill(): "hole {} → {} {u}"
    std::vector<Length> of;
};

/// The largest consequences first: sizes of the part, holes and lands, places, then gauges with their margins and
/// states. Empty when nothing that anybody sees moved (half a micrometre).
std::vector<Change> whatChanged(const Part& part, const Footprint& before, const Footprint& after);

}  // namespace punch
