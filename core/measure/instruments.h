#pragma once
// Instruments and what is known of their errors: the one table of resolution, limit and handling.
//
// Laws (GUM, JCGM 100, type B): the limit is rectangular over ± limit, the step over ± step/2; handling is normal.
// Lengths in mm; the protractor's in degrees (house values).

#include <string_view>
#include <vector>

#include "core/part/part.h"

namespace punch {

/// How well the jaws find what they touch.
enum class Handling {
    EdgeToEdge,  ///< outside, inside, across one feature, from a face to an edge
    SameEdge,    ///< the same edge to the same edge, so centres of pins and pegs
    ByEye,       ///< the middle of something, judged by eye
};

/// The instruments that everybody has.
const std::vector<Instrument>& instruments();
/// One of the part's own, else one of the table. Null when there is no such instrument.
const Instrument* instrumentByName(const Part& part, std::string_view name);

inline constexpr const char* kGridSteps = "grid";  ///< steps of a known grid, counted
inline constexpr const char* kProtractor = "protractor";
/// Shows angles rather than lengths.
inline bool showsAngles(std::string_view instrument) { return instrument == kProtractor; }

Handling handlingOf(Contact contact);
double startingHandling(const Instrument& instrument, Handling handling);

}  // namespace punch
