#pragma once
// punch find: what stands in a picture or a drawing.

#include <string>
#include <vector>

namespace punch {

struct FindArguments {
    std::string image;
    bool json = false;
    double dpi = 0;                  ///< 0: not given
    std::vector<std::string> pairs;  ///< "X1,Y1,X2,Y2,LENGTH"
    std::string face;                ///< "part" or "solder"
    std::string region;              ///< "X,Y,W,H" or empty
    int page = 1;                    ///< of a PDF
    std::string unit;                ///< of a DXF: "mm", "inch", "mil" or empty
};

/// Exit code: 0, or 2 with a message.
int findCommand(const FindArguments& arguments);

}  // namespace punch
