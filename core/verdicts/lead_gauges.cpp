// Gauges of what was read, of leads in their holes, and of how they go in.

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/fit/drop_in.h"
#include "core/fit/lead_length.h"
#include "core/geometry/shapes.h"
#include "core/measure/adjust.h"
#include "core/size/hole_fit.h"
#include "core/size/pad_rules.h"
#include "core/verdicts/gauge_kit.h"

namespace punch {

namespace {

/// A part that is said to have no pins has no leads to judge.
bool isWithoutPins(const Part& part, Gauge& g) {
    if (!part.formations.empty()) return false;
    g.state = GaugeState::Go;
    g.words = "no pins";
    return true;
}

/// Numbers taken in from a file, while no reading of another source says where something stands.
int takenInUnconfirmed(const Part& part, const Adjustment& adjustment) {
    int taken = 0;
    for (std::size_t i = 0; i < part.readings.size(); ++i) {
        const Reading& r = part.readings[i];
        const bool in = std::any_of(part.sources.begin(), part.sources.end(), [&](const Source& s) {
            return s.id == r.source && s.state == SourceState::TakenIn;
        });
        if (in)
            ++taken;
        else if (!r.b.empty() && adjustment.readings()[i].state == ReadingState::Agrees)
            return 0;
    }
    return taken;
}

}  // namespace

Gauge readingsGauge(const Part& part, const Adjustment& adjustment, const Results& f) {
    Gauge g;
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
        if (r.state == ReadingState::Impossible) continue;
        worst = std::max(worst, std::abs(r.w));
        if (r.state == ReadingState::InDoubt || r.state == ReadingState::OneOf)
            doubtful.push_back(part.readings[i].id);
        else
            ++agree;
    }
    if (used == 0) {
        // A fiducial or a logo follows from its rule.
        const bool nothing = part.formations.empty() && part.spots.empty() && part.faces.empty() && !part.body.present;
        if (!nothing || !odd.empty()) return unknownGauge(g, "not measured", odd);
        g.state = GaugeState::Go;
        g.words = "nothing to measure";
        return g;
    }
    g.value = worst;
    g.margin = kInDoubt - worst;
    g.about = doubtful;
    if (!adjustment.impossible().empty()) {
        std::vector<std::string> about;
        for (const Impossible& what : adjustment.impossible())
            for (const std::size_t i : what.readings)
                if (std::find(about.begin(), about.end(), part.readings[i].id) == about.end())
                    about.push_back(part.readings[i].id);
        g.state = GaugeState::NoGo;
        g.words = about.size() == 1 ? "1 cannot be" : fmt::format("{} cannot be", about.size());
        g.about = about;
    } else if (const auto against =
                   std::find_if(f.sizes.begin(), f.sizes.end(), [](const SizeAdvice& s) { return s.speaksAgainst(); });
               against != f.sizes.end()) {
        // The readings agree on something else than what was taken.
        g.state = GaugeState::NoGo;
        g.words = "{} read, {} {u} taken";
        g.of = {Length::fromMm(std::round(against->asRead * 1e3) / 1e3), *against->taken};
    } else if (adjustment.unexplained()) {
        g.state = GaugeState::NoGo;
        g.words = "do not fit together";
    } else if (!doubtful.empty()) {
        g.state = GaugeState::Watch;
        g.words = fmt::format("{} of {} agree", agree, used);
    } else if (!odd.empty()) {
        g.state = GaugeState::Watch;
        g.words = fmt::format("{} asked about", odd.size());
        g.about = odd;
    } else if (const int taken = takenInUnconfirmed(part, adjustment); taken > 0) {
        g.state = GaugeState::Watch;
        g.words = fmt::format("{} not confirmed", taken);
    } else {
        g.state = worst > kInDoubt * (1 - kWatchShare) ? GaugeState::Watch : GaugeState::Go;
        g.words = adjustment.redundancy() == 0 ? fmt::format("{} taken, none checked", used)
                                               : fmt::format("all {} agree", used);
    }
    return g;
}

Gauge positionsGauge(const Part& part, const Results& f) {
    Gauge g;
    if (part.spots.empty() && isWithoutPins(part, g)) return g;
    std::vector<std::string> loose;
    for (const Pad& p : f.pads)
        if (!p.firm) loose.push_back(p.id);
    const std::size_t loosePins = loose.size();
    for (const BareHole& h : f.bareHoles)
        if (!h.firm) loose.push_back(h.id);
    if (!loose.empty()) {
        if (part.readings.empty()) return unknownGauge(g, "not measured", loose);
        g.state = GaugeState::NoGo;
        g.words = loosePins == 0 ? (loose.size() == 1 ? featureWords(part, loose[0]) + " is loose" : "pegs are loose")
                                 : fmt::format("{} of {} pins loose", loosePins, f.pads.size());
        g.about = loose;
        return g;
    }
    if (!f.openSides.empty()) {
        const FeatureId& id = f.openSides.front().feature;
        return unknownGauge(g, "side of " + featureWords(part, id) + " not said", {id});
    }
    // Each place against its own limit; the one that uses up most of it stands for all.
    double worst = -1;
    bool byDrawing = false;
    const auto consider = [&](const std::string& id, const PlaceDoubt& d, Length limit) {
        // How far a drawing lets a place be off is spread, and drop-in's matter.
        const Length doubt = *d.fittedRead;
        byDrawing = byDrawing || *d.fitted - doubt > Length::fromNm(100);
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
        if (!p.sized) return unknownGauge(g, "lead not measured", {p.id});
        consider(p.id, p.doubt, holeSpare(f, p) / 4);
    }
    for (const BareHole& h : f.bareHoles) {
        if (!takesOwn(h)) continue;  // nothing of the part stands in it
        if (!h.sized) return unknownGauge(g, h.name + " not measured", {h.id});
        consider(h.id, h.doubt, holeSpare(h) / 4);
    }
    if (g.of.empty()) {
        g.words = "all firm";
        g.state = GaugeState::Go;
        return g;
    }
    g.words = !byDrawing                            ? "all firm ±{} {u}"
              : g.of.front() < Length::fromMm(5e-4) ? "by the drawing"
                                                    : "by the drawing, read ±{} {u}";
    g.state = worst > 1 ? GaugeState::NoGo : worst > 1 - kWatchShare ? GaugeState::Watch : GaugeState::Go;
    if (g.state == GaugeState::NoGo) {
        // Firm is not enough.
        g.words = "±{} of {} {u}";
        g.of = {Length::fromMm(*g.value), Length::fromMm(*g.limit)};
    }
    return g;
}

