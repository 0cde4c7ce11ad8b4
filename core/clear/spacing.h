#pragma once
// Distances between copper, and what voltage asks of them.
//
// The voltage of a pair: d.c. parts subtract; a.c. parts of one source subtract (as
// pointers where a phase is given), of different sources add, and so do those that name no source; a peak is that of a
// sine.
// IPC-2221B takes the peak, |dc| + sqrt(2) ac; IEC 60664-1 the r.m.s. for creepage, and for clearance the impulse of
// the category. Pairs and their ways: core/clear/voltage_pairs.

#include <optional>
#include <vector>

#include "core/clear/board.h"
#include "core/clear/cleared.h"

namespace punch {

/// Both alternate, and one names no source: at the worst phase their voltages add.
bool sourceOpen(const Potential& a, const Potential& b);
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
std::optional<Nearest> nearestCopper(const std::vector<Conductor>& copper);
/// The least gap of a land, on any layer, and a bare hole (at its largest finished size), a cut-out or the
/// board's edge.
std::optional<Nearest> nearestCopperToCut(const Board& board);
/// The same of one cut-out alone.
std::optional<Nearest> nearestCopperTo(const Shape& cut, const std::vector<Conductor>& copper);
/// The least wall between two holes (at largest finished sizes) or cut-outs, or from a hole to the board's edge.
std::optional<Nearest> nearestHoles(const Board& board);

/// The least gap of copper of two pads, over all layers that both are on. None when they share no layer.
std::optional<Length> copperGap(const Conductor& a, const Conductor& b);
/// The web of mask between the openings of two pads, on the sides that both open. None when they share none.
std::optional<Length> maskWeb(const Conductor& a, const Conductor& b);
/// The pads of different numbers with the least web.
std::optional<Nearest> nearestOpenings(const std::vector<Conductor>& copper);
/// Never more than copperGap(), and quick.
Length copperGapBound(const Conductor& a, const Conductor& b);

}  // namespace punch
