#include "core/advise/changes.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/geometry/shapes.h"

namespace punch {
namespace {

// Seen in the three decimals that are shown.
const Length kSeen = Length::fromMm(0.0005);

bool moved(Length a, Length b) { return abs(a - b) >= kSeen; }

}  // namespace

std::vector<Change> whatChanged(const Part& part, const Footprint& before, const Footprint& after) {
    std::vector<Change> all;
    // Sizes and pitches of the part itself.
    for (const ParameterValue& p : after.parameters) {
        const ParameterValue* old = before.parameter(p.name);
        const bool own = p.state == Parameter::State::Free || p.state == Parameter::State::Taken;
        const bool place = p.name.ends_with(".x") || p.name.ends_with(".y") || p.name.ends_with("hole") ||
                           p.name.ends_with("land") || p.name.ends_with("across") ||
                           p.name.find("scale") != std::string::npos;
        if (old == nullptr || p.angle || !own || place) continue;
        if (old->firm() != p.firm())
            all.push_back({p.words + (p.firm() ? " is {} {u} now" : " is loose now"), {p.value}});
        else if (p.firm() && moved(old->value, p.value))
            all.push_back({p.words + (p.value > old->value ? " +{} {u}" : " −{} {u}"), {abs(p.value - old->value)}});
    }
    // Holes and lands, once for each formation and each bare hole.
    for (std::size_t i = 0; i < after.leads.size(); ++i) {
        const auto before_ = std::find_if(before.leads.begin(), before.leads.end(),
                                          [&](const LeadFit& l) { return l.formation == after.leads[i].formation; });
        if (before_ == before.leads.end()) continue;
        const std::string of = after.leads.size() > 1 ? " of " + after.leads[i].formation : "";
        if (moved(before_->hole, after.leads[i].hole))
            all.push_back({"hole" + of + " {} → {}", {before_->hole, after.leads[i].hole}});
        if (moved(before_->land, after.leads[i].land))
            all.push_back({"land" + of + " {} → {}", {before_->land, after.leads[i].land}});
    }
    for (const BareHole& h : after.bareHoles)
        if (const BareHole* old = before.bareHole(h.id); old != nullptr && moved(old->size, h.size))
            all.push_back({h.name + " hole {} → {}", {old->size, h.size}});
    // Places: the one that moved most, and how many.
    std::string farthest;
    Length far;
    int count = 0;
    const auto look = [&](const std::string& id, Point now, Point then) {
        const Length by = distance(now, then);
        count += by >= kSeen;
        if (by > far) {
            far = by;
            farthest = id;
        }
    };
    for (const Pad& p : after.pads)
        if (const Pad* old = before.pad(p.id)) look(p.id, p.at, old->at);
    for (const BareHole& h : after.bareHoles)
        if (const BareHole* old = before.bareHole(h.id)) look(h.id, h.at, old->at);
    if (count > 0)
        all.push_back({(count == 1 ? featureWords(part, farthest) + " moved"
                                   : fmt::format("{} places moved, {} most", count, featureWords(part, farthest))) +
                           " by {} {u}",
                       {far}});
    for (const Gauge& g : after.gauges) {
        const Gauge* old = before.gauge(g.name);
        if (old == nullptr) continue;
        std::string title = g.title;
        title[0] = static_cast<char>(std::tolower(static_cast<unsigned char>(title[0])));
        const bool margins = g.margin && old->margin && g.unit == "mm" && g.id != GaugeId::Readings;
        const auto state = [](GaugeState s) {
            return s == GaugeState::Go      ? "go"
                   : s == GaugeState::Watch ? "watch"
                   : s == GaugeState::NoGo  ? "no-go"
                                            : "unknown";
        };
        if (margins && std::abs(*g.margin - *old->margin) >= 0.005)
            all.push_back({fmt::format("{} {{}} → {{}} to spare{}", title,
                                       g.state != old->state ? fmt::format(": {}", state(g.state)) : ""),
                           {Length::fromMm(*old->margin), Length::fromMm(*g.margin)}});
        else if (g.state != old->state)
            all.push_back({fmt::format("{}: {} → {}", title, state(old->state), state(g.state)), {}});
    }
    return all;
}

}  // namespace punch
