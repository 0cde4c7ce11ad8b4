#include "core/size/hole_fit.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/measure/adjust.h"
#include "core/measure/chain_readings.h"
#include "core/part/names.h"
#include "core/part/slots.h"
#include "core/size/drill_lists.h"
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
    const auto most = [&](Length side, Length doubt) { return rules.leadAtMean ? side : side + doubt; };
    const Length thick = most(fit.thick, fit.thickDoubt);
    const Length wide = most(fit.wide, fit.wideDoubt);
    Length spare = leastClearance(rules.level);
    // The house factor is meant for a lead's side.
    if (rules.hole == HoleRule::HouseFactor) spare = (rules.holeFactor - 1) * thick;
    fit.allowance = spare;
    fit.beyondList = true;
    fit.hole = thick + spare;
    std::vector<Length> mills = rules.fab.mills;
    std::sort(mills.begin(), mills.end());
    if (const auto mill = nextDrillUp(mills, thick + spare + rules.fab.plating)) {
        fit.hole = *mill - rules.fab.plating;
        fit.beyondList = false;
    }
    fit.leastHole = thick + spare;
    fit.holeLargest = fit.hole + rules.platedTolerance;
    fit.slotLength = max(slotLengthFor(wide, thick, spare, fit.hole), fit.hole);
    fit.holeChain.push_back(rule("slot width, blade thickness", "+ {}", {spare}, fit.leastHole, "level"));
    fit.holeChain.push_back(rule("mill bit, next up", fit.beyondList ? "none wide enough" : "less {} of plating",
                                 {rules.fab.plating}, fit.hole, "fab"));
    fit.holeChain.push_back(
        rule("slot length, blade width", "+ {}, between rounded ends", {spare}, fit.slotLength, "level"));
}

}  // namespace

Length spareRoom(const LeadFit& lead, Length hole, Length slotLength, bool atMost) {
    const Length across = lead.across + (atMost ? lead.acrossDoubt : Length());
    if (slotLength <= Length()) return hole - across;
    const Length thick = lead.thick + (atMost ? lead.thickDoubt : Length());
    const Length wide = lead.wide + (atMost ? lead.wideDoubt : Length());
    const double w = hole.nm();
    const double t = thick.nm();
    if (t > w) return hole - thick;
    return min(hole - thick, slotLength - hole - wide + Length::fromNm(std::sqrt(w * w - t * t)));
}

Length holeSpare(const Footprint& footprint, const Pad& pad) {
    return spareRoom(footprint.leads[pad.formation], pad.hole, pad.slotLength, false);
}

Length holeSpare(const BareHole& hole) {
    LeadFit section;
    section.across = hole.peg;
    section.wide = max(hole.flatX, hole.flatY);
    section.thick = min(hole.flatX, hole.flatY);
    return spareRoom(section, hole.size, hole.slotLength, false);
}

