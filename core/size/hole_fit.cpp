#include "core/size/hole_fit.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/measure/adjust.h"
#include "core/measure/chain_readings.h"
#include "core/part/names.h"
#include "core/part/slots.h"
#include "core/size/drill_lists.h"
#include "core/size/lead_section.h"
#include "core/size/pad_rules.h"

namespace punch {
namespace {

std::string drillWords(const Rules& rules) {
    return rules.drills == DrillList::Metric ? "metric list"
           : rules.drills == DrillList::Inch ? "inch list"
                                             : "own list";
}

ChainStep rule(std::string label, std::string detail, std::vector<Length> of, std::optional<Length> value,
               std::string target) {
    return {std::move(label), std::move(detail), std::move(of), value, ChainStep::Link::Rule, std::move(target), 0};
}

}  // namespace

Length leastClearance(Level level) {
    return level == Level::A ? Length::fromMm(0.25) : level == Level::B ? Length::fromMm(0.20) : Length::fromMm(0.15);
}

Length largestClearance(Level level) { return level == Level::C ? Length::fromMm(0.60) : Length::fromMm(0.70); }

Length fabricationAllowance(Level level) {
    return level == Level::A ? Length::fromMm(0.40) : level == Level::B ? Length::fromMm(0.25) : Length::fromMm(0.20);
}

namespace {

/// The least length, up to the next 0.05, of a slot of `width` in which a blade's corners may shift along by `spare`
/// between the rounded ends.
Length slotLengthFor(Length wide, Length thick, Length spare, Length width) {
    const double w = width.nm();
    const double t = std::min(thick.nm(), w);
    const Length least = wide + spare + width - Length::fromNm(std::sqrt(w * w - t * t));
    return Length::fromMm(std::ceil(least.mm() / 0.05 - 1e-9) * 0.05);
}

/// A plated slot for a blade instead of a round hole: each side gets the fit of its own. Its width is that of a mill
/// bit, less the plating; its length lets the blade's corners shift along by the fit between the rounded ends.
void fitSlot(const Rules& rules, LeadFit& fit) {
    const Length thick = largestOf(rules, fit.section.thick);
    const Length wide = largestOf(rules, fit.section.wide);
    Length spare = leastClearance(rules.level);
    // The house factor is meant for a lead's side.
    if (rules.hole == HoleRule::HouseFactor) spare = (rules.holeFactor - 1) * thick;
    fit.allowance = spare;
    fit.leastHole = thick + spare;
    const MilledSlot slot = milledSlot(rules, wide, thick, spare, rules.fab.plating);
    fit.beyondList = !slot.byMill;
    fit.hole = slot.width;
    fit.slotLength = slot.length;
    fit.holeLargest = fit.hole + rules.platedTolerance;
    fit.holeChain.push_back(rule("slot width, blade thickness", "+ {}", {spare}, fit.leastHole, "level"));
    fit.holeChain.push_back(rule("mill bit, next up", fit.beyondList ? "none wide enough" : "less {} of plating",
                                 {rules.fab.plating}, fit.hole, "fab"));
    fit.holeChain.push_back(
        rule("slot length, blade width", "+ {}, between rounded ends", {spare}, fit.slotLength, "level"));
}

/// "lead over its corners", and what says how large it may be.
void addLead(const Part& part, const Formation& formation, LeadFit& fit) {
    const LeadShape shape = shapeOf(part, formation).lead;
    const Extent& across = fit.section.across;
    const bool corners = shape != LeadShape::Round && shape != LeadShape::Oval;
    fit.holeChain.push_back(
        {fit.section.byEnd          ? "formed end over its corners"
         : corners                  ? "lead over its corners"
         : shape == LeadShape::Oval ? "lead, longer side"
                                    : "lead diameter",
         !across.firm   ? "not measured"
         : across.drawn ? "{} to {} by the drawing"
                        : "± {}",
         across.drawn ? std::vector<Length>{across.least, across.most} : std::vector<Length>{across.doubt}, across.mean,
         ChainStep::Link::Parameter,
         leadPrefix(part, formation) + (fit.section.byEnd ? "lead.end.width" : "lead.width"), 0});
    if (!part.rules.leadAtMean)
        fit.holeChain.push_back({across.drawn ? "at most, by the drawing" : "at most, within its doubt",
                                 "",
                                 {},
                                 across.most,
                                 ChainStep::Link::Rule,
                                 "leadAtMean",
                                 0});
}

void fitLand(const Rules& rules, LeadFit& fit) {
    Chain& land = fit.landChain;
    const std::string level = nameOf(rules.level);
    land.push_back(rule("hole", "", {}, fit.hole, "drills"));
    if (rules.land == LandRule::Ipc2221) {
        fit.land = fit.holeLargest + 2.0 * leastRingOf(rules) + fabricationAllowance(rules.level);
        land.push_back(
            rule("largest finished hole", "+ {}", {rules.platedTolerance}, fit.holeLargest, "platedTolerance"));
        land.push_back(rule("least ring, both sides", "2 × {}", {leastRingOf(rules)}, {}, "level"));
        land.push_back(
            rule("land, IPC-2221 level " + level, "+ {}", {fabricationAllowance(rules.level)}, fit.land, "level"));
    } else {
        fit.land = fit.hole + 2.0 * rules.ring;
        land.push_back(rule("fixed ring, both sides", "2 × {}", {rules.ring}, fit.land, "ring"));
    }
}

}  // namespace

Length largestOf(const Rules& rules, const Extent& size) { return rules.leadAtMean ? size.mean : size.most; }

MilledSlot milledSlot(const Rules& rules, Length wide, Length thick, Length spare, Length plating) {
    MilledSlot slot;
    slot.width = thick + spare;
    std::vector<Length> mills = rules.fab.mills;
    std::sort(mills.begin(), mills.end());
    if (const auto mill = nextDrillUp(mills, slot.width + plating)) {
        slot.width = *mill - plating;
        slot.byMill = true;
    }
    slot.length = max(slotLengthFor(wide, thick, spare, slot.width), slot.width);
    return slot;
}

Length spareRoom(const LeadSection& lead, Length hole, Length slotLength, bool atMost) {
    const auto size = [&](const Extent& e) { return atMost ? e.most : e.mean; };
    if (slotLength <= Length()) return hole - size(lead.across);
    const Length thick = size(lead.thick);
    const double w = hole.nm();
    const double t = thick.nm();
    if (t > w) return hole - thick;
    return min(hole - thick, slotLength - hole - size(lead.wide) + Length::fromNm(std::sqrt(w * w - t * t)));
}

Length holeSpare(const Sized& sized, const Pad& pad) {
    return spareRoom(sized.leads[pad.formation].section, pad.hole, pad.slotLength, false);
}

Length holeSpare(const BareHole& hole) { return spareRoom(hole.peg, hole.size, hole.slotLength, false); }

LeadFit fitLead(const Part& part, const Formation& formation, const Adjustment& adjustment,
                const ChainReadings& chains) {
    const Rules& rules = part.rules;
    const std::string level = nameOf(rules.level);
    const Feature& feature = adjustment.features().at(formation.pins.front());
    const Expr length = adjustment.parameter(leadPrefix(part, formation) + "lead.length");

    LeadFit fit;
    fit.formation = formation.id;
    fit.section = leadSection(part, formation, adjustment);
    fit.end = shapeOf(part, formation).end;
    fit.sized = fit.section.across.firm;
    fit.length = Length::fromMm(length.value());
    fit.lengthFirm = adjustment.firm(length);
    fit.lengthDoubt = fit.lengthFirm ? Length::fromMm(adjustment.doubt(length)) : Length();

    const Length largest = largestOf(rules, fit.section.across);
    const Length smallest = fit.section.across.least;
    const Expr& sx = fit.section.byEnd ? *feature.endX : feature.halfX;
    const Expr& sy = fit.section.byEnd ? *feature.endY : feature.halfY;
    const bool corners = fit.section.byEnd || !(feature.round || feature.oval);
    fit.holeChain = chains.behind(2.0 * (corners ? hypot(sx, sy) : sy.value() > sx.value() ? sy : sx), 4, 0.05);
    Chain& chain = fit.holeChain;
    addLead(part, formation, fit);

    if (rules.hole == HoleRule::Ipc2222) {
        fit.allowance = leastClearance(rules.level);
        fit.leastHole = largest + fit.allowance;
        chain.push_back(rule("least hole, IPC-2222 level " + level, "+ {}", {fit.allowance}, fit.leastHole, "level"));
    } else {
        // The factor is on the diameter of a round lead, on the larger side of another.
        fit.leastHole = rules.holeFactor * largestOf(rules, fit.section.wide);
        // The rule promises no more than what it gives the lead's corners; never less than nothing.
        fit.allowance = max(fit.leastHole - largest, Length());
        chain.push_back(
            rule("house rule on the lead", fmt::format("× {:g}", rules.holeFactor), {}, fit.leastHole, "holeFactor"));
    }
    const auto drill = nextDrillUp(drillList(rules), fit.leastHole);
    fit.beyondList = !drill;
    fit.hole = drill.value_or(fit.leastHole);
    fit.holeLargest = fit.hole + rules.platedTolerance;
    chain.push_back(
        rule("drill, next up", fit.beyondList ? "none large enough" : drillWords(rules), {}, fit.hole, "drills"));
    const bool slotted = overrideFor(part, {}, formation.id).slot.value_or(false);
    if (slotted && fit.section.wide.mean > fit.section.thick.mean) fitSlot(rules, fit);
    fit.bit = fit.hole + rules.fab.plating;
    if (fit.slotLength <= Length() && rules.hole == HoleRule::Ipc2222) {
        fit.largestAllowed = smallest + largestClearance(rules.level);
        fit.passesLargest = fit.sized && fit.holeLargest > fit.largestAllowed;
        if (fit.passesLargest)
            chain.push_back(rule("passes the largest of level " + level, "smallest lead + {}",
                                 {largestClearance(rules.level)}, fit.largestAllowed, "level"));
    }
    fitLand(rules, fit);
    return fit;
}

}  // namespace punch
