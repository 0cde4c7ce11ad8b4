#include "core/fit/standing_solid.h"

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/base/find_in.h"
#include "core/geometry/shapes.h"
#include "core/solid/flat_fit.h"
#include "core/solid/lead_slices.h"

namespace punch {

PUNCH_VALUE_IS_HERE(StandingSolid)
namespace {

struct HoleOf {
    FeatureId id;
    std::string name;
    Point at;
    RoundedPolygon least;
    bool sized = false, firm = false, peg = false, through = true;
};

std::vector<HoleOf> holesOf(const Sized& sized) {
    std::vector<HoleOf> all;
    for (const Pad& p : sized.pads)
        if (p.hole > Length()) all.push_back({p.id, p.number, p.at, holeShape(p, false), p.sized, p.firm, false, true});
    for (const BareHole& h : sized.bareHoles)
        if (takesOwn(h) && h.size > Length())
            all.push_back({h.id, h.name, h.at, holeShape(h, false), h.sized, h.firm, true, true});
    return all;
}

/// How far a place lies within a hole's wall.
double within(const RoundedPolygon& hole, Point p) {
    const RoundedPolygon core{hole.corners, Length()}, place{{p}, Length()};
    return (hole.radius - gap(core, place)).mm();
}

/// The least distance of a section's edge from the wall, its middle there.
double gapOf(const SolidLeadFound& lead, double turn, Point at, const RoundedPolygon& hole) {
    if (lead.round) return within(hole, at) - lead.along / 2;
    const double a = (lead.turn + turn) * std::numbers::pi / 180, c = std::cos(a), s = std::sin(a);
    double least = 1e9;
    for (const auto& [i, k] :
         {std::pair(-0.5, -0.5), std::pair(0.5, -0.5), std::pair(0.5, 0.5), std::pair(-0.5, 0.5)}) {
        const double x = i * lead.along, y = k * lead.across;
        least =
            std::min(least, within(hole, {at.x + Length::fromMm(c * x - s * y), at.y + Length::fromMm(s * x + c * y)}));
    }
    return least;
}

Flatly placeOf(const SolidFile& s) {
    const double a = s.turn * std::numbers::pi / 180;
    return {std::cos(a), std::sin(a), s.x, s.y};
}

Point pointOf(Flat p) { return {Length::fromMm(p.x), Length::fromMm(p.y)}; }
Flat flatOf(Point p) { return {p.x.mm(), p.y.mm()}; }

StandingSolid stood(const SolidFile& file, const Part& part, const std::vector<HoleOf>& holes) {
    StandingSolid s;
    s.id = file.id;
    s.name = file.name;
    s.height = Length::fromMm(file.height);
    s.lift = Length::fromMm(file.lift);
    Flatly place = placeOf(file);
    // Those that have a hole say where it stands.
    std::vector<Flat> from, to;
    std::vector<std::size_t> which;
    for (std::size_t i = 0; i < file.leads.size(); ++i)
        if (const HoleOf* h = findIn(holes, [&](const HoleOf& of) { return of.id == file.leads[i].of; })) {
            from.push_back({file.leads[i].x, file.leads[i].y});
            to.push_back(flatOf(h->at));
            which.push_back(i);
        }
    std::vector<bool> counted(from.size(), true);
    if (from.size() >= 2) {
        FlatFit fit;
        if (file.byLeads) {
            fit = settled(fitted(from, to, std::vector<double>(from.size(), 1)), from, to);
            place = fit.place;
        } else {
            std::vector<double> off;
            for (std::size_t i = 0; i < from.size(); ++i) off.push_back(far(place(from[i]), to[i]));
            for (const double d : off) fit.counted.push_back(d <= offLimit(off));
        }
        counted = fit.counted;
        s.sure = from.size() >= 4 && fit.count() >= 3 && 2 * fit.count() > from.size();
    } else if (from.size() == 1 && file.byLeads) {
        const Flat at = place(from.front());
        place.x += to.front().x - at.x;
        place.y += to.front().y - at.y;
    }
    s.turn = std::atan2(place.s, place.c) * 180 / std::numbers::pi;
    Pose board{{place.c, place.s, 0}, {-place.s, place.c, 0}, {0, 0, 1}, {place.x, place.y, file.lift}};
    s.pose = after(board, standingPose(file));
    std::vector<Point> ring;
    for (const auto& p : file.outline) ring.push_back(pointOf(place({p[0], p[1]})));
    if (ring.size() > 2) s.outline = united({ring});
    const auto areaOf = [&](const std::vector<std::vector<std::array<double, 2>>>& rings) {
        Polygons area;
        for (const auto& r : rings) {
            auto& laid = area.emplace_back();
            for (const auto& p : r) laid.push_back(pointOf(place({p[0], p[1]})));
        }
        return area;
    };
    for (const SolidShadow& shadow : file.shadows)
        s.shadows.push_back(
            {Length::fromMm(shadow.low + file.lift), Length::fromMm(shadow.high + file.lift), areaOf(shadow.rings)});
    for (const SolidMotion& m : file.motions)
        s.motions.push_back({m.name, areaOf(m.swept), Length::fromMm(m.low + file.lift),
                             Length::fromMm(m.high + file.lift), m.motion.turns, m.touches});
    const double board_ = part.rules.boardThickness.mm();
    for (std::size_t i = 0; i < file.leads.size(); ++i) {
        const SolidLeadFound& l = file.leads[i];
        StandingLead lead;
        lead.index = i;
        lead.at = pointOf(place({l.x, l.y}));
        lead.past = Length::fromMm(l.length - file.lift - board_);
        const auto known = std::find(which.begin(), which.end(), i);
        const HoleOf* hole = nullptr;
        if (known != which.end()) {
            hole = findIn(holes, [&](const HoleOf& of) { return of.id == l.of; });
            lead.counted = counted[static_cast<std::size_t>(known - which.begin())];
        }
        if (hole != nullptr) {
            lead.of = hole->id;
            lead.name = hole->name;
            lead.peg = hole->peg;
            lead.off = distance(lead.at, hole->at);
            // Through the whole board, or as far as it reaches into it.
            const auto passing = between(l.slices, std::max(file.lift, 0.0), board_ + file.lift);
            double worst = 1e9;
            for (const LeadSlice& section : passing)
                for (const auto& p : section.corners)
                    worst = std::min(worst, within(hole->least, pointOf(place({p[0], p[1]}))) - section.radius);
            // Where it enters and where it leaves the board, or ends in it; its middle was taken between.
            const double deep = std::min(l.length, board_), middle = std::min(0.8, l.length / 2);
            for (const double z : {0.0, deep}) {
                if (!passing.empty()) break;
                const double k = l.length > 0 ? (z - middle) / l.length : 0;
                const Flat at = place({l.x + k * l.leanX, l.y + k * l.leanY});
                worst = std::min(worst, gapOf(l, s.turn, pointOf(at), hole->least));
            }
            if (hole->sized) lead.gap = Length::fromMm(worst);
        }
        s.leads.push_back(std::move(lead));
    }
    for (const HoleOf& h : holes) s.firm = s.firm && h.firm;
    for (const HoleOf& h : holes)
        if (!h.peg && std::none_of(s.leads.begin(), s.leads.end(), [&](const StandingLead& l) { return l.of == h.id; }))
            s.without.push_back(h.id);
    return s;
}

}  // namespace

std::vector<Socket> socketsOf(const Sized& sized) {
    std::vector<Socket> all;
    for (const HoleOf& h : holesOf(sized)) {
        // Where a loose hole is drawn nothing is to be stood on.
        if (!h.firm) continue;
        const Rect box = boundsOf(h.least);
        all.push_back({h.id, h.name, flatOf(h.at), h.sized ? max(box.width(), box.height()).mm() : 0.0});
    }
    return all;
}

SolidFile placedBy(SolidFile found, const FittedPose& pose, const std::vector<Socket>& sockets) {
    for (SolidLeadFound& l : found.leads) l.of.clear();
    for (const LeadMatch& m : pose.matches)
        if (m.lead < found.leads.size()) found.leads[m.lead].of = sockets[m.socket].id;
    const Pose board = after(pose.pose, inverse(standingPose(found)));
    found.turn = pose.turn;
    found.x = board.move.x;
    found.y = board.move.y;
    found.lift = 0;
    found.byLeads = true;
    return found;
}

std::vector<StandingSolid> standingSolids(const Part& part, const Sized& sized) {
    std::vector<StandingSolid> all;
    if (part.solids.empty()) return all;
    const std::vector<HoleOf> holes = holesOf(sized);
    for (const SolidFile& file : part.solids) all.push_back(stood(file, part, holes));
    return all;
}

}  // namespace punch
