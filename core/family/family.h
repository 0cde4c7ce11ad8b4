#pragma once
// The members of a family: parts that follow from one set of readings and drawings and differ in how many ways they
// have, or by the column of a letter table.
//
// Ways are added or taken in the middle of the pattern: the pins of both ends stay who they are, with what was said of
// them. What stands right of the middle moves with the right end, what stands left stays (Family::follows says
// otherwise); distances grow by whole pitches, with the pitch's own doubt. Readings stay those of the part that was
// measured (Part::sample), so that a correction reaches every member.

#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/part/part.h"

namespace punch {

inline constexpr int kMostMembers = 200;

struct FamilyMember {
    std::string name;
    int ways = 0;        ///< pins of the formation that varies; 0: as measured
    std::string column;  ///< of the letter table; empty where it is not by columns
};

/// By the family's rule, in order; empty without a family.
std::vector<FamilyMember> familyMembers(const Part& part);
/// What is wrong with the rule: two members of one name, no columns, a formation whose ways cannot vary.
std::vector<std::string> familyTroubles(const Part& part);

struct MemberPart {
    Part part;
    std::vector<std::string> notes;  ///< what does not follow: "the slot between pins 2 and 3 …"
};

/// Errors: the formation has no two ends; ways that its rows cannot share; numbers by hand.
Result<MemberPart> asMember(const Part& part, const FamilyMember& member);
/// By its name. Errors: there is none, and those above.
Result<MemberPart> memberNamed(const Part& part, const std::string& name);

/// Which way each feature of the part goes (what mirrors: by its axis), with what the user said; for those that the
/// family moves. By feature, formation or face.
std::map<FeatureId, FamilyFollow> familyFollows(const Part& part);

}  // namespace punch
