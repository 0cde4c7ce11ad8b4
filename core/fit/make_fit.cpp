#include "core/fit/make_fit.h"

#include <cmath>

#include "core/fit/drop_in.h"
#include "core/geometry/plane.h"
#include "core/measure/adjust.h"
#include "core/measure/chain_readings.h"
#include "core/place/place.h"
#include "core/size/make_over.h"
#include "core/size/sized.h"

namespace punch {
namespace {

/// A hole of the part that a lead may go into.
struct Offer {
    Point at;
    Length size, largest, slotLength;
    Angle slotTurn;
};

const Offer* nearest(const std::vector<Offer>& offers, Point at) {
    const Offer* best = nullptr;
    const auto reach = [&](const Offer& o) { return gap(RoundedPolygon::disc(at, Length()), slotShape(o.at, o.size, max(o.slotLength, o.size), o.slotTurn)); };
    for (const Offer& o : offers)
        if (best == nullptr || reach(o) < reach(*best) ||
            (reach(o) == reach(*best) && distance(o.at, at) < distance(best->at, at)))
            best = &o;
    return best;
}

/// From the part's frame back to the make's.
Point turnedBack(Point p, Angle turn) {
    const double c = std::cos(-turn.radians()), s = std::sin(-turn.radians());
    return {Length::fromMm(c * p.x.mm() - s * p.y.mm()), Length::fromMm(s * p.x.mm() + c * p.y.mm())};
}

MakeFit makeFit(const Part& part, const Make& make, const MakeOver& over, const Sized& sized) {
    MakeFit fit{over.name, over.why, {}};
    if (!fit.why.empty()) return fit;
    const Part other = underRulesOf(part, make);
    const Adjustment adjustment(other);
    const ChainReadings chains(other, adjustment);
    Sizes theirs = sizes(other, adjustment, chains, places(other, adjustment, chains), {});
    for (Pad& p : theirs.pads) {
        if (p.hole <= Length()) continue;
        std::vector<Offer> offers;
        const auto offer = [&](const Conductor& c) {
            if (c.number == p.number && c.hole > Length())
                offers.push_back({c.at, c.hole, c.holeLargest, c.slotLength, c.slotTurn});
        };
        for (const Pad& own : sized.pads) offer(own);
        for (const Conductor& c : sized.attached.lands) offer(c);
        const Point at = laidOver(over, p.at);
        const Offer* hole = nearest(offers, at);
        if (hole == nullptr) {
            fit.why = "there is no hole for its pad " + p.number;
            return fit;
        }
        p.off = turnedBack(hole->at - at, over.turn);
        p.hole = hole->size;
        p.holeLargest = hole->largest;
        p.slotLength = hole->slotLength;
        p.slotTurn = hole->slotTurn - over.turn;
    }
    for (BareHole& h : theirs.bareHoles) {
        std::vector<Offer> offers;
        for (const BareHole& own : sized.bareHoles)
            if (own.kind == h.kind && own.plated == h.plated)
                offers.push_back({own.at, own.size, own.sizeLargest, own.slotLength, own.slotTurn});
        const Point at = laidOver(over, h.at);
        const Offer* hole = nearest(offers, at);
        if (hole == nullptr) {
            fit.why = "there is no hole for its " + h.name;
            return fit;
        }
        h.off = turnedBack(hole->at - at, over.turn);
        h.size = hole->size;
        h.sizeLargest = hole->largest;
        h.slotLength = hole->slotLength;
        h.slotTurn = hole->slotTurn - over.turn;
    }
    fit.dropIn = worstDropIn(other, adjustment, theirs).coarse(1);
    if (!fit.dropIn.known) fit.why = fit.dropIn.why;
    return fit;
}

}  // namespace

std::vector<MakeFit> makeFits(const Part& part, const Sized& sized) {
    std::vector<MakeFit> all;
    for (std::size_t k = 0; k < sized.makes.size(); ++k)
        all.push_back(makeFit(part, part.makes[k], sized.makes[k], sized));
    return all;
}

}  // namespace punch
