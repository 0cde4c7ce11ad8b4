#include "core/size/attached_copper.h"

#include <algorithm>
#include <array>
#include <cmath>

#include "core/size/mark_copper.h"

namespace punch {

std::vector<Rect> pasteWindows(const Rect& area, int across, int down, Length web, double share) {
    std::vector<Rect> windows;
    if (area.empty || across < 1 || down < 1 || across > 50 || down > 50) return windows;
    Length w = (area.width() - (across - 1.0) * web) / across, h = (area.height() - (down - 1.0) * web) / down;
    if (w <= Length() || h <= Length()) return windows;
    const Length stepX = w + web, stepY = h + web, firstX = area.left + w / 2, firstY = area.bottom + h / 2;
    const double covers = across * down * (w / area.width()) * (h / area.height());
    if (share > 0 && covers > share) {
        const double k = std::sqrt(share / covers);
        w = w * k;
        h = h * k;
    }
    for (int j = 0; j < down; ++j)
        for (int i = 0; i < across; ++i)
            windows.push_back(Rect::around({firstX + stepX * i, firstY + stepY * j}, w, h));
    return windows;
}

AttachedCopper attachedCopper(const Part& part, const Shaped& shaped, const std::vector<Pad>& pads,
                              const std::vector<BareHole>& bareHoles) {
    AttachedCopper out;
    if (part.marks.empty()) return out;
    const FabProfile& fab = part.rules.fab;
    Metal metal{copperOf(pads, bareHoles, {}), {}};
    const bool vias = std::any_of(part.marks.begin(), part.marks.end(),
                                  [](const Mark& m) { return markKind(m.kind).acts.givingWay != nullptr; });
    if (vias) {
        const auto keep = [&](const Polygons& area, Length by) {
            for (const auto& ring : grown(area, by)) metal.noVia.push_back(ring);
        };
        for (const Pad& p : pads)
            if (p.hole > Length()) keep(polygonsOf(holeShape(p), Chords::Outside), fab.leastWeb);
        for (const BareHole& h : bareHoles)
            keep(polygonsOf(holeShape(h), Chords::Outside), h.plated ? fab.leastWeb : fab.copperToEdge);
        for (const Shape& c : shaped.cutOuts) keep(polygonsOf(c.milled.outline, Chords::Outside), fab.copperToEdge);
        metal.noVia = united(metal.noVia);
    }
    const auto each = [&](auto act) {
        for (std::size_t i = 0; i < shaped.laid.size(); ++i) {
            if (!shaped.laid[i].wrong.empty()) continue;
            MarkCopper copper(part, metal, out, part.marks[i], shaped.laid[i]);
            if (const auto how = markKind(part.marks[i].kind).acts.*act; how != nullptr) how(copper);
        }
    };
    each(&MarkActs::copper);
    each(&MarkActs::givingWay);
    // How much copper each number has on each side, its holes taken off.
    if (!out.lands.empty()) {
        std::map<std::string, std::array<Polygons, 3>> by;
        const auto add = [&](const Conductor& c) {
            if (c.outlined) return;
            auto& [top, bottom, holes] = by[c.number];
            const auto put = [](Polygons& to, const RoundedPolygon& shape) {
                for (const auto& ring : polygonsOf(shape)) to.push_back(ring);
            };
            if (c.top.there()) put(top, copperShape(c.top));
            if (c.bottom.there()) put(bottom, copperShape(c.bottom));
            if (c.hole > Length()) put(holes, holeShape(c, false));
        };
        for (const Conductor& c : out.lands) add(c);
        for (const Conductor& p : metal.copper)
            if (by.contains(p.number)) add(p);
        for (const MarkFigure& f : out.figures)
            for (const auto& ring : f.area) by[f.number][f.top ? 0 : 1].push_back(ring);
        for (const auto& [number, layers] : by) {
            const Polygons holes = united(layers[2]);
            out.areas[number] = {areaOf(without(united(layers[0]), holes)), areaOf(without(united(layers[1]), holes))};
        }
    }
    each(&MarkActs::tell);
    return out;
}

}  // namespace punch
