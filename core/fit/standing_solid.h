#pragma once
// Solids on the board: where they stand by their leads, and how each lead stands in its hole.
// Frame: mm from the datum, x right, y up, seen from the part side.

#include <optional>
#include <string>
#include <vector>

#include "core/base/value.h"
#include "core/geometry/polygons.h"
#include "core/size/pads.h"
#include "core/solid/fit_pose.h"

namespace punch {

struct StandingLead {
    std::size_t index = 0;  ///< in SolidFile::leads
    FeatureId of;           ///< empty: it stands over no hole
    std::string name;       ///< of its pad or hole; empty without
    Point at;               ///< its middle, half a board below the seating plane
    Length off;             ///< from its hole's middle
    bool counted = true;    ///< it agrees with the others
    /// Between it and the wall of its least hole, at its worst through the board; below 0 it does not go in. None where
    /// the hole is not known.
    std::optional<Length> gap;
    Length past;  ///< out of the far side of the board; below 0 it ends within
    bool peg = false;
};

/// What the body takes between two heights above the board, leads left out.
struct StandingShadow {
    Length low, high;
    Polygons area;
};

/// A part of it that moves.
struct StandingMotion {
    std::string name;
    Polygons swept;
    Length low, high;  ///< above the board
    bool turns = true;
    std::optional<double> touches;  ///< degrees or mm from where it is drawn; none: it touches nothing of its own
};

struct StandingSolid {
    PUNCH_VALUE(StandingSolid)
    std::string id, name;
    Pose pose;  ///< from its file's frame onto the board
    double turn = 0;
    std::vector<StandingLead> leads;
    std::vector<FeatureId> without;  ///< pins whose holes have no lead
    Polygons outline;                ///< around it from above
    std::vector<StandingShadow> shadows;
    std::vector<StandingMotion> motions;
    Length height, lift;
    /// Four at least agree: which leads are off is known. Else "one of these".
    bool sure = false;
    bool firm = true;  ///< every hole of the part is
};

/// Holes that wait for a lead or a peg; those that are loose are left out.
std::vector<Socket> socketsOf(const Sized& sized);
/// A pose made the part's: its leads get the features whose holes they stand in.
SolidFile placedBy(SolidFile found, const FittedPose& pose, const std::vector<Socket>& sockets);

std::vector<StandingSolid> standingSolids(const Part& part, const Sized& sized);

}  // namespace punch
