#include "core/size/hole_fit.h"

#include <fmt/format.h>

#include "core/measure/adjust.h"
#include "core/measure/chain_readings.h"
#include "core/part/names.h"
#include "core/part/slots.h"
#include "core/size/drill_lists.h"

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

    const Length largest = rules.leadAtMean ? fit.across : fit.across + fit.acrossDoubt;
    const Length smallest = max(fit.across - fit.acrossDoubt, Length());
    fit.holeChain = chains.behind(across, 4, 0.05);
    Chain& chain = fit.holeChain;
    const bool corners = shapeOf(part, formation).lead != LeadShape::Round;
    chain.push_back({corners ? "lead over its corners" : "lead diameter",
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
    if (rules.hole == HoleRule::Ipc2222) {
        fit.largestAllowed = smallest + largestClearance(rules.level);
        fit.passesLargest = fit.sized && fit.holeLargest > fit.largestAllowed;
        if (fit.passesLargest)
            chain.push_back(rule("passes the largest of level " + level, "smallest lead + {}",
                                 {largestClearance(rules.level)}, fit.largestAllowed, "level"));
    }

    Chain& land = fit.landChain;
    land.push_back(rule("hole", "", {}, fit.hole, "drills"));
    if (rules.land == LandRule::Ipc2221) {
        fit.land = fit.holeLargest + 2.0 * leastRing() + fabricationAllowance(rules.level);
        land.push_back(
            rule("largest finished hole", "+ {}", {rules.platedTolerance}, fit.holeLargest, "platedTolerance"));
        land.push_back(rule("least ring, both sides", "2 × {}", {leastRing()}, {}, "level"));
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
    Length least = hole.peg;
    if (spot.kind != SpotKind::MountingHole)
        least = hole.peg + (rules.leadAtMean ? Length() : hole.pegDoubt) + rules.pegClearance;
    // A mounting hole is wanted at its nominal: a drill a hair below what was read is that drill.
    const Length slack = spot.kind == SpotKind::MountingHole ? hole.pegDoubt : Length();
    hole.size = nextDrillUp(drillList(rules), least - slack).value_or(least);
    hole.sizeLargest = hole.size + rules.bareTolerance;
    return hole;
}

}  // namespace punch
