#include "core/clear/spacing.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/clear/iec60664.h"
#include "core/clear/ipc2221_table61.h"

namespace punch {
namespace {

void keepNearer(std::optional<Nearest>& best, Length gap, const std::string& a, const std::string& b) {
    // A nanometre apart is the same distance: the first pair stands for its equals.
    if (!best || gap < best->gap - Length::fromNm(1)) best = Nearest{gap, a, b};
}

}  // namespace

bool sourceOpen(const Potential& a, const Potential& b) {
    const auto open = [](const Potential& p) {
        return p.kind != PotentialKind::Dc && p.source.empty() && p.volts != Voltage();
    };
    const auto alternates = [](const Potential& p) { return p.kind != PotentialKind::Dc && p.volts != Voltage(); };
    return (open(a) && alternates(b)) || (open(b) && alternates(a));
}

namespace {

/// D.c. and a.c. r.m.s. parts of the voltage between two potentials.
std::pair<Voltage, Voltage> partsBetween(const Potential& a, const Potential& b) {
    const auto dc = [](const Potential& p) { return p.kind == PotentialKind::Dc ? p.volts : Voltage(); };
    const auto ac = [](const Potential& p) {
        return p.kind == PotentialKind::Dc   ? Voltage()
               : p.kind == PotentialKind::Ac ? p.volts
                                             : std::sqrt(0.5) * p.volts;
    };
    const bool oneSource =
        a.kind == PotentialKind::Dc || b.kind == PotentialKind::Dc || (a.source == b.source && !sourceOpen(a, b));
    Voltage alternating = oneSource ? abs(ac(a) - ac(b)) : ac(a) + ac(b);
    // Of one source at different phases: the length of the difference of two pointers.
    if (oneSource && (a.phase || b.phase)) {
        const double angle = (a.phase.value_or(Angle()) - b.phase.value_or(Angle())).radians();
        const double x = ac(a).volts() - ac(b).volts() * std::cos(angle);
        const double y = ac(b).volts() * std::sin(angle);
        alternating = Voltage::fromVolts(std::hypot(x, y));
    }
    return {abs(dc(a) - dc(b)), alternating};
}

}  // namespace

Voltage peakBetween(const Potential& a, const Potential& b) {
    const auto [dc, ac] = partsBetween(a, b);
    return dc + std::sqrt(2.0) * ac;
}

Voltage rmsBetween(const Potential& a, const Potential& b) {
    const auto [dc, ac] = partsBetween(a, b);
    return Voltage::fromVolts(std::hypot(dc.volts(), ac.volts()));
}

VoltagePair askedBetween(const Rules& rules, const Potential& a, const Potential& b) {
    VoltagePair pair;
    pair.peak = peakBetween(a, b);
    pair.rms = rmsBetween(a, b);
    pair.sourceOpen = sourceOpen(a, b);
    if (rules.standard == VoltageStandard::Ipc2221) {
        const auto by = [&](VoltageColumn column) { return ipc2221Spacing(column, pair.peak); };
        pair.column = rules.column;
        pair.needed = by(rules.column);
        pair.innerAsks = by(VoltageColumn::B1);
        // Mask does more for bare copper; a coating over the assembly, or an inner layer, is what the user chose.
        if (rules.column == VoltageColumn::B2 || rules.column == VoltageColumn::B3 || rules.column == VoltageColumn::A6)
            pair.coveredAsks = by(VoltageColumn::B4);
        return pair;
    }
    // What alternates and names no source may be mains.
    const auto isMains = [](const Potential& p) {
        return p.kind != PotentialKind::Dc && (p.source == "mains" || (p.source.empty() && p.volts != Voltage()));
    };
    const Voltage toNeutral = abs(a.volts) < abs(b.volts) ? abs(b.volts) : abs(a.volts);
    const auto ask = iecAsk(rules.iec, pair.rms, pair.peak, toNeutral, isMains(a) || isMains(b));
    if (!ask) {
        pair.refused = ask.error().what;
        return pair;
    }
    pair.clearance = ask->clearance;
    pair.creepage = ask->creepage;
    pair.impulse = ask->impulse;
    pair.rms = ask->rms;
    pair.needed = ask->needed();
    return pair;
}

namespace {

/// Half the diagonal of the land's box, which no point of it lies beyond.
Length reachOf(const Land& land) { return hypot(land.width, land.length) / 2; }

/// The layers on which both pads have copper.
std::vector<CopperLayer> sharedLayers(const Conductor& a, const Conductor& b) {
    std::vector<CopperLayer> layers;
    for (const CopperLayer layer : {CopperLayer::Top, CopperLayer::Inner, CopperLayer::Bottom})
        if (landOn(a, layer).there() && landOn(b, layer).there()) layers.push_back(layer);
    // Layers that look alike are looked at once.
    if (layers.size() == 3 && a.inner == a.bottom && b.inner == b.bottom) layers.pop_back();
    if (layers.size() >= 2 && landOn(a, layers[0]) == landOn(a, layers[1]) &&
        landOn(b, layers[0]) == landOn(b, layers[1]))
        layers.erase(layers.begin() + 1);
    return layers;
}

}  // namespace

std::optional<Length> copperGap(const Conductor& a, const Conductor& b) {
    std::optional<Length> least;
    for (const CopperLayer layer : sharedLayers(a, b)) {
        const Length g = gap(copperShape(landOn(a, layer)), copperShape(landOn(b, layer)));
        least = least ? min(*least, g) : g;
    }
    return least;
}

std::optional<Length> maskWeb(const Conductor& a, const Conductor& b) {
    std::optional<Length> least;
    for (const CopperLayer layer : {CopperLayer::Top, CopperLayer::Bottom}) {
        if (!opensMask(a, layer) || !opensMask(b, layer)) continue;
        const Length g =
            gap(copperShape(grown(landOn(a, layer), a.maskMargin)), copperShape(grown(landOn(b, layer), b.maskMargin)));
        least = least ? min(*least, g) : g;
    }
    return least;
}

std::optional<Nearest> nearestOpenings(const std::vector<Conductor>& pads) {
    std::optional<Nearest> best;
    for (std::size_t i = 0; i < pads.size(); ++i)
        for (std::size_t k = i + 1; k < pads.size(); ++k) {
            if (pads[i].number == pads[k].number) continue;
            const Length openings = 1.5 * (pads[i].maskMargin + pads[k].maskMargin);  // at a corner, margin x sqrt 2
            if (best && copperGapBound(pads[i], pads[k]) - openings > best->gap) continue;
            if (const auto g = maskWeb(pads[i], pads[k])) keepNearer(best, *g, pads[i].id, pads[k].id);
        }
    return best;
}

Length copperGapBound(const Conductor& a, const Conductor& b) {
    Length least = Length::fromMm(1e6);
    for (const CopperLayer layer : {CopperLayer::Top, CopperLayer::Inner, CopperLayer::Bottom}) {
        const Land& la = landOn(a, layer);
        const Land& lb = landOn(b, layer);
        if (la.there() && lb.there()) least = min(least, distance(la.at, lb.at) - reachOf(la) - reachOf(lb));
    }
    return least;
}

std::optional<Nearest> nearestCopper(const std::vector<Conductor>& pads) {
    std::optional<Nearest> best;
    for (std::size_t i = 0; i < pads.size(); ++i)
        for (std::size_t k = i + 1; k < pads.size(); ++k) {
            if (pads[i].number == pads[k].number) continue;
            // No exact distance where the circles around both lands already stand further apart.
            if (best && copperGapBound(pads[i], pads[k]) > best->gap) continue;
            if (const auto g = copperGap(pads[i], pads[k])) keepNearer(best, *g, pads[i].id, pads[k].id);
        }
    return best;
}

namespace {

/// From a shape's box to the board's edge, on whose one side its middle stands; negative: it runs over.
Length toEdge(const Rect& box, const FaceLine& edge) {
    const bool x = edge.axis == Axis::Along;
    const bool above = edge.at > (x ? box.middle().x : box.middle().y);
    return above ? edge.at - (x ? box.right : box.top) : (x ? box.left : box.bottom) - edge.at;
}

}  // namespace

std::optional<Nearest> nearestCopperTo(const Shape& cut, const std::vector<Conductor>& copper) {
    std::optional<Nearest> best;
    for (const Conductor& one : copper)
        for (const CopperLayer layer : kCopperLayers)
            if (const Land& land = landOn(one, layer); land.there())
                for (const RoundedPolygon& piece : cut.pieces)
                    keepNearer(best, gap(copperShape(land), piece), one.id, cut.id);
    return best;
}

std::optional<Nearest> nearestCopperToCut(const Board& board) {
    std::optional<Nearest> best;
    for (const Conductor& pad : board.copper())
        for (const CopperLayer layer : {CopperLayer::Top, CopperLayer::Inner, CopperLayer::Bottom}) {
            const Land& land = landOn(pad, layer);
            if (!land.there()) continue;
            const RoundedPolygon copper = copperShape(land);
            for (const BareHole& hole : board.bareHoles) {
                if (hole.plated) continue;
                const Length bound = distance(land.at, hole.at) - reachOf(land) -
                                     max(hole.sizeLargest, hole.slotLength + hole.sizeLargest - hole.size) / 2;
                if (!best || bound <= best->gap) keepNearer(best, gap(copper, holeShape(hole)), pad.id, hole.id);
            }
            for (const Shape& cut : board.cutOuts)
                if (cut.milled.joined != pad.id || !cut.plated())
                    for (const RoundedPolygon& piece : cut.pieces) keepNearer(best, gap(copper, piece), pad.id, cut.id);
            for (const FaceLine& face : board.faces)
                if (face.kind == FaceKind::BoardEdge && face.axis != Axis::Height)
                    keepNearer(best, toEdge(boundsOf(copper), face), pad.id, face.id);
        }
    return best;
}

std::optional<Nearest> nearestHoles(const Board& board) {
    struct Hole {
        std::string id;
        RoundedPolygon shape;
        Point at;
        Length reach;
        bool cut = false;
    };
    std::vector<Hole> all;
    const auto add = [&](const std::string& id, const RoundedPolygon& shape, bool cut = false) {
        const Rect box = boundsOf(shape);
        all.push_back({id, shape, box.middle(), hypot(box.width(), box.height()) / 2, cut});
    };
    for (const Pad& p : board.pads)
        if (p.hole > Length()) add(p.id, holeShape(p));
    for (const Conductor& via : board.attached.lands)
        if (via.hole > Length()) add(via.id, holeShape(via));
    for (const BareHole& h : board.bareHoles) add(h.id, holeShape(h));
    for (const Shape& c : board.cutOuts)
        for (const RoundedPolygon& piece : c.pieces) add(c.id, piece, true);
    std::optional<Nearest> best;
    for (std::size_t i = 0; i < all.size(); ++i)
        for (std::size_t k = i + 1; k < all.size(); ++k) {
            if (all[i].cut && all[i].id == all[k].id) continue;  // pieces of one cut-out
            if (best && distance(all[i].at, all[k].at) - all[i].reach - all[k].reach > best->gap) continue;
            keepNearer(best, gap(all[i].shape, all[k].shape), all[i].id, all[k].id);
        }
    // A cut-out may run out over the edge, a hole may not.
    for (std::size_t i = 0; i + board.cutOuts.size() < all.size(); ++i) {
        const Rect box = boundsOf(all[i].shape);
        for (const FaceLine& face : board.faces)
            if (face.kind == FaceKind::BoardEdge && face.axis != Axis::Height)
                keepNearer(best, toEdge(box, face), all[i].id, face.id);
    }
    return best;
}

}  // namespace punch
