#pragma once
// The leads of a solid as evidence: places, sections and lengths among the readings, with the doubt of a nominal
// drawing.
//
// A STEP file shows a part as it is meant. What is taken over stands beside what calipers read, and a file that is not
// the part in hand shows as readings that disagree. A footprint can be made of it alone.

#include <string>

#include "core/base/result.h"
#include "core/footprint.h"

namespace punch {

/// Of a part whose pins the leads stand in: each lead's place and section read to its pin. Of a part without readings
/// of its pins: the formation that the leads make, numbered as recognised, with its pegs. Then the leads' lengths and,
/// where its outline is a rectangle along the rows, the body's size and place. What was taken of this solid before is
/// replaced. Errors: no such solid, no leads, no formation among them.
Result<Part> withSolidLeads(const Part& part, const Footprint& footprint, const std::string& solid);

/// Once its leads are among the readings: those that disagree, or of which one does, in words. The file's own first.
std::vector<std::string> solidDisagreements(const Part& part, const Footprint& footprint, const std::string& solid);

}  // namespace punch
