#pragma once
// How far two pieces of metal are apart, through air and over the surface, and which way that is.
//
// Clearance  straight through air, past slots and hole rims: the least gap, on any layer
// Creepage   over the nearer face of the board that both are on, around every cut whose narrowest width reaches X
//            (core/clear/creepage). X by pollution degree: 0.25, 1.0, 1.5; down to a third of a clearance below 3 mm if
//            the part says so. The width is the least milled one. Narrower cuts are crossed as if they were filled.
// IPC-2221B knows one distance of conductors, the straight one; each layer asks by its own column: inner layers by B1,
// copper that lies wholly under mask by B4, the rest by the part's column. The layer with the least to spare counts.
// On different faces (core/clear/wall_way) both ways lead over the wall of a cut or a bare hole, or around the board's
// edge; without any, nothing but base material is between them, for which the tables have no distance.

#include <map>
#include <string>
#include <vector>

#include "core/clear/board.h"
#include "core/clear/cleared.h"
#include "core/clear/creepage.h"
#include "core/clear/wall_way.h"

namespace punch {

/// A cut that a way over the surface has to go around.
struct NamedCut {
    std::string id;  ///< of the cut-out, or of the peg, lock or screw
    RoundedPolygon shape;
};

/// X: a cut of this least width or more lengthens a way over the surface, where `clearance` is asked for
/// (IEC 60664-1, 6.2); down to a third of a clearance below 3 mm if the part says so.
Length leastCutWidth(const Insulating& rules, std::optional<Length> clearance);

/// The cuts that count where `clearance` is asked for.
std::vector<NamedCut> cutsAround(const Part& part, const Board& board, std::optional<Length> clearance);

/// Measures pairs of one board; keeps the maps of cuts. Part and what the board refers to have to outlive it.
class Ways {
public:
    Ways(const Part& part, const Board& board) : part_(part), board_(board) {}
    /// `pair` comes with what is asked (core/clear/spacing, askedBetween), and gets its distances and their lines.
    void measure(VoltagePair& pair, const Conductor& a, const Conductor& b);
    /// Ways between different faces that are longer than 1.3 times what is asked need only be right within 0.1 mm: for
    /// very many pairs.
    void roughWhereFar() { allExact_ = false; }

private:
    const SurfaceMap& surfaceFor(const VoltagePair& ask, const FeatureId& a, const FeatureId& b);
    void overFace(VoltagePair& pair, const Conductor& a, const Conductor& b);
    void overWalls(VoltagePair& pair, const Conductor& a, const Conductor& b);

    const Part& part_;
    Board board_;
    std::map<Length, std::vector<NamedCut>> cuts_;                   ///< by the clearance that is asked for
    std::map<std::pair<Length, std::string>, SurfaceMap> surfaces_;  ///< and by the cuts that are left out
    SurfaceMap nothing_{{}};
    bool allExact_ = true;
    std::optional<WallWays> walls_;  ///< once a pair on different faces is asked for
};

/// The way that has less to spare, through air or over the surface: how far it is, and what it needs.
struct TightestWay {
    Length is, needs;
};
TightestWay tightestWay(const VoltagePair& pair);

}  // namespace punch
