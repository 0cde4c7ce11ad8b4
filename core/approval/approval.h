#pragma once
// How far a part has come: draft, checked, released. It follows from what people said (part/approval.h) and from what
// the part is now, by a digest over all that counts; so whatever is edited afterwards makes it a draft again.
//
// What counts: everything that a footprint follows from, and everything that leaves with it. What does not: notes, what
// boards said, who checked it and when, and the counter of identifiers.

#include <string>
#include <vector>

#include "core/footprint.h"

namespace punch {

enum class Stage { Draft, Checked, Released };

/// SHA-256 over all that counts, 64 hexadecimal digits.
std::string digestOf(const Part& part);

/// A gauge that keeps a part from being released: neither go nor watch, and not let pass as it stands.
struct Blocking {
    std::string gauge, title;
    std::string says;     ///< now, in mm
    std::string letPass;  ///< it was let pass when it said this; empty: never
    GaugeState state = GaugeState::Unknown;
};

struct ApprovalState {
    Stage stage = Stage::Draft;
    std::string digest;        ///< of the part as it is
    int version = 0;           ///< the last one that went out; 0: none
    bool changed = false;      ///< since that version
    std::string otherProgram;  ///< that derived this version; empty: this one
    std::vector<Blocking> blocking;
    std::vector<LetPass> passes;  ///< that hold now
};
ApprovalState standingOf(const Part& part, const Footprint& footprint);

/// "released, version 2", "draft, changed since version 2".
std::string standingWords(const ApprovalState& standing);

/// What a gauge says, in mm: what a pass is held against.
std::string gaugeSays(const Gauge& gauge);

/// Somebody looked at it as it is now. Errors: no name.
Result<Part> checkedPart(Part part, const std::string& by, const std::string& date);

/// A gauge is let pass as it stands. Errors: no name or reason, no such gauge, one that is go or watch.
Result<Part> withPass(Part part, const Footprint& footprint, const std::string& gauge, const std::string& reason,
                      const std::string& by, const std::string& date);
Part withoutPass(Part part, const std::string& gauge);

/// A version is frozen. Errors: no name, not checked as it is, a gauge that blocks, already released as it is.
Result<Part> releasedPart(Part part, const Footprint& footprint, const std::string& by, const std::string& date,
                          const std::string& note);

/// What is not as in the last version, in words; none: nothing, or there is no version.
std::vector<std::string> changedSince(const Part& part, const Footprint& footprint);

/// What every file that leaves says of itself.
struct Stamp {
    std::string line;      ///< "QB-TB4, released, version 2, 3f2a91c07b44"; empty: nothing is said
    std::string revision;  ///< "2", "draft"
    std::string digest;
    ApprovalState standing;
    std::vector<std::string> passes;  ///< "let pass by I. Fennel: Ring, 0.02 short: hand soldered"
    std::vector<std::string> all() const;
};
Stamp stampOf(const Part& part, const Footprint& footprint);

}  // namespace punch
