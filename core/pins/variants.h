#pragma once
// Variants of a part: the same readings, body and pads, other pins, names, value or marks.

#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/part/part.h"

namespace punch {

const Variant* variantOf(const Part& part, const std::string& name);
/// The part as this variant: named "HT-SEL6-PG", with its pins, value and description, without the marks it does not
/// have, with those of its own. Errors: there is none of this name.
Result<Part> asVariant(const Part& part, const std::string& name);
/// How one differs from the other, in words: "pin 2: COM → A (passive → output)". An empty name is the part itself.
std::vector<std::string> variantDifference(const Part& part, const std::string& from, const std::string& to);
/// Of two lists of pins, by number.
std::vector<std::string> pinDifference(const std::vector<Pin>& from, const std::vector<Pin>& to);

}  // namespace punch
