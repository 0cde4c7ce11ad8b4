#pragma once
// What may carry a potential on the board, as conductors: so that one code measures all pairs.
//
// Pads and lands of soldered lugs; metal that lies on the board around a bare hole (screw heads, washers), on both
// faces; and where they carry a potential: metal pegs, as large as their hole, in which they may stand anywhere;
// cut-outs that something metal goes through; keepouts, on the part side; the board's edge, on every layer.

#include <map>
#include <vector>

#include "core/clear/board.h"

namespace punch {

/// Copper of the board and metal that lies on it.
std::vector<Conductor> metal(const Part& part, const Board& board);
/// Cut-outs, keepouts and edges that carry a potential.
std::vector<Conductor> liveSurroundings(const Part& part, const Board& board);

/// Index among the part's potentials, by what carries it.
std::map<FeatureId, std::size_t> potentialByFeature(const Part& part);

/// A keepout, an edge, a cut-out or a single feature, whether it carries a potential or not. None when it is not there.
std::optional<Conductor> surroundingMetal(const Part& part, const Board& board, const std::string& id);

}  // namespace punch
