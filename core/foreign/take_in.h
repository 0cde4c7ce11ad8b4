#pragma once
// Taking in: a part out of pads that somebody else placed. Every number is a reading of the file, marked as taken in
// and not confirmed, so that a caliper's readings confirm it or speak against it. Leads are not known; holes and lands
// are as the file has them, set against the rule with their reason.

#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/footprint.h"
#include "core/foreign/foreign_pads.h"

namespace punch {

struct TakeInOptions {
    std::string title;  ///< of the source: "J3 of vent.gbr"
    std::string file;   ///< that it came from
    std::string seen;   ///< date
};

struct TakenIn {
    Part part;
    std::vector<std::string> notes;  ///< "turned by 90°, so that its row lies level"
};

/// Errors: no pads, more than a part may have.
Result<TakenIn> takenIn(const ForeignPattern& pattern, const TakeInOptions& options);

/// The pads and holes of a footprint, as another program would see them.
ForeignPattern foreignOf(const Part& part, const Footprint& footprint);

/// A part as another one begins: with what was read and drawn of it, or with its pads alone, taken in. Errors: without
/// evidence what takenIn refuses.
Result<TakenIn> copyOf(const Part& part, const std::string& name, bool withEvidence, const std::string& seen);

}  // namespace punch
