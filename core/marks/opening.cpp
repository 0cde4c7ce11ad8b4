// Openings of the solder mask, and paste in them.

#include "core/marks/fields.h"
#include "core/size/attached_copper.h"
#include "core/size/mark_copper.h"

namespace punch {
namespace {

using V = MarkValue;

void copperOfOpening(MarkCopper& copper) {
    const Polygons area = polygonsOf(*copper.laid.area);
    const auto [top, bottom] = copper.sides();
    const std::string paste = valueOf(copper.mark, "paste");
    for (const bool on : {true, false}) {
        if (!(on ? top : bottom)) continue;
        copper.open(on, area);
        if (paste == "all") copper.paste(on, area);
        if (paste != "windows") continue;
        const int across = copper.count("across"), down = copper.count("down");
        for (const Rect& window :
             pasteWindows(boundsOf(area), across, down, copper.length("web"), copper.count("share") / 100.0)) {
            const Polygons part = common(area, polygonsOf(rectangleRing(window)));
            if (!part.empty()) copper.paste(on, part);
        }
    }
}

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::Opening>() {
    using namespace marks;
    MarkKindInfo kind = {
        MarkKind::Opening,
        MarkGroup::Copper,
        {1, kMostMarkPoints, true},
        with(outlineFields("rectangle"),
             {sideField(true),
              {"paste", "Paste", V::Choice, "none", "Printed all over it, or in windows", {"none", "all", "windows"}},
              {"across", "Windows across", V::Count, "2", "From left to right", {}, "paste=windows"},
              {"down", "Windows down", V::Count, "2", "From front to rear", {}, "paste=windows"},
              {"web", "Web between", V::Length, "0.3", "Between two windows", {}, "paste=windows"},
              {"share",
               "Share at most, %",
               V::Count,
               "60",
               "Of the opening that paste covers; 0 for any",
               {},
               "paste=windows"}}),
        "An opening of the solder mask over copper; several may lie in one area"};
    kind.begin = bodyCorners();
    kind.acts.copper = copperOfOpening;
    return kind;
}

}  // namespace punch
