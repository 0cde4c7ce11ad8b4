#pragma once
// Distances between parts of a trial board, and what stands where it may not. Used by board_check alone.

#include <string>
#include <vector>

#include "core/board/board_check.h"

namespace punch {

/// Two parts, or a part and the board's edge, that are near each other.
struct BoardLength {
    std::string words;  ///< "K1-3 and K2-1"
    Length is, asks, doubt;
    std::string refused = {};  ///< nothing can be said, for this reason
    std::vector<std::string> about = {};
    std::vector<Point> line = {};
    std::string says = {};  ///< template in place of "is of asks"
    std::vector<Length> of = {};
};

/// The least wall of holes of each two parts, of a part and a hole of the board.
std::vector<BoardLength> holeLengths(const LaidBoard& board);
/// The least gap of copper of each two parts, and from copper to the holes and cut-outs of another.
std::vector<BoardLength> copperLengths(const LaidBoard& board);
/// Copper and holes to the board's edge and its cut-outs; the board edge that a part is made for.
std::vector<BoardLength> edgeLengths(const LaidBoard& board);

struct VoltagesBetween {
    std::vector<BoardLength> pairs;   ///< the tightest of each two parts
    bool named = false;               ///< any part says what it carries
    std::vector<std::string> silent;  ///< "K3 says of no pad what it carries, and K1 carries 325 V"
};
VoltagesBetween voltagesBetween(const LaidBoard& board);

/// Keepouts, travel and heights against what other parts put there.
void keepoutFindings(const LaidBoard& board, std::vector<BoardFinding>& out);

/// From a shape to the board's edge or a cut-out; below 0: so far it reaches out.
Length toEdge(const Polygons& rings, const RoundedPolygon& shape);
bool boxesMeet(const Rect& a, const Rect& b, Length within = {});

}  // namespace punch
