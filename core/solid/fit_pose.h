#pragma once
// Putting a solid onto the board: its leads over the holes, by computation.
//
// Every way in which it could stand, every turn about z, never a mirror image. What counts is how many leads meet a
// hole that they go into; the place is that of the leads that agree, so that one that is bent does not drag the rest.

#include <string>
#include <vector>

#include "core/solid/leads.h"

namespace punch {

/// A hole that waits for a lead or a peg.
struct Socket {
    std::string id, name;
    Flat at;
    double size = 0;  ///< its wider side, mm; 0 where that is not known
};

struct LeadMatch {
    std::size_t lead = 0, socket = 0;
    Flat off;             ///< from the hole's middle to the lead's, mm
    double residual = 0;  ///< its length
    bool counted = true;  ///< it agrees with the others
};

struct FittedPose {
    Standing standing;
    Pose pose;                             ///< from the file's frame onto the board: seating plane at z 0
    double turn = 0;                       ///< about z, of the standing, degrees
    std::vector<LeadMatch> matches;        ///< in the order of the standing's leads
    std::vector<std::size_t> withoutHole;  ///< leads over no hole
    std::vector<std::size_t> withoutLead;  ///< holes with no lead
    double rms = 0, worst = 0;             ///< of those that agree, mm
    /// Leads that stand off, where it can be told which: four at least have to agree on it.
    bool sure = false;
    std::vector<std::size_t> off;  ///< of `matches`: not with the others; while not `sure` one of these is
};

/// Best first; what follows the first is as good as it (a symmetrical pattern), then what is nearly. Empty without
/// leads or holes. A single lead fixes no turn: it stands as in its file.
std::vector<FittedPose> fitPoses(const std::vector<Standing>& standings, const std::vector<Socket>& sockets);

/// Is the pose as good as the best, so that the leads alone do not tell them apart?
bool isEquivalent(const FittedPose& pose, const FittedPose& best);

}  // namespace punch
