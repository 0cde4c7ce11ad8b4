#pragma once
// A folder of parts: read and derived, searched for words and for patterns of pads that are there already.

#include <filesystem>
#include <string>
#include <vector>

#include "core/library/pad_set.h"

namespace punch {

/// A gauge that is not go.
struct LibraryTrouble {
    GaugeState state = GaugeState::Unknown;
    std::string gauge;  ///< "voltage"
    std::string words;  ///< "Voltage: 2.10 of 2.50 mm"
};

struct LibraryPart {
    std::filesystem::path file;
    std::optional<PadPattern> pattern;  ///< none while it is loose
    std::string trouble;                ///< why it could not be read; empty when it was
    std::string name, description;
    std::string words;     ///< all that a search looks through, in small letters
    std::string evidence;  ///< "drawing and caliper, 15 readings"
    std::size_t pins = 0;
    GaugeState state = GaugeState::Unknown;
    std::vector<LibraryTrouble> wrong;  ///< the worst first
};

/// All .punch files of a folder and the folders in it, by name; links are not followed, more than `kMostParts` are not
/// looked at. Errors: there is no such folder.
Result<std::vector<std::filesystem::path>> libraryFiles(const std::filesystem::path& folder);
/// What a part rests on, in words: "caliper, 15 readings", "by rule", "not read yet".
std::string evidenceWords(const Part& part);
/// What a library knows of one part.
LibraryPart libraryPart(const std::filesystem::path& file);
/// The same of many, in their order, on as many threads as the machine has.
std::vector<LibraryPart> libraryParts(const std::vector<std::filesystem::path>& files);
/// All of a folder, whatever an index says. Errors: there is no such folder.
Result<std::vector<LibraryPart>> readLibrary(const std::filesystem::path& folder);

struct LibraryMatch {
    std::filesystem::path file;
    std::string name;
    Coincidence how;
};

/// Parts whose pads coincide with these, or, of a pattern that is not whole, hold them; best first: not mirrored before
/// mirrored, then by how much differs, then by the worst deviation. `but`: a file that is left out, the part itself.
std::vector<LibraryMatch> matching(const std::vector<LibraryPart>& library, const PadPattern& pattern,
                                   const std::filesystem::path& but = {});

inline constexpr std::size_t kMostParts = 100000;

}  // namespace punch
