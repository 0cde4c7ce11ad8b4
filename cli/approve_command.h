#pragma once
// punch approve: how far a part has come; check it, let gauges pass with a reason, release a version.

#include <string>
#include <vector>

namespace punch {

struct ApproveArguments {
    std::string part;
    std::string by, note, date;
    bool check = false, release = false;
    std::string pass, reason, withdraw;
    bool json = false;
};

/// Exit 0: released as it stands; 1: it is not; 2: what was asked for cannot be done, and nothing is.
int approveCommand(const ApproveArguments& arguments);

}  // namespace punch
