#pragma once
// punch shot: a picture of a part, without a display.

#include <string>

#include "core/release/pictures.h"

namespace punch {

struct ShotArguments {
    std::string part, to;
    std::string size = "1280x800";
    PictureWanted wanted;
};

/// Exit code: 0, or 2 with a message.
int shotCommand(ShotArguments arguments);

}  // namespace punch
