#pragma once
// Instruments and what is known of their errors: the one table of resolution, limit and handling.
//
// Laws (GUM, JCGM 100, type B): the limit is rectangular over ± limit, the step over ± step/2; handling is normal.

#include <optional>
#include <string>
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

struct Instrument {
    std::string_view name;         ///< "caliper-0.01", as files call it
    std::string_view words;        ///< "digital caliper 0.01"
    double step;                   ///< mm
    double limit;                  ///< mm, up to 100 mm
    double limitLong;              ///< mm, above
    double edge, sameEdge, byEye;  ///< handling s0, mm
};

const std::vector<Instrument>& instruments();
/// Null when there is no such instrument.
const Instrument* instrumentByName(std::string_view name);

Handling handlingOf(Contact contact);
double startingHandling(const Instrument& instrument, Handling handling);

}  // namespace punch
