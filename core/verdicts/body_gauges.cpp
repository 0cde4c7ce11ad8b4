// Gauges of what stands over the board and what moves: standoff, solder access, height, moving parts.

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/fit/lead_length.h"
#include "core/fit/standing_solid.h"
#include "core/geometry/shapes.h"
#include "core/part/mark_kinds.h"
#include "core/verdicts/gauge_kit.h"

namespace punch {
namespace {

const double kOwnRoom = 0.6;                    // of a sweep: more of it lies within room that was kept for it
const Length kRoomSlack = Length::fromUm(20);   // of outlines that are chords
const double kTouchArea = 1e-3;                 // mm²: less nobody means
const Length kBeside = Length::fromMm(0.15);    // what an iron or an eye needs of a land beside the body
const Length kIron = Length::fromMm(1.0);       // above it the body is no lid on a land
const Length kLeadFoot = Length::fromMm(0.25);  // around a lead's own section its shoulder may stand on its land

/// Around the leads of a solid: there it touches its own lands, and means to.
Polygons leadFeet(const StandingSolid& s, const Part& part) {
    Polygons feet;
    const SolidFile* file = solidById(part, s.id);
    for (const StandingLead& l : s.leads) {
        if (file == nullptr || l.index >= file->leads.size()) continue;
        const Length d = Length::fromMm(std::hypot(file->leads[l.index].along, file->leads[l.index].across));
        for (auto& ring : polygonsOf(RoundedPolygon::disc(l.at, d + kLeadFoot))) feet.push_back(std::move(ring));
    }
    return united(feet);
}

/// A via keeps the identifier of the pad that it is joined to.
bool isVia(const Results& f, const Conductor& c) {
    if (c.hole <= Length() || f.bareHole(c.id) != nullptr) return false;
    const Pad* pad = f.pad(c.id);
    return pad == nullptr || distance(pad->at, c.at) > Length::fromUm(1);
}

/// Copper that lies bare under the body, with the identifier of each.
struct Bare {
    FeatureId id;
    std::string number;
    Polygons area;
    bool via = false, tented = false;
};

std::vector<Bare> bareCopper(const Results& f) {
    std::vector<Bare> all;
    for (const Conductor& c : f.board().copper()) {
        if (!c.top.there() || c.fiducial || !c.sized) continue;
        all.push_back({c.id, c.number, polygonsOf(copperShape(c.top)), isVia(f, c), c.tented});
    }
    return all;
}

Length lowestOf(const std::vector<StandingShadow>& shadows, const Polygons& area, const Polygons& but, bool& found) {
    for (const StandingShadow& s : shadows) {
        if (s.high <= Length()) continue;
        if (areaOf(without(common(s.area, area), but)) > kTouchArea) {
            found = true;
            return max(s.low, Length());
        }
    }
    return {};
}

bool overlap(Length low, Length high, Length from, Length to) { return low < to && from < high; }

Gauge noGo(Gauge g, std::string words) {
    g.state = GaugeState::NoGo;
    g.words = std::move(words);
    return g;
}

}  // namespace

Gauge standoffGauge(const Part& part, const Results& f) {
    Gauge g;
    g.limit = part.rules.bodyClear.mm();
    bool known = false, found = false, via = false, open = false;
    Length least = Length::fromMm(1e4);
    std::string number;
    const std::vector<Bare> copper = bareCopper(f);
    std::size_t own = 0;
    for (const StandingSolid& s : f.solids) {
        if (s.shadows.empty()) continue;
        if (!s.firm) return unknownGauge(g, "holes not known");
        known = true;
        const Polygons feet = leadFeet(s, part);
        for (const Bare& b : copper) {
            bool over = false;
            const Length low = lowestOf(s.shadows, b.area, feet, over);
            if (!over) continue;
            // On the lands that its own leads go through a housing may sit flush.
            if (!b.via &&
                std::any_of(s.leads.begin(), s.leads.end(), [&](const StandingLead& l) { return l.of == b.id; })) {
                own += *g.limit - low.mm() > 1e-9 ? 1 : 0;
                continue;
            }
            if (found && low >= least) continue;
            found = true;
            least = low;
            number = b.number;
            via = b.via;
            open = b.via && !b.tented;
            g.about = {b.id};
        }
    }
    if (!known) return unknownGauge(g, f.solids.empty() ? "no body" : "body not read yet");
    if (!found) {
        g.state = GaugeState::Go;
        g.words = own > 0 ? fmt::format("flush on {} lands", own) : std::string("over no bare copper");
        return g;
    }
    g.value = least.mm();
    g.margin = least.mm() - *g.limit;
    g.of = {least};
    g.words = fmt::format("{{}} {{u}} over {}{}", via ? "a via of " : "land ", number);
    // Over a land of its own it hinders tin and flux; on an open via it may be joined with what it must not.
    g.state = *g.margin >= -1e-9 ? GaugeState::Go : open ? GaugeState::NoGo : GaugeState::Watch;
    return g;
}

Gauge solderAccessGauge(const Part& part, const Results& f) {
    Gauge g;
    g.unit = "1";
    std::vector<std::string> covered;
    std::size_t reached = 0;
    bool known = false;
    const Length under = -part.rules.boardThickness;
    for (const StandingSolid& s : f.solids) known = known || !s.shadows.empty();
    if (!known) return unknownGauge(g, f.solids.empty() ? "no body" : "body not read yet");
    for (const Conductor& c : f.board().copper()) {
        if (c.fiducial || !c.sized || (!c.top.there() && !c.bottom.there())) continue;
        const bool through = c.hole > Length();
        if (isVia(f, c)) continue;  // a via is not soldered
        // Leads in holes are soldered from below, lands without a hole where they lie.
        const bool top = !through && c.top.there();
        const Land& land = top ? c.top : c.bottom.there() ? c.bottom : c.top;
        const Polygons area = polygonsOf(copperShape(land));
        Polygons lid;
        for (const StandingSolid& s : f.solids)
            for (const StandingShadow& shadow : s.shadows)
                if (top ? shadow.high > Length() && shadow.low < kIron
                        : shadow.low < under && shadow.high > under - kIron)
                    lid.insert(lid.end(), shadow.area.begin(), shadow.area.end());
        lid = united(lid);
        // What remains of it, without slivers.
        const Polygons free = grown(without(area, lid), -kBeside / 2);
        if (areaOf(free) > kTouchArea) {
            ++reached;
            continue;
        }
        covered.push_back(c.number);
        g.about.push_back(c.id);
    }
    if (reached + covered.size() == 0) return unknownGauge(g, "no lands");
    g.value = 1.0 * static_cast<double>(reached) / static_cast<double>(reached + covered.size());
    if (covered.empty()) {
        g.state = GaugeState::Go;
        g.words = fmt::format("all {} reached", reached);
        return g;
    }
    g.state = GaugeState::Watch;
    g.words = covered.size() == 1 ? fmt::format("{} is covered", covered.front())
                                  : fmt::format("{} and {} more are covered", covered.front(), covered.size() - 1);
    return g;
}

Gauge heightGauge(const Part& part, const Results& f) {
    Gauge g;
    Length top, below;
    bool known = false;
    const auto stands = [&](Length high) {
        top = max(top, high);
        known = true;
    };
    for (const StandingSolid& s : f.solids) {
        stands(s.lift + s.height);
        for (const StandingLead& l : s.leads) below = max(below, l.past);
        for (const StandingMotion& m : s.motions) stands(m.high);
    }
    if (f.body) {
        if (f.body->heightFirm)
            stands(part.body.standoff + f.body->height);
        else if (f.solids.empty())
            return unknownGauge(g, "height not measured", {kBody});
    }
    for (const Shape& k : f.keepouts)
        if (k.keeps.piece) stands(k.keeps.reaches);
    for (const LeadFit& lead : f.leads)
        if (const PastBoard past = pastBoard(part, lead); past.firm) below = max(below, past.longest);
    const auto room = [](std::optional<Length> l) { return l && *l > Length() ? l : std::nullopt; };
    const auto above = room(part.rules.roomAbove), under = room(part.rules.roomBelow);
    if (above && !known) return unknownGauge(g, "no height known");
    const Length spareAbove = above ? *above - top : Length::fromMm(1e4),
                 spareBelow = under ? *under - below : Length::fromMm(1e4);
    const bool down = spareBelow < spareAbove;
    g.value = (down ? below : top).mm();
    g.limit = (down ? *under : *above).mm();
    g.margin = (down ? spareBelow : spareAbove).mm();
    g.of = {down ? below : top, down ? *under : *above};
    g.words = down ? "{} {u} of {} below" : "{} {u} of {}";
    g.state = *g.margin < 0                                       ? GaugeState::NoGo
              : *g.margin < std::min(kWatchShare * *g.limit, 0.5) ? GaugeState::Watch
                                                                  : GaugeState::Go;
    return g;
}

bool movesAnything(const Part& part) {
    for (const SolidFile& s : part.solids)
        if (!s.motions.empty()) return true;
    return std::any_of(part.marks.begin(), part.marks.end(), [](const Mark& m) {
        return m.kind == MarkKind::Piece && valueOf(m, "is") == "moving part" && valueOf(m, "motion") != "not at all";
    });
}

Gauge movingPartsGauge(const Part& part, const Results& f) {
    Gauge g;
    g.unit = "1";
    struct Sweep {
        std::string id, name;
        Polygons swept, start;
        Length low, high;
    };
    std::vector<Sweep> all;
    bool firm = true;
    for (const Shape& k : f.keepouts) {
        if (!k.keeps.piece || !k.keeps.travel) continue;
        const auto laid = std::find_if(f.laid.begin(), f.laid.end(), [&](const LaidMark& m) { return m.id == k.id; });
        all.push_back({k.id, k.name, k.area(), laid == f.laid.end() ? Polygons() : polygonsOf(*laid->area),
                       k.keeps.maxHeight, k.keeps.reaches});
        firm = firm && k.firm;
    }
    for (const StandingSolid& s : f.solids)
        for (const StandingMotion& m : s.motions) {
            firm = firm && s.firm;
            if (m.touches) {
                g.about = {s.id};
                return noGo(g, fmt::format("{} touches at {:.3g}{}", m.name, *m.touches, m.turns ? "°" : " mm"));
            }
            all.push_back({s.id, m.name, m.swept, m.swept, m.low, m.high});
        }
    if (all.empty()) return unknownGauge(g, "cannot be drawn");
    if (!firm) return unknownGauge(g, "not measured");
    for (const Sweep& s : all) {
        g.about = {s.id};
        // Its own body, and pieces: where it did not stand already.
        const Polygons passes = without(s.swept, grown(s.start, Length::fromUm(5)));
        if (f.body && f.body->allFirm() && f.body->heightFirm && !solidById(part, s.id) &&
            overlap(s.low, s.high, part.body.standoff, part.body.standoff + f.body->height)) {
            if (areaOf(common(passes, united(f.body->shape.area()))) > kTouchArea)
                return noGo(g, s.name + " touches the body");
        }
        for (const Shape& k : f.keepouts) {
            if (k.id == s.id || !k.keeps.parts ||
                !overlap(s.low, s.high, k.keeps.maxHeight,
                         k.keeps.travel || k.keeps.piece ? k.keeps.reaches : Length::fromMm(1e4)))
                continue;
            // Room that was kept for it: most of its sweep lies within.
            const double share = areaOf(common(s.swept, k.area())) / std::max(areaOf(s.swept), 1e-9);
            if (k.keeps.travel && !k.keeps.piece && share > kOwnRoom) {
                if (areaOf(without(s.swept, grown(k.area(), kRoomSlack))) > kTouchArea)
                    return noGo(g, fmt::format("{} passes the room of {}", s.name, k.name));
                continue;
            }
            if (areaOf(common(k.keeps.piece ? passes : s.swept, k.area())) > kTouchArea)
                return noGo(g, fmt::format("{} meets {}", s.name, k.name));
        }
        // A neighbour may stand right at the courtyard.
        if (areaOf(without(s.swept, grown(f.courtyardTop, Length::fromUm(5)))) > kTouchArea)
            return noGo(g, s.name + " passes the courtyard");
    }
    g.about.clear();
    g.state = GaugeState::Go;
    g.words = all.size() == 1 ? all.front().name + " moves freely" : fmt::format("{} move freely", all.size());
    return g;
}

}  // namespace punch
