// Copper areas: larger than their pad.

#include <fmt/format.h>

#include "core/base/find_in.h"
#include "core/marks/fields.h"
#include "core/size/mark_copper.h"

namespace punch {
namespace {

using V = MarkValue;

void copperOfCopperArea(MarkCopper& copper) {
    const LaidMark& laid = copper.laid;
    const Polygons area = polygonsOf(*laid.area);
    const auto [top, bottom] = copper.sides();
    // A land on one side alone; one on both would need a hole to be one.
    for (const RoundedPolygon& piece : laid.cores.size() == 1 ? laid.cores : convexPieces(area, kPieceSlack))
        for (const bool on : {true, false})
            if (on ? top : bottom) copper.piece(piece, on);
    if (!copper.flag("open")) return;
    for (const bool on : {true, false})
        if (on ? top : bottom) copper.open(on, grown(area, copper.part.rules.fab.maskMargin));
}

/// How much copper its number has.
void tell(MarkCopper& copper) {
    const FeatureId of = copper.joinedTo();
    const Conductor* land = findIn(copper.out.lands, [&](const Conductor& c) { return c.id == of; });
    if (land == nullptr || !copper.out.areas.contains(land->number)) return;
    const auto& [top, bottom] = copper.out.areas.at(land->number);
    copper.out.notes[copper.mark.id] = fmt::format(
        "copper of {}: {:.1f} mm² on top, {:.1f} at the bottom, holes taken off", land->number, top, bottom);
}

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::CopperArea>() {
    using namespace marks;
    MarkKindInfo kind = {
        MarkKind::CopperArea,
        MarkGroup::Copper,
        {1, kMostMarkPoints, true},
        with(outlineFields("rectangle"),
             {padField(),
              sideField(true),
              {"open", "Free of mask", V::Flag, "no", "All of it is open; else openings are marks of their own"}}),
        "Copper larger than its pad: for heat, or for a large current"};
    kind.begin = bodyCorners();
    kind.acts.copper = copperOfCopperArea;
    kind.acts.tell = tell;
    return kind;
}

}  // namespace punch
