#pragma once
// How one footprint takes several makes: each way of joining their holes and of laying them over each other is
// derived, and what it does to ring, distances, voltage and drop-in is said.

#include <string>
#include <vector>

#include "core/footprint.h"

namespace punch {

struct JoinWay {
    std::string words;         ///< "slots, laid by their leads"
    Part part;                 ///< with it
    int worst = 0;             ///< badness of the gauges that it can change; 0: all go
    std::string binds;         ///< the worst of them in words; empty when all go
    double share = 0;          ///< of the make that drops in least; 0 while it is not known
    Length overAll;            ///< by how much holes are larger than allowed, the worst
};

/// All that differ, the best first: fewest gauges that fail, then the rule's own order (round, slots, two holes).
std::vector<JoinWay> joinWays(const Part& part);

}  // namespace punch
