#pragma once
// Another make, laid over the part's own places: what each of its leads and pegs needs, and where.
//
// By its leads: turned by quarters of a turn, the one after which leads of one number lie nearest; then shifted to the
// middle of the smallest circle around their differences, so that the worst of them is as near as it can be. The
// rules (level, drills, fab profile) are the part's, whatever the make says.

#include "core/place/place.h"
#include "core/shape/shapes.h"
#include "core/size/pads.h"

namespace punch {

/// One for each of the part's makes. A make that is loose or not measured says why.
std::vector<MakeOver> makesOver(const Part& part, const Places& places);

/// The makes' bodies as room that the part itself takes, so that courtyard and outline count them.
std::vector<Shape> bodiesOf(const std::vector<MakeOver>& makes);

/// The make's part under the rules of the part that it is joined to.
Part underRulesOf(const Part& part, const Make& make);

/// Turned by quarters and shifted, from the make's datum to the part's.
Point laidOver(const MakeOver& over, Point at);

/// The smallest circle around discs (corners' first point and radius): its middle and diameter.
RoundedPolygon circleAround(const std::vector<RoundedPolygon>& discs);

}  // namespace punch
