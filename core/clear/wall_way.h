#pragma once
// Ways between copper on different faces of the board: down the wall of a cut-out or a bare hole, or around the edge.
//
// Over the surface: on the upper face to a place of the rim, slanting down the wall to another place of it, on the
// lower face on to the copper; the shortest over all rims. Through air: the shortest string, to a place of the rim,
// slanting through the opening, and on from another place of the rim; past other cuts, as through air.
// The wall of any cut serves, however narrow. Source: IEC 60664-1, 4.2 and 6.2.

#include <map>
#include <optional>
#include <string>
#include <utility>
#include <vector>

#include "core/clear/board.h"
#include "core/clear/creepage.h"
#include "core/clear/cut_rim.h"

namespace punch {

struct WallWay {
    std::optional<SurfaceWay> air, surface;  ///< their paths in the plane; none: no cut and no edge
};

/// The rims of one board, and how far each piece of copper is from their places, found once for all pairs.
class WallWays {
public:
    WallWays(const Part& part, const Board& board);

    /// Copper is told apart by its name. `surface`: the cuts that a way over either face goes around; it has to outlive
    /// this. Within 0.1 µm; a way over the surface that is longer than `exactTo` within 0.1 mm, and never too short.
    WallWay between(const std::string& upper, const RoundedPolygon& upperCopper, const std::string& lower,
                    const RoundedPolygon& lowerCopper, const SurfaceMap& surface, Length exactTo);

private:
    /// Distances of one piece of copper from the tried places of one rim, mm.
    struct Reach {
        RoundedPolygon copper;
        std::vector<double> straight;
        std::vector<double> over;  ///< over the face; empty until it is asked for
        const SurfaceMap* surface = nullptr;
        double least = 0;  ///< of the straight ones
    };
    struct Tried {
        CutRim rim;
        std::vector<double> places;
    };
    struct Best;
    Reach& reachOf(const std::string& name, const RoundedPolygon& copper, std::size_t rim);
    void fillOver(Reach& reach, const Tried& tried, const SurfaceMap& surface) const;
    void throughAir(const Tried& tried, const Reach& a, const Reach& b, Best& best) const;
    void overSurface(const Tried& tried, Reach& a, Reach& b, const SurfaceMap& surface, double exactTo,
                     Best& best) const;

    double thickness_;
    std::vector<Tried> rims_;
    std::map<std::pair<std::string, std::size_t>, Reach> reaches_;
};

}  // namespace punch
