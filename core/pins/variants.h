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
/// Which of the part and a variant have a mark.
enum class MarkIn {
    All,       ///< the part and every variant
    NotHere,   ///< all but this variant
    OnlyHere,  ///< this variant alone
};
MarkIn markIn(const Part& part, const std::string& variant, const std::string& mark);
/// Marks of the part and those of the variant's own, by identifier.
std::vector<Mark> marksAround(const Part& part, const std::string& variant);
/// The part with it so. An unknown variant or mark changes nothing.
Part withMarkIn(Part part, const std::string& variant, const std::string& mark, MarkIn where);

/// How one differs from the other, in words: "pin 2: COM → A (passive → output)". An empty name is the part itself.
std::vector<std::string> variantDifference(const Part& part, const std::string& from, const std::string& to);
/// Of two lists of pins, by number.
std::vector<std::string> pinDifference(const std::vector<Pin>& from, const std::vector<Pin>& to);

}  // namespace punch