Gauge leadInHoleGauge(const Part& part, const Results& f) {
    Gauge g;
    if (isWithoutPins(part, g)) return g;
    const Pad* worst = nullptr;
    const auto spareOf = [&](const Pad& p) {
        return spareRoom(f.leads[p.formation].section, p.hole, p.slotLength, true);
    };
    const auto margin = [&](const Pad& p) { return spareOf(p) - f.leads[p.formation].allowance; };
    for (const Pad& p : f.pads) {
        if (p.layers != PadLayers::Through) continue;
        if (!p.sized) return unknownGauge(g, "not measured");
        if (worst == nullptr || margin(p) < margin(*worst)) worst = &p;
    }
    if (worst == nullptr) return unknownGauge(g, f.pads.empty() ? "no pads" : "no holes");
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

Gauge ringGauge(const Part& part, const Results& f) {
    Gauge g;
    const Conductor* worst = nullptr;
    const std::vector<Conductor> pads = f.board().copper();
    for (const Conductor& p : pads) {
        if (p.layers != PadLayers::Through) continue;
        if (!p.sized) return unknownGauge(g, "not measured");
        if (worst == nullptr || ringOf(part.rules, p) < ringOf(part.rules, *worst)) worst = &p;
    }
    if (worst == nullptr && isWithoutPins(part, g)) return g;
    if (worst == nullptr) return unknownGauge(g, f.pads.empty() ? "no pads" : "no holes");
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

Gauge leadPastBoardGauge(const Part& part, const Results& f) {
    Gauge g;
    if (isWithoutPins(part, g)) return g;
    // Clear of whatever comes next below.
    const Length below = part.rules.roomBelow.value_or(Length());
    const Length most = min(mostPastBoard(), below > Length() ? below : mostPastBoard());
    std::optional<PastBoard> worst;
    const auto spare = [&](const PastBoard& p) { return min(p.mean - leastPastBoard(), most - p.mean); };
    for (std::size_t i = 0; i < f.leads.size(); ++i) {
        const LeadFit& lead = f.leads[i];
        // Leads on surface lands do not go through.
        const bool through = std::any_of(f.pads.begin(), f.pads.end(), [&](const Pad& p) {
            return p.formation == i && p.layers == PadLayers::Through;
        });
        if (!through) continue;
        const PastBoard past = pastBoard(part, lead);
        if (!past.firm) return unknownGauge(g, "not measured");
        if (!worst || spare(past) < spare(*worst)) worst = past;
    }
    if (!worst) return unknownGauge(g, "no holes");
    g.value = worst->mean.mm();
    g.limit = leastPastBoard().mm();
    g.upper = most.mm();
    g.margin = spare(*worst).mm();
    g.of = {worst->mean};
    g.words = "{} {u} out";
    if (!part.formations.empty()) g.about = {part.formations.front().pins.front()};
    const GaugeState low = atLeast(worst->mean.mm(), worst->shortest.mm(), leastPastBoard().mm());
    const GaugeState high = worst->mean > most                                                 ? GaugeState::NoGo
                            : worst->longest > most || most - worst->mean < kWatchShare * most ? GaugeState::Watch
                                                                                               : GaugeState::Go;
    g.state = low == GaugeState::NoGo || high == GaugeState::NoGo     ? GaugeState::NoGo
              : low == GaugeState::Watch || high == GaugeState::Watch ? GaugeState::Watch
                                                                      : GaugeState::Go;
    return g;
}

Gauge dropInGauge(const Part& part, const Results& f) {
    Gauge g;
    if (part.formations.empty() && part.spots.empty() && isWithoutPins(part, g)) return g;
    const DropInShare& s = f.dropIn;
    if (!s.known) return unknownGauge(g, s.why.empty() ? "not tried" : s.why);
    g.unit = "1";
    g.value = s.share;
    g.limit = part.rules.dropInWanted;
    g.margin = s.share - part.rules.dropInWanted;
    g.words = s.in == s.trials
                  ? fmt::format("all of {}", s.trials)
                  : fmt::format("{}{:.{}f} of {:.4g} %", s.trials <= kCoarseTrials ? "≈ " : "", 100 * s.share,
                                s.share >= 0.99995 ? 3
                                : s.share > 0.99   ? 2
                                                   : 1,
                                100 * part.rules.dropInWanted);
    g.state = dropInState(s, part.rules.dropInWanted);
    return g;
}

GaugeState dropInState(const DropInShare& s, double wanted) {
    // The interval has to stand above what is wanted. Of a coarse run it never could: there the share speaks, and only
    // what the interval excludes is a no-go.
    if (s.trials <= kCoarseTrials)
        return s.share >= wanted ? GaugeState::Go : s.high >= wanted ? GaugeState::Watch : GaugeState::NoGo;
    return s.in == s.trials || s.low >= wanted ? GaugeState::Go
           : s.share >= wanted                 ? GaugeState::Watch
                                               : GaugeState::NoGo;
}

}  // namespace punch
