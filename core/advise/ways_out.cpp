#include "core/advise/ways_out.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/clear/room.h"
#include "core/clear/voltage_pairs.h"
#include "core/derive.h"
#include "core/part/edit.h"
#include "core/size/pad_rules.h"

namespace punch {
namespace {

/// Titles of the gauges that are no-go.
std::vector<std::string> failing(const Footprint& f) {
    std::vector<std::string> names;
    for (const Gauge& g : f.gauges)
        if (g.state == GaugeState::NoGo) names.push_back(g.title);
    return names;
}

Part coated(Part part) {
    Rules& rules = part.rules;
    if (rules.standard == VoltageStandard::Iec60664)
        rules.iec.qualifiedCoating = true;
    else
        rules.column = rules.column == VoltageColumn::A6 ? VoltageColumn::A7 : VoltageColumn::A5;
    return part;
}

std::string slotWords(const CutOut& slot) {
    const Length length = distance(slot.from, slot.to) + slot.width;
    return fmt::format("slot {:g} wide, {:.1f} long", slot.width.mm(), length.mm());
}

}  // namespace

std::vector<RoomWay> waysToRoom(const Part& part, const Footprint& footprint, const std::string& formation) {
    std::vector<RoomWay> ways;
    const Formation* f = formationById(part, formation);
    if (f == nullptr) return ways;
    const std::vector<std::string> before = failing(footprint);
    const auto offer = [&](std::string words, const Part& changed) {
        if (changed == part) return;
        Footprint d = derive(changed);
        const auto room = roomOfFormation(changed, d, formation);
        if (!room) return;
        RoomWay way{std::move(words), changed, room->least, room->most, room->best, room->mostBy, {}};
        // Of an oval the width that was asked for is what counts; of others the best land is taken at once.
        const bool oval = shownLand(*d.pad(f->pins.front())).shape == LandShape::Oval;
        if (oval) way.best = room->now >= room->least && room->now <= room->most ? room->now : Length();
        if (!oval && room->best > Length())
            if (auto best = withBestPad(changed, d, formation)) way.part = std::move(*best);
        if (way.best > Length()) {
            d = derive(way.part);
            for (const std::string& name : failing(d))
                if (std::count(before.begin(), before.end(), name) == 0) way.against = name;
        }
        ways.push_back(std::move(way));
    };
    // Across the row the neighbours are not in the way: as narrow along it as the ring allows, longer across.
    const auto room = roomOfFormation(part, footprint, formation);
    if (room && room->least <= mostLand() && f->pins.size() > 1) {
        const Length ring = Length::fromMm(std::ceil(room->least.mm() * 100 - 1e-6) / 100);
        const Point along = footprint.pad(f->pins[1])->at - footprint.pad(f->pins[0])->at;
        const double direction = std::atan2(along.y.mm(), along.x.mm()) * 180 / std::numbers::pi;
        for (const double turn : {0.0, 45.0}) {
            Part oval = part;
            PadOverride& o = oval.overrides[formation];
            o.shape = LandShape::Oval;
            o.land = ring;
            o.landLength = 1.4 * ring;
            o.turn = Angle::fromDegrees(std::nearbyint((direction + turn) * 10) / 10);
            o.reason = "no room for another shape";
            offer(turn == 0 ? "oval lands across the row" : "oval lands, turned by 45°", oval);
        }
    }
    // Where the voltage over the surface leaves no room, a slot that lets the smallest land in.
    if (room && room->mostBy == "voltage" && room->least <= mostLand() && !room->about.empty()) {
        Part smallest = part;
        smallest.overrides[formation].land = Length::fromMm(std::ceil(room->least.mm() * 100 - 1e-6) / 100);
        if (const auto slot = slotFor(smallest, derive(smallest), room->pad, room->about.front()))
            offer(slotWords(*slot), withCutOut(part, *slot));
    }
    for (const Level level : {Level::B, Level::C}) {
        if (level <= part.rules.level) continue;
        Part tight = part;
        tight.rules.level = level;
        offer(level == Level::B ? "fit level B" : "fit level C", tight);
    }
    if (!part.rules.leadAtMean) {
        Part mean = part;
        mean.rules.leadAtMean = true;
        offer("holes from the mean lead", mean);
    }
    if (!part.potentials.empty()) offer("coating over the assembly", coated(part));
    std::stable_sort(ways.begin(), ways.end(),
                     [](const RoomWay& a, const RoomWay& b) { return a.mends() && !b.mends(); });
    return ways;
}

Result<Part> withBestPads(Part part, const std::vector<FeatureId>& pins) {
    for (const Formation& formation : Part(part).formations) {
        // Pads of a formation are taken to grow together; those of the next one find them grown.
        std::vector<FeatureId> here;
        for (const FeatureId& id : pins)
            if (const Formation* of = formationOf(part, id); of != nullptr && of->id == formation.id)
                here.push_back(id);
        if (here.empty()) continue;
        const Footprint f = derive(part);
        for (const FeatureId& id : here) {
            auto next = withBestPad(part, f, id);
            if (!next) return next;
            part = std::move(*next);
        }
    }
    return part;
}

Result<Part> withBestPads(Part part) {
    const std::vector<Formation> formations = part.formations;
    for (const Formation& f : formations) {
        auto next = withBestPad(part, derive(part), f.id);
        if (!next) return next;
        part = std::move(*next);
    }
    return part;
}

std::vector<WayOut> waysOut(const Part& part, const Footprint& f, const FeatureId& a, const FeatureId& b) {
    std::vector<WayOut> ways;
    const VoltagePair* now = pairOf(f, a, b);
    if (now == nullptr) return ways;
    const auto tightest = [](const VoltagePair& v) {
        const TightestWay way = tightestWay(v);
        return std::pair{way.is, way.needs};
    };
    const std::vector<std::string> before = failing(f);
    const auto offer = [&](std::string words, Part changed, std::optional<CutOut> slot = {}) {
        if (changed == part) return;
        const Footprint d = derive(changed);
        const VoltagePair* then = pairOf(d, a, b);
        WayOut way{std::move(words), changed, tightest(*now).first, {}, {}, false, {}, std::move(slot)};
        // A pair that is far enough apart now may not be listed any more.
        way.after = then != nullptr ? tightest(*then).first : way.before;
        way.needed = then != nullptr ? tightest(*then).second : now->needed;
        // Where another pair is what is too near then, it is named: this one may have enough.
        if (!d.voltages.empty() && (d.voltages.front().a != a || d.voltages.front().b != b) &&
            d.voltages.front().margin() < Length() && (then == nullptr || then->margin() >= Length()))
            way.against = fmt::format("{} and {}", featureWords(changed, d.voltages.front().a),
                                      featureWords(changed, d.voltages.front().b));
        for (const std::string& name : failing(d))
            if (std::count(before.begin(), before.end(), name) == 0) way.against = name;
        const Gauge* gauge = d.gauge("voltage");
        way.mends = gauge->state != GaugeState::NoGo && way.against.empty();
        const bool helps = way.after - way.needed > tightest(*now).first - tightest(*now).second + Length::fromNm(500);
        if (helps || way.mends) ways.push_back(std::move(way));
    };
    if (const auto slot = slotFor(part, f, a, b)) offer(slotWords(*slot), withCutOut(part, *slot), *slot);
    // The formations of the two, once each.
    std::vector<std::string> formations;
    for (const FeatureId& id : {a, b})
        if (const Formation* formation = formationOf(part, id);
            formation != nullptr && std::count(formations.begin(), formations.end(), formation->id) == 0)
            formations.push_back(formation->id);
    Part smaller = part;
    std::string sizes;
    for (const std::string& id : formations) {
        // One after the other: what one gives up the other may keep.
        const auto room = roomOfFormation(smaller, derive(smaller), id);
        if (!room || room->best <= Length() || room->best >= room->now) continue;
        smaller.overrides[id].land = room->best;
        smaller.overrides[id].reason = "voltage";
        sizes += fmt::format("{}{:.2f}", sizes.empty() ? "" : " and ", room->best.mm());
    }
    offer("lands of " + sizes, smaller);
    // Ovals: as small as the ring allows along the line of the pair, as long as now across it.
    Part ovals = part;
    const bool alongX =
        now->line.size() == 2 && abs(now->line[0].x - now->line[1].x) > abs(now->line[0].y - now->line[1].y);
    for (const std::string& id : formations) {
        const auto room = roomOfFormation(part, f, id);
        if (!room || room->least >= room->now) continue;
        PadOverride& o = ovals.overrides[id];
        // A hair more than the least, so that rounding to hundredths keeps the ring.
        const Length least = Length::fromMm(std::ceil(room->least.mm() * 100 - 1e-6) / 100);
        o.shape = LandShape::Oval;
        o.land = alongX ? least : room->now;
        o.landLength = alongX ? room->now : least;
        o.turn = Angle();
        o.reason = "voltage";
    }
    offer("oval lands across the line", ovals);
    Part round = part;
    for (const FeatureId& id : {a, b})
        if (const Pad* pad = f.pad(id); pad != nullptr && shownLand(*pad).shape != LandShape::Round)
            round.overrides[id].shape = LandShape::Round;
    offer("round lands", round);
    if (part.rules.level != Level::C) {
        Part tight = part;
        tight.rules.level = Level::C;
        offer("fit level C, smaller holes and rings", tight);
    }
    offer("coating over the assembly", coated(part));
    std::stable_sort(ways.begin(), ways.end(), [](const WayOut& x, const WayOut& y) { return x.mends && !y.mends; });
    return ways;
}

}  // namespace punch
