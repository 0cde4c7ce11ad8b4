#pragma once
// Leads in a solid: slender pieces that reach below all the rest, in every way in which it could stand on a board.
//
// A piece that keeps its section from its end upwards and then broadens, joins others or ends is slender. The seating
// plane touches the lowest of what is no slender piece.

#include <vector>

#include "core/solid/sections.h"

namespace punch {

/// Seen in the frame of its standing: z 0 is the seating plane.
struct SolidLead {
    Flat at;               ///< its middle half a board (0.8) below the seating plane, or half its length
    SectionShape section;  ///< there
    double length = 0;     ///< below the seating plane
    Flat lean;             ///< from its middle close to the seating plane to that close to its end
    double bore = 0;       ///< hollow: area of what its section leaves out, mm²
    int body = 0;
};

/// One way for a solid to stand.
struct Standing {
    Pose pose;  ///< into a frame with z upwards and the seating plane at 0; x and y as they come
    std::vector<SolidLead> leads;
    double height = 0;  ///< of the solid above the seating plane
};

/// All ways with at least one lead, those with most leads first. `kMostWays` at most.
std::vector<Standing> standings(const Solid& solid);
/// The leads for a given way down (a direction in the solid's own frame).
Standing standing(const Solid& solid, Vec3 down);
/// And for a seating plane that was set: its height against `down` in the solid's own frame. What reaches below it and
/// is no slender piece stays part of the body.
Standing standing(const Solid& solid, Vec3 down, double seat);

inline constexpr std::size_t kMostWays = 12;

}  // namespace punch
