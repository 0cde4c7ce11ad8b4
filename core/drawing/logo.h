#pragma once
// A logo from an SVG or a picture: what is dark in it, as outlines.
//
// An SVG is drawn by librsvg into 2400 pixels over its longer side, in a process of its own and without a place to load
// from: scripts do not run, links are not followed. Both are then outlined alike (core/picture/outlines.h).

#include <string>
#include <vector>

#include "core/base/result.h"
#include "core/part/figure.h"

namespace punch {

struct Logo {
    FigureRings rings;               ///< as core/part/figure.h says
    std::vector<std::string> notes;  ///< what was left out of it, for people
};

/// Errors: as readPicture; an SVG that cannot be drawn; nothing dark in it, or nothing else.
Result<Logo> readLogo(const std::string& file);

}  // namespace punch
