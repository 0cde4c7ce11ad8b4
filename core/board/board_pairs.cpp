#include "core/board/board_pairs.h"

#include <fmt/format.h>

#include <algorithm>
#include <map>
#include <set>

#include "core/clear/voltage_pairs.h"
#include "core/geometry/shapes.h"

namespace punch {
namespace {

/// Something of a part in the board's plane.
struct Thing {
    std::string name;
    RoundedPolygon shape;
    Rect box;
    Length doubt;
};

Length doubtOf(const PlaceDoubt& d) { return d.fitted.value_or(Length()); }

std::vector<Thing> holesOf(const LaidPart& p) {
    std::vector<Thing> all;
    const auto add = [&](const std::string& name, const RoundedPolygon& shape, Length doubt) {
        all.push_back({onBoardNumber(p.placing, name), shape, boundsOf(shape), doubt});
    };
    for (const Pad& pad : p.lies.pads)
        if (pad.hole > Length()) add(pad.number, holeShape(pad), doubtOf(pad.doubt));
    for (const BareHole& h : p.lies.bareHoles) add(h.name, holeShape(h), doubtOf(h.doubt));
    for (const Conductor& c : p.lies.attached.lands)
        if (c.hole > Length()) add(c.number, holeShape(c), {});
    return all;
}

std::vector<Thing> cutsOf(const LaidPart& p) {
    std::vector<Thing> all;
    for (const Shape& s : p.lies.cutOuts)
        for (const RoundedPolygon& piece : s.pieces)
            all.push_back({onBoardNumber(p.placing, s.name), piece, boundsOf(piece), s.doubt});
    return all;
}

Length webOf(const LaidPart& p) { return p.of.part.rules.fab.leastWeb; }
Length copperToEdgeOf(const LaidPart& p) { return p.of.part.rules.fab.copperToEdge; }

/// The nearest of two lists; none when one is empty. `within`: pairs further apart than this need not be right.
std::optional<BoardLength> nearest(const std::vector<Thing>& a, const std::vector<Thing>& b) {
    std::optional<BoardLength> best;
    for (const Thing& one : a)
        for (const Thing& two : b) {
            if (best && !boxesMeet(one.box, two.box, best->is)) continue;
            const Closest c = closest(one.shape, two.shape);
            if (best && c.gap >= best->is) continue;
            best = BoardLength{one.name + " and " + two.name, c.gap, {}, hypot(one.doubt, two.doubt)};
            best->line = {c.a, c.b};
        }
    return best;
}

std::vector<Thing> boardHoles(const LaidBoard& b, bool heads) {
    std::vector<Thing> all;
    for (const BoardHole& h : b.board.holes) {
        const RoundedPolygon shape = RoundedPolygon::disc(h.at, heads ? max(h.clear, h.diameter) : h.diameter);
        all.push_back({"hole " + h.id, shape, boundsOf(shape), {}});
    }
    return all;
}

template <class Visit>
void eachPair(const LaidBoard& b, const Visit& visit) {
    for (std::size_t i = 0; i < b.parts.size(); ++i)
        for (std::size_t k = i + 1; k < b.parts.size(); ++k)
            if (b.parts[i].there() && b.parts[k].there()) visit(b.parts[i], b.parts[k]);
}

std::vector<Thing> copperThings(const LaidPart& p, CopperLayer layer) {
    std::vector<Thing> all;
    for (const Conductor& c : p.lies.board().copper()) {
        const Land& land = landOn(c, layer);
        if (!land.there()) continue;
        const Pad* pad = p.lies.pad(c.id);
        const RoundedPolygon shape = copperShape(land);
        all.push_back({onBoardNumber(p.placing, c.number), shape, boundsOf(shape),
                       pad != nullptr ? doubtOf(pad->doubt) : Length()});
    }
    return all;
}

}  // namespace

bool boxesMeet(const Rect& a, const Rect& b, Length within) {
    if (a.empty || b.empty) return false;
    return a.left - within < b.right && b.left - within < a.right && a.bottom - within < b.top &&
           b.bottom - within < a.top;
}

Length toEdge(const Polygons& rings, const RoundedPolygon& shape) {
    const auto distanceOf = [&](const RoundedPolygon& what) {
        Length least = Length::fromMm(1e6);
        for (const auto& ring : rings)
            for (std::size_t i = 0; i < ring.size(); ++i)
                least = min(least, gap(what, RoundedPolygon::stroke(ring[i], ring[(i + 1) % ring.size()], Length())));
        return least;
    };
    const auto onBoard = [&](Point p) {
        if (!contains(ringOf(rings.front()), p)) return false;
        return std::none_of(rings.begin() + 1, rings.end(),
                            [&](const auto& ring) { return contains(ringOf(ring), p); });
    };
    // What lies outside reaches out as far as its outermost corner does.
    std::optional<Length> out;
    for (const Point& p : shape.corners)
        if (!onBoard(p)) {
            const Length here = -distanceOf(RoundedPolygon::disc(p, Length())) - shape.radius;
            out = out ? min(*out, here) : here;
        }
    return out ? *out : distanceOf(shape);
}

std::vector<BoardLength> holeLengths(const LaidBoard& b) {
    std::vector<BoardLength> all;
    const auto keep = [&](std::optional<BoardLength> l, Length asks, std::vector<std::string> about) {
        if (!l) return;
        l->asks = asks;
        l->about = std::move(about);
        all.push_back(std::move(*l));
    };
    eachPair(b, [&](const LaidPart& a, const LaidPart& c) {
        std::vector<Thing> one = holesOf(a), two = holesOf(c);
        for (Thing& t : cutsOf(a)) one.push_back(std::move(t));
        for (Thing& t : cutsOf(c)) two.push_back(std::move(t));
        keep(nearest(one, two), max(webOf(a), webOf(c)), {a.placing.id, c.placing.id});
    });
    const std::vector<Thing> own = boardHoles(b, false);
    for (const LaidPart& p : b.parts)
        if (p.there()) keep(nearest(holesOf(p), own), webOf(p), {p.placing.id});
    return all;
}

std::vector<BoardLength> copperLengths(const LaidBoard& b) {
    std::vector<BoardLength> all;
    eachPair(b, [&](const LaidPart& a, const LaidPart& c) {
        std::optional<BoardLength> least;
        for (const CopperLayer layer : kCopperLayers) {
            auto here = nearest(copperThings(a, layer), copperThings(c, layer));
            if (here && (!least || here->is < least->is)) least = std::move(here);
        }
        if (least) {
            least->asks = max(a.of.part.rules.fab.leastGap, c.of.part.rules.fab.leastGap);
            least->about = {a.placing.id, c.placing.id};
            all.push_back(std::move(*least));
        }
        for (const auto& [metal, cut] : {std::pair{&a, &c}, std::pair{&c, &a}}) {
            std::vector<Thing> holes = cutsOf(*cut);
            for (const BareHole& h : cut->lies.bareHoles)
                if (!h.plated) {
                    const RoundedPolygon shape = holeShape(h);
                    holes.push_back({onBoardNumber(cut->placing, h.name), shape, boundsOf(shape), doubtOf(h.doubt)});
                }
            for (const CopperLayer layer : {CopperLayer::Top, CopperLayer::Bottom})
                if (auto l = nearest(copperThings(*metal, layer), holes)) {
                    l->asks = max(copperToEdgeOf(a), copperToEdgeOf(c));
                    l->about = {a.placing.id, c.placing.id};
                    all.push_back(std::move(*l));
                }
        }
    });
    // Nothing lies under a screw's head.
    const std::vector<Thing> heads = boardHoles(b, true);
    for (const LaidPart& p : b.parts)
        for (const CopperLayer layer : {CopperLayer::Top, CopperLayer::Bottom})
            if (auto l = p.there() ? nearest(copperThings(p, layer), heads) : std::nullopt) {
                l->words += ", its screw's head";
                l->about = {p.placing.id};
                all.push_back(std::move(*l));
            }
    return all;
}

std::vector<BoardLength> edgeLengths(const LaidBoard& b) {
    std::vector<BoardLength> all;
    for (const LaidPart& p : b.parts) {
        if (!p.there()) continue;
        const auto least = [&](const std::vector<Thing>& things, const char* what, Length asks) {
            const Thing* worst = nullptr;
            Length is;
            for (const Thing& t : things)
                if (const Length here = toEdge(b.rings, t.shape); worst == nullptr || here < is) {
                    worst = &t;
                    is = here;
                }
            if (worst == nullptr) return;
            all.push_back({worst->name + what, is, asks, worst->doubt, {}, {p.placing.id}, {worst->box.middle()}});
        };
        std::vector<Thing> copper;
        for (const CopperLayer layer : {CopperLayer::Top, CopperLayer::Bottom})
            for (Thing& t : copperThings(p, layer)) copper.push_back(std::move(t));
        least(copper, ", copper to the edge", copperToEdgeOf(p));
        least(holesOf(p), ", hole to the edge", webOf(p));
        // The edge that it is made for has to lie at one.
        for (const FaceLine& face : p.lies.faces) {
            if (face.kind != FaceKind::BoardEdge) continue;
            const bool along = face.axis == Axis::Along;
            const Rect& box = p.lies.courtyard;
            const Point at = along ? Point{face.at, box.middle().y} : Point{box.middle().x, face.at};
            Length off = Length::fromMm(1e3);
            const auto& ring = b.rings.front();
            for (std::size_t i = 0; i < ring.size(); ++i)
                off = min(off, gap(RoundedPolygon::disc(at, Length()),
                                   RoundedPolygon::stroke(ring[i], ring[(i + 1) % ring.size()], Length())));
            // As a length that is to be kept: how much of the tolerance is left.
            const Length allowed = Length::fromMm(0.5);
            BoardLength l{p.placing.designator + ": the board's edge that it is made for lies off this one's",
                          allowed - off,
                          {},
                          face.doubt.value_or(Length())};
            if (off <= allowed) continue;
            l.says = "{} {u}, {} may be";
            l.of = {off, allowed};
            l.about = {p.placing.id};
            l.line = {at};
            all.push_back(std::move(l));
        }
    }
    for (const BoardHole& h : b.board.holes)
        all.push_back({"hole " + h.id + " to the edge",
                       toEdge(b.rings, RoundedPolygon::disc(h.at, h.diameter)),
                       b.whole.rules.fab.leastWeb,
                       {},
                       {},
                       {h.id},
                       {h.at}});
    return all;
}

VoltagesBetween voltagesBetween(const LaidBoard& b) {
    VoltagesBetween out;
    out.named = !b.whole.potentials.empty();
    if (!out.named) return out;
    // By the rules of each part that differ; of two parts the worse of both.
    std::vector<const Rules*> rules;
    for (const LaidPart& p : b.parts) {
        if (!p.there()) continue;
        const Rules& r = p.of.part.rules;
        const auto same = [&](const Rules* o) {
            return o->standard == r.standard && o->column == r.column && o->iec == r.iec;
        };
        if (std::none_of(rules.begin(), rules.end(), same)) rules.push_back(&r);
    }
    std::map<std::string, const LaidPart*> byName;
    for (const LaidPart& p : b.parts)
        if (p.there()) byName.emplace(p.placing.designator, &p);
    std::map<std::pair<std::string, std::string>, BoardLength> tightest;
    for (const Rules* r : rules) {
        Part whole = b.whole;
        whole.rules.standard = r->standard;
        whole.rules.column = r->column;
        whole.rules.iec = r->iec;
        for (const VoltagePair& v : voltagePairs(whole, b.all.board())) {
            const std::string da = designatorIn(v.a), dc = designatorIn(v.b);
            if (da == dc || !byName.contains(da) || !byName.contains(dc)) continue;
            const auto follows = [&](const std::string& d) {
                const Rules& o = byName[d]->of.part.rules;
                return o.standard == r->standard && o.column == r->column && o.iec == r->iec;
            };
            if (!follows(da) && !follows(dc)) continue;
            const auto nameOfEnd = [&](const FeatureId& id) {
                const Pad* p = b.all.pad(id);
                return p != nullptr ? p->number
                                    : designatorIn(id) + " " +
                                          featureWords(byName[designatorIn(id)]->of.part, id.substr(id.find(':') + 1));
            };
            const TightestWay way = tightestWay(v);
            BoardLength l{fmt::format("{} and {}, {:.0f} V", nameOfEnd(v.a), nameOfEnd(v.b), v.peak.volts()),
                          way.is,
                          way.needs,
                          {}};
            const auto doubt = [&](const FeatureId& id) {
                const Pad* p = b.all.pad(id);
                return p != nullptr ? doubtOf(p->doubt) : Length();
            };
            l.doubt = hypot(doubt(v.a), doubt(v.b));
            l.refused = v.refused;
            l.about = {byName[da]->placing.id, byName[dc]->placing.id};
            l.line = v.line;
            const auto key = std::minmax(da, dc);
            const auto it = tightest.find(key);
            if (it == tightest.end() || l.is - l.asks < it->second.is - it->second.asks) tightest[key] = std::move(l);
        }
    }
    for (auto& [key, l] : tightest) out.pairs.push_back(std::move(l));
    Voltage most;
    std::string loudest;
    for (const LaidPart& p : b.parts)
        for (const Potential& a : p.of.part.potentials)
            if (const Voltage v = peakBetween(a, Potential{"0 V", PotentialKind::Dc, {}, "", {}, {}, {}}); v > most) {
                most = v;
                loudest = p.placing.designator;
            }
    // Up to 50 V nothing beyond the fab's own gap is asked for.
    for (const LaidPart& p : b.parts)
        if (p.there() && p.of.part.potentials.empty() && !p.lies.pads.empty() && most > Voltage::fromVolts(50))
            out.silent.push_back(fmt::format("{} names no potential, and {} carries {:.0f} V: not judged",
                                             p.placing.designator, loudest, most.volts()));
    return out;
}

}  // namespace punch
