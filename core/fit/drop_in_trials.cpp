// Drop-in: from a part and its footprint to what the trials draw, and the seats of one trial.

#include "core/fit/drop_in_trials.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <tuple>

#include "core/fit/random.h"
#include "core/measure/adjust.h"

namespace punch {
namespace {

/// The columns of the spread: readings that speak of one thing have one draw. By row of the Jacobian.
struct Spreads {
    std::vector<SpreadColumn> columns;
    std::vector<int> columnOf;   ///< by row; -1: none
    std::vector<double> perRow;  ///< spread over u
    std::vector<bool> doubtful;  ///< the row adds to the doubt of the kind
};

Spreads spreadsOf(const Part& part, const Adjustment& adjustment) {
    Spreads s;
    std::map<std::string, int> byContact;
    const std::size_t letters = adjustment.model().letterValues().size();
    for (const int reading : adjustment.rows()) {
        int column = -1;
        double share = 0;
        bool doubt = true;
        if (reading < 0) {
            // A letter's value is a drawing's; what is known of a picture's scale says nothing of parts.
            const auto known = static_cast<std::size_t>(-1 - reading);
            if (known < letters) {
                column = static_cast<int>(s.columns.size());
                const auto& letter = adjustment.model().letterValues()[known];
                s.columns.push_back(
                    {adjustment.model().parameters()[static_cast<std::size_t>(letter.parameter)].words, true});
                share = 1;
                doubt = false;
            }
        } else {
            const Reading& r = part.readings[static_cast<std::size_t>(reading)];
            const ReadingStats& stats = adjustment.readings()[static_cast<std::size_t>(reading)].stats;
            if (stats.spread > 0) {
                const bool drawn = stats.specimens == 0;
                const std::string key =
                    drawn ? r.id
                          : fmt::format("{}|{}|{}|{}|{}|{}", r.a, r.b, r.c, static_cast<int>(r.contact),
                                        static_cast<int>(r.axis), r.atEnd);
                const auto [it, fresh] = byContact.emplace(key, static_cast<int>(s.columns.size()));
                if (fresh) s.columns.push_back({readingWords(part, r), drawn});
                column = it->second;
                share = stats.u > 0 ? stats.spread / stats.u : 0;
                doubt = !drawn;
            }
        }
        s.columnOf.push_back(column);
        s.perRow.push_back(share);
        s.doubtful.push_back(doubt);
    }
    return s;
}

}  // namespace

DropIn::DropIn(const Part& part, const Adjustment& adjustment, const Sized& sized, const Way* way)
    : d_(std::make_unique<Data>()) {
    Data& d = *d_;
    d.otherPart = way != nullptr;
    d.rules = part.rules;
    d.wander = part.rules.fab.wander.mm();
    d.passes = part.rules.fab.passes.mm();
    d.place = part.rules.pinPlace.mm();
    d.wanted = part.rules.dropInWanted;
    const Spreads spreads = spreadsOf(part, adjustment);
    d.spreads = spreads.columns;
    const SparseRows& j = adjustment.jacobian();
    std::vector<Eigen::Index> worldRows;
    for (std::size_t row = 0; row < spreads.doubtful.size(); ++row)
        if (spreads.doubtful[row]) worldRows.push_back(static_cast<Eigen::Index>(row));
    d.worldSize = static_cast<Eigen::Index>(worldRows.size());
    const auto quantity = [&](const Expr& e) {
        Quantity q;
        q.value = e.value() + (way != nullptr ? Adjustment::change(e, *way) : 0.0);
        q.world = Eigen::VectorXd::Zero(d.worldSize);
        q.spread = Eigen::VectorXd::Zero(static_cast<Eigen::Index>(d.spreads.size()));
        if (j.rows() > 0 && !e.gradient().empty()) {
            // A reading off by its u moves the value by the row of J C g.
            Eigen::VectorXd cg = Eigen::VectorXd::Zero(adjustment.covariances().rows());
            for (const auto& [index, by] : e.gradient()) cg += by * adjustment.covariances().col(index);
            const Eigen::VectorXd gain = j * cg;
            for (Eigen::Index k = 0; k < d.worldSize; ++k) q.world[k] = gain[worldRows[static_cast<std::size_t>(k)]];
            for (std::size_t row = 0; row < spreads.columnOf.size(); ++row)
                if (spreads.columnOf[row] >= 0)
                    q.spread[spreads.columnOf[row]] += gain[static_cast<Eigen::Index>(row)] * spreads.perRow[row];
        }
        d.quantities.push_back(std::move(q));
        return d.quantities.size() - 1;
    };
    std::map<std::string, std::pair<std::size_t, std::size_t>> halves, ends;  // by formation
    const auto base = [&](const FeatureId& id, bool shared, const std::string& key) {
        const Feature& feature = adjustment.features().at(id);
        TrialLead lead;
        lead.id = id;
        lead.x = quantity(feature.x);
        lead.y = quantity(feature.y);
        if (!shared || !halves.contains(key)) halves[key] = {quantity(feature.halfX), quantity(feature.halfY)};
        std::tie(lead.halfX, lead.halfY) = halves[key];
        lead.section = feature.round ? TrialLead::Section::Round : TrialLead::Section::Corners;
        if (feature.turn) {
            const double t = Angle::fromDegrees(feature.turn->value()).radians();
            lead.c = std::cos(t);
            lead.s = std::sin(t);
        }
        // The board is made after the best estimate.
        lead.hx = feature.x.value();
        lead.hy = feature.y.value();
        lead.group = key;
        return lead;
    };
    for (const Pad& p : sized.pads) {
        if (p.hole <= Length()) continue;
        if (!p.firm)
            d.why = featureWords(part, p.id) + " is loose";
        else if (!p.sized)
            d.why = "the lead is not measured";
        if (!d.why.empty()) return;
        TrialLead lead = base(p.id, true, part.formations[p.formation].id);
        const Formation& formation = part.formations[p.formation];
        if (shapeOf(part, formation).lead == LeadShape::Oval) lead.section = TrialLead::Section::Oval;
        if (shapeOf(part, formation).end == LeadEnd::Formed) {
            const Feature& feature = adjustment.features().at(p.id);
            if (!ends.contains(formation.id)) ends[formation.id] = {quantity(*feature.endX), quantity(*feature.endY)};
            std::tie(lead.endX, lead.endY) = ends[formation.id];
            lead.formed = true;
        }
        d.holesElsewhere = d.holesElsewhere || p.off != Point{};
        lead.hx += p.off.x.mm();
        lead.hy += p.off.y.mm();
        lead.size = p.hole.mm();
        lead.tolerance = (p.holeLargest - p.hole).mm();
        if (p.slotLength > Length()) {
            const double half = (p.slotLength - p.hole).mm() / 2;
            lead.sx = half * std::cos(p.slotTurn.radians());
            lead.sy = half * std::sin(p.slotTurn.radians());
        }
        d.leads.push_back(lead);
    }
    bool plated = !d.leads.empty();
    bool bare = false;
    for (const BareHole& h : sized.bareHoles) {
        if (!takesOwn(h)) continue;
        if (!h.firm)
            d.why = h.name + " is loose";
        else if (!h.sized)
            d.why = h.name + " is not measured";
        if (!d.why.empty()) return;
        TrialLead lead = base(h.id, false, h.id);
        lead.pin = false;
        lead.plated = h.plated;
        d.holesElsewhere = d.holesElsewhere || h.off != Point{};
        lead.hx += h.off.x.mm();
        lead.hy += h.off.y.mm();
        if (h.slotLength > Length()) {
            const double half = (h.slotLength - h.size).mm() / 2;
            lead.sx = half * std::cos(h.slotTurn.radians());
            lead.sy = half * std::sin(h.slotTurn.radians());
        }
        lead.size = h.size.mm();
        lead.tolerance = (h.sizeLargest - h.size).mm();
        d.leads.push_back(lead);
        bare = bare || !h.plated;
        plated = plated || h.plated;
    }
    d.bothPasses = plated && bare;
    if (d.leads.empty()) d.why = "no lead goes through the board";
    for (const Quantity& q : d.quantities) d.base.push_back(q.value);
    std::set<std::string> seen;
    for (const TrialLead& lead : d.leads)
        if (seen.insert(lead.group).second) d.groups.emplace_back(lead.group, lead.size);
}

void DropIn::Data::drawValues(const Draw& draw, const TrialVariant& v, std::vector<double>& values) const {
    values = v.values != nullptr ? *v.values : base;
    for (std::size_t k = 0; k < spreads.size(); ++k) {
        if (static_cast<int>(k) == v.spread) continue;
        // Both laws have a standard deviation of one.
        const double by =
            spreads[k].uniform ? std::sqrt(3.0) * draw.symmetric(kSpread + k) : draw.normals(kSpread + k).first;
        for (std::size_t q = 0; q < values.size(); ++q)
            values[q] += quantities[q].spread[static_cast<Eigen::Index>(k)] * by;
    }
}

bool DropIn::Data::surelyIn(std::uint64_t seed, std::uint64_t trial, const TrialVariant& v) const {
    const Draw draw(seed, trial);
    const std::vector<double>* values = v.values != nullptr ? v.values : &base;
    static thread_local std::vector<double> drawn;
    if (!spreads.empty()) {
        drawValues(draw, v, drawn);
        values = &drawn;
    }
    double mx = 0;
    double my = 0;
    const bool moved = otherPart || holesElsewhere || values != &base;
    if (moved) {
        for (const TrialLead& lead : leads) {
            mx += (*values)[lead.x] - lead.hx;
            my += (*values)[lead.y] - lead.hy;
        }
        mx /= static_cast<double>(leads.size());
        my /= static_cast<double>(leads.size());
    }
    double shift = 0;
    if (bothPasses && v.passes && passes > 0) shift = passes * draw.radius(kPasses);
    for (std::size_t i = 0; i < leads.size(); ++i) {
        const TrialLead& lead = leads[i];
        double size = lead.size;
        if (v.allPlated ? lead.plated : lead.group == v.group) size += v.more;
        const double a = std::max((*values)[lead.halfX], 0.0);
        const double b = std::max((*values)[lead.halfY], 0.0);
        double room = size / 2;
        double reach = 0;
        switch (lead.section) {
            case TrialLead::Section::Round: room -= a; break;
            case TrialLead::Section::Oval:
                room -= std::min(a, b);
                reach = std::abs(a - b);
                break;
            case TrialLead::Section::Corners: reach = std::hypot(a, b); break;
        }
        if (lead.formed)
            room = std::min(room - reach, size / 2 - std::hypot(std::max((*values)[lead.endX], 0.0),
                                                                std::max((*values)[lead.endY], 0.0)));
        else
            room -= reach;
        // A slot's middle line holds the lead's corners nearer; that is left to the seats.
        if (moved) room -= std::hypot((*values)[lead.x] - lead.hx - mx, (*values)[lead.y] - lead.hy - my);
        if (place > 0 && v.place && lead.pin) room -= place * std::sqrt(2.0);
        if (!lead.plated) room -= shift;
        if (room < 0) return false;
        if (wander > 0 && v.wander && wander * draw.radius(kWander + i) > room) return false;
    }
    return true;
}

void DropIn::Data::seats(std::uint64_t seed, std::uint64_t trial, const TrialVariant& v, std::vector<Seat>& out,
                         std::vector<std::size_t>* owner) const {
    const Draw draw(seed, trial);
    out.clear();
    if (owner != nullptr) owner->clear();
    static thread_local std::vector<double> values;
    drawValues(draw, v, values);
    double px = 0;
    double py = 0;
    if (bothPasses && v.passes && passes > 0) {
        const auto [a, b] = draw.normals(kPasses);
        px = passes * a;
        py = passes * b;
    }
    for (std::size_t i = 0; i < leads.size(); ++i) {
        const TrialLead& lead = leads[i];
        double x = values[lead.x];
        double y = values[lead.y];
        if (place > 0 && v.place && lead.pin) {
            x += place * draw.symmetric(kPlace + 2 * i);
            y += place * draw.symmetric(kPlace + 2 * i + 1);
        }
        Seat seat;
        seat.hx = lead.hx;
        seat.hy = lead.hy;
        seat.sx = lead.sx;
        seat.sy = lead.sy;
        if (wander > 0 && v.wander) {
            const auto [a, b] = draw.normals(kWander + i);
            seat.hx += wander * a;
            seat.hy += wander * b;
        }
        if (!lead.plated) {
            seat.hx += px;
            seat.hy += py;
        }
        const bool vary = lead.plated ? v.plated : v.bare;
        double size = lead.size + lead.tolerance * (vary ? draw.uniform(kSize + i) : 0.5);
        if (v.allPlated ? lead.plated : lead.group == v.group) size += v.more;
        const double a = std::max(values[lead.halfX], 0.0);
        const double b = std::max(values[lead.halfY], 0.0);
        const auto add = [&](double dx, double dy, double room) {
            seat.x = x + lead.c * dx - lead.s * dy;
            seat.y = y + lead.s * dx + lead.c * dy;
            seat.room = room;
            out.push_back(seat);
            if (owner != nullptr) owner->push_back(i);
        };
        const auto addCorners = [&](double dx, double dy) {
            for (const double sx : {1.0, -1.0})
                for (const double sy : {1.0, -1.0}) add(sx * dx, sy * dy, size / 2);
        };
        if (lead.formed) addCorners(std::max(values[lead.endX], 0.0), std::max(values[lead.endY], 0.0));
        switch (lead.section) {
            case TrialLead::Section::Round: add(0, 0, size / 2 - a); break;
            case TrialLead::Section::Oval: {
                const double r = std::min(a, b);
                add(a - r, b - r, size / 2 - r);
                add(-(a - r), -(b - r), size / 2 - r);
                break;
            }
            case TrialLead::Section::Corners: addCorners(a, b);
        }
    }
}

}  // namespace punch
