#pragma once
// What is wrong between the parts of a trial board: courtyards, keepouts and travel, holes, copper, edges, voltage.
// What is wrong within a part its own gauges say; here its worst one stands as one finding.
//
// Limits between two parts are the larger of both parts' fab profiles; voltages are judged by the rules of both, and
// the worse counts. Doubts of places (95 %) are those of both parts: a limit that holds, but not over them, is watch.

#include <optional>
#include <string>
#include <vector>

#include "core/board/laid_board.h"
#include "core/verdicts/gauge.h"

namespace punch {

enum class BoardCheck { Parts, Outline, Courtyards, Keepouts, Holes, Copper, Edge, Voltage, Fiducials };

struct BoardCheckKind {
    BoardCheck check;
    const char* name;  ///< of files and the command line
    const char* title;
};
/// In the order in which they are shown.
const std::vector<BoardCheckKind>& boardCheckKinds();

struct BoardFinding {
    BoardCheck check = BoardCheck::Parts;
    GaugeState state = GaugeState::Go;
    std::string words;  ///< template, see fill(): "K1 and K2: courtyards overlap by {} {u}"
    std::vector<Length> of;
    std::vector<std::string> about = {};  ///< identifiers of placings and holes
    std::vector<Point> line = {};         ///< where: a place, or the two that are too near
    double margin = 0;                    ///< mm, below 0 what is missing; to sort by
};

struct BoardJudgement {
    std::vector<BoardFinding> findings;  ///< the worst first; of a check without trouble what comes nearest to it
    GaugeState of(BoardCheck check) const;
    GaugeState worst() const;
};
BoardJudgement judged(const LaidBoard& board);

/// Three global fiducials near the corners, as far apart as there is room, not symmetrical. Errors: no room.
Result<std::vector<Point>> offeredFiducials(const LaidBoard& board);

}  // namespace punch
