// Fiducials: what the placement machine looks for.

#include "core/marks/fields.h"
#include "core/size/mark_copper.h"

namespace punch {
namespace {

using V = MarkValue;

/// Within its clear ring nothing but itself.
void keepForFiducial(const Mark& mark, const LaidMark& laid, Shape& room) {
    room.pieces = {RoundedPolygon::disc(laid.points.front(), laid.length("ring"))};
    room.form = polygonsOf(room.pieces.front(), Chords::Outside);
    room.keeps.parts = room.keeps.drilling = false;
    room.keeps.copper = room.keeps.vias = true;
    room.keeps.top = valueOf(mark, "side") != "solder side";
    room.keeps.bottom = !room.keeps.top;
}

void copperOfFiducial(MarkCopper& copper) {
    const Length size = copper.length("diameter"), ring = copper.length("ring");
    if (size <= Length()) return copper.say("it has no size");
    Conductor c = copper.joined(copper.laid.points.front());
    c.id = copper.mark.id;
    c.number = copper.mark.name;
    c.layers = valueOf(copper.mark, "side") == "solder side" ? PadLayers::Bottom : PadLayers::Top;
    (c.layers == PadLayers::Top ? c.top : c.bottom) = {LandShape::Round, c.at, size, size, {}, {}};
    c.maskMargin = (ring - size) / 2;
    c.fiducial = true;
    c.local = valueOf(copper.mark, "reach") == "this part";
    copper.out.lands.push_back(c);
}

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::Fiducial>() {
    using namespace marks;
    MarkKindInfo kind = {
        MarkKind::Fiducial,
        MarkGroup::Copper,
        {1, 1, false},
        {{"reach",
          "Found for",
          V::Choice,
          "the board",
          "Global ones stand in three corners of the board, local ones on a diagonal of a fine-pitch part",
          {"the board", "this part"}},
         {"diameter", "Diameter", V::Length, "1", "Of the bare copper: 1.0 to 3.0, local ones down to 0.5"},
         {"ring", "Clear ring", V::Length, "3", "Diameter that is free of mask, copper and ink: twice to three times"},
         sideField(false)},
        "A mark that the placement machine looks for: no paste, nothing to buy"};
    kind.begin = bodyMiddle();
    kind.acts.keep = keepForFiducial;
    kind.acts.copper = copperOfFiducial;
    return kind;
}

}  // namespace punch
