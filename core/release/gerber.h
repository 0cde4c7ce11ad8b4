#pragma once
// Gerber X2 (The Gerber Layer Format Specification, revision 2022): one image file for each layer of the proof board.
// Millimetres, format 4.6, absolute; aperture, file and object attributes; no deprecated codes.

#include <string>
#include <vector>

#include "core/release/proof_board.h"

namespace punch {

enum class BoardLayer { TopCopper, BottomCopper, TopMask, BottomMask, TopPaste, BottomPaste, TopSilkscreen, Outline };

std::vector<BoardLayer> allBoardLayers();
std::string layerFileName(BoardLayer layer);  ///< "top-copper"

std::string gerber(const Part& part, const Footprint& footprint, const ProofBoard& board, BoardLayer layer);

}  // namespace punch
