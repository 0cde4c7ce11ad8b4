#include "core/derive.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/clear/room.h"
#include "core/clear/surroundings.h"
#include "core/clear/voltage_pairs.h"
#include "core/dress/courtyard.h"
#include "core/dress/silkscreen.h"
#include "core/fit/drop_in.h"
#include "core/measure/adjust.h"
#include "core/measure/chain_readings.h"
#include "core/part/numbering.h"
#include "core/place/place.h"
#include "core/shape/body.h"
#include "core/shape/cut_outs.h"
#include "core/size/fewest_drills.h"
#include "core/size/hole_fit.h"
#include "core/size/pad_rules.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

void addParameters(const Part& part, const Adjustment& adjustment, Footprint& footprint) {
    for (const Parameter& p : adjustment.model().parameters()) {
        const Expr& e = adjustment.parameter(p.name);
        ParameterValue value;
        value.name = p.name;
        value.words = p.words;
        value.state = p.state;
        value.typed = p.typed;
        value.taken = p.state == Parameter::State::Taken;
        const bool firm = adjustment.firm(e);
        if (p.isAngle) {
            value.angle = Angle::fromDegrees(e.value());
            if (firm) value.angleDoubt = Angle::fromDegrees(adjustment.doubt(e));
        } else {
            value.value = Length::fromMm(e.value());
            if (firm) value.doubt = Length::fromMm(adjustment.doubt(e));
            if (firm) value.span = Length::fromMm(adjustment.span(e));
        }
        footprint.parameters.push_back(std::move(value));
    }
    for (std::size_t i = 0; i < part.formations.size(); ++i) {
        const std::string prefix = parameterPrefix(part, part.formations[i]);
        const LeadFit& lead = footprint.leads[i];
        // A round or square lead is as thick as it is wide.
        const LeadShape shape = part.formations[i].lead;
        if (shape != LeadShape::Rectangular && shape != LeadShape::Oval &&
            footprint.parameter(prefix + "lead.width") != nullptr) {
            ParameterValue thickness = *footprint.parameter(prefix + "lead.width");
            thickness.name = prefix + "lead.thickness";
            thickness.words = "lead thickness";
            footprint.parameters.push_back(thickness);
        }
        const auto sized = [&](const char* name, const char* words, Length length, Length doubt) {
            ParameterValue value;
            value.name = prefix + name;
            value.words = words;
            value.value = length;
            if (lead.sized) value.doubt = doubt;
            footprint.parameters.push_back(std::move(value));
        };
        sized("lead.across", "lead over its corners", lead.section.across.mean, lead.section.across.doubt);
        sized("hole", "hole", lead.hole, Length());
        sized("land", "land", lead.land, Length());
    }
}

void addSpreads(const Part& part, const Adjustment& adjustment, Footprint& footprint) {
    for (std::size_t i = 0; i < part.readings.size(); ++i) {
        const ReadingStats& s = adjustment.readings()[i].stats;
        if (s.usable && s.spread > 0)
            footprint.spreads.push_back({part.readings[i].id, Length::fromMm(s.spread), s.specimens});
    }
}

void addComplaints(const Part& part, const Adjustment& adjustment, Footprint& footprint) {
    footprint.complaints = adjustment.model().complaints();
    for (const auto& [key, o] : part.overrides)
        if (o.plated && spotOf(part, key) == nullptr)
            footprint.complaints.push_back(
                {key, "plated or bare is said of pegs and lugs; a pin's hole is plated, or it has none on a surface land"});
    for (const std::string& number : doubledNumbers(part))
        footprint.complaints.push_back({"numbers", fmt::format("the number {} stands at more than one pin", number)});
}

/// 95 % doubt below which a pad needs no further reading: a quarter of (hole - lead) / 2. By pin and spot.
Enough enoughDoubt(const Footprint& f) {
    std::map<FeatureId, double> limits;
    for (const Pad& p : f.pads) limits[p.id] = std::max(holeSpare(f, p).mm() / 8, 0.0);
    for (const BareHole& h : f.bareHoles)
        if (h.kind != SpotKind::MountingHole) limits[h.id] = std::max(holeSpare(h).mm() / 8, 0.0);
    return [limits = std::move(limits)](const FeatureId& id) {
        const auto it = limits.find(id);
        return it == limits.end() ? 1e9 : it->second;
    };
}

}  // namespace

NextReading nextReadingBut(const Part& part, const Footprint& footprint, const std::vector<Reading>& putOff) {
    return nextReading(part, Adjustment(part), enoughDoubt(footprint), Candidates::Ends, putOff);
}

