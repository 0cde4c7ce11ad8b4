#pragma once
// A flat figure kept in a mark as text: a logo. Rings of whole micrometres as if it were 10 mm wide, its middle at 0,0,
// y up; outer rings counter-clockwise, holes clockwise: "-5000,-800 5000,-800 5000,800;..."

#include <string>
#include <string_view>
#include <vector>

#include "core/base/length.h"
#include "core/base/result.h"

namespace punch {

inline constexpr std::size_t kMostFigurePoints = 20000;
inline Length figureWidth() { return Length::fromMm(10); }

using FigureRings = std::vector<std::vector<Point>>;

std::string figureText(const FigureRings& rings);
/// Errors: what is no ring of places, too many of them, a place beyond 100 mm.
Result<FigureRings> figureFromText(std::string_view text);

}  // namespace punch
