#pragma once
// Distances between copper, and what voltage asks of them.
//
// The voltage of a pair: d.c. parts subtract; a.c. parts of one source subtract, of different sources add.
// IPC-2221B takes the peak, |dc| + sqrt(2) ac; IEC 60664-1 the r.m.s. for creepage, and for clearance the impulse of
// the category. As long as nothing is cut out of the board, the way through air is the way over the surface.

#include <optional>
#include <vector>

#include "core/clear/rounded_polygon.h"
#include "core/footprint.h"

namespace punch {

RoundedPolygon landShape(const Pad& pad);
/// The pad's solder mask opening.
RoundedPolygon maskOpening(const Pad& pad);
inline Length maskMargin() { return Length::fromMm(0.05); }  ///< house value, per side

/// Peak volts between two potentials.
Voltage peakBetween(const Potential& a, const Potential& b);
/// R.m.s. volts between them, sqrt(dc² + ac²).
Voltage rmsBetween(const Potential& a, const Potential& b);

/// What the part's standard asks between two potentials; features and gap are left out.
VoltagePair askedBetween(const Rules& rules, const Potential& a, const Potential& b);

struct Nearest {
    Length gap;
    std::string a, b;  ///< features
};

/// The least gap of copper of different numbers. None with fewer than two pads.
std::optional<Nearest> nearestCopper(const std::vector<Pad>& pads);
/// The least gap of a land and a bare hole, at its largest finished size.
std::optional<Nearest> nearestCopperToHole(const std::vector<Pad>& pads, const std::vector<BareHole>& holes);
/// The least wall between two holes, at largest finished sizes.
std::optional<Nearest> nearestHoles(const std::vector<Pad>& pads, const std::vector<BareHole>& holes);

/// Every pair of pads that carry different potentials, the tightest margin first.
std::vector<VoltagePair> voltagePairs(const Part& part, const std::vector<Pad>& pads);
/// What each named pin asks of its surroundings.
std::vector<Halo> halos(const Part& part);

}  // namespace punch
