#pragma once
// A solid that stands on the board: a STEP file beside the part, what was found in it, and how it stands.
//
// What was found is kept with the part, so that everything that judges it needs neither the file nor the kernel. It is
// found anew when the file changes or the way down is another (core/solid/found_solid.h). Numbers are mm and degrees.
// Frame of what was found: z upwards from the seating plane, x and y as core/solid/leads.h puts them; `turn` and the
// place take it to the board's.

#include <array>
#include <optional>
#include <string>
#include <vector>

#include "core/base/motion.h"
#include "core/base/value.h"
#include "core/part/source.h"

namespace punch {

/// Around a lead at one depth, convex: everything within `radius` of its corners.
struct LeadSlice {
    double depth = 0;  ///< below the seating plane
    std::vector<std::array<double, 2>> corners;
    double radius = 0;
    friend bool operator==(const LeadSlice&, const LeadSlice&) = default;
};

/// A slender piece below the seating plane: a lead or a peg.
struct SolidLeadFound {
    double x = 0, y = 0;           ///< its middle, half a board below the seating plane
    double along = 0, across = 0;  ///< of its section
    double turn = 0;               ///< of `along`, degrees
    bool round = false;
    double length = 0;                   ///< below the seating plane
    double leanX = 0, leanY = 0;         ///< from its upper to its lower end
    std::string of;                      ///< the pin, peg or lock that it is; empty: of nothing here
    std::vector<LeadSlice> slices = {};  ///< downwards; core/solid/lead_slices.h says what lies between them
    friend bool operator==(const SolidLeadFound&, const SolidLeadFound&) = default;
};

/// What it takes between two heights above the seating plane, leads left out; seen from above.
struct SolidShadow {
    double low = 0, high = 0;
    std::vector<std::vector<std::array<double, 2>>> rings;  ///< outer ones counter-clockwise, holes clockwise
    friend bool operator==(const SolidShadow&, const SolidShadow&) = default;
};

/// A body of the file that moves: a knob, a lever, a plunger.
struct SolidMotion {
    PUNCH_VALUE(SolidMotion)
    std::string name;  ///< "knob"
    int body = 0;      ///< which of the file's
    Motion motion;     ///< in the file's own frame
    /// Where it first touches the rest of the file, between the motion's ends; none: nowhere.
    std::optional<double> touches;
    std::vector<std::vector<std::array<double, 2>>> swept;  ///< rings of what it passes over, seen from above
    double low = 0, high = 0;                               ///< of what it sweeps, above the seating plane
    friend bool operator==(const SolidMotion&, const SolidMotion&);
};

struct SolidFile {
    PUNCH_VALUE(SolidFile)
    std::string id;
    std::string name;
    std::string file;     ///< beside the part
    std::string digest;   ///< of the file when it was read (SHA-1)
    Vec3 down{0, 0, -1};  ///< in the file's own frame
    double seat = 0;      ///< the seating plane there, against `down`
    bool byLeads = true;  ///< it stands where its leads best meet their holes, whatever follows
    double turn = 0;      ///< about z; of what stands by its leads as it was found
    double x = 0, y = 0;  ///< where the frame of what was found begins on the board
    double lift = 0;      ///< above the board
    std::vector<SolidLeadFound> leads;
    std::vector<std::array<double, 2>> outline;  ///< around it, seen from above; convex
    double height = 0;                           ///< above the seating plane
    std::vector<SolidShadow> shadows;            ///< from below upwards, without gaps between the first and the last
    std::vector<SolidMotion> motions;
    bool seatSet = false;  ///< the seating plane was set by hand; it stays when the file is read anew
    UnknownFields unknown;
    friend bool operator==(const SolidFile&, const SolidFile&);
};

/// From the file's frame into that of what was found.
Pose standingPose(const SolidFile& solid);
/// From the file's frame onto the board.
Pose boardPose(const SolidFile& solid);
/// Turned so that `down` is -z; x and y follow the frame that it comes from as near as they can.
Pose upright(Vec3 down);

}  // namespace punch
