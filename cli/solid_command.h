#pragma once
// punch solid: what stands in a STEP file, how it stands on a part's holes; punch step: a part as STEP.

#include <string>

namespace punch {

struct SolidArguments {
    std::string file;
    std::string part;    ///< whose holes it is stood on; empty for none
    bool place = false;  ///< it becomes the part's body, kept beside it
    bool take = false;   ///< and its leads become readings of it
    bool json = false;
};

/// Exit code: 0, or 2 with a message.
int solidCommand(const SolidArguments& arguments);

}  // namespace punch
