#pragma once
// Which pieces of copper have to keep apart for their voltage, how far they are apart, and which way that is.
//
// Clearance  straight through air, past slots and hole rims: the least gap of copper, on any layer
// Creepage   over the nearer face of the board that both are on, around every cut whose narrowest width reaches X
//            (core/clear/creepage). X by pollution degree: 0.25, 1.0, 1.5; down to a third of a clearance below 3 mm if
//            the part says so. The width is the least milled one. Narrower cuts are crossed as if they were filled.
// IPC-2221B knows one distance of conductors; it is the straight one.
// Metal of single features that lies on the board (screw heads, washers) counts as copper on both faces.

#include <vector>

#include "core/clear/creepage.h"
#include "core/clear/spacing.h"

namespace punch {

/// The cut-outs in the footprint's frame.
std::vector<CutShape> cutShapes(const Part& part, Point datum);

/// What a way over the surface has to go around, where `clearance` is asked for.
std::vector<RoundedPolygon> cutsAround(const Part& part, const Footprint& footprint, std::optional<Length> clearance);

/// Pads, and metal of single features as pads of its size on both faces.
std::vector<Pad> conductors(const Part& part, const Footprint& footprint);

/// Measures one pair: `pair` comes with what is asked, and gets gap, way and their lines.
void measurePair(VoltagePair& pair, const Pad& a, const Pad& b, const SurfaceMap& surface);

/// The way that has less to spare, through air or over the surface: how far it is, and what it needs.
struct TightestWay {
    Length is, needs;
};
TightestWay tightestWay(const VoltagePair& pair);

/// Pairs of different potentials, the tightest margin first. Up to kAllPairs of them all are measured; beyond that
/// those that are near enough to matter: less than a tenth over what they need, and always the worst. Needs pads, bare
/// holes and cut-outs of the footprint.
std::vector<VoltagePair> voltagePairs(const Part& part, const Footprint& footprint);
inline constexpr std::size_t kAllPairs = 600;

/// The listed pair of these two, either way round. None when it is not listed.
const VoltagePair* pairOf(const Footprint& footprint, const FeatureId& a, const FeatureId& b);

/// How many exact distances the last voltagePairs() of this thread took.
std::size_t exactDistancesTaken();

/// What each named pin asks of its surroundings.
std::vector<Halo> halos(const Part& part);

}  // namespace punch
