#include "core/clear/spacing.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/clear/iec60664.h"
#include "core/clear/ipc2221_table61.h"

namespace punch {
namespace {

const Potential* potentialOf(const Part& part, const FeatureId& pin) {
    for (const Potential& p : part.potentials)
        if (std::find(p.pins.begin(), p.pins.end(), pin) != p.pins.end()) return &p;
    return nullptr;
}

void keepNearer(std::optional<Nearest>& best, Length gap, const std::string& a, const std::string& b) {
    // A nanometre apart is the same distance: the first pair stands for its equals.
    if (!best || gap < best->gap - Length::fromNm(1)) best = Nearest{gap, a, b};
}

}  // namespace

RoundedPolygon landShape(const Pad& pad) {
    if (pad.shape == PadShape::Rectangle) return RoundedPolygon::rectangle(Rect::around(pad.at, pad.land, pad.land));
    return RoundedPolygon::disc(pad.at, pad.land);
}

RoundedPolygon maskOpening(const Pad& pad) {
    Pad larger = pad;
    larger.land += 2.0 * maskMargin();
    return landShape(larger);
}

namespace {

/// D.c. and a.c. r.m.s. parts of the voltage between two potentials.
std::pair<Voltage, Voltage> partsBetween(const Potential& a, const Potential& b) {
    const auto dc = [](const Potential& p) { return p.kind == PotentialKind::Dc ? p.volts : Voltage(); };
    const auto ac = [](const Potential& p) { return p.kind == PotentialKind::Ac ? p.volts : Voltage(); };
    const bool oneSource = a.kind == PotentialKind::Dc || b.kind == PotentialKind::Dc || a.source == b.source;
    const Voltage alternating = oneSource ? abs(ac(a) - ac(b)) : ac(a) + ac(b);
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
    if (rules.standard == VoltageStandard::Ipc2221) {
        pair.needed = ipc2221Spacing(rules.column, pair.peak);
        return pair;
    }
    const auto isMains = [](const Potential& p) { return p.kind == PotentialKind::Ac && p.source == "mains"; };
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

std::optional<Nearest> nearestCopper(const std::vector<Pad>& pads) {
    std::optional<Nearest> best;
    for (std::size_t i = 0; i < pads.size(); ++i)
        for (std::size_t k = i + 1; k < pads.size(); ++k) {
            if (pads[i].number == pads[k].number) continue;
            // No exact distance where the circles around both lands already stand further apart.
            const Length bound = distance(pads[i].at, pads[k].at) - (pads[i].land + pads[k].land) * std::sqrt(0.5);
            if (best && bound > best->gap) continue;
            keepNearer(best, gap(landShape(pads[i]), landShape(pads[k])), pads[i].id, pads[k].id);
        }
    return best;
}

std::optional<Nearest> nearestCopperToHole(const std::vector<Pad>& pads, const std::vector<BareHole>& holes) {
    std::optional<Nearest> best;
    for (const Pad& pad : pads)
        for (const BareHole& hole : holes)
            keepNearer(best, gap(landShape(pad), RoundedPolygon::disc(hole.at, hole.sizeLargest)), pad.id, hole.id);
    return best;
}

std::optional<Nearest> nearestHoles(const std::vector<Pad>& pads, const std::vector<BareHole>& holes) {
    struct Hole {
        std::string id;
        Point at;
        Length size;
    };
    std::vector<Hole> all;
    for (const Pad& p : pads) all.push_back({p.id, p.at, p.holeLargest});
    for (const BareHole& h : holes) all.push_back({h.id, h.at, h.sizeLargest});
    std::optional<Nearest> best;
    for (std::size_t i = 0; i < all.size(); ++i)
        for (std::size_t k = i + 1; k < all.size(); ++k)
            keepNearer(best, distance(all[i].at, all[k].at) - (all[i].size + all[k].size) / 2, all[i].id, all[k].id);
    return best;
}

std::vector<VoltagePair> voltagePairs(const Part& part, const std::vector<Pad>& pads) {
    std::vector<VoltagePair> pairs;
    for (std::size_t i = 0; i < pads.size(); ++i)
        for (std::size_t k = i + 1; k < pads.size(); ++k) {
            const Potential* a = potentialOf(part, pads[i].id);
            const Potential* b = potentialOf(part, pads[k].id);
            if (a == nullptr || b == nullptr || a == b) continue;
            VoltagePair pair = askedBetween(part.rules, *a, *b);
            pair.a = pads[i].id;
            pair.b = pads[k].id;
            pair.gap = gap(landShape(pads[i]), landShape(pads[k]));
            pairs.push_back(pair);
        }
    std::stable_sort(pairs.begin(), pairs.end(), [](const VoltagePair& x, const VoltagePair& y) {
        if (x.refused.empty() != y.refused.empty()) return y.refused.empty();
        // Whole nanometres, so that equal pairs keep their order.
        return std::nearbyint((x.gap - x.needed).nm()) < std::nearbyint((y.gap - y.needed).nm());
    });
    return pairs;
}

std::vector<Halo> halos(const Part& part) {
    std::vector<Halo> all;
    for (const Potential& p : part.potentials) {
        Length needed;
        for (const Potential& q : part.potentials)
            if (&q != &p) needed = max(needed, askedBetween(part.rules, p, q).needed);
        const std::string volts = fmt::format("{:g} V{}", p.volts.volts(), p.kind == PotentialKind::Dc ? " d.c." : "");
        for (const FeatureId& pin : p.pins)
            if (formationOf(part, pin) != nullptr) all.push_back({pin, p.name, volts, needed});
    }
    return all;
}

}  // namespace punch
