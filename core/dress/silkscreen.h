#pragma once
// Top silkscreen and the assembly drawing: outline, pin 1 mark, texts.
//
// The outline runs around the body at its allowance. Ink keeps 0.15 (house value) from every mask opening and every
// bare hole and cut-out: lines that come nearer are cut away there.

#include <optional>

#include "core/clear/board.h"
#include "core/dress/dressed.h"

namespace punch {

inline Length leastInkGap() { return Length::fromMm(0.15); }
/// Of a line's width: what is printed at all, and beyond which nobody means it (house values).
inline Length leastInkLine() { return Length::fromMm(0.10); }
inline Length mostInkLine() { return Length::fromMm(0.5); }

/// The whole stage: courtyard, silkscreen, assembly drawing.
Dressed dressed(const Part& part, const Board& board, const std::optional<BodyBox>& body);

struct InkGap {
    Length gap;
    std::string stroke;   ///< "outline"
    std::string feature;  ///< the opening's pad or bare hole
    bool cut = false;     ///< the stroke was cut to this distance
};

/// The least distance of ink from a mask opening, a bare hole's edge or a cut-out. None without ink or openings.
std::optional<InkGap> nearestInk(const Board& board, const std::vector<Stroke>& silkscreen);

}  // namespace punch
