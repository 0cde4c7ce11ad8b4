#pragma once
// Gerber X2 (The Gerber Layer Format Specification, revision 2022): one image file for each layer of the proof board.
// Millimetres, format 4.6, absolute; aperture, file and object attributes; no deprecated codes.

#include <string>

#include "core/approval/approval.h"
#include "core/base/result.h"
#include "core/release/proof_board.h"

namespace punch {

/// Discs, upright rectangles and ovals are flashed, everything else is a region; arcs as chords off by less than
/// 0.1 µm. Errors: a shape without a size, a coordinate that the format cannot hold (10 m or more).
Result<std::string> gerber(const Part& part, const Footprint& footprint, const ProofBoard& board, BoardLayer layer,
                         const Stamp& stamp = {});

/// As the value of an attribute or a comment may hold it (specification, 3.4.3).
std::string gerberText(const std::string& text);

}  // namespace punch