namespace {

/// What follows, all but what a person is asked or advised.
Footprint follow(const Part& part, const Adjustment& adjustment) {
    const ChainReadings chains(part, adjustment);
    Footprint f;
    f.name = part.name;
    for (const Formation& formation : part.formations) f.leads.push_back(fitLead(part, formation, adjustment, chains));
    if (part.rules.fewestDrills) shareDrills(part.rules, f.leads);
    f.sizes = sizeAdvice(part, adjustment);
    f.openSides = openSides(part, adjustment);
    for (const Spot& spot : part.spots)
        if (hasHole(spot)) f.bareHoles.push_back(fitSpot(part, spot, adjustment));
    addPlaces(part, adjustment, chains, f);
    for (Pad& pad : f.pads) {
        const LeadFit& lead = f.leads[pad.formation];
        sizePad(part, lead.formation, lead, pad);
        pad.leadOval = shapeOf(part, part.formations[pad.formation]).lead == LeadShape::Oval;
        Chain& hole = f.chains["hole:" + pad.id] = lead.holeChain;
        Chain& land = f.chains["land:" + pad.id] = lead.landChain;
        const PadOverride o = overrideFor(part, pad.id, lead.formation);
        const std::string why = o.reason.empty() ? "set against the rule" : "set: " + o.reason;
        if (o.hole) hole.push_back({why, "", {}, pad.hole, ChainStep::Link::Rule, "landHole", 0});
        if (o.land) land.push_back({why, "", {}, shownLand(pad).width, ChainStep::Link::Rule, "landWidth", 0});
        // Without an override of its own a land follows its hole.
        if (o.hole && !o.land && shownLand(pad).width != lead.land)
            land.push_back({"as its hole", "", {}, shownLand(pad).width, ChainStep::Link::Rule, "landHole", 0});
    }
    for (BareHole& hole : f.bareHoles) {
        const PadOverride o = overrideForSpot(part, hole.id);
        hole.land.at = hole.at + Point{o.offsetX.value_or(Length()), o.offsetY.value_or(Length())};
    }
    for (const BareHole& hole : f.bareHoles) {
        const bool slot = hole.slotLength > Length();
        const Extent& side = slot ? hole.peg.thick : hole.peg.across;
        const auto rule = [](std::string label, std::string detail, std::vector<Length> of, Length value,
                             std::string target) {
            return ChainStep{
                std::move(label), std::move(detail), std::move(of), value, ChainStep::Link::Rule, std::move(target), 0};
        };
        Chain& chain = f.chains["hole:" + hole.id];
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
    }
    f.body = bodyBox(part, adjustment, f.datum);
    addKeepouts(part, f);
    addCourtyard(part, f);
    f.cutOuts = cutShapes(part, f.datum);
    f.voltages = voltagePairs(part, f);
    f.around = surroundings(part, f);
    f.halos = halos(part);
    f.rooms = rooms(part, f);
    addSilkscreen(part, f);
    f.readings = adjustment.readings();
    addParameters(part, adjustment, f);
    addSpreads(part, adjustment, f);
    addComplaints(part, adjustment, f);
    // Coarse, so that it follows the hand; dropIn() does it in full.
    f.dropIn = worstDropIn(part, adjustment, f).coarse(1);
    f.gauges = gauges(part, adjustment, f);
    return f;
}

/// Readings that can be explained in several ways: a gauge is only go when each of them would leave it so.
void countTheWorse(const Part& part, const Adjustment& adjustment, Footprint& f) {
    constexpr std::size_t kMost = 24;
    for (std::size_t k = 0; k < std::min(adjustment.ways().size(), kMost); ++k) {
        const Way& way = adjustment.ways()[k];
        const Footprint other = follow(part, Adjustment(part, {}, way.readings));
        for (Gauge& g : f.gauges) {
            const Gauge* worse = other.gauge(g.name);
            if (g.name == "readings" || worse == nullptr || badness(worse->state) <= badness(g.state)) continue;
            g = *worse;
            std::string numbers;
            for (const std::size_t i : way.readings) numbers += fmt::format("{}{}", numbers.empty() ? "" : ", ", i + 1);
            g.words += fmt::format(", if {} {} wrong", numbers, way.readings.size() == 1 ? "is" : "are");
        }
    }
}

}  // namespace

Footprint derive(const Part& part) {
    const Adjustment adjustment(part);
    Footprint f = follow(part, adjustment);
    countTheWorse(part, adjustment, f);
    for (const Way& way : adjustment.ways()) {
        f.ways.push_back({{}, way.chi2});
        for (const std::size_t i : way.readings) f.ways.back().readings.push_back(part.readings[i].id);
    }
    f.slips = findSlips(part, adjustment, f.sizes, f.openSides);
    f.next = nextReading(part, adjustment, enoughDoubt(f));
    return f;
}

DropInReport dropIn(const Part& part, Footprint& footprint, const DropInOptions& options) {
    const Adjustment adjustment(part);
    DropInReport report = worstDropIn(part, adjustment, footprint).report(options);
    setDropIn(part, footprint, report.share);
    return report;
}

}  // namespace punch
