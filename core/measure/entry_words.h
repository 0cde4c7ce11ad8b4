#pragma once
// The words of the entry line: one table each for contacts, directions and remarks. Used by the entry line alone.

#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include "core/base/text_table.h"
#include "core/part/part.h"

namespace punch {

struct ContactWord {
    std::string_view word;
    Contact contact;
    std::optional<Axis> axis;  ///< that the word implies
};

enum class Remark { Coordinate, Below, Specimen, Steps, Same, Letter, Drawing, End };

/// Is `typed` the word, or at least its first three letters?
bool means(std::string_view typed, std::string_view word);
/// Null for what is no contact.
const ContactWord* contactWord(std::string_view typed);
std::optional<Axis> axisWord(std::string_view typed);
std::optional<Remark> remarkWord(std::string_view typed);
/// Split at white space.
std::vector<std::string> wordsOf(std::string_view text);

}  // namespace punch
