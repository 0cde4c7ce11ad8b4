#pragma once
// Several makes in one footprint, and their files: joining, and following what changes in them.

#include <filesystem>
#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/part/part.h"

namespace punch {

/// A new part that takes all of these: the first one's readings, the others as makes; rules, marks and lands are the
/// first one's. `folder` is where it will stand: files are named from there. Errors: fewer than two, one that cannot be
/// read, one that takes several makes itself.
Result<Part> joinedPart(const std::vector<std::filesystem::path>& files, const std::filesystem::path& folder);

/// One more make. Errors: as above.
Result<Part> withMake(Part part, const std::filesystem::path& file, const std::filesystem::path& folder);

struct FollowedMakes {
    Part part;
    std::vector<std::string> changed;  ///< "HT-TB4: pitch 5.000 → 5.080"
    std::vector<std::string> missing;  ///< files that cannot be read, with the reason; what was kept of them stands
};

/// The part with its makes as their files are now; its own readings too, where they were copied. The files stand in, or
/// are named from, `folder`.
FollowedMakes withMakesAsTheyAre(const Part& part, const std::filesystem::path& folder);

/// What was measured and drawn of `from`, in place of the part's own; all else stays.
Part withEvidenceOf(Part part, const Part& from);

}  // namespace punch
