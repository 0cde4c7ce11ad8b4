#include "core/size/join_holes.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/base/find_in.h"
#include "core/geometry/plane.h"
#include "core/part/names.h"
#include "core/size/drill_lists.h"
#include "core/size/hole_fit.h"
#include "core/size/make_over.h"
#include "core/size/pad_rules.h"

namespace punch {
namespace {

using Discs = std::vector<RoundedPolygon>;

/// A hole that is tried: where it lies, how large it is.
struct Trial {
    JoinKind kind = JoinKind::Round;
    Point at, second;
    Length size, secondSize;  ///< finished, least; of a slot its width
    Length length;            ///< of a slot
    Angle turn;
    Length over;         ///< beyond what is allowed
    std::string cannot;  ///< it cannot be made at all
    bool good() const { return cannot.empty() && over <= Length(); }
};

struct HoleLimits {
    Length allowed;  ///< at its largest; 0: nothing is said
    Length tolerance;
    Length plating;  ///< 0: bare
    std::string whose;
    bool flat = false;  ///< a blade, which asks for a slot
};

Length overOf(const HoleLimits& limits, Length size) {
    if (limits.allowed <= Length()) return {};
    return max(size + limits.tolerance - limits.allowed, Length());
}

Trial roundHole(const Rules& rules, const Discs& discs, const HoleLimits& limits) {
    Trial t;
    const RoundedPolygon around = circleAround(discs);
    t.at = around.corners.front();
    // What rounding to whole nanometres adds is no larger drill.
    const Length need = 2.0 * around.radius - Length::fromNm(4);
    t.size = nextDrillUp(drillList(rules), need).value_or(need);
    t.over = overOf(limits, t.size);
    if (limits.flat) t.cannot = "a blade stands in it";
    return t;
}

/// Of the two that are furthest apart.
std::pair<Point, Point> furthest(const Discs& discs) {
    std::pair<Point, Point> best{discs.front().corners.front(), discs.front().corners.front()};
    Length most;
    for (const RoundedPolygon& a : discs)
        for (const RoundedPolygon& b : discs)
            if (const Length d = distance(a.corners.front(), b.corners.front()); d > most) {
                most = d;
                best = {a.corners.front(), b.corners.front()};
            }
    return best;
}

Trial slot(const Rules& rules, const Discs& discs, const HoleLimits& limits) {
    Trial t;
    t.kind = JoinKind::Slot;
    const auto [a, b] = furthest(discs);
    const double dx = (b.x - a.x).mm(), dy = (b.y - a.y).mm(), d = std::hypot(dx, dy);
    if (d < 1e-6) {
        t.cannot = "the leads stand at one place";
        return t;
    }
    double ux = dx / d, uy = dy / d;
    // A direction, not a way along it.
    if (ux < -1e-9 || (std::abs(ux) <= 1e-9 && uy < 0)) ux = -ux, uy = -uy;
    double least = 1e300, most = -1e300, low = 1e300, high = -1e300;
    for (const RoundedPolygon& disc : discs) {
        const double x = disc.corners.front().x.mm(), y = disc.corners.front().y.mm(), r = disc.radius.mm();
        const double along = ux * x + uy * y, across = -uy * x + ux * y;
        least = std::min(least, along);
        most = std::max(most, along);
        low = std::min(low, across - r);
        high = std::max(high, across + r);
    }
    std::vector<Length> mills = rules.fab.mills;
    std::sort(mills.begin(), mills.end());
    const Length need = Length::fromMm(high - low - 4e-6);
    const auto mill = nextDrillUp(mills, need + limits.plating);
    t.size = mill ? *mill - limits.plating : need;
    const Length bit = mill.value_or(need + limits.plating);
    if (!mill)
        t.cannot = fmt::format("no mill bit is {:.2f} wide", (need + limits.plating).mm());
    else if (bit < rules.fab.leastSlot)
        t.cannot = fmt::format("slots are at least {:.2f} wide", rules.fab.leastSlot.mm());
    const Length overEnds = Length::fromMm(most - least) + t.size;
    t.length = Length::fromMm(std::ceil(overEnds.mm() / 0.05 - 1e-6) * 0.05);
    const double along = (least + most) / 2, across = (low + high) / 2;
    t.at = {Length::fromMm(ux * along - uy * across), Length::fromMm(uy * along + ux * across)};
    t.turn = Angle::fromRadians(std::atan2(uy, ux));
    t.over = overOf(limits, t.size);
    return t;
}

Trial twoHoles(const Rules& rules, const Discs& discs, const HoleLimits& limits) {
    Trial t;
    t.kind = JoinKind::TwoHoles;
    const auto [a, b] = furthest(discs);
    Discs near, far;
    for (const RoundedPolygon& disc : discs)
        (distance(disc.corners.front(), a) <= distance(disc.corners.front(), b) ? near : far).push_back(disc);
    if (limits.flat) {
        t.cannot = "a blade stands in it";
        return t;
    }
    if (far.empty()) {
        t.cannot = "the leads stand at one place";
        return t;
    }
    const Trial one = roundHole(rules, near, limits), other = roundHole(rules, far, limits);
    t.at = one.at;
    t.size = one.size;
    t.second = other.at;
    t.secondSize = other.size;
    t.over = max(one.over, other.over);
    const Length wall = distance(one.at, other.at) - (one.size + other.size) / 2 - limits.tolerance;
    if (wall < rules.fab.leastWeb)
        t.cannot = fmt::format("the wall between them would be {:.2f}, at least {:.2f} is asked", wall.mm(),
                               rules.fab.leastWeb.mm());
    return t;
}

std::string whyNot(const Trial& t, const HoleLimits& limits) {
    const std::string what = t.kind == JoinKind::Round  ? "a round hole"
                             : t.kind == JoinKind::Slot ? "a slot"
                                                        : "each of two holes";
    if (!t.cannot.empty()) return what + " cannot be: " + t.cannot;
    return fmt::format("{} would be {:.2f} wide at its largest, {:.2f} more than {} allows", what,
                       (t.size + limits.tolerance).mm(), t.over.mm(), limits.whose);
}

/// The first that is good, or what the user chose; where none is, the one that is least over.
Trial chosen(const Rules& rules, const Discs& discs, const HoleLimits& limits, std::optional<JoinKind> wanted,
             std::string& why) {
    std::vector<Trial> all = {roundHole(rules, discs, limits), slot(rules, discs, limits),
                              twoHoles(rules, discs, limits)};
    if (wanted) {
        const Trial& t = all[static_cast<std::size_t>(*wanted)];
        if (t.cannot.empty()) {
            if (!t.good()) why = whyNot(t, limits);
            return t;
        }
        why = "as chosen, " + whyNot(t, limits) + "; ";
    }
    std::string others;
    for (const Trial& t : all) {
        if (t.good()) {
            why += others;
            return t;
        }
        others += (others.empty() ? "" : "; ") + whyNot(t, limits);
    }
    why += others;
    const Trial* least = &all.front();
    for (const Trial& t : all)
        if (t.cannot.empty() && t.over < least->over) least = &t;
    return *least;
}

Length apartOf(const Discs& discs) {
    const auto [a, b] = furthest(discs);
    return distance(a, b);
}

/// The land follows its hole.
Conductor fitted(const Part& part, const std::string& formation, const LeadFit& lead, const Trial& t, Pad& pad) {
    const Point leadAt = pad.at;
    PadOverride o = overrideFor(part, pad.id, formation);
    LeadFit fit = lead;
    pad.at = t.at;
    pad.off = t.at - leadAt;
    fit.slotLength = t.kind == JoinKind::Slot ? t.length : Length();
    // The rule's land stays that of the lead's hole, and grows with it.
    if (!o.hole) o.hole = t.size;
    if (t.kind == JoinKind::Slot && !o.holeLength) o.holeLength = t.length;
    sizePad(part.rules, o, fit, pad);
    if (t.kind == JoinKind::Slot) {
        pad.slotTurn = t.turn;
        if (!o.turn)
            for (Land* land : {&pad.top, &pad.inner, &pad.bottom}) land->turn = t.turn;
    }
    Conductor second;
    if (t.kind != JoinKind::TwoHoles) return second;
    second = pad;
    const Length ring = pad.top.width - t.size;
    second.at = t.second;
    second.hole = t.secondSize;
    second.holeLargest = t.secondSize + part.rules.platedTolerance;
    const Point middle = {(t.at.x + t.second.x) / 2, (t.at.y + t.second.y) / 2};
    const Length across = max(t.size, t.secondSize) + ring;
    for (Land* land : {&pad.top, &pad.inner, &pad.bottom}) {
        if (!land->there()) continue;
        land->shape = LandShape::Oval;
        land->at = middle;
        land->width = distance(t.at, t.second) + across;
        land->length = across;
        land->corner = Length();
        land->turn = Angle::fromRadians(std::atan2((t.second.y - t.at.y).mm(), (t.second.x - t.at.x).mm()));
    }
    for (Land* land : {&second.top, &second.inner, &second.bottom})
        if (land->there()) *land = {LandShape::Round, t.second, across, across, {}, {}};
    return second;
}

/// Pegs, locks, lugs and screws.
class BareHoles {
public:
    BareHoles(const Part& part, Sized& sized) : part_(part), sized_(sized) {
        for (const BareHole& h : sized.bareHoles) groups_.push_back({h, {roomOf(h)}, {}, h.at});
    }

