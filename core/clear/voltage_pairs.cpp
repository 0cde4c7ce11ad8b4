#include "core/clear/voltage_pairs.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <unordered_map>

#include "core/clear/iec60664.h"

namespace punch {
namespace {

thread_local std::size_t exactDistances = 0;

std::unordered_map<FeatureId, int> potentialByFeature(const Part& part) {
    std::unordered_map<FeatureId, int> all;
    for (std::size_t i = 0; i < part.potentials.size(); ++i)
        for (const FeatureId& id : part.potentials[i].pins) all.emplace(id, static_cast<int>(i));
    return all;
}

/// What each two potentials ask of each other, and the map of cuts that holds for that.
struct Asks {
    Asks(const Part& part, const Footprint& f) : part_(part), footprint_(f) {
        const std::size_t n = part.potentials.size();
        all_.resize(n * n);
        for (std::size_t i = 0; i < n; ++i)
            for (std::size_t k = 0; k < n; ++k)
                if (i != k) {
                    all_[i * n + k] = askedBetween(part.rules, part.potentials[i], part.potentials[k]);
                    most_ = max(most_, all_[i * n + k].needed);
                }
    }
    const VoltagePair& between(int a, int b) const {
        return all_[static_cast<std::size_t>(a) * part_.potentials.size() + static_cast<std::size_t>(b)];
    }
    Length most() const { return most_; }
    const SurfaceMap& surface(const VoltagePair& ask) {
        const Length clearance = ask.clearance.value_or(Length());
        auto it = surfaces_.find(clearance);
        if (it == surfaces_.end())
            it = surfaces_
                     .emplace(clearance, SurfaceMap(ask.creepage ? cutsAround(part_, footprint_, ask.clearance)
                                                                 : std::vector<RoundedPolygon>{}))
                     .first;
        return it->second;
    }

private:
    const Part& part_;
    const Footprint& footprint_;
    std::vector<VoltagePair> all_;
    std::map<Length, SurfaceMap> surfaces_;
    Length most_;
};

void sortPairs(std::vector<VoltagePair>& pairs) {
    std::stable_sort(pairs.begin(), pairs.end(), [](const VoltagePair& x, const VoltagePair& y) {
        if (x.refused.empty() != y.refused.empty()) return y.refused.empty();
        // Whole nanometres, so that equal pairs keep their order.
        return std::nearbyint(x.margin().nm()) < std::nearbyint(y.margin().nm());
    });
}

struct Named {
    const Pad* pad;
    int potential;
};

/// Pads in square cells, for looking up those near one of them.
class Cells {
public:
    Cells(const std::vector<Named>& all, Length side) : side_(side.mm()) {
        for (std::size_t i = 0; i < all.size(); ++i)
            cells_[key(cell(all[i].pad->at.x), cell(all[i].pad->at.y))].push_back(i);
    }
    template <class Visit>
    void near(Point p, Length reach, const Visit& visit) const {
        const int n = static_cast<int>(std::ceil(reach.mm() / side_));
        const int cx = cell(p.x);
        const int cy = cell(p.y);
        for (int x = cx - n; x <= cx + n; ++x)
            for (int y = cy - n; y <= cy + n; ++y)
                if (const auto it = cells_.find(key(x, y)); it != cells_.end())
                    for (const std::size_t i : it->second) visit(i);
    }

private:
    int cell(Length l) const { return static_cast<int>(std::floor(l.mm() / side_)); }
    static long long key(int x, int y) { return (static_cast<long long>(x) << 32) ^ static_cast<unsigned>(y); }
    double side_;
    std::unordered_map<long long, std::vector<std::size_t>> cells_;
};

}  // namespace

std::vector<CutShape> cutShapes(const Part& part, Point datum) {
    std::vector<CutShape> all;
    for (const CutOut& c : part.cutOuts) {
        CutShape s{c.id, c.name, c.kind, {}, c.width / 2, c.width};
        const Point a = c.from - datum;
        const Point b = c.to - datum;
        if (c.kind == CutOutKind::Slot) {
            s.corners = a == b ? std::vector<Point>{a} : std::vector<Point>{a, b};
        } else {
            Rect r;
            r.add(a);
            r.add(b);
            s.width = min(r.width(), r.height());
            s.radius = min(s.radius, s.width / 2);
            const Rect core = r.grown(-s.radius);
            s.corners = RoundedPolygon::rectangle(core).corners;
            if (core.width() < Length::fromNm(1) || core.height() < Length::fromNm(1)) {
                // As narrow as its corners are round: a slot.
                s.corners = {{core.left, core.bottom}, {core.right, core.top}};
                if (s.corners.front() == s.corners.back()) s.corners.pop_back();
            }
        }
        all.push_back(s);
    }
    return all;
}

std::vector<RoundedPolygon> cutsAround(const Part& part, const Footprint& f, std::optional<Length> clearance) {
    const Insulating& iec = part.rules.iec;
    Length x = iecLeastSlot(iec.qualifiedCoating ? PollutionDegree::One : iec.pollution);
    if (iec.narrowSlots && clearance && *clearance < Length::fromMm(3)) x = min(x, *clearance / 3);
    // Widths that reach X but for rounding do reach it.
    x -= Length::fromNm(1);
    std::vector<RoundedPolygon> cuts;
    for (const CutShape& c : f.cutOuts)
        if (c.width - part.rules.fab.slotTolerance >= x) cuts.push_back(cutShape(c));
    for (const BareHole& h : f.bareHoles)
        if (!h.plated && h.size >= x) cuts.push_back(holeShape(h, false));
    return cuts;
}

std::vector<Pad> conductors(const Part& part, const Footprint& f) {
    std::vector<Pad> all = copperPads(f);
    for (const Spot& spot : part.spots) {
        if (spot.head <= Length()) continue;
        const BareHole* hole = f.bareHole(spot.id);
        if (hole == nullptr) continue;
        Pad metal;
        metal.id = spot.id;
        metal.number = spot.name;
        metal.at = hole->at;
        metal.top = {LandShape::Round, hole->at, spot.head, spot.head, {}, {}};
        metal.bottom = metal.top;
        metal.firm = hole->firm;
        metal.sized = true;
        all.push_back(metal);
    }
    return all;
}

void measurePair(VoltagePair& pair, const Pad& a, const Pad& b, const SurfaceMap& surface) {
    ++exactDistances;
    std::optional<Closest> air;
    std::optional<SurfaceWay> over;
    bool looked = false;
    for (const CopperLayer layer : {CopperLayer::Top, CopperLayer::Inner, CopperLayer::Bottom}) {
        const Land& la = landOn(a, layer);
        const Land& lb = landOn(b, layer);
        if (!la.there() || !lb.there()) continue;
        // A layer that looks as the top does has nothing new.
        if (layer != CopperLayer::Top && la == a.top && lb == b.top) continue;
        const RoundedPolygon sa = copperShape(la);
        const RoundedPolygon sb = copperShape(lb);
        const Closest c = closest(sa, sb);
        if (!air || c.gap < air->gap) air = c;
        if (layer == CopperLayer::Inner || surface.empty()) continue;
        if (c.gap <= Length()) continue;
        looked = true;
        if (const auto way = surface.way(sa, sb); way && (!over || way->length < over->length)) over = way;
    }
    if (!air) {
        // No common layer: nothing is said about the way through the board.
        pair.gap = pair.way = Length::fromMm(1e3);
        return;
    }
    pair.gap = air->gap;
    pair.line = {air->a, air->b};
    pair.way = pair.gap;
    pair.path.clear();
    if (!looked) return;
    if (!over) {
        pair.way = Length::fromMm(1e3);  // cuts close it off
        return;
    }
    pair.way = over->length;
    if (!over->straight) pair.path = over->path;
}

TightestWay tightestWay(const VoltagePair& v) {
    // IPC-2221B knows one distance; without cuts both ways are one.
    const Length air = v.clearance.value_or(v.needed);
    const Length over = v.creepage.value_or(v.needed);
    if (v.clearance && v.gap - air <= v.way - over) return {v.gap, air};
    return {v.way, over};
}

std::vector<VoltagePair> voltagePairs(const Part& part, const Footprint& f) {
    exactDistances = 0;
    const auto potentials = potentialByFeature(part);
    const std::vector<Pad> all = conductors(part, f);
    std::vector<Named> named;
    for (const Pad& p : all)
        if (const auto it = potentials.find(p.id); it != potentials.end()) named.push_back({&p, it->second});
    Asks asks(part, f);
    std::vector<VoltagePair> pairs;
    const auto measure = [&](const Named& a, const Named& b) {
        VoltagePair pair = asks.between(a.potential, b.potential);
        pair.a = a.pad->id;
        pair.b = b.pad->id;
        measurePair(pair, *a.pad, *b.pad, asks.surface(pair));
        pairs.push_back(std::move(pair));
    };
    std::vector<std::size_t> counts(part.potentials.size(), 0);
    for (const Named& n : named) ++counts[static_cast<std::size_t>(n.potential)];
    std::size_t number = named.size() * named.size();
    for (const std::size_t c : counts) number -= c * c;
    number /= 2;
    if (number <= kAllPairs) {
        for (std::size_t i = 0; i < named.size(); ++i)
            for (std::size_t k = i + 1; k < named.size(); ++k)
                if (named[i].potential != named[k].potential) measure(named[i], named[k]);
        sortPairs(pairs);
        return pairs;
    }
    // Too many to list: those within reach of what they need, by cells; further out only until one is found at all.
    Length land;
    for (const Named& n : named)
        for (const Land* l : {&n.pad->top, &n.pad->inner, &n.pad->bottom}) land = max(land, hypot(l->width, l->length));
    const auto search = [&](Length reach, Length over) {
        const Cells cells(named, max(reach / 2, Length::fromMm(0.5)));
        for (std::size_t i = 0; i < named.size(); ++i)
            cells.near(named[i].pad->at, reach, [&](std::size_t k) {
                if (k <= i || named[i].potential == named[k].potential) return;
                const VoltagePair& ask = asks.between(named[i].potential, named[k].potential);
                const Length bound = copperGapBound(*named[i].pad, *named[k].pad) - ask.needed;
                if (bound < max(0.1 * ask.needed, over)) measure(named[i], named[k]);
            });
    };
    search(1.1 * asks.most() + land, Length());
    for (Length over = Length::fromMm(1); pairs.empty() && over < Length::fromMm(1000); over = 4.0 * over)
        search(asks.most() + land + over, over);
    sortPairs(pairs);
    return pairs;
}

const VoltagePair* pairOf(const Footprint& f, const FeatureId& a, const FeatureId& b) {
    for (const VoltagePair& v : f.voltages)
        if ((v.a == a && v.b == b) || (v.a == b && v.b == a)) return &v;
    return nullptr;
}

std::size_t exactDistancesTaken() { return exactDistances; }

std::vector<Halo> halos(const Part& part) {
    std::vector<Halo> all;
    for (const Potential& p : part.potentials) {
        Length needed;
        for (const Potential& q : part.potentials)
            if (&q != &p) needed = max(needed, askedBetween(part.rules, p, q).needed);
        const char* kind = p.kind == PotentialKind::Dc ? " d.c." : p.kind == PotentialKind::Peak ? " peak" : "";
        const std::string volts = fmt::format("{:g} V{}", p.volts.volts(), kind);
        for (const FeatureId& pin : p.pins)
            if (featureExists(part, pin)) all.push_back({pin, p.name, volts, needed});
    }
    return all;
}

}  // namespace punch
