#pragma once
// What the readings and the part's own words say besides places and sizes: how parts of the kind differ, formulas and
// numbers that cannot be, the ways to explain readings that contradict each other.

#include "core/footprint.h"

namespace punch {

class Adjustment;

std::vector<Spread> spreadsOf(const Part& part, const Adjustment& adjustment);
std::vector<Model::Complaint> complaintsOf(const Part& part, const Adjustment& adjustment);
std::vector<Explanation> explanationsOf(const Part& part, const Adjustment& adjustment);

}  // namespace punch
