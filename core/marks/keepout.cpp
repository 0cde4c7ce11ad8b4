// Keepouts: areas that are kept clear.

#include "core/marks/fields.h"
#include "core/part/edit.h"
#include "core/shape/shaped.h"

namespace punch {
namespace {

using V = MarkValue;

void keep(const Mark& mark, const LaidMark& laid, KeepoutArea& keepout) {
    keepout.area = polygonsOf(*laid.area, Chords::Outside);
    keepout.maxHeight = laid.length("height");
    keepout.parts = flagOf(mark, "parts");
    keepout.copper = flagOf(mark, "copper");
    keepout.vias = flagOf(mark, "vias");
    keepout.drilling = flagOf(mark, "drilling");
    const std::string side = valueOf(mark, "side");
    keepout.top = side != "solder side";
    keepout.bottom = side != "part side";
    keepout.inner = side == "all layers";
    const Length band = laid.length("band");
    if (band > Length())
        keepout.area = without(keepout.area, grown(keepout.area, -band));
    else if (laid.cores.size() == 1)
        keepout.pieces = laid.cores;
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
    kind.acts.keep = keep;
    kind.hasPotential = true;
    return kind;
}

}  // namespace punch
