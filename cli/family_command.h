#pragma once
// punch family and punch join: parts that follow from one set of readings, and one footprint for several makes.

#include <string>
#include <vector>

namespace punch {

struct FamilyArguments {
    std::string part, folder;
    std::vector<std::string> members, formats;
    bool json = false;
};
/// 0: every gauge of every member is go or watch; 1: some is not; 2: it could not be done.
int familyCommand(const FamilyArguments& arguments);

struct JoinArguments {
    std::vector<std::string> files;
    std::string out;
    bool follow = false, best = false, json = false;
};
int joinCommand(const JoinArguments& arguments);

}  // namespace punch