LeadFit fitLead(const Part& part, const Formation& formation, const Adjustment& adjustment,
                const ChainReadings& chains) {
    const Rules& rules = part.rules;
    const std::string level = nameOf(rules.level);
    const Expr across = leadAcross(part, formation, adjustment.at());
    const Expr length = adjustment.parameter(leadPrefix(part, formation) + "lead.length");
    const Expr width = adjustment.features().at(formation.pins.front()).halfX * Expr(2.0);

    LeadFit fit;
    fit.formation = formation.id;
    fit.sized = adjustment.firm(across);
    fit.across = Length::fromMm(across.value());
    fit.acrossDoubt = fit.sized ? Length::fromMm(adjustment.doubt(across)) : Length();
    fit.length = Length::fromMm(length.value());
    fit.lengthFirm = adjustment.firm(length);
    fit.lengthDoubt = fit.lengthFirm ? Length::fromMm(adjustment.doubt(length)) : Length();

    const Expr depth = adjustment.features().at(formation.pins.front()).halfY * Expr(2.0);
    const bool deeper = depth.value() > width.value();
    fit.wide = Length::fromMm(deeper ? depth.value() : width.value());
    fit.thick = Length::fromMm(deeper ? width.value() : depth.value());
    if (fit.sized) {
        fit.wideDoubt = Length::fromMm(adjustment.doubt(deeper ? depth : width));
        fit.thickDoubt = Length::fromMm(adjustment.doubt(deeper ? width : depth));
    }

    const Length largest = rules.leadAtMean ? fit.across : fit.across + fit.acrossDoubt;
    const Length smallest = max(fit.across - fit.acrossDoubt, Length());
    fit.holeChain = chains.behind(across, 4, 0.05);
    Chain& chain = fit.holeChain;
    const LeadShape shape = shapeOf(part, formation).lead;
    const bool corners = shape != LeadShape::Round && shape != LeadShape::Oval;
    chain.push_back({corners                    ? "lead over its corners"
                     : shape == LeadShape::Oval ? "lead, longer side"
                                                : "lead diameter",
                     fit.sized ? "± {}" : "not measured",
                     {fit.acrossDoubt},
                     fit.across,
                     ChainStep::Link::Parameter,
                     leadPrefix(part, formation) + "lead.width",
                     0});
    if (!rules.leadAtMean)
        chain.push_back({"at most, within its doubt", "", {}, largest, ChainStep::Link::Rule, "leadAtMean", 0});

    if (rules.hole == HoleRule::Ipc2222) {
        fit.allowance = leastClearance(rules.level);
        fit.leastHole = largest + fit.allowance;
        chain.push_back(rule("least hole, IPC-2222 level " + level, "+ {}", {fit.allowance}, fit.leastHole, "level"));
    } else {
        // The factor is on the diameter of a round lead, on the larger side of another.
        const Expr thickness = adjustment.features().at(formation.pins.front()).halfY * Expr(2.0);
        const Expr side = thickness.value() > width.value() ? thickness : width;
        const Length sideLength =
            Length::fromMm(side.value() + (fit.sized && !rules.leadAtMean ? adjustment.doubt(side) : 0.0));
        fit.leastHole = rules.holeFactor * sideLength;
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
    if (slotted && fit.wide > fit.thick) fitSlot(rules, fit);
    fit.bit = fit.hole + rules.fab.plating;
    if (fit.slotLength <= Length() && rules.hole == HoleRule::Ipc2222) {
        fit.largestAllowed = smallest + largestClearance(rules.level);
        fit.passesLargest = fit.sized && fit.holeLargest > fit.largestAllowed;
        if (fit.passesLargest)
            chain.push_back(rule("passes the largest of level " + level, "smallest lead + {}",
                                 {largestClearance(rules.level)}, fit.largestAllowed, "level"));
    }

    Chain& land = fit.landChain;
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
    return fit;
}

BareHole fitSpot(const Part& part, const Spot& spot, const Adjustment& adjustment) {
    const Rules& rules = part.rules;
    const Feature& f = adjustment.features().at(spot.id);
    const Expr across = f.round ? f.halfX * Expr(2.0) : 2.0 * hypot(f.halfX, f.halfY);
    BareHole hole;
    hole.id = spot.id;
    hole.name = spot.name;
    hole.kind = spot.kind;
    hole.flat = spot.flat;
    hole.flatX = Length::fromMm(2 * f.halfX.value());
    hole.flatY = Length::fromMm(2 * f.halfY.value());
    hole.sized = adjustment.firm(across);
    hole.peg = Length::fromMm(across.value());
    hole.pegDoubt = hole.sized ? Length::fromMm(adjustment.doubt(across)) : Length();
    if (f.turn) hole.turn = Angle::fromDegrees(f.turn->value());
    const PadOverride o = overrideForSpot(part, spot.id);
    hole.plated = spot.kind == SpotKind::Lug && o.plated.value_or(false);
    const auto most = [&](const Expr& half) {
        const Expr side = half * Expr(2.0);
        return Length::fromMm(side.value() +
                              (adjustment.firm(side) && !rules.leadAtMean ? adjustment.doubt(side) : 0.0));
    };
    const Length tolerance = hole.plated ? rules.platedTolerance : rules.bareTolerance;
    const auto drills = drillList(rules);
    if (spot.flat && o.slot.value_or(false)) {
        // As a blade's slot (fitSlot), with the peg's clearance.
        const bool deeper = hole.flatY > hole.flatX;
        const Length thick = most(deeper ? f.halfX : f.halfY);
        const Length wide = most(deeper ? f.halfY : f.halfX);
        const Length plating = hole.plated ? rules.fab.plating : Length();
        std::vector<Length> mills = rules.fab.mills;
        std::sort(mills.begin(), mills.end());
        hole.size = thick + rules.pegClearance;
        if (const auto mill = nextDrillUp(mills, hole.size + plating)) hole.size = *mill - plating;
        hole.slotLength = max(slotLengthFor(wide, thick, rules.pegClearance, hole.size), hole.size);
        hole.slotTurn = hole.turn + Angle::fromDegrees(deeper ? 90 : 0);
    } else {
        Length least = hole.peg;
        if (spot.kind != SpotKind::MountingHole)
            least = hole.peg + (rules.leadAtMean ? Length() : hole.pegDoubt) + rules.pegClearance;
        // A mounting hole is wanted at its nominal: a drill a hair below what was read is that drill.
        const Length slack = spot.kind == SpotKind::MountingHole ? hole.pegDoubt : Length();
        hole.size = nextDrillUp(drills, least - slack).value_or(least);
    }
    if (o.hole) hole.size = *o.hole;
    if (o.holeLength) hole.slotLength = *o.holeLength > hole.size ? *o.holeLength : Length();
    hole.sizeLargest = hole.size + tolerance;
    hole.maskMargin = o.maskMargin.value_or(rules.fab.maskMargin);
    if (hole.plated) {
        const Length ring = rules.land == LandRule::Ipc2221
                                ? rules.platedTolerance + 2.0 * leastRingOf(rules) + fabricationAllowance(rules.level)
                                : 2.0 * rules.ring;
        const bool slot = hole.slotLength > Length();
        hole.land.shape = o.shape.value_or(slot ? LandShape::Oval : LandShape::Round);
        hole.land.width = o.land.value_or((slot ? hole.slotLength : hole.size) + ring);
        hole.land.length = mayBeLonger(hole.land.shape) ? o.landLength.value_or(hole.size + ring) : hole.land.width;
        hole.land.corner = o.corner.value_or(min(hole.land.width, hole.land.length) / 4);
        hole.land.turn = o.turn.value_or(hole.slotTurn);
    }
    return hole;
}

}  // namespace punch
