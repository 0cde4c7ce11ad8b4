#pragma once
// A trial board in space: the board, and each part's body where it lies.

#include "core/board/laid_board.h"
#include "core/body/scene.h"

namespace punch {

/// Bodies that have files are read from beside their parts; `missing` says of which that failed, and they are left out.
SolidScene boardScene(const LaidBoard& board, const std::filesystem::path& folder, std::vector<std::string>& missing);

/// The bytes of a PNG, without a display. Errors: as drawn().
Result<std::string> boardPicture(const LaidBoard& board, const std::filesystem::path& folder, int width, int height,
                                 SeenFrom from = SeenFrom::Slanted);

}  // namespace punch
