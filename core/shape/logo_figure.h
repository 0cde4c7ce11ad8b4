#pragma once
// A logo's figure at its size, as simple as its thinnest line asks.

#include <string>

#include "core/geometry/polygons.h"

namespace punch {

struct LogoFigure {
    Polygons figure;     ///< its middle at 0,0, upright; empty when nothing is thick enough
    double leftOut = 0;  ///< share of its area that was too thin
};

/// `text` as core/part/figure.h keeps it. Gaps narrower than `least` are closed, then what is thinner is left out.
/// Computed once for the same arguments and kept, since a logo of thousands of corners takes its time. None when the
/// text is no figure, or the width is nothing.
LogoFigure logoFigure(const std::string& text, Length width, Length least);

}  // namespace punch