    void take(const MakeOver& make, std::size_t which) {
        for (const MakeHole& h : make.holes) {
            Group* near = nullptr;
            for (Group& g : groups_)
                if (g.hole.kind == h.kind && g.hole.plated == h.plated && tooNear(g, h)) near = &g;
            if (near != nullptr) {
                near->discs.insert(near->discs.end(), h.room.begin(), h.room.end());
                near->makes.push_back(make.name);
                continue;
            }
            BareHole own;
            own.id = fmt::format("make{}:{}", which + 1, h.hole);
            own.name = h.name + " of " + make.name;
            own.make = make.name;
            own.kind = h.kind;
            own.plated = h.plated;
            own.firm = h.firm;
            own.sized = h.sized;
            own.maskMargin = part_.rules.fab.maskMargin;
            const RoundedPolygon around = circleAround(h.room);
            own.at = around.corners.front();
            groups_.push_back({own, h.room, {make.name}, own.at});
        }
    }

    void finish() {
        std::vector<BareHole> all;
        for (Group& g : groups_) {
            if (!g.makes.empty()) {
                const bool shared = g.hole.make.empty() || g.makes.size() > 1;
                JoinedHole joined;
                HoleLimits limits;
                limits.tolerance = g.hole.plated ? part_.rules.platedTolerance : part_.rules.bareTolerance;
                limits.plating = g.hole.plated ? part_.rules.fab.plating : Length();
                limits.whose = "locating";
                // A peg that may shift no longer locates: its hole is round only while it hardly grows.
                Length least = Length::fromMm(1e6);
                for (const RoundedPolygon& d : g.discs) least = min(least, 2.0 * d.radius);
                if (shared) limits.allowed = least + part_.rules.pegClearance + limits.tolerance;
                std::string why;
                const Trial t = chosen(part_.rules, g.discs, limits, overrideForSpot(part_, g.hole.id).join, why);
                g.hole.off = g.hole.make.empty() ? t.at - g.own : Point{};
                g.hole.at = t.at;
                g.hole.size = t.size;
                g.hole.sizeLargest = t.size + limits.tolerance;
                g.hole.slotLength = t.kind == JoinKind::Slot ? t.length : Length();
                g.hole.slotTurn = t.turn;
                if (g.hole.plated) {
                    g.hole.land.at = t.at;
                    if (g.hole.make.empty()) g.hole.land.width += g.hole.slotLength;
                }
                const std::optional<Length> set = overrideForSpot(part_, g.hole.id).hole;
                if (set && *set < t.size)
                    why = fmt::format("{:.2f} was set by hand, which is too little for all of them{}", set->mm(),
                                      why.empty() ? "" : "; " + why);
                if (shared) {
                    joined = {g.hole.id, g.hole.name, t.kind, apartOf(g.discs), t.size, t.length, t.over, why};
                    sized_.joined.push_back(joined);
                }
                if (t.kind == JoinKind::TwoHoles) {
                    BareHole other = g.hole;
                    other.id += "/2";
                    other.make = g.makes.front();
                    other.name = g.hole.name + " of " + other.make;
                    other.at = t.second;
                    other.size = t.secondSize;
                    other.sizeLargest = t.secondSize + limits.tolerance;
                    all.push_back(std::move(other));
                }
            }
            all.push_back(std::move(g.hole));
        }
        sized_.bareHoles = std::move(all);
    }

private:
    struct Group {
        BareHole hole;
        Discs discs;
        std::vector<std::string> makes;
        Point own;
    };

