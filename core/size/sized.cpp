#include "core/size/sized.h"
#include "core/size/attached_copper.h"

#include <algorithm>

#include "core/geometry/shapes.h"
#include "core/measure/adjust.h"
#include "core/measure/chain_readings.h"
#include "core/part/names.h"
#include "core/size/fewest_drills.h"
#include "core/size/hole_fit.h"
#include "core/size/join_holes.h"
#include "core/size/pad_rules.h"

namespace punch {

PUNCH_VALUE_IS_HERE(LeadFit)
PUNCH_VALUE_IS_HERE(Pad)
PUNCH_VALUE_IS_HERE(BareHole)
PUNCH_VALUE_IS_HERE(MakeOver)
PUNCH_VALUE_IS_HERE(AttachedCopper)
PUNCH_VALUE_IS_HERE(Sized)
namespace {

/// Braces are places for numbers in a chain's words; names of makes may hold some.
std::string withoutBraces(std::string words) {
    std::erase_if(words, [](char c) { return c == '{' || c == '}'; });
    return words;
}

std::vector<LeadFit> leadFits(const Part& part, const Adjustment& adjustment, const ChainReadings& chains) {
    std::vector<LeadFit> leads;
    for (const Formation& formation : part.formations) leads.push_back(fitLead(part, formation, adjustment, chains));
    if (part.rules.fewestDrills) shareDrills(part.rules, leads);
    return leads;
}

/// A place that is known, with its lead; what it gets is decided by pad_rules.
Pad padAt(const PlacedPin& pin) {
    Pad pad;
    static_cast<DrawnLead&>(pad) = pin;
    pad.id = pin.id;
    pad.number = pin.number;
    pad.formation = pin.formation;
    pad.first = pin.first;
    pad.at = pin.at;
    pad.doubt = pin.doubt;
    pad.firm = pin.firm;
    return pad;
}

std::vector<Pad> padsOf(const Part& part, const std::vector<PlacedPin>& pins, const std::vector<LeadFit>& leads,
                        Chains& chains) {
    std::vector<Pad> pads;
    pads.reserve(pins.size());
    for (const PlacedPin& pin : pins) {
        Pad pad = padAt(pin);
        const LeadFit& lead = leads[pad.formation];
        sizePad(part, lead.formation, lead, pad);
        pad.leadOval = shapeOf(part, part.formations[pad.formation]).lead == LeadShape::Oval;
        Chain& hole = chains["hole:" + pad.id] = lead.holeChain;
        Chain& land = chains["land:" + pad.id] = lead.landChain;
        const PadOverride o = overrideFor(part, pad.id, lead.formation);
        const std::string why = o.reason.empty() ? "set against the rule" : "set: " + o.reason;
        if (o.hole) hole.push_back({why, "", {}, pad.hole, ChainStep::Link::Rule, "landHole", 0});
        if (o.land) land.push_back({why, "", {}, shownLand(pad).width, ChainStep::Link::Rule, "landWidth", 0});
        // Without an override of its own a land follows its hole.
        if (o.hole && !o.land && shownLand(pad).width != lead.land)
            land.push_back({"as its hole", "", {}, shownLand(pad).width, ChainStep::Link::Rule, "landHole", 0});
        pads.push_back(std::move(pad));
    }
    return pads;
}

/// Where the size of a bare hole comes from.
Chain holeChain(const Part& part, const BareHole& hole) {
    const bool slot = hole.slotLength > Length();
    const Extent& side = slot ? hole.peg.thick : hole.peg.across;
    const auto rule = [](std::string label, std::string detail, std::vector<Length> of, Length value,
                         std::string target) {
        return ChainStep{
            std::move(label), std::move(detail), std::move(of), value, ChainStep::Link::Rule, std::move(target), 0};
    };
    Chain chain;
    chain.push_back({hole.name + (slot        ? ", its thinner side"
                                  : hole.flat ? " over its corners"
                                              : " diameter"),
                     !hole.sized  ? "not measured"
                     : side.drawn ? "{} to {} by the drawing"
                                  : "± {}",
                     side.drawn ? std::vector<Length>{side.least, side.most} : std::vector<Length>{side.doubt},
                     side.mean, ChainStep::Link::Parameter, hole.id + (hole.flat ? ".width" : ".diameter"), 0});
    if (hole.kind != SpotKind::MountingHole)
        chain.push_back(rule("clearance", part.rules.leadAtMean ? "+ {}" : "+ {} over its largest",
                             {part.rules.pegClearance}, largestOf(part.rules, side) + part.rules.pegClearance,
                             "pegClearance"));
    const PadOverride o = overrideForSpot(part, hole.id);
    if (o.hole)
        chain.push_back(
            rule(o.reason.empty() ? "set against the rule" : "set: " + o.reason, "", {}, hole.size, "landHole"));
    else if (slot)
        chain.push_back(rule("mill bit, next up", hole.plated ? "less {} of plating" : "", {part.rules.fab.plating},
                             hole.size, "fabProfile"));
    else
        chain.push_back(rule("drill, next up", "", {}, hole.size, "drills"));
    if (slot) chain.push_back(rule("slot length", "over its rounded ends", {}, hole.slotLength, "landSlotLength"));
    return chain;
}

/// One for each spot that has a hole, at its place; lands of lugs with them.
std::vector<BareHole> bareHolesOf(const Part& part, const Adjustment& adjustment,
                                  const std::map<FeatureId, PlacedSpot>& places, Chains& chains) {
    std::vector<BareHole> holes;
    for (const Spot& spot : part.spots) {
        if (!hasHole(spot)) continue;
        BareHole hole = fitSpot(part, spot, adjustment);
        const PlacedSpot& placed = places.at(spot.id);
        hole.at = placed.at;
        hole.doubt = placed.doubt;
        hole.firm = placed.firm;
        const PadOverride o = overrideForSpot(part, hole.id);
        hole.land.at = hole.at + Point{o.offsetX.value_or(Length()), o.offsetY.value_or(Length())};
        chains["hole:" + hole.id] = holeChain(part, hole);
        holes.push_back(std::move(hole));
    }
    return holes;
}

std::vector<ParameterValue> parameterValues(const Part& part, const Adjustment& adjustment,
                                            const std::vector<LeadFit>& leads) {
    std::vector<ParameterValue> all = parametersOf(adjustment);
    for (std::size_t i = 0; i < part.formations.size(); ++i) {
        const std::string prefix = parameterPrefix(part, part.formations[i]);
        const LeadFit& lead = leads[i];
        // A round or square lead is as thick as it is wide.
        const LeadShape shape = part.formations[i].lead;
        const auto width = std::find_if(all.begin(), all.end(),
                                        [&](const ParameterValue& p) { return p.name == prefix + "lead.width"; });
        if (shape != LeadShape::Rectangular && shape != LeadShape::Oval && width != all.end()) {
            ParameterValue thickness = *width;
            thickness.name = prefix + "lead.thickness";
            thickness.words = "lead thickness";
            all.push_back(thickness);
        }
        const auto sized = [&](const char* name, const char* words, Length length, Length doubt) {
            ParameterValue value;
            value.name = prefix + name;
            value.words = words;
            value.value = length;
            if (lead.sized) value.doubt = doubt;
            all.push_back(std::move(value));
        };
        sized("lead.across", "lead over its corners", lead.section.across.mean, lead.section.across.doubt);
        sized("hole", "hole", lead.hole, Length());
        sized("land", "land", lead.land, Length());
    }
    return all;
}

}  // namespace

Sizes sizes(const Part& part, const Adjustment& adjustment, const ChainReadings& chains, const Places& places,
            const Shaped& shaped, std::vector<MakeOver> makes) {
    Sizes all;
    all.makes = std::move(makes);
    all.leads = leadFits(part, adjustment, chains);
    all.pads = padsOf(part, places.pins, all.leads, all.chains);
    all.bareHoles = bareHolesOf(part, adjustment, places.holes, all.chains);
    std::vector<Conductor> second;
    if (!all.makes.empty()) second = joinHoles(part, all);
    for (const JoinedHole& j : all.joined) {
        const std::string kind = nameOf(j.kind) + (j.why.empty() ? "" : "; " + j.why);
        all.chains["hole:" + j.id].push_back({"for all makes",
                                              "leads up to {} apart: " + withoutBraces(kind),
                                              {j.apart},
                                              j.size,
                                              ChainStep::Link::Rule,
                                              "landJoin",
                                              0});
    }
    if (!part.marks.empty()) {
        all.attached = attachedCopper(part, shaped, all.pads, all.bareHoles);
        all.chains.merge(all.attached.chains);
    }
    all.attached.lands.insert(all.attached.lands.end(), second.begin(), second.end());
    all.parameters = parameterValues(part, adjustment, all.leads);
    return all;
}

}  // namespace punch
