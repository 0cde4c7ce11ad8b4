// Thermal vias: they keep off holes, cuts and paste, and so are laid after these.

#include <fmt/format.h>

#include <cmath>

#include "core/marks/fields.h"
#include "core/size/mark_copper.h"

namespace punch {
namespace {

using V = MarkValue;

constexpr int kMostVias = 1000;

void givingWay(MarkCopper& copper) {
    const Length hole = copper.length("hole"), land = copper.length("land"), pitch = copper.length("pitch"),
                 edge = copper.length("edge");
    if (hole <= Length() || land <= hole) return copper.say("its lands are no larger than their holes");
    if (pitch < land) return copper.say("its vias overlap: the pitch is less than their lands");
    const Polygons area = polygonsOf(*copper.laid.area);
    const Polygons inner = grown(area, -(land / 2 + edge));
    const Rect box = boundsOf(inner);
    if (box.empty) return copper.say("there is no room for a via in it");
    const auto along = [&](Length size) { return static_cast<int>(std::floor(size / pitch + 1e-9)) + 1; };
    const int nx = along(box.width()), ny = along(box.height());
    if (1.0 * nx * ny > kMostVias)
        return copper.say(fmt::format("more than {} vias: choose a larger pitch", kMostVias));
    Polygons pastes;
    for (const MarkPaste& p : copper.out.pastes)
        for (const auto& ring : p.area) pastes.push_back(ring);
    const Polygons off = grown(united(pastes), land / 2 + Length::fromMm(0.1));
    const Polygons taken = grown(copper.metal.noVia, land / 2);
    int dropped = 0, made = 0;
    for (int j = 0; j < ny; ++j)
        for (int i = 0; i < nx; ++i) {
            const Point at{box.middle().x + pitch * (i - (nx - 1) / 2.0),
                           box.middle().y + pitch * (j - (ny - 1) / 2.0)};
            if (!contains(inner, at) || contains(taken, at)) continue;
            if (copper.flag("offPaste") && !off.empty() && contains(off, at)) {
                ++dropped;
                continue;
            }
            Conductor c = copper.joined(at);
            c.layers = PadLayers::Through;
            c.top = c.inner = c.bottom = {LandShape::Round, at, land, land, {}, {}};
            c.hole = hole;
            c.holeLargest = hole;  // no lead has to go in
            c.tented = valueOf(copper.mark, "top") == "tented";
            c.tentedBelow = valueOf(copper.mark, "bottom") == "tented";
            c.maskMargin = copper.part.rules.fab.maskMargin;
            copper.out.lands.push_back(c);
            ++made;
        }
    if (made == 0) copper.say(dropped > 0 ? "paste leaves no room for a via" : "there is no room for a via in it");
}

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::ThermalVias>() {
    using namespace marks;
    MarkKindInfo kind = {
        MarkKind::ThermalVias,
        MarkGroup::Copper,
        {1, kMostMarkPoints, true},
        with(outlineFields("rectangle"),
             {padField(),
              {"hole", "Hole", V::Length, "0.3", "Finished"},
              {"land", "Land", V::Length, "0.7", "Diameter"},
              {"pitch", "Pitch", V::Length, "1.2", "Both ways"},
              {"edge", "From the edge", V::Length, "0.1", "Between a land and the edge of the area"},
              {"offPaste", "Off paste", V::Flag, "yes", "None where paste is printed: it would run into the hole"},
              {"top", "On the part side", V::Choice, "open", "Mask over it", {"open", "tented"}},
              {"bottom", "On the solder side", V::Choice, "tented", "Mask over it", {"open", "tented"}}}),
        "Small plated holes in an area that lead heat through the board, joined to a pad"};
    kind.begin = bodyCorners();
    kind.acts.givingWay = givingWay;
    return kind;
}

}  // namespace punch
