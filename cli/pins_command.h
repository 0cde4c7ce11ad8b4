#pragma once
// `punch pins`: what each pin does, out of a table, against the pads, and what a multimeter makes of them.

#include <string>
#include <vector>

namespace punch {

struct PinsArguments {
    std::string part;
    std::string from;                ///< a file with a table, "-" for standard input; empty: none
    std::vector<std::string> notes;  ///< "1 2 10k fully left", kept with the part
    std::string variant;
    bool csv = false;
};

/// Exit 1 where something is wrong with the pins.
int pinsCommand(const PinsArguments& arguments);

}  // namespace punch
