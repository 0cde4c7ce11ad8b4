// Keepouts: areas that are kept clear.

#include "core/marks/fields.h"
#include "core/part/edit.h"
#include "core/shape/shaped.h"

namespace punch {
namespace {

using V = MarkValue;

void keepForKeepout(const Mark& mark, const LaidMark& laid, Shape& room) {
    room.form = polygonsOf(*laid.area, Chords::Outside);
    room.keeps.maxHeight = laid.length("height");
    room.keeps.parts = flagOf(mark, "parts");
    room.keeps.copper = flagOf(mark, "copper");
    room.keeps.vias = flagOf(mark, "vias");
    room.keeps.drilling = flagOf(mark, "drilling");
    const std::string side = valueOf(mark, "side");
    room.keeps.top = side != "solder side";
    room.keeps.bottom = side != "part side";
    room.keeps.inner = side == "all layers";
    const Length band = laid.length("band");
    if (band > Length())
        room.form = without(room.area(), grown(room.area(), -band));
    else if (laid.cores.size() == 1)
        room.pieces = laid.cores;
}

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::Keepout>() {
    using namespace marks;
    MarkKindInfo kind = {
        MarkKind::Keepout,
        MarkGroup::Room,
        {1, kMostMarkPoints, true},
        with(outlineFields("rectangle"),
             {{"parts", "For parts", V::Flag, "yes", "No other part stands here, or only low ones"},
              {"height",
               "Nothing taller than",
               V::Length,
               "0",
               "Parts up to this height may stand here",
               {},
               "parts=yes"},
              {"copper", "For copper", V::Flag, "no", "No copper of the board's own"},
              {"vias", "For vias", V::Flag, "no", "No vias"},
              {"drilling", "For drilling", V::Flag, "no", "No holes at all"},
              {"side",
               "On",
               V::Choice,
               "part side",
               "Which layers of the board it holds on",
               {"part side", "solder side", "both sides", "all layers"}},
              {"band", "Only a band", V::Length, "0", "This wide, inside the edge of its outline; 0: all of it"}}),
        "An area that is kept clear, also past the board's edge"};
    kind.begin = pointsBeyond(Side::Front, "3");
    kind.acts.keep = keepForKeepout;
    kind.hasPotential = true;
    return kind;
}

}  // namespace punch
