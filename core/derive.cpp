#include "core/derive.h"

#include <algorithm>

#include "core/clear/spacing.h"
#include "core/dress/courtyard.h"
#include "core/dress/silkscreen.h"
#include "core/measure/adjust.h"
#include "core/place/place.h"
#include "core/shape/body.h"
#include "core/size/hole_fit.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

void addParameters(const Part& part, const Adjustment& adjustment, Footprint& footprint) {
    const Parameters& parameters = adjustment.parameters();
    for (const Parameter& p : parameters.all()) {
        const Expr e = parameters.expr(p.name, adjustment.values());
        ParameterValue value{p.name, p.words, Length::fromMm(e.value()), {}, p.taken.has_value()};
        if (adjustment.firm(e)) value.doubt = Length::fromMm(adjustment.doubt(e));
        footprint.parameters.push_back(value);
    }
    for (std::size_t i = 0; i < part.formations.size(); ++i) {
        const std::string prefix = parameterPrefix(part, part.formations[i]);
        const LeadFit& lead = footprint.leads[i];
        // A round or square lead is as thick as it is wide.
        if (part.formations[i].lead != LeadShape::Rectangular) {
            ParameterValue thickness = *footprint.parameter(prefix + "lead.width");
            thickness.name = prefix + "lead.thickness";
            thickness.words = "lead thickness";
            footprint.parameters.push_back(thickness);
        }
        const auto sized = [&](const char* name, Length value) {
            footprint.parameters.push_back(
                {prefix + name, name, value, lead.sized ? std::optional(Length()) : std::nullopt, false});
        };
        footprint.parameters.push_back({prefix + "lead.across", "lead over its corners", lead.across,
                                        lead.sized ? std::optional(lead.acrossDoubt) : std::nullopt, false});
        sized("hole", lead.hole);
        sized("land", lead.land);
    }
}

/// 95 % doubt below which a pad needs no further reading: a quarter of (hole - lead) / 2, over all pads and pegs.
double enoughDoubt(const Footprint& f) {
    double enough = 1e9;
    for (const LeadFit& lead : f.leads) enough = std::min(enough, (lead.hole - lead.across).mm() / 8);
    for (const BareHole& h : f.bareHoles) enough = std::min(enough, (h.size - h.peg).mm() / 8);
    return std::max(enough, 0.0);
}

}  // namespace

Footprint derive(const Part& part) {
    const Adjustment adjustment(part);
    Footprint f;
    f.name = part.name;
    for (const Formation& formation : part.formations) {
        f.leads.push_back(fitLead(part, formation, adjustment));
        f.pitches.push_back(advicePitch(part, formation));
    }
    for (const Peg& peg : part.pegs) f.bareHoles.push_back(fitPeg(part, peg, adjustment));
    addPlaces(part, adjustment, f);
    for (Pad& pad : f.pads) {
        const LeadFit& lead = *f.leadOf(part, pad.id);
        pad.hole = lead.hole;
        pad.holeLargest = lead.holeLargest;
        pad.land = lead.land;
        pad.sized = lead.sized;
        f.chains["hole:" + pad.id] = lead.holeChain;
        f.chains["land:" + pad.id] = lead.landChain;
    }
    for (const BareHole& hole : f.bareHoles)
        f.chains["hole:" + hole.id] = {
            {hole.name + " diameter",
             hole.sized ? "± {}" : "not measured",
             {hole.pegDoubt},
             hole.peg,
             ChainStep::Link::Parameter,
             hole.id + ".diameter",
             0},
            {"clearance",
             part.rules.leadAtMean ? "+ {}" : "+ {} over its doubt",
             {part.rules.pegClearance},
             hole.peg + (part.rules.leadAtMean ? Length() : hole.pegDoubt) + part.rules.pegClearance,
             ChainStep::Link::Rule,
             "pegClearance",
             0},
            {"drill, next up", "", {}, hole.size, ChainStep::Link::Rule, "drills", 0}};
    f.body = bodyBox(part, adjustment, f.datum);
    addKeepouts(part, f);
    addCourtyard(part, f);
    f.voltages = voltagePairs(part, f.pads);
    f.halos = halos(part);
    addSilkscreen(part, f);
    f.readings = adjustment.readings();
    addParameters(part, adjustment, f);
    f.next = nextReading(part, adjustment, enoughDoubt(f));
    addGauges(part, adjustment, f);
    return f;
}

}  // namespace punch
