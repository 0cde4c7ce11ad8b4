#pragma once
// The stage of sizes: what each lead and peg needs and gets, what each pad gets, and where each of these numbers comes
// from. Places (core/place) come before, distances (core/clear) after.

#include "core/footprint.h"

namespace punch {

class Adjustment;
class ChainReadings;

/// One for each formation, in their order; with the fewest different drills where the rules ask for that.
std::vector<LeadFit> leadFits(const Part& part, const Adjustment& adjustment, const ChainReadings& chains);

/// One for each spot that has a hole, without its place.
std::vector<BareHole> bareHolesOf(const Part& part, const Adjustment& adjustment);

/// Holes and lands of pads that are placed, and their chains ("hole:p1", "land:p1").
void sizePads(const Part& part, const std::vector<LeadFit>& leads, std::vector<Pad>& pads,
              std::map<std::string, Chain>& chains);

/// Lands of lugs at the places of their holes, and the chains of bare holes ("hole:peg5").
void finishBareHoles(const Part& part, std::vector<BareHole>& holes, std::map<std::string, Chain>& chains);

/// Every parameter with its value and doubt; also what follows from a lead: "lead.across", "hole", "land".
std::vector<ParameterValue> parameterValues(const Part& part, const Adjustment& adjustment,
                                            const std::vector<LeadFit>& leads);

}  // namespace punch
