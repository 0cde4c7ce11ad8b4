// Gauges of solids: their leads in the holes, and the room that they take.

#include <fmt/format.h>

#include <algorithm>

#include "core/fit/lead_length.h"
#include "core/fit/standing_solid.h"
#include "core/geometry/shapes.h"
#include "core/part/numbering.h"
#include "core/verdicts/gauge_kit.h"

namespace punch {
namespace {

const Length kOut = Length::fromUm(5);  // of an outline over the courtyard that nobody means

const double kInBoard = 1e-2;  // mm²

/// Where nothing is left of the board.
Polygons openings(const Results& f) {
    Polygons all;
    const auto add = [&](Polygons more) { all.insert(all.end(), more.begin(), more.end()); };
    for (const Shape& c : f.cutOuts) add(polygonsOf(c.milled.outline));
    for (const Pad& p : f.pads)
        if (p.hole > Length()) add(polygonsOf(holeShape(p, false)));
    for (const BareHole& h : f.bareHoles)
        if (h.size > Length()) add(polygonsOf(holeShape(h, false)));
    return united(all);
}

std::string listOf(std::vector<std::string> names) {
    std::sort(names.begin(), names.end(), numberLess);
    std::string all;
    for (std::size_t i = 0; i < names.size() && i < 4; ++i) all += (i == 0 ? "" : ", ") + names[i];
    if (names.size() > 4) all += fmt::format(" and {} more", names.size() - 4);
    return all;
}

}  // namespace

Gauge solidLeadsGauge(const Part& part, const Results& f) {
    Gauge g;
    g.limit = 0;
    std::vector<std::string> touching, alone, empty, short_, off;
    std::optional<Length> least;
    std::size_t in = 0;
    bool known = true, sure = true;
    for (const StandingSolid& s : f.solids) {
        known = known && s.firm;
        for (const StandingLead& l : s.leads) {
            if (l.of.empty()) {
                alone.push_back(fmt::format("{:.2f}, {:.2f}", l.at.x.mm(), l.at.y.mm()));
                continue;
            }
            if (!l.gap) {
                known = false;
                continue;
            }
            ++in;
            if (!least || *l.gap < *least) {
                least = *l.gap;
                g.about = {l.of};
            }
            if (*l.gap < Length()) touching.push_back(l.name);
            if (!l.counted) off.push_back(l.name);
            sure = sure && (s.sure || l.counted);
            if (!l.peg && l.past < leastPastBoard()) short_.push_back(l.name);
            // A peg locates once it is half a board deep.
            if (l.peg && l.past < -part.rules.boardThickness / 2) short_.push_back(l.name);
        }
        for (const FeatureId& id : s.without) {
            const Pad* p = f.pad(id);
            empty.push_back(p == nullptr ? id : p->number);
        }
    }
    if (least) {
        g.value = least->mm();
        g.margin = least->mm();
        g.of = {*least};
    }
    const auto noGo = [&](std::string words) {
        g.state = GaugeState::NoGo;
        g.words = std::move(words);
        return g;
    };
    if (f.solids.empty()) return unknownGauge(g, "no body");
    if (!known) return unknownGauge(g, "holes not known");
    if (!touching.empty())
        return noGo(fmt::format("{} {} not go in", listOf(touching), touching.size() == 1 ? "does" : "do"));
    if (!empty.empty()) return noGo(fmt::format("no lead at {}", listOf(empty)));
    if (!alone.empty()) return noGo(fmt::format("no hole for the lead at {}", listOf(alone)));
    if (!short_.empty()) return noGo(fmt::format("{} too short", listOf(short_)));
    if (!least) return unknownGauge(g, "no leads");
    if (!off.empty()) {
        g.state = GaugeState::Watch;
        g.words = fmt::format("{}{} off", sure ? "" : "one of ", listOf(off));
        return g;
    }
    g.state = least->mm() < 0.03 ? GaugeState::Watch : GaugeState::Go;
    g.words = fmt::format("{} in, {{}} {{u}} clear", in);
    return g;
}

Gauge solidRoomGauge(const Part&, const Results& f) {
    Gauge g;
    if (f.solids.empty()) return unknownGauge(g, "no body");
    if (f.courtyardTop.empty()) return unknownGauge(g, "no courtyard");
    g.limit = 0;
    std::optional<Length> least;
    const Polygons open = openings(f);
    for (const StandingSolid& s : f.solids) {
        if (s.outline.empty()) continue;
        if (s.shadows.empty() && s.lift < Length()) {
            g.state = GaugeState::NoGo;
            g.words = "in the board by {} {u}";
            g.value = -s.lift.mm();
            g.of = {-s.lift};
            return g;
        }
        // Below the board's face it goes through holes and cut-outs, or not at all.
        for (const StandingShadow& shadow : s.shadows) {
            if (shadow.low >= -kOut) break;
            const Polygons in = without(shadow.area, open);
            if (areaOf(in) <= kInBoard) continue;
            const Point at = boundsOf(in).middle();
            g.state = GaugeState::NoGo;
            g.words = fmt::format("in the board at {:.2f}, {:.2f}", at.x.mm(), at.y.mm());
            g.value = -shadow.low.mm();
            return g;
        }
        // How far the courtyard's edge stands off it, or it stands over: both by growing it.
        const double outside = areaOf(without(s.outline, grown(f.courtyardTop, kOut)));
        if (outside > 1e-6) {
            Length low, high = Length::fromMm(50);
            for (int i = 0; i < 22; ++i) {
                const Length m = (low + high) / 2;
                (areaOf(without(s.outline, grown(f.courtyardTop, m))) > 1e-6 ? low : high) = m;
            }
            g.state = GaugeState::NoGo;
            g.value = -high.mm();
            g.margin = -high.mm();
            g.of = {high};
            g.words = "{} {u} over the courtyard";
            return g;
        }
        Length low, high = Length::fromMm(20);
        for (int i = 0; i < 22; ++i) {
            const Length m = (low + high) / 2;
            (areaOf(without(grown(s.outline, m), f.courtyardTop)) > 1e-6 ? high : low) = m;
        }
        if (!least || low < *least) least = low;
    }
    if (!least) return unknownGauge(g, "no outline");
    g.value = least->mm();
    g.margin = least->mm();
    g.of = {*least};
    g.state = GaugeState::Go;
    g.words = "{} {u} inside";
    return g;
}

}  // namespace punch
