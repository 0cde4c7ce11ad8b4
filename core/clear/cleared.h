#pragma once
// What keeps apart from what, and how far: pairs at different potentials, what stands near live copper, halos, room.

#include <optional>
#include <string>
#include <vector>

#include "core/base/length.h"
#include "core/base/value.h"
#include "core/part/part.h"

namespace punch {

/// Stands for a distance over which nothing leads.
inline Length noWay() { return Length::fromMm(1e3); }

/// Two pads at different potentials, or a pad and other metal, a keepout or the board's edge that carries one.
struct VoltagePair {
    PUNCH_VALUE(VoltagePair)
    FeatureId a, b;
    Voltage peak;
    Length gap;               ///< straight through air, on the layer that has least to spare
    Length way;               ///< over the board's surface, around what is cut out of it
    Length needed;            ///< the larger of both
    bool sourceOpen = false;  ///< one of both names no source: taken at the worst phase
    bool otherFaces = false;  ///< on different faces: both ways lead over a wall or the edge, or are noWay()
    // Of IPC-2221B: the column that `needed` comes from, and what is asked on inner layers (B1) and under mask (B4).
    std::optional<VoltageColumn> column;
    std::optional<Length> innerAsks, coveredAsks;
    // Of IEC 60664-1: what the distance has to be through air and over the surface, and from which voltages.
    std::optional<Length> clearance, creepage;
    Voltage impulse, rms;
    std::string refused;      ///< why the standard asks for nothing here: a table ends; `needed` is 0 then
    std::vector<Point> line;  ///< the straight way
    std::vector<Point> path;  ///< the way over the surface, arcs in short chords; empty: it is the straight one
    /// What is left of the distance: the smaller of both.
    Length margin() const {
        const Length air = gap - clearance.value_or(needed);
        const Length over = way - creepage.value_or(needed);
        return air < over ? air : over;
    }
};

/// The sizes of land that a pad can have, the other pads of its formation growing with it.
struct Room {
    PUNCH_VALUE(Room)
    FeatureId pad;
    bool across = false;           ///< along the land's y, of one that is longer than wide; else its width
    Length least, most;            ///< most < least: there is none
    std::string leastBy, mostBy;   ///< gauge that binds: "ring", "voltage"
    std::vector<FeatureId> about;  ///< features at the upper end
    Length best;                   ///< the largest that passes everything, down to 0.05; 0: none
    Length now;
};

/// What stands near live copper and carries no potential of its own: nothing is asked of it, but this is how far it is.
struct Surrounding {
    enum class Kind { Keepout, BoardEdge, CutOut, Metal };
    std::string id, name;
    Kind kind = Kind::Keepout;
    FeatureId pin;  ///< the live pad with the least to spare
    Length gap;     ///< straight through air
    Length way;     ///< over the surface
    Length asks;    ///< what would be asked if it stood at 0 V
    Length margin;  ///< what would be left; negative: too little
};

/// A potential's distance around its pins, for the halo lens.
struct Halo {
    FeatureId pin;
    std::string potential;
    std::string volts;  ///< "230 V"
    Length needed;      ///< against the worst other potential; 0 when there is none
};

struct Cleared {
    PUNCH_VALUE(Cleared)
    std::vector<VoltagePair> voltages;  ///< the tightest margin first
    std::vector<Surrounding> around;    ///< in the order of keepouts, edges, cut-outs and metal
    std::vector<Halo> halos;
    std::vector<Room> rooms;  ///< in the order of the pads
};

}  // namespace punch
