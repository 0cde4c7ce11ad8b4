#pragma once
// punch match: parts of a library whose pads coincide; punch diff: what differs between two parts.

#include <string>

namespace punch {

struct MatchArguments {
    std::string part, folder;
    bool json = false;
};
/// Exit code: 0 where some coincide, 1 where none do, 2 with a message.
int matchCommand(const MatchArguments& arguments);

/// Exit code: 0 where nothing differs, 1 where something does, 2 with a message.
int diffCommand(const std::string& one, const std::string& other);

}  // namespace punch
