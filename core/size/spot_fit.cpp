// The holes of pegs, locks, lugs and screws.

#include <algorithm>

#include "core/measure/adjust.h"
#include "core/size/drill_lists.h"
#include "core/size/hole_fit.h"
#include "core/size/lead_section.h"
#include "core/size/pad_rules.h"

namespace punch {
namespace {

/// A soldered lug's land around its hole or slot.
Land landOf(const Rules& rules, const PadOverride& o, const BareHole& hole) {
    const Length ring = rules.land == LandRule::Ipc2221
                            ? rules.platedTolerance + 2.0 * leastRingOf(rules) + fabricationAllowance(rules.level)
                            : 2.0 * rules.ring;
    const bool slot = hole.slotLength > Length();
    Land land;
    land.shape = o.shape.value_or(slot ? LandShape::Oval : LandShape::Round);
    land.width = o.land.value_or((slot ? hole.slotLength : hole.size) + ring);
    land.length = mayBeLonger(land.shape) ? o.landLength.value_or(hole.size + ring) : land.width;
    land.corner = o.corner.value_or(min(land.width, land.length) / 4);
    land.turn = o.turn.value_or(hole.slotTurn);
    return land;
}

}  // namespace

BareHole fitSpot(const Part& part, const Spot& spot, const Adjustment& adjustment) {
    const Rules& rules = part.rules;
    const Feature& f = adjustment.features().at(spot.id);
    BareHole hole;
    hole.id = spot.id;
    hole.name = spot.name;
    hole.kind = spot.kind;
    hole.flat = spot.flat;
    hole.flatX = Length::fromMm(2 * f.halfX.value());
    hole.flatY = Length::fromMm(2 * f.halfY.value());
    hole.peg = spotSection(part, spot, adjustment);
    hole.sized = hole.peg.across.firm;
    if (f.turn) hole.turn = Angle::fromDegrees(f.turn->value());
    const PadOverride o = overrideForSpot(part, spot.id);
    hole.plated = spot.kind == SpotKind::Lug && o.plated.value_or(false);
    const Length tolerance = hole.plated ? rules.platedTolerance : rules.bareTolerance;
    if (spot.flat && o.slot.value_or(false)) {
        const MilledSlot slot = milledSlot(rules, largestOf(rules, hole.peg.wide), largestOf(rules, hole.peg.thick),
                                           rules.pegClearance, hole.plated ? rules.fab.plating : Length());
        hole.size = slot.width;
        hole.slotLength = slot.length;
        hole.slotTurn = hole.turn + Angle::fromDegrees(hole.peg.widthIsWide ? 0 : 90);
    } else {
        // A mounting hole is wanted at its nominal: a drill a hair below what was read is that drill.
        const Length least = spot.kind == SpotKind::MountingHole
                                 ? hole.peg.across.mean - hole.peg.across.doubt
                                 : largestOf(rules, hole.peg.across) + rules.pegClearance;
        hole.size = nextDrillUp(drillList(rules), least).value_or(max(least, hole.peg.across.mean));
    }
    if (o.hole) hole.size = *o.hole;
    if (o.holeLength) hole.slotLength = *o.holeLength > hole.size ? *o.holeLength : Length();
    hole.sizeLargest = hole.size + tolerance;
    hole.maskMargin = o.maskMargin.value_or(rules.fab.maskMargin);
    if (hole.plated) hole.land = landOf(rules, o, hole);
    return hole;
}

}  // namespace punch
