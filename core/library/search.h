#pragma once
// Searching a library by words: all of them have to be there, in any order, in any case, whole or begun.

#include <string>
#include <string_view>
#include <vector>

#include "core/library/library.h"

namespace punch {

/// All that can be looked for in a part, in small letters: its name, description, value, notes, pins, sources, marks,
/// "4 way", "5.08" of its parameters, "1.50" of its holes, "no-go voltage" of its gauges.
std::string searchWords(const Part& part, const Footprint& footprint);
/// In small letters, as words are compared; accents stay.
std::string searchWords(std::string_view text);

/// Are all the words that were typed there? A number does not begin within another, "4 way" is one word.
bool hasWords(const std::string& words, std::string_view typed);

/// Those that have all the words, the ones that have them in their name first, then by name. No words: all.
std::vector<const LibraryPart*> searched(const std::vector<LibraryPart>& library, std::string_view words);

}  // namespace punch
