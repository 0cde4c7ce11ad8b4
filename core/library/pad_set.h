#pragma once
// Pads and holes of a footprint as a pattern that can be laid onto another one's: shifted, turned, mirrored.
//
// Two patterns coincide when every pad of one lies on one of the other within their doubts. Their middles then fall
// together, and the pad that lies farthest out lies on one that is as far out: there are few turns to try.
// Frame: mm, x right, y up, seen from the part side.

#include <optional>
#include <string>
#include <vector>

#include "core/footprint.h"

namespace punch {

struct PatternPad {
    std::string number;
    double x = 0, y = 0;
    double hole = 0;   ///< finished, least; its shorter side; 0: a land without a hole
    double land = 0;   ///< its shorter side; 0: a bare hole
    double doubt = 0;  ///< 95 %, against the best fit of all
};

struct PadPattern {
    std::string name;
    std::vector<PatternPad> pads;
    std::vector<std::string> keepouts;  ///< names
    bool whole = true;     ///< all pads and holes of a footprint, with their sizes; else what is known of it so far
    std::size_t pins = 0;  ///< of what is not whole: how many pads it has; 0: not known
};

/// None while a pad or hole is loose: then it has no pattern yet.
std::optional<PadPattern> patternOf(const Part& part, const Footprint& footprint);

struct PadPair {
    std::size_t one = 0, other = 0;
    double off = 0;  ///< mm between them, laid onto each other
};

struct Coincidence {
    bool mirrored = false;
    double turn = 0;      ///< degrees, counter-clockwise, -180 to 180, of the one (after it was mirrored)
    double x = 0, y = 0;  ///< and then its shift
    double worst = 0;     ///< mm, of the pads
    std::vector<PadPair> pairs;
    /// What differs, in words: "pad 3 is 5 there", "holes 1.40 and 1.50", "keepout plug travel is not there".
    std::vector<std::string> differs;
};

/// What nobody's doubt covers may still differ by so much: rounding of drawings.
inline constexpr double kPatternSlack = 0.02;  // mm

/// What is firm of a part that may be loose elsewhere: a handful of readings. None with fewer than two places.
std::optional<PadPattern> firmPatternOf(const Part& part, const Footprint& footprint);

/// Each pad of one on a pad of the other that nobody else has, whatever else the other has. None with fewer than two.
std::optional<Coincidence> contained(const PadPattern& one, const PadPattern& other);

/// Not mirrored, turned and shifted as little as may be; none where they do not coincide.
std::optional<Coincidence> coincide(const PadPattern& one, const PadPattern& other);

}  // namespace punch
