#include "core/size/make_over.h"

#include <algorithm>
#include <cmath>
#include <set>

#include "core/base/find_in.h"
#include "core/geometry/plane.h"
#include "core/measure/adjust.h"
#include "core/measure/chain_readings.h"
#include "core/size/sized.h"

namespace punch {
namespace {

struct Disc {
    double x, y, r;
};

Point quarter(Point p, int quarters) {
    switch (quarters & 3) {
        case 1: return {Length() - p.y, p.x};
        case 2: return {Length() - p.x, Length() - p.y};
        case 3: return {p.y, Length() - p.x};
        default: return p;
    }
}

/// The discs that a hole as the rule makes it is around: where its least hole, before the drill list, has to be.
std::vector<RoundedPolygon> roomOf(Point at, Length size, Length slotLength, Angle slotTurn) {
    if (slotLength <= size) return {RoundedPolygon::disc(at, size)};
    const Length half = (slotLength - size) / 2;
    const Point by = {half * std::cos(slotTurn.radians()), half * std::sin(slotTurn.radians())};
    return {RoundedPolygon::disc(at - by, size), RoundedPolygon::disc(at + by, size)};
}

void layOver(const MakeOver& over, std::vector<RoundedPolygon>& room) {
    for (RoundedPolygon& disc : room)
        for (Point& p : disc.corners) p = laidOver(over, p);
}

/// Differences of places of one number, own less the make's.
std::vector<RoundedPolygon> differences(const std::vector<std::pair<Point, Point>>& pairs, int quarters) {
    std::vector<RoundedPolygon> all;
    for (const auto& [own, other] : pairs)
        all.push_back(RoundedPolygon::disc(own - quarter(other, quarters), Length()));
    return all;
}

void align(const Make& make, const Places& own, const Places& other, MakeOver& over) {
    std::vector<std::pair<Point, Point>> pairs;
    std::set<std::string> there, here;
    for (const PlacedPin& pin : other.pins) there.insert(pin.number);
    for (const PlacedPin& pin : own.pins) {
        here.insert(pin.number);
        const PlacedPin* same = findIn(other.pins, [&](const PlacedPin& p) { return p.number == pin.number; });
        if (same == nullptr)
            over.alone.push_back(pin.number + " is not in " + over.name);
        else
            pairs.emplace_back(pin.at, same->at);
    }
    for (const std::string& number : there)
        if (!here.contains(number)) {
            over.alone.push_back(number + " is only in " + over.name);
            over.why = "pad " + number + " is only in it: begin with the make that has the most pins";
        }
    if (pairs.empty()) {
        if (!own.pins.empty() && !other.pins.empty()) over.why = "no number is in both";
        return;
    }
    switch (make.by) {
        case JoinBy::Datum: break;
        case JoinBy::PinOne: over.shift = own.pins.front().at - other.pins.front().at; break;
        case JoinBy::Leads: {
            Length best = Length::fromMm(1e6);
            for (int q = 0; q < 4; ++q) {
                const RoundedPolygon around = circleAround(differences(pairs, q));
                // As it lies, unless another way is clearly nearer.
                if (around.radius + Length::fromUm(1) >= best) continue;
                best = around.radius;
                over.turn = Angle::fromDegrees(90.0 * q);
                over.shift = around.corners.front();
            }
        }
    }
    for (const auto& [a, b] : pairs) over.apart = max(over.apart, distance(a, laidOver(over, b)));
}

MakeOver makeOver(const Part& part, const Make& make, const Places& own) {
    MakeOver over;
    over.name = make.name;
    if (make.part.empty()) {
        over.why = "its file was never read";
        return over;
    }
    const Part other = underRulesOf(part, make);
    const Adjustment adjustment(other);
    const ChainReadings chains(other, adjustment);
    const Places places_ = places(other, adjustment, chains);
    align(make, own, places_, over);
    if (!over.why.empty()) return over;
    const Sizes sized = sizes(other, adjustment, chains, places_, {});
    for (std::size_t i = 0; i < sized.pads.size(); ++i) {
        const Pad& p = sized.pads[i];
        if (p.hole <= Length()) continue;
        const LeadFit& fit = sized.leads[p.formation];
        MakeLead lead;
        lead.number = p.number;
        lead.pad = i;
        lead.room = roomOf(p.at, p.slotLength > Length() ? p.hole : fit.leastHole, p.slotLength, p.slotTurn);
        layOver(over, lead.room);
        lead.allowed = fit.largestAllowed;
        lead.firm = p.firm;
        lead.sized = p.sized;
        if (!lead.firm || !lead.sized)
            over.why = "pad " + p.number + (p.firm ? ": its lead is not measured" : " is loose");
        over.leads.push_back(std::move(lead));
    }
    for (std::size_t i = 0; i < sized.bareHoles.size(); ++i) {
        const BareHole& h = sized.bareHoles[i];
        MakeHole hole{i, h.name, h.kind, roomOf(h.at, h.size, h.slotLength, h.slotTurn), h.plated, h.firm, h.sized};
        layOver(over, hole.room);
        if (!h.firm || !h.sized) over.why = h.name + (h.firm ? " is not measured" : " is loose");
        over.holes.push_back(std::move(hole));
    }
    if (other.body.present) {
        const auto& body = adjustment.features().at(kBody);
        const Length x = Length::fromMm(body.x.value()) - places_.datum.x,
                     y = Length::fromMm(body.y.value()) - places_.datum.y;
        const Length w = Length::fromMm(body.halfX.value()), h = Length::fromMm(body.halfY.value());
        Rect box;
        for (const Point corner : {Point{x - w, y - h}, Point{x + w, y + h}}) {
            const Point at = laidOver(over, corner);
            box.add({at.x, at.x, at.y, at.y, false});
        }
        over.body = box;
    }
    return over;
}

}  // namespace

Point laidOver(const MakeOver& over, Point at) {
    return quarter(at, static_cast<int>(std::lround(over.turn.degrees() / 90))) + over.shift;
}

Part underRulesOf(const Part& part, const Make& make) {
    Part other = make.part.front();
    other.rules = part.rules;
    other.makes.clear();
    other.marks.clear();
    return other;
}

RoundedPolygon circleAround(const std::vector<RoundedPolygon>& discs) {
    std::vector<Disc> all;
    for (const RoundedPolygon& d : discs)
        all.push_back({d.corners.front().x.mm(), d.corners.front().y.mm(), d.radius.mm()});
    if (all.empty()) return {{Point{}}, Length()};
    const auto reach = [&](double x, double y) {
        double most = -1e300;
        for (const Disc& d : all) most = std::max(most, std::hypot(d.x - x, d.y - y) + d.r);
        return most;
    };
    const auto made = [](double x, double y, double r) {
        return RoundedPolygon{{Point{Length::fromMm(x), Length::fromMm(y)}}, Length::fromMm(r)};
    };
    // Two of them that reach furthest hold all the others, or one does; else three touch it and it is found by halving.
    RoundedPolygon best = made(all[0].x, all[0].y, reach(all[0].x, all[0].y));
    double least = reach(all[0].x, all[0].y);
    const auto tryAt = [&](double x, double y) {
        if (const double r = reach(x, y); r < least - 1e-9) {
            least = r;
            best = made(x, y, r);
        }
    };
    bool exact = all.size() < 3;
    for (std::size_t i = 0; i < all.size(); ++i) {
        tryAt(all[i].x, all[i].y);
        if (reach(all[i].x, all[i].y) <= all[i].r + 1e-9) exact = true;
        for (std::size_t k = i + 1; k < all.size(); ++k) {
            const Disc &a = all[i], &b = all[k];
            const double apart = std::hypot(b.x - a.x, b.y - a.y);
            if (apart < 1e-9 || apart <= std::abs(a.r - b.r)) continue;
            const double r = (apart + a.r + b.r) / 2, t = (r - a.r) / apart;
            const double x = a.x + t * (b.x - a.x), y = a.y + t * (b.y - a.y);
            tryAt(x, y);
            if (reach(x, y) <= r + 1e-9) exact = true;
        }
    }
    if (exact) return best;
    // The largest reach is convex in x and y.
    double left = 1e300, right = -1e300, front = 1e300, rear = -1e300;
    for (const Disc& d : all) {
        left = std::min(left, d.x), right = std::max(right, d.x);
        front = std::min(front, d.y), rear = std::max(rear, d.y);
    }
    const auto narrowed = [](double a, double b, const auto& value) {
        for (int step = 0; step < 80 && b - a > 1e-8; ++step) {
            const double p = a + (b - a) * 0.382, q = a + (b - a) * 0.618;
            (value(p) <= value(q) ? b : a) = value(p) <= value(q) ? q : p;
        }
        return (a + b) / 2;
    };
    const auto bestY = [&](double x) { return narrowed(front, rear, [&](double y) { return reach(x, y); }); };
    const double x = narrowed(left, right, [&](double at) { return reach(at, bestY(at)); });
    tryAt(x, bestY(x));
    return best;
}

std::vector<Shape> bodiesOf(const std::vector<MakeOver>& makes) {
    std::vector<Shape> all;
    for (std::size_t k = 0; k < makes.size(); ++k) {
        if (!makes[k].body) continue;
        Shape s;
        s.purpose = Purpose::Room;
        s.id = "make" + std::to_string(k + 1);
        s.name = "body of " + makes[k].name;
        s.form = RoundedPolygon::rectangle(*makes[k].body);
        s.pieces = {RoundedPolygon::rectangle(*makes[k].body)};
        s.keeps.piece = true;
        s.firm = makes[k].why.empty();
        all.push_back(std::move(s));
    }
    return all;
}

std::vector<MakeOver> makesOver(const Part& part, const Places& own) {
    std::vector<MakeOver> all;
    for (const Make& make : part.makes) all.push_back(makeOver(part, make, own));
    return all;
}

}  // namespace punch
