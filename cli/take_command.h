#pragma once
// punch take: parts out of the pads that others placed.

#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/foreign/foreign_pads.h"

namespace punch {

struct TakeArguments {
    std::vector<std::string> files, patterns;
    std::string folder;
    bool all = false;
};
int takeCommand(const TakeArguments& arguments);

/// The pattern of this name in the files; an empty name: the only one. Errors: there are several, or none.
Result<ForeignPattern> foreignPattern(const std::vector<std::string>& files, const std::string& name);

}  // namespace punch
