#pragma once
// An SVG drawn into pixels, on white.

#include <string>

#include "core/base/result.h"
#include "core/picture/picture.h"

namespace punch {

/// Its longer side as many pixels as `most`. What it links to is not followed. Errors: it is none, or states no size.
Result<Picture> drawnSvg(const std::string& bytes, const std::string& name, double most);

}  // namespace punch
