#include "core/fit/turned_in.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <optional>

#include "core/base/angle.h"

namespace punch {
namespace {

constexpr double kRoughly = 0.4;  // mm, by which a first pairing may be off
constexpr double kSlotTurn = 4;   // degrees that a blade may stand askew in its slot
constexpr double kSame = 1e-3;    // degrees, between ways that are one

struct V {
    double x = 0, y = 0;
};

/// Places by cells, so that thousands of them are looked up quickly.
class Near {
public:
    explicit Near(const std::vector<V>& places) : places_(places) {
        for (std::size_t i = 0; i < places.size(); ++i) cells_[cell(places[i])].push_back(i);
    }
    std::optional<std::size_t> nearest(V p, double within) const {
        std::optional<std::size_t> best;
        double least = within;
        const auto [cx, cy] = cell(p);
        for (int dx = -1; dx <= 1; ++dx)
            for (int dy = -1; dy <= 1; ++dy) {
                const auto it = cells_.find({cx + dx, cy + dy});
                if (it == cells_.end()) continue;
                for (const std::size_t i : it->second) {
                    const double d = std::hypot(places_[i].x - p.x, places_[i].y - p.y);
                    if (d <= least) {
                        least = d;
                        best = i;
                    }
                }
            }
        return best;
    }

private:
    static std::pair<long, long> cell(V p) { return {std::lround(p.x / kRoughly), std::lround(p.y / kRoughly)}; }
    const std::vector<V>& places_;
    std::map<std::pair<long, long>, std::vector<std::size_t>> cells_;
};

V mapped(V p, bool mirrored, double angle) {
    const double y = mirrored ? -p.y : p.y, c = std::cos(angle), s = std::sin(angle);
    return {c * p.x - s * y, s * p.x + c * y};
}

/// Does the lead go into the hole when its middle stands `off` mm beside the hole's?
bool goesIn(const LeadAndHole& lead, const LeadAndHole& hole, double off, bool mirrored, double degrees) {
    const double spare = 2 * off;
    if (lead.onSurface != hole.onSurface) return false;
    if (!hole.isSlot()) return lead.across.mm() <= hole.holeWidth.mm() - spare + 1e-6;
    if (!lead.isSlot()) return lead.across.mm() <= hole.holeWidth.mm() - spare + 1e-6;
    const double turn = (mirrored ? -lead.slotTurn : lead.slotTurn) + degrees;
    if (std::abs(std::remainder(turn - hole.slotTurn, 180)) > kSlotTurn) return false;
    return lead.thick.mm() <= hole.holeWidth.mm() - spare + 1e-6 &&
           lead.wide.mm() <= hole.holeLength.mm() - spare + 1e-6;
}

}  // namespace

Point OtherWay::map(Point p) const {
    const V d{(p.x - about.x).mm(), (p.y - about.y).mm()};
    const V to = mapped(d, mirrored, (mirrored ? 2 * degrees : degrees) * kPi / 180);
    return {about.x + Length::fromMm(to.x), about.y + Length::fromMm(to.y)};
}

std::vector<OtherWay> otherWays(const std::vector<LeadAndHole>& seats) {
    const std::size_t n = seats.size();
    if (n < 2) return {};
    V lead, hole;
    for (const LeadAndHole& s : seats) {
        lead.x += s.lead.x.mm() / static_cast<double>(n);
        lead.y += s.lead.y.mm() / static_cast<double>(n);
        hole.x += s.hole.x.mm() / static_cast<double>(n);
        hole.y += s.hole.y.mm() / static_cast<double>(n);
    }
    std::vector<V> leads, holes;
    for (const LeadAndHole& s : seats) {
        leads.push_back({s.lead.x.mm() - lead.x, s.lead.y.mm() - lead.y});
        holes.push_back({s.hole.x.mm() - hole.x, s.hole.y.mm() - hole.y});
    }
    const auto far = [](V v) { return std::hypot(v.x, v.y); };
    // The lead with the fewest holes as far from the middle as it, of those that stand well beside it.
    double most = 0;
    for (const V& v : leads) most = std::max(most, far(v));
    if (most < kRoughly) return {};
    std::vector<double> radii;
    for (const V& v : holes) radii.push_back(far(v));
    std::sort(radii.begin(), radii.end());
    std::size_t reference = 0, fewest = n + 1;
    for (std::size_t i = 0; i < n; ++i) {
        const double r = far(leads[i]);
        if (r < 0.5 * most) continue;
        const auto count = static_cast<std::size_t>(std::upper_bound(radii.begin(), radii.end(), r + kRoughly) -
                                                    std::lower_bound(radii.begin(), radii.end(), r - kRoughly));
        if (count < fewest) {
            fewest = count;
            reference = i;
        }
    }
    const Near near(holes);
    std::vector<OtherWay> ways;
    for (const bool mirrored : {false, true})
        for (std::size_t k = 0; k < n; ++k) {
            if (std::abs(far(holes[k]) - far(leads[reference])) > kRoughly) continue;
            double angle = std::atan2(holes[k].y, holes[k].x) -
                           std::atan2(mirrored ? -leads[reference].y : leads[reference].y, leads[reference].x);
            // Pairs by this turn; then the turn by all pairs.
            std::vector<std::size_t> to(n);
            std::vector<bool> taken(n);
            bool all = true;
            double sine = 0, cosine = 0;
            for (std::size_t i = 0; i < n && all; ++i) {
                const auto j = near.nearest(mapped(leads[i], mirrored, angle), kRoughly);
                all = j && !taken[*j];
                if (!all) break;
                taken[*j] = true;
                to[i] = *j;
                const V from = mapped(leads[i], mirrored, 0);
                cosine += from.x * holes[*j].x + from.y * holes[*j].y;
                sine += from.x * holes[*j].y - from.y * holes[*j].x;
            }
            if (!all) continue;
            bool own = !mirrored;
            for (std::size_t i = 0; i < n && own; ++i) own = to[i] == i;
            if (own) continue;
            angle = std::atan2(sine, cosine);
            const double degrees = angle * 180 / kPi;
            for (std::size_t i = 0; i < n && all; ++i) {
                const V at = mapped(leads[i], mirrored, angle);
                const double off = std::hypot(at.x - holes[to[i]].x, at.y - holes[to[i]].y);
                all = goesIn(seats[i], seats[to[i]], off, mirrored, degrees);
            }
            if (!all) continue;
            OtherWay way;
            way.mirrored = mirrored;
            way.degrees = mirrored ? std::fmod(degrees / 2 + 360, 180) : degrees;
            way.about = {Length::fromMm(hole.x), Length::fromMm(hole.y)};
            const double full = mirrored ? 180 : 360;
            if (std::none_of(ways.begin(), ways.end(), [&](const OtherWay& o) {
                    return o.mirrored == mirrored && std::abs(std::remainder(o.degrees - way.degrees, full)) < kSame;
                }))
                ways.push_back(way);
        }
    return ways;
}

std::vector<LeadAndHole> leadsAndHoles(const Sized& sized) {
    std::vector<LeadAndHole> seats;
    const auto onSurface = [&](const Land& land) {
        LeadAndHole s;
        s.onSurface = true;
        s.lead = s.hole = land.at;
        s.holeWidth = min(land.width, land.length);
        s.holeLength = max(land.width, land.length);
        s.thick = s.across = s.holeWidth / 2;
        s.wide = s.holeLength / 2;
        s.slotTurn = land.turn.degrees() + (land.length > land.width ? 90 : 0);
        seats.push_back(s);
    };
    for (const Conductor& c : sized.attached.lands)
        if (isSurfaceLand(c)) onSurface(shownLand(c));
    for (const Pad& p : sized.pads) {
        if (p.hole <= Length()) {
            onSurface(shownLand(p));
            continue;
        }
        LeadAndHole s;
        s.lead = s.hole = p.at;
        s.wide = max(p.leadX, p.leadY);
        s.thick = min(p.leadX, p.leadY);
        s.across = p.leadRound ? s.wide : p.leadOval ? s.wide : hypot(p.leadX, p.leadY);
        s.holeWidth = p.holeLargest;
        s.holeLength = p.slotLength > Length() ? p.slotLength + (p.holeLargest - p.hole) : p.holeLargest;
        s.slotTurn = p.slotTurn.degrees();
        seats.push_back(s);
    }
    for (const BareHole& h : sized.bareHoles) {
        if (!takesOwn(h)) continue;
        LeadAndHole s;
        s.lead = s.hole = h.at;
        s.wide = h.peg.wide.mean;
        s.thick = h.peg.thick.mean;
        s.across = h.peg.across.mean;
        s.holeWidth = h.sizeLargest;
        s.holeLength = h.slotLength > Length() ? h.slotLength + (h.sizeLargest - h.size) : h.sizeLargest;
        s.slotTurn = h.slotTurn.degrees();
        seats.push_back(s);
    }
    return seats;
}

}  // namespace punch
