#pragma once
// A trial board laid out: each part's footprint as it lies, and all of them as one, so that artwork, Gerber, drill,
// distances and space need no second way.
//
// In the whole, a feature is "K2:p1" (designator, feature) and a number "K2-1"; what is the board's own has no
// designator (":h1"). Frame: core/board/trial_board.h.

#include <vector>

#include "core/base/value.h"
#include "core/board/trial_board.h"
#include "core/footprint.h"
#include "core/release/proof_board.h"

namespace punch {

/// A part and what follows from it, before it is laid.
struct BoardPart {
    PUNCH_VALUE(BoardPart)
    Part part;
    Footprint footprint;
    std::string trouble;   ///< why it cannot be read; empty when it can
    std::string standing;  ///< how far the part has come, as it is kept: "released, version 2"
};
/// One for each placing, in their order, each carrying its designator on the silkscreen. Parts are read from `folder`
/// and derived on as many threads as the machine has.
std::vector<BoardPart> boardParts(const TrialBoard& board, const std::filesystem::path& folder);
/// A part that carries this designator.
BoardPart boardPart(Part part, const std::string& designator);

/// A part as it lies; nothing lies of one that cannot be read.
struct LaidPart {
    Placing placing;
    BoardPart of;
    Footprint lies;
    bool there() const { return of.trouble.empty(); }
};

struct LaidBoard {
    PUNCH_VALUE(LaidBoard)
    TrialBoard board;
    Polygons rings;  ///< edge and cut-outs
    std::vector<LaidPart> parts;
    Part whole;  ///< rules of the first part, potentials and screws of all
    Footprint all;
    ProofBoard outline;  ///< for the files
};
LaidBoard laidBoard(const TrialBoard& board, std::vector<BoardPart> parts);

/// "K2:p1" and "K2-1".
std::string onBoardId(const Placing& placing, const FeatureId& id);
std::string onBoardNumber(const Placing& placing, const std::string& number);
/// The designator before the colon; empty for what is the board's own.
std::string designatorIn(const FeatureId& id);

}  // namespace punch
