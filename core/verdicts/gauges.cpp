#include "core/verdicts/gauges.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/clear/voltage_pairs.h"
#include "core/dress/courtyard.h"
#include "core/dress/silkscreen.h"
#include "core/fit/drop_in.h"
#include "core/fit/lead_length.h"
#include "core/measure/adjust.h"
#include "core/size/hole_fit.h"
#include "core/size/pad_rules.h"

namespace punch {
namespace {

constexpr double kWatchShare = 0.1;  // of the limit
constexpr double kTouch = 1e-6;      // mm; closer to a limit than this is at the limit

/// State of a value that must not fall below its limit.
/// `low` is the lower end of the value's 95 % doubt.
GaugeState atLeast(double value, double low, double limit, bool byConstruction = false) {
    if (value < limit - kTouch) return GaugeState::NoGo;
    if (low < limit - kTouch) return GaugeState::Watch;
    if (byConstruction) return GaugeState::Go;
    return value - limit < kWatchShare * std::abs(limit) - kTouch ? GaugeState::Watch : GaugeState::Go;
}

Gauge named(std::string name, std::string title) {
    Gauge g;
    g.name = std::move(name);
    g.title = std::move(title);
    return g;
}

Gauge unknown(Gauge g, std::string words, std::vector<std::string> about = {}) {
    g.state = GaugeState::Unknown;
    g.words = std::move(words);
    g.about = std::move(about);
    return g;
}

void setLengths(Gauge& g, Length value, Length limit) {
    g.value = value.mm();
    g.limit = limit.mm();
    g.margin = (value - limit).mm();
    g.of = {value, limit};
}

Gauge readings(const Part& part, const Adjustment& adjustment) {
    Gauge g = named("readings", "Readings");
    g.unit = "1";
    g.limit = kInDoubt;
    int agree = 0;
    int used = 0;
    double worst = 0;
    std::vector<std::string> doubtful;
    std::vector<std::string> odd;
    for (std::size_t i = 0; i < part.readings.size(); ++i) {
        const ReadingResult& r = adjustment.readings()[i];
        if (r.state == ReadingState::Orphan || r.state == ReadingState::Unused || !r.stats.question.empty())
            odd.push_back(part.readings[i].id);
        if (r.state == ReadingState::Orphan || r.state == ReadingState::Unused) continue;
        ++used;
        worst = std::max(worst, std::abs(r.w));
        if (r.state == ReadingState::InDoubt || r.state == ReadingState::OneOf)
            doubtful.push_back(part.readings[i].id);
        else
            ++agree;
    }
    if (used == 0) return unknown(g, "not measured", odd);
    g.value = worst;
    g.margin = kInDoubt - worst;
    g.about = doubtful;
    if (!adjustment.wholeTestHolds() && doubtful.empty()) {
        g.state = GaugeState::NoGo;
        g.words = "do not fit together";
    } else if (!doubtful.empty()) {
        g.state = GaugeState::Watch;
        g.words = fmt::format("{} of {} agree", agree, used);
    } else if (!odd.empty()) {
        g.state = GaugeState::Watch;
        g.words = fmt::format("{} asked about", odd.size());
        g.about = odd;
    } else {
        g.state = worst > kInDoubt * (1 - kWatchShare) ? GaugeState::Watch : GaugeState::Go;
        g.words = adjustment.redundancy() == 0 ? fmt::format("{} taken, none checked", used)
                                               : fmt::format("all {} agree", used);
    }
    return g;
}

Gauge positions(const Part& part, const Footprint& f) {
    Gauge g = named("positions", "Positions");
    if (f.pads.empty()) return unknown(g, "no pads");
    std::vector<std::string> loose;
    for (const Pad& p : f.pads)
        if (!p.firm) loose.push_back(p.id);
    const std::size_t loosePins = loose.size();
    for (const BareHole& h : f.bareHoles)
        if (!h.firm) loose.push_back(h.id);
    if (!loose.empty()) {
        if (part.readings.empty()) return unknown(g, "not measured", loose);
        g.state = GaugeState::NoGo;
        g.words = loosePins == 0 ? (loose.size() == 1 ? featureWords(part, loose[0]) + " is loose" : "pegs are loose")
                                 : fmt::format("{} of {} pins loose", loosePins, f.pads.size());
        g.about = loose;
        return g;
    }
    // Each place against its own limit; the one that uses up most of it stands for all.
    double worst = -1;
    const auto consider = [&](const std::string& id, Length doubt, Length limit) {
        const double share = limit > Length() ? doubt / limit : 1e9;
        if (share <= worst) return;
        worst = share;
        g.value = doubt.mm();
        g.limit = limit.mm();
        g.margin = (limit - doubt).mm();
        g.of = {doubt};
        g.about = {id};
    };
    for (const Pad& p : f.pads) {
        if (p.layers != PadLayers::Through) continue;
        if (!p.sized) return unknown(g, "lead not measured", {p.id});
        consider(p.id, *p.doubt.fitted, holeSpare(f, p) / 4);
    }
    for (const BareHole& h : f.bareHoles) {
        if (h.kind == SpotKind::MountingHole) continue;  // nothing of the part stands in it
        if (!h.sized) return unknown(g, h.name + " not measured", {h.id});
        consider(h.id, *h.doubt.fitted, holeSpare(h) / 4);
    }
    g.words = "all firm ±{} {u}";
    g.state = worst > 1 ? GaugeState::NoGo : worst > 1 - kWatchShare ? GaugeState::Watch : GaugeState::Go;
    return g;
}

Gauge leadInHole(const Part& part, const Footprint& f) {
    Gauge g = named("lead-in-hole", "Lead in hole");
    const Pad* worst = nullptr;
    const auto spareOf = [&](const Pad& p) {
        return spareRoom(f.leads[p.formation].section, p.hole, p.slotLength, true);
    };
    const auto margin = [&](const Pad& p) { return spareOf(p) - f.leads[p.formation].allowance; };
    for (const Pad& p : f.pads) {
        if (p.layers != PadLayers::Through) continue;
        if (!p.sized) return unknown(g, "not measured");
        if (worst == nullptr || margin(p) < margin(*worst)) worst = &p;
    }
    if (worst == nullptr) return unknown(g, f.pads.empty() ? "no pads" : "no holes");
    const LeadFit& lead = f.leads[worst->formation];
    const Length spare = spareOf(*worst);
    setLengths(g, spare, lead.allowance);
    g.words = "{} {u} spare";
    g.about = {worst->id};
    // The hole is the next drill up from its rule, so that meeting the rule is no narrow escape.
    g.state = atLeast(holeSpare(f, *worst).mm(), spare.mm(), lead.allowance.mm(), true);
    if (spare < Length()) g.state = GaugeState::NoGo;
    // What the board maker cannot drill is no-go, whatever the lead says.
    const FabProfile& fab = part.rules.fab;
    for (const Pad& p : f.pads) {
        if (p.layers != PadLayers::Through) continue;
        const Length bit = p.hole + fab.plating;
        const Length least = p.slotLength > Length() ? fab.leastSlot : fab.leastDrill;
        const bool deep = part.rules.boardThickness > fab.aspect * bit;
        if (bit >= least && !deep) continue;
        setLengths(g, bit, deep ? part.rules.boardThickness / fab.aspect : least);
        g.words = deep ? "bit of {} too thin for the board" : "bit of {}, least {} {u}";
        g.about = {p.id};
        g.state = GaugeState::NoGo;
        return g;
    }
    // A kinked end that is no larger than the hole holds nothing.
    const auto slack = std::find_if(f.pads.begin(), f.pads.end(), [&](const Pad& p) {
        const LeadFit& l = f.leads[p.formation];
        return p.hole > Length() && l.end == LeadEnd::Sprung && l.section.end->firm && l.section.end->least <= p.hole;
    });
    if (slack != f.pads.end() && g.state == GaugeState::Go) {
        g.words = "kinked end does not hold";
        g.about = {slack->id};
        g.state = GaugeState::Watch;
    } else if (lead.beyondList) {
        g.words = lead.slotLength > Length() ? "no mill bit is wide enough" : "no drill is large enough";
        g.state = GaugeState::Watch;
    } else if (lead.passesLargest && g.state == GaugeState::Go) {
        g.words = "{} {u}, hole large";
        g.state = GaugeState::Watch;
    }
    return g;
}

Gauge ring(const Part& part, const Footprint& f) {
    Gauge g = named("ring", "Ring");
    const Pad* worst = nullptr;
    const std::vector<Pad> pads = copperPads(f);
    for (const Pad& p : pads) {
        if (p.layers != PadLayers::Through) continue;
        if (!p.sized) return unknown(g, "not measured");
        if (worst == nullptr || ringOf(part.rules, p) < ringOf(part.rules, *worst)) worst = &p;
    }
    if (worst == nullptr) return unknown(g, f.pads.empty() ? "no pads" : "no holes");
    const bool byRule =
        part.rules.land == LandRule::Ipc2221 &&
        !overrideFor(part, worst->id,
                     worst->formation < part.formations.size() ? part.formations[worst->formation].id : std::string())
             .land;
    setLengths(g, ringOf(part.rules, *worst), leastRingOf(part.rules));
    g.words = "{} of {} {u}";
    g.about = {worst->id};
    g.state = atLeast(*g.value, *g.value, *g.limit, byRule);
    return g;
}

bool allPlaced(const Footprint& f) {
    return !f.pads.empty() && std::all_of(f.pads.begin(), f.pads.end(), [](const Pad& p) { return p.firm && p.sized; });
}

bool holesPlaced(const Footprint& f) {
    return std::all_of(f.bareHoles.begin(), f.bareHoles.end(), [](const BareHole& h) { return h.firm && h.sized; });
}

/// 95 % doubt of the distance of two features along their line: the doubts of both places, added in quadrature.
Length doubtOfGap(const Footprint& f, const std::string& a, const std::string& b) {
    const auto of = [&](const std::string& id) {
        if (const Pad* p = f.pad(id)) return p->doubt.fitted.value_or(Length());
        if (const BareHole* h = f.bareHole(id)) return h->doubt.fitted.value_or(Length());
        return Length();
    };
    return hypot(of(a), of(b));
}

Gauge distanceGauge(Gauge g, const Footprint& f, const Nearest& n, Length limit) {
    setLengths(g, n.gap, limit);
    g.words = n.gap < Length() ? "overlap by {} {u}" : "{} of {} {u}";
    if (n.gap < Length()) g.of = {-n.gap};
    g.about = {n.a, n.b};
    g.state = atLeast(n.gap.mm(), (n.gap - doubtOfGap(f, n.a, n.b)).mm(), limit.mm());
    return g;
}

Gauge holeToHole(const Part& part, const Footprint& f) {
    Gauge g = named("hole-to-hole", "Hole to hole");
    if (!allPlaced(f) || !holesPlaced(f)) return unknown(g, "not measured");
    const auto nearest = nearestHoles(f);
    if (!nearest) {
        g.state = GaugeState::Go;
        g.words = "one hole only";
        return g;
    }
    return distanceGauge(g, f, *nearest, part.rules.fab.leastWeb);
}

Gauge copperToCopper(const Part& part, const Footprint& f) {
    Gauge g = named("copper-to-copper", "Copper to copper");
    if (!allPlaced(f)) return unknown(g, "not measured");
    // Copper too near a bare hole takes the gauge over, so that it cannot pass unseen.
    if (const auto hole = nearestCopperToCut(f); hole && holesPlaced(f)) {
        Gauge toHole = distanceGauge(g, f, *hole, part.rules.fab.copperToEdge);
        if (toHole.state != GaugeState::Go) {
            const bool edge =
                std::any_of(f.faces.begin(), f.faces.end(), [&](const FaceLine& l) { return l.id == hole->b; });
            toHole.words += f.bareHole(hole->b) != nullptr ? " to a bare hole"
                            : edge                         ? " to the edge"
                                                           : " to a cut-out";
            return toHole;
        }
    }
    const auto nearest = nearestCopper(copperPads(f));
    // A mask web that breaks takes it over too.
    if (const auto web = nearestOpenings(copperPads(f));
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
        g.words = "one pad only";
        return g;
    }
    return distanceGauge(g, f, *nearest, part.rules.fab.leastGap);
}

Gauge voltage(const Part& part, const Footprint& f) {
    Gauge g = named("voltage", "Voltage");
    if (part.potentials.empty()) return unknown(g, "none named");
    if (!allPlaced(f)) return unknown(g, "not measured");
    if (f.voltages.empty()) return unknown(g, "one potential only");
    const VoltagePair& worst = f.voltages.front();
    // Where the tables end nothing is promised.
    if (!worst.refused.empty()) return unknown(g, "beyond the table", {worst.a, worst.b});
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
    return g;
}

Gauge silkscreen(const Footprint& f) {
    Gauge g = named("silkscreen", "Silkscreen");
    if (f.silkscreen.empty()) return unknown(g, "no ink");
    if (!allPlaced(f) || !holesPlaced(f)) return unknown(g, "not measured");
    if (f.body && !f.body->allFirm()) return unknown(g, "body not measured", {kBody});
    const auto nearest = nearestInk(f);
    if (!nearest) return unknown(g, "no pads");
    setLengths(g, nearest->gap, leastInkGap());
    g.words = nearest->gap < Length() ? "ink in an opening" : "{} {u} clear";
    g.about = {nearest->feature};
    g.state = atLeast(*g.value, *g.value, *g.limit, nearest->cut);
    return g;
}

Gauge courtyard(const Part& part, const Footprint& f) {
    Gauge g = named("courtyard", "Courtyard");
    if (!allPlaced(f) || !holesPlaced(f)) return unknown(g, "not measured");
    if (f.body && !f.body->allFirm()) return unknown(g, "body not measured", {kBody});
    const Rect content = courtyardContent(f);
    const Length excess = min(min(content.left - f.courtyard.left, f.courtyard.right - content.right),
                              min(content.bottom - f.courtyard.bottom, f.courtyard.top - content.top));
    setLengths(g, excess, courtyardExcessOf(part.dress.density));
    g.words = "{} {u} around";
    g.about = {f.body ? std::string(kBody) : f.pads.front().id};
    // The courtyard is drawn at its excess.
    g.state = atLeast(*g.value, *g.value, *g.limit, true);
    return g;
}

Gauge leadPastBoard(const Part& part, const Footprint& f) {
    Gauge g = named("lead-past-board", "Lead past board");
    if (f.leads.empty()) return unknown(g, "no pads");
    std::optional<PastBoard> worst;
    const auto spare = [](const PastBoard& p) { return min(p.mean - leastPastBoard(), mostPastBoard() - p.mean); };
    for (std::size_t i = 0; i < f.leads.size(); ++i) {
        const LeadFit& lead = f.leads[i];
        // Leads on surface lands do not go through.
        const bool through = std::any_of(f.pads.begin(), f.pads.end(), [&](const Pad& p) {
            return p.formation == i && p.layers == PadLayers::Through;
        });
        if (!through) continue;
        const PastBoard past = pastBoard(part, lead);
        if (!past.firm) return unknown(g, "not measured");
        if (!worst || spare(past) < spare(*worst)) worst = past;
    }
    if (!worst) return unknown(g, "no holes");
    g.value = worst->mean.mm();
    g.limit = leastPastBoard().mm();
    g.upper = mostPastBoard().mm();
    g.margin = spare(*worst).mm();
    g.of = {worst->mean};
    g.words = "{} {u} out";
    if (!part.formations.empty()) g.about = {part.formations.front().pins.front()};
    const GaugeState low = atLeast(worst->mean.mm(), worst->shortest.mm(), leastPastBoard().mm());
    const GaugeState high =
        worst->mean > mostPastBoard() ? GaugeState::NoGo
        : worst->longest > mostPastBoard() || mostPastBoard() - worst->mean < kWatchShare * mostPastBoard()
            ? GaugeState::Watch
            : GaugeState::Go;
    g.state = low == GaugeState::NoGo || high == GaugeState::NoGo     ? GaugeState::NoGo
              : low == GaugeState::Watch || high == GaugeState::Watch ? GaugeState::Watch
                                                                      : GaugeState::Go;
    return g;
}

Gauge dropInGauge(const Part& part, const Footprint& f) {
    Gauge g = named("drop-in", "Drop-in");
    const DropInShare& s = f.dropIn;
    if (!s.known) return unknown(g, s.why.empty() ? "not tried" : s.why);
    g.unit = "1";
    g.value = s.share;
    g.limit = part.rules.dropInWanted;
    g.margin = s.share - part.rules.dropInWanted;
    g.words = s.in == s.trials ? fmt::format("all of {}", s.trials)
                               : fmt::format("{:.{}f} of {:.4g} %", 100 * s.share, s.share > 0.99 ? 2 : 1,
                                             100 * part.rules.dropInWanted);
    // The interval has to stand above what is wanted. Of a coarse run it never could: there the share speaks, and only
    // what the interval excludes is a no-go.
    const double wanted = part.rules.dropInWanted;
    if (s.trials <= kCoarseTrials)
        g.state = s.share >= wanted ? GaugeState::Go : s.high >= wanted ? GaugeState::Watch : GaugeState::NoGo;
    else
        g.state = s.in == s.trials || s.low >= wanted ? GaugeState::Go
                  : s.share >= wanted                 ? GaugeState::Watch
                                                      : GaugeState::NoGo;
    return g;
}

}  // namespace

void setDropInGauge(const Part& part, Footprint& f) {
    for (Gauge& g : f.gauges)
        if (g.name == "drop-in") g = dropInGauge(part, f);
}

void addGauges(const Part& part, const Adjustment& adjustment, Footprint& f) {
    f.gauges = {readings(part, adjustment), positions(part, f),      leadInHole(part, f), ring(part, f),
                holeToHole(part, f),        copperToCopper(part, f), voltage(part, f),    silkscreen(f),
                courtyard(part, f),         leadPastBoard(part, f),  dropInGauge(part, f)};
}

GaugeState worstState(const std::vector<Gauge>& gauges) {
    const auto has = [&](GaugeState s) {
        return std::any_of(gauges.begin(), gauges.end(), [&](const Gauge& g) { return g.state == s; });
    };
    for (const GaugeState s : {GaugeState::NoGo, GaugeState::Unknown, GaugeState::Watch})
        if (has(s)) return s;
    return GaugeState::Go;
}

std::string stateName(GaugeState state) {
    switch (state) {
        case GaugeState::Go: return "go";
        case GaugeState::Watch: return "watch";
        case GaugeState::NoGo: return "no-go";
        case GaugeState::Unknown: break;
    }
    return "unknown";
}

}  // namespace punch
