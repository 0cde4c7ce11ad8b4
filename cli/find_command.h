#pragma once
// punch find: what stands in a picture or a drawing.

#include <optional>
#include <string>
#include <vector>

#include "core/picture/find.h"

namespace punch {

struct FindArguments {
    std::string image;
    bool json = false;
    std::optional<double> dpi;
    std::vector<std::string> pairs;  ///< "X1,Y1,X2,Y2,LENGTH"
    std::string face;                ///< "part" or "solder"
    std::string region;              ///< "X,Y,W,H" or empty
    std::optional<int> page;         ///< of a PDF, from 1
    std::string square;              ///< "X1,Y1,X2,Y2,X3,Y3,X4,Y4,W,H" or empty
    std::string ruler;               ///< which ruler counts: a number, "none" or empty
    std::string scaleBy;             ///< "ruler" or "dpi" where they differ, or empty
    std::string unit;                ///< of a DXF: "mm", "inch", "mil" or empty
};

struct FoundBy {
    Found found;
    bool fromBelow = true;
};
/// What stands in the image; notes go to standard error. Errors: the image, the arguments.
Result<FoundBy> foundBy(const FindArguments& arguments);

/// Exit code: 0, or 2 with a message.
int findCommand(const FindArguments& arguments);

}  // namespace punch
