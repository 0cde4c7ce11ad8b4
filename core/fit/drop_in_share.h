#pragma once
// The answer of drop-in: what share of the parts goes in (core/fit/drop_in.h).

#include <string>

namespace punch {

struct DropInShare {
    bool known = false;
    std::string why;  ///< it is not known
    int trials = 0;
    int in = 0;                ///< that went in
    double share = 0;          ///< at the best estimate
    double low = 0, high = 0;  ///< 95 % Wilson interval
    bool spreadKnown = false;  ///< something says how parts of the kind differ
};

}  // namespace punch
