// Cut-outs: what is milled out of the board, and the copper on a plated edge.

#include <cmath>

#include "core/marks/fields.h"
#include "core/shape/laid_marks.h"
#include "core/shape/mark_laying.h"
#include "core/size/mark_copper.h"

namespace punch {
namespace {

using V = MarkValue;

/// The bit's middle for a corner of the cut that points outwards: the corner lies on its rim.
std::optional<Point> reliefAt(const LaidMark& out, Point corner) {
    const auto& bends = out.area->outer.bends;
    const double sense = areaOf(out.area->outer) < 0 ? -1 : 1;
    for (std::size_t i = 0; i < bends.size(); ++i) {
        if (!(bends[i].at == corner)) continue;
        const Point a = bends[(i + bends.size() - 1) % bends.size()].at, b = bends[(i + 1) % bends.size()].at;
        if (bends[i].bulge != 0 || bends[(i + bends.size() - 1) % bends.size()].bulge != 0) return {};
        const double ax = (a.x - corner.x) / distance(a, corner), ay = (a.y - corner.y) / distance(a, corner);
        const double bx = (b.x - corner.x) / distance(b, corner), by = (b.y - corner.y) / distance(b, corner);
        if (sense * (bx * ay - by * ax) <= 1e-6) return {};
        const double mx = ax + bx, my = ay + by, m = std::hypot(mx, my);
        if (m < 1e-6) return {};
        const Length r = out.length("bit") / 2;
        return Point{corner.x + r * (mx / m), corner.y + r * (my / m)};
    }
    return {};
}

/// What the bit leaves: no inner corner is sharper than it; with relief it goes into the corners.
void layCutOut(MarkLaying& laying) {
    if (valueOf(laying.mark, "form") == "slot") return;  // the bit is as wide as it
    const Length r = laying.out.lengths["bit"] / 2;
    if (r <= Length()) return laying.wrong("its mill bit has no diameter");
    const bool relief = flagOf(laying.mark, "relief");
    if (laying.out.upright && !relief) {
        // A rectangle stays one, with the bit's radius at least; as narrow as the bit it is a slot.
        const Rect& box = *laying.out.upright;
        const Length half = min(box.width(), box.height()) / 2;
        if (r > half + kLeastDrawn) return laying.wrong("the bit is too wide for it");
        const Length round = min(max(r, laying.out.cores.front().radius), half);
        laying.out.cores = {roundedRectangle(box, round)};
        laying.out.area = Area{ringOf(laying.out.cores.front()), {}};
        return;
    }
    Polygons area = polygonsOf(*laying.out.area, Chords::Outside);
    if (relief) {
        Polygons all = area;
        for (const Bend& b : laying.out.area->outer.bends)
            if (const auto at = reliefAt(laying.out, b.at))
                for (const auto& ring : polygonsOf(circle(*at, 2.0 * r))) all.push_back(ring);
        area = united(all);
        laying.out.cores.clear();
    } else {
        area = grown(grown(area, kLeastDrawn - r), r - kLeastDrawn);
    }
    const auto areas = areasOf(area);
    if (areas.size() != 1) return laying.wrong("the bit is too wide for it");
    laying.out.area = areas.front();
}

void cut(const Mark& mark, const LaidMark& laid, Shape& cut) {
    const bool slot = valueOf(mark, "form") == "slot";
    if (slot) cut.milled.kind = CutOutKind::Slot;
    cut.milled.width = slot           ? laid.length("width")
                       : laid.upright ? min(laid.upright->width(), laid.upright->height())
                                      : narrowest(united({flattened(laid.area->outer, Length::fromUm(10))}));
    if (laid.cores.size() == 1) cut.form = laid.cores.front();
    cut.milled.bit = slot ? cut.milled.width : laid.length("bit");
    if (!flagOf(mark, "plated")) return;
    cut.purpose = Purpose::PlatedCut;
    cut.milled.joined = valueOf(mark, "pad");
    if (cut.milled.joined.empty()) cut.milled.joined = mark.id;
}

/// Copper beside a plated edge, on both sides.
void copperOfCutOut(MarkCopper& copper) {
    if (!copper.flag("plated")) return;
    const Length wide = copper.length("rim");
    if (wide <= Length()) return copper.say("its plated edge has no land around it");
    const Polygons cut = polygonsOf(*copper.laid.area, Chords::Outside);
    for (const RoundedPolygon& piece : convexPieces(without(grown(cut, wide), cut), kPieceSlack))
        for (const bool top : {true, false}) copper.piece(piece, top);
    for (const bool top : {true, false}) copper.open(top, grown(cut, wide + copper.part.rules.fab.maskMargin));
}

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::CutOut>() {
    using namespace marks;
    MarkKindInfo kind = {
        MarkKind::CutOut,
        MarkGroup::Board,
        {1, kMostMarkPoints, true},
        with(outlineFields("rectangle", "slot"),
             {{"width", "Width", V::Length, "1", "Of the slot, around its two ends", {}, "form=slot"},
              {"bit",
               "Mill bit",
               V::Length,
               "1",
               "Diameter of the bit; inner corners are never sharper",
               {},
               "form!=slot"},
              {"relief",
               "Corner relief",
               V::Flag,
               "no",
               "Inner corners are milled out, so that a square body goes in",
               {},
               "form!=slot"},
              {"plated", "Plated edge", V::Flag, "no",
               "Copper on the wall of the cut, joined to lands around it on both sides"},
              {"rim", "Land around it", V::Length, "0.5", "Width of copper beside the edge", {}, "plated=yes"},
              padField("plated=yes")}),
        "What is cut out of the board, for a body that sinks into it"};
    kind.begin = bodyCorners();
    kind.acts.lay = layCutOut;
    kind.acts.cut = cut;
    kind.acts.copper = copperOfCutOut;
    kind.hasPotential = true;
    return kind;
}

}  // namespace punch