    static RoundedPolygon roomOf(const BareHole& h) { return RoundedPolygon::disc(h.at, h.size); }

    bool tooNear(const Group& g, const MakeHole& h) const {
        return std::any_of(g.discs.begin(), g.discs.end(), [&](const RoundedPolygon& a) {
            return std::any_of(h.room.begin(), h.room.end(), [&](const RoundedPolygon& b) {
                return distance(a.corners.front(), b.corners.front()) - a.radius - b.radius <
                       part_.rules.fab.leastWeb + part_.rules.bareTolerance;
            });
        });
    }

    const Part& part_;
    Sized& sized_;
    std::vector<Group> groups_;
};

}  // namespace

std::vector<Conductor> joinHoles(const Part& part, Sized& sized) {
    std::vector<Conductor> second;
    const Rules& rules = part.rules;
    for (Pad& pad : sized.pads) {
        if (pad.hole <= Length()) continue;
        const LeadFit& fit = sized.leads[pad.formation];
        Discs discs;
        if (pad.slotLength > Length()) {
            const Length half = (pad.slotLength - pad.hole) / 2;
            const Point by = {half * std::cos(pad.slotTurn.radians()), half * std::sin(pad.slotTurn.radians())};
            discs = {RoundedPolygon::disc(pad.at - by, pad.hole), RoundedPolygon::disc(pad.at + by, pad.hole)};
        } else {
            discs = {RoundedPolygon::disc(pad.at, fit.leastHole)};
        }
        HoleLimits limits{fit.largestAllowed, rules.platedTolerance, rules.fab.plating, "the lead"};
        bool others = false;
        limits.flat = discs.size() > 1;
        for (const MakeOver& make : sized.makes)
            for (const MakeLead& lead : make.leads) {
                if (lead.number != pad.number) continue;
                others = true;
                limits.flat = limits.flat || lead.room.size() > 1;
                discs.insert(discs.end(), lead.room.begin(), lead.room.end());
                if (lead.allowed > Length() && (limits.allowed <= Length() || lead.allowed < limits.allowed)) {
                    limits.allowed = lead.allowed;
                    limits.whose = "the lead of " + make.name;
                }
                pad.firm = pad.firm && lead.firm;
                pad.sized = pad.sized && lead.sized;
            }
        if (!others) continue;
        JoinedHole joined;
        joined.id = pad.id;
        joined.name = "pad " + pad.number;
        joined.apart = apartOf(discs);
        const Trial t = chosen(rules, discs, limits, overrideFor(part, pad.id, fit.formation).join, joined.why);
        joined.kind = t.kind;
        const Conductor extra = fitted(part, fit.formation, fit, t, pad);
        joined.size = pad.hole;
        joined.length = pad.slotLength;
        joined.over = max(overOf(limits, pad.hole), t.over);
        if (t.kind == JoinKind::TwoHoles) second.push_back(extra);
        sized.joined.push_back(std::move(joined));
    }
    BareHoles bare(part, sized);
    for (std::size_t k = 0; k < sized.makes.size(); ++k)
        if (sized.makes[k].why.empty()) bare.take(sized.makes[k], k);
    bare.finish();
    return second;
}

}  // namespace punch
