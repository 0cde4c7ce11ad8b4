// Gauges of what has to keep apart: holes, copper, potentials, ink, the courtyard.

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/clear/spacing.h"
#include "core/clear/ways.h"
#include "core/dress/courtyard.h"
#include "core/dress/silkscreen.h"
#include "core/verdicts/gauge_kit.h"

namespace punch {
namespace {

bool allPlaced(const Results& f) {
    return std::all_of(f.pads.begin(), f.pads.end(), [](const Pad& p) { return p.firm && p.sized; });
}

bool holesPlaced(const Results& f) {
    return std::all_of(f.bareHoles.begin(), f.bareHoles.end(), [](const BareHole& h) { return h.firm && h.sized; });
}

/// 95 % doubt of the distance of two features along their line: the doubts of both places, added in quadrature.
Length doubtOfGap(const Results& f, const std::string& a, const std::string& b) {
    const auto of = [&](const std::string& id) {
        if (const Pad* p = f.pad(id)) return p->doubt.fitted.value_or(Length());
        if (const BareHole* h = f.bareHole(id)) return h->doubt.fitted.value_or(Length());
        return Length();
    };
    return hypot(of(a), of(b));
}

Gauge distanceGauge(Gauge g, const Results& f, const Nearest& n, Length limit) {
    setLengths(g, n.gap, limit);
    g.words = n.gap < Length() ? "overlap by {} {u}" : "{} of {} {u}";
    if (n.gap < Length()) g.of = {-n.gap};
    g.about = {n.a, n.b};
    g.state = atLeast(n.gap.mm(), (n.gap - doubtOfGap(f, n.a, n.b)).mm(), limit.mm());
    return g;
}

bool isEdge(const Results& f, const std::string& id) {
    return std::any_of(f.faces.begin(), f.faces.end(), [&](const FaceLine& l) { return l.id == id; });
}

/// Says what stands at the other end; short, since a gauge is narrow.
void nameEnd(Gauge& g, const std::string& what) {
    if (*g.value < 0)
        g.words = "{} {u} " + std::string(what == "edge" ? "over the " : "into ") + what;
    else
        g.words += " to " + what;
}

}  // namespace

Gauge holeToHoleGauge(const Part& part, const Results& f) {
    Gauge g;
    if (!allPlaced(f) || !holesPlaced(f)) return unknownGauge(g, "not measured");
    const auto nearest = nearestHoles(f.board());
    if (!nearest) {
        g.state = GaugeState::Go;
        g.words = part.formations.empty() && f.bareHoles.empty() ? "no holes" : "one hole only";
        return g;
    }
    g = distanceGauge(g, f, *nearest, part.rules.fab.leastWeb);
    if (isEdge(f, nearest->b) && g.state != GaugeState::Go) nameEnd(g, "edge");
    return g;
}

Gauge copperToCopperGauge(const Part& part, const Results& f) {
    Gauge g;
    if (!allPlaced(f)) return unknownGauge(g, "not measured");
    // Copper too near a bare hole takes the gauge over, so that it cannot pass unseen.
    if (const auto hole = nearestCopperToCut(f.board()); hole && holesPlaced(f)) {
        Gauge toHole = distanceGauge(g, f, *hole, part.rules.fab.copperToEdge);
        if (toHole.state != GaugeState::Go) {
            nameEnd(toHole, isEdge(f, hole->b) ? "edge" : f.bareHole(hole->b) != nullptr ? "bare hole" : "cut-out");
            return toHole;
        }
    }
    const auto nearest = nearestCopper(f.board().copper());
    // A mask web that breaks takes it over too.
    if (const auto web = nearestOpenings(f.board().copper());
        web && web->gap < part.rules.fab.leastMaskWeb - Length::fromNm(1)) {
        const Gauge copper = nearest ? distanceGauge(g, f, *nearest, part.rules.fab.leastGap) : g;
        if (copper.state != GaugeState::NoGo) {
            Gauge toWeb = distanceGauge(g, f, *web, part.rules.fab.leastMaskWeb);
            toWeb.words += " of mask";
            return toWeb;
        }
    }
    if (!nearest) {
        g.state = GaugeState::Go;
        g.words = f.board().copper().empty() ? "no copper" : "one land only";
        return g;
    }
    return distanceGauge(g, f, *nearest, part.rules.fab.leastGap);
}

Gauge voltageGauge(const Part& part, const Results& f) {
    Gauge g;
    if (part.potentials.empty() && part.formations.empty() && part.spots.empty()) {
        g.state = GaugeState::Go;
        g.words = "no pins";
        return g;
    }
    if (part.potentials.empty()) return unknownGauge(g, "none named");
    if (!allPlaced(f)) return unknownGauge(g, "not measured");
    if (f.voltages.empty()) return unknownGauge(g, "one potential only");
    const VoltagePair& worst = f.voltages.front();
    // Where the tables end nothing is promised.
    if (!worst.refused.empty()) return unknownGauge(g, "beyond the table", {worst.a, worst.b});
    // What was taken at its worst for want of a source is asked about, also where it holds.
    const auto open =
        std::find_if(f.voltages.begin(), f.voltages.end(), [](const VoltagePair& v) { return v.sourceOpen; });
    const TightestWay way = tightestWay(worst);
    const Length value = way.is;
    const Length limit = way.needs;
    if (value >= noWay()) {
        g.state = GaugeState::Go;
        g.words = "no way between them";
        g.about = {worst.a, worst.b};
        return g;
    }
    setLengths(g, value, limit);
    g.words = value < Length() ? "overlap by {} {u}" : "{} of {} {u}";
    if (value < Length()) g.of = {-value};
    g.about = {worst.a, worst.b};
    g.state = atLeast(value.mm(), (value - doubtOfGap(f, worst.a, worst.b)).mm(), limit.mm());
    if (g.state == GaugeState::Go && open != f.voltages.end()) {
        g.state = GaugeState::Watch;
        g.words += ", which source?";
        g.about = {open->a, open->b};
    }
    return g;
}

Gauge silkscreenGauge(const Part& part, const Results& f) {
    Gauge g;
    if (f.silkscreen.empty()) {
        // Of a fiducial nobody expects any.
        if (!part.formations.empty()) return unknownGauge(g, "no ink");
        g.state = GaugeState::Go;
        g.words = "no ink";
        return g;
    }
    if (!allPlaced(f) || !holesPlaced(f)) return unknownGauge(g, "not measured");
    if (f.body && !f.body->allFirm()) return unknownGauge(g, "body not measured", {kBody});
    const auto nearest = nearestInk(f.board(), f);
    if (!nearest) {
        if (!part.formations.empty()) return unknownGauge(g, "no pads");
        g.state = GaugeState::Go;
        g.words = "nothing to keep off";
        return g;
    }
    setLengths(g, nearest->gap, leastInkGap());
    g.words = nearest->gap < Length() ? "ink in an opening" : "{} {u} clear";
    g.about = {nearest->feature};
    g.state = atLeast(*g.value, *g.value, *g.limit, nearest->cut);
    // What no printer of legends holds, or nobody means.
    for (const Shape& s : f.silkscreen) {
        if (s.line() == nullptr) continue;
        const Length width = s.line()->width;
        if (width >= leastInkLine() && width <= mostInkLine()) continue;
        setLengths(g, width, width < leastInkLine() ? leastInkLine() : mostInkLine());
        g.margin = width < leastInkLine() ? *g.margin : -*g.margin;
        g.words = width < leastInkLine() ? "line {}, least {} {u}" : "line {}, most {} {u}";
        g.state = width < leastInkLine() ? GaugeState::NoGo : worseOf(g.state, GaugeState::Watch);
        break;
    }
    return g;
}

Gauge courtyardGauge(const Part& part, const Results& f) {
    Gauge g;
    if (!allPlaced(f) || !holesPlaced(f)) return unknownGauge(g, "not measured");
    if (f.body && !f.body->allFirm()) return unknownGauge(g, "body not measured", {kBody});
    const Rect content = courtyardContent(f.board(), f.body);
    const Length excess = min(min(content.left - f.courtyard.left, f.courtyard.right - content.right),
                              min(content.bottom - f.courtyard.bottom, f.courtyard.top - content.top));
    setLengths(g, excess, ruledExcess(part, f.attached));
    g.words = "{} {u} around";
    g.about.clear();
    if (f.body || !f.pads.empty()) g.about = {f.body ? std::string(kBody) : f.pads.front().id};
    // The courtyard is drawn at its excess.
    g.state = atLeast(*g.value, *g.value, *g.limit, true);
    // Leads may stand beside the body; whoever did not mean it wants to know.
    if (f.body) {
        std::vector<std::string> outside;
        for (const Pad& p : f.pads) {
            const Rect& r = f.body->rect;
            if (p.at.x < r.left || p.at.x > r.right || p.at.y < r.bottom || p.at.y > r.top) outside.push_back(p.id);
        }
        if (!outside.empty()) {
            g.words = outside.size() == 1 ? std::string("{} {u}, a pin outside")
                                          : fmt::format("{{}} {{u}}, {} pins outside", outside.size());
            g.about = outside;
        }
    }
    return g;
}

}  // namespace punch
