#include "core/clear/ways.h"

#include <algorithm>

#include "core/clear/iec60664.h"

namespace punch {
namespace {

/// Copper that lies under mask: a tented land without a hole, on its own face.
bool underMask(const Conductor& pad, CopperLayer layer) {
    return pad.tented && pad.hole <= Length() && layer != CopperLayer::Inner && !opensMask(pad, layer);
}

/// What IPC-2221B asks on a layer, and by which column.
std::pair<Length, std::optional<VoltageColumn>> askedOn(const VoltagePair& pair, const Conductor& a, const Conductor& b,
                                                        CopperLayer layer) {
    if (layer == CopperLayer::Inner && pair.innerAsks) return {*pair.innerAsks, VoltageColumn::B1};
    if (pair.coveredAsks && underMask(a, layer) && underMask(b, layer)) return {*pair.coveredAsks, VoltageColumn::B4};
    return {pair.needed, pair.column};
}

}  // namespace

Length leastCutWidth(const Insulating& iec, std::optional<Length> clearance) {
    const Length x = iecLeastSlot(iec.qualifiedCoating ? PollutionDegree::One : iec.pollution);
    return iec.narrowSlots && clearance && *clearance < Length::fromMm(3) ? min(x, *clearance / 3) : x;
}

std::vector<NamedCut> cutsAround(const Part& part, const Board& board, std::optional<Length> clearance) {
    // Widths that reach X but for rounding do reach it.
    const Length x = leastCutWidth(part.rules.iec, clearance) - Length::fromNm(1);
    std::vector<NamedCut> cuts;
    for (const Shape& c : board.cutOuts)  // a plated wall is metal and keeps nothing apart
        if (!c.plated() && c.milled.width - part.rules.fab.slotTolerance >= x)
            for (const RoundedPolygon& piece : c.pieces) cuts.push_back({c.id, piece});
    for (const BareHole& h : board.bareHoles)
        if (!h.plated && h.size >= x) cuts.push_back({h.id, holeShape(h, false)});
    return cuts;
}

const SurfaceMap& Ways::surfaceFor(const VoltagePair& ask, const FeatureId& a, const FeatureId& b) {
    if (!ask.creepage) return nothing_;  // IPC-2221B knows no way around cuts
    const Length clearance = ask.clearance.value_or(Length());
    auto cuts = cuts_.find(clearance);
    if (cuts == cuts_.end()) cuts = cuts_.emplace(clearance, cutsAround(part_, board_, ask.clearance)).first;
    // Metal that stands in a cut does not go around it.
    std::string own;
    for (const NamedCut& c : cuts->second)
        if (c.id == a || c.id == b) own += c.id + " ";
    const auto key = std::pair{clearance, own};
    if (const auto it = surfaces_.find(key); it != surfaces_.end()) return it->second;
    std::vector<RoundedPolygon> shapes;
    for (const NamedCut& c : cuts->second)
        if (c.id != a && c.id != b) shapes.push_back(c.shape);
    return surfaces_.emplace(key, SurfaceMap(std::move(shapes))).first->second;
}

void Ways::measure(VoltagePair& pair, const Conductor& a, const Conductor& b) {
    pair.path.clear();
    pair.line.clear();
    pair.otherFaces = !shareLayer(a, b);
    if (pair.otherFaces)
        overWalls(pair, a, b);
    else
        overFace(pair, a, b);
}

void Ways::overFace(VoltagePair& pair, const Conductor& a, const Conductor& b) {
    const SurfaceMap& surface = surfaceFor(pair, a.id, b.id);
    struct OnLayer {
        Closest air;
        Length asked;
        std::optional<VoltageColumn> column;
        Length margin() const { return air.gap - asked; }
    };
    std::optional<OnLayer> tightest;
    std::optional<SurfaceWay> over;
    bool looked = false;
    for (const CopperLayer layer : kCopperLayers) {
        const Land& la = landOn(a, layer);
        const Land& lb = landOn(b, layer);
        if (!la.there() || !lb.there()) continue;
        const auto [asked, column] = askedOn(pair, a, b, layer);
        // A layer that looks as the top does has nothing new, unless it asks for more.
        if (layer != CopperLayer::Top && la == a.top && lb == b.top && tightest && asked <= tightest->asked) continue;
        const RoundedPolygon sa = copperShape(la);
        const RoundedPolygon sb = copperShape(lb);
        const OnLayer here{closest(sa, sb), asked, column};
        if (!tightest || here.margin() < tightest->margin()) tightest = here;
        if (layer == CopperLayer::Inner || surface.empty() || here.air.gap <= Length()) continue;
        looked = true;
        if (const auto way = surface.way(sa, sb); way && (!over || way->length < over->length)) over = way;
    }
    pair.needed = tightest->asked;
    pair.column = tightest->column;
    pair.gap = pair.way = tightest->air.gap;
    pair.line = {tightest->air.a, tightest->air.b};
    if (!looked) return;
    pair.way = over ? over->length : noWay();  // cuts may close it off
    if (over && !over->straight) pair.path = over->path;
}

void Ways::overWalls(VoltagePair& pair, const Conductor& a, const Conductor& b) {
    if (!walls_) walls_.emplace(part_, board_);
    const WallWay ways = walls_->between(a.id, landShape(a), b.id, landShape(b), surfaceFor(pair, a.id, b.id),
                                         allExact_ ? noWay() : 1.3 * pair.needed);
    pair.gap = pair.way = noWay();
    if (ways.air) {
        pair.gap = ways.air->length;
        pair.line = ways.air->path;
        pair.way = pair.gap;
    }
    if (pair.creepage && ways.surface) {
        pair.way = ways.surface->length;
        pair.path = ways.surface->path;
    } else if (pair.creepage) {
        pair.way = noWay();
    }
}

TightestWay tightestWay(const VoltagePair& v) {
    // IPC-2221B knows one distance; without cuts both ways are one.
    const Length air = v.clearance.value_or(v.needed);
    const Length over = v.creepage.value_or(v.needed);
    if (v.clearance && v.gap - air <= v.way - over) return {v.gap, air};
    return {v.way, over};
}

}  // namespace punch
