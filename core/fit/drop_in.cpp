#include "core/fit/drop_in.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>
#include <set>
#include <thread>

#include "core/fit/best_seat.h"
#include "core/fit/random.h"
#include "core/measure/adjust.h"
#include "core/size/drill_lists.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

// What each draw of a trial is for; far enough apart that no two meet.
constexpr std::uint64_t kWander = 1000, kSize = 100000, kPlace = 200000, kSpread = 300000, kPasses = 400000,
                        kWorld = 500000;
constexpr double kNoClass = 1e9;

struct Quantity {
    double value = 0;           ///< mm, at the best estimate
    Eigen::VectorXd world;      ///< change for each standard normal of the doubt
    Eigen::VectorXd spread;     ///< change for each standardised draw of the spread
};

struct Lead {
    FeatureId id;
    std::size_t x = 0, y = 0, halfX = 0, halfY = 0;  ///< quantities
    enum class Section { Round, Oval, Corners } section = Section::Round;
    double c = 1, s = 0;  ///< cosine and sine of its turn
    bool pin = true;
    // Its hole.
    double hx = 0, hy = 0, sx = 0, sy = 0;
    double size = 0, tolerance = 0;  ///< finished diameter or width, least, and what it may be more
    bool plated = true;
    std::string group;  ///< formation or peg whose holes have one size
};

struct SpreadColumn {
    std::string name;
    bool uniform = false;
};

/// What is left out of the trials, and what is added to hole sizes.
struct Variant {
    bool wander = true, plated = true, bare = true, passes = true, place = true;
    int spread = -1;               ///< a column of the spread at nothing
    bool allPlated = false;        ///< `more` goes to every plated hole
    std::string group;             ///< or to this group's
    double more = 0;               ///< mm of diameter
    const std::vector<double>* values = nullptr;  ///< quantities of a world instead of the best estimate
};

}  // namespace

struct DropIn::Data {
    std::string why;
    std::vector<Quantity> quantities;
    std::vector<Lead> leads;
    std::vector<SpreadColumn> spreads;
    Eigen::Index worldSize = 0;
    double wander = 0, passes = 0, place = 0;
    bool bothPasses = false;
    double wanted = 0.999;
    std::vector<double> base;
    Rules rules;
    std::vector<std::pair<std::string, double>> groups;  ///< name and size now, formations first

    void seats(std::uint64_t seed, std::uint64_t trial, const Variant& v, std::vector<Seat>& out,
               std::vector<std::size_t>* owner = nullptr) const;
    int count(int trials, std::uint64_t seed, int threads, const Variant& v) const;
    LeastHole leastHole(const std::string& group, double now, int trials, std::uint64_t seed, int threads) const;
};

std::pair<double, double> wilson(int in, int trials) {
    if (trials <= 0) return {0, 1};
    const double z = kNinetyFive;
    const double n = trials;
    const double p = in / n;
    const double middle = (p + z * z / (2 * n)) / (1 + z * z / n);
    const double half = z / (1 + z * z / n) * std::sqrt(p * (1 - p) / n + z * z / (4 * n * n));
    return {in == 0 ? 0.0 : std::max(middle - half, 0.0), in == trials ? 1.0 : std::min(middle + half, 1.0)};
}

namespace {

/// Runs `work(from, to)` over pieces of [0, count).
template <class Work>
void spreadOver(int threads, int count, const Work& work) {
    if (threads <= 0) threads = std::max(1U, std::thread::hardware_concurrency());
    threads = std::clamp(threads, 1, 64);
    if (threads == 1 || count < 500) {
        work(0, 0, count);
        return;
    }
    std::vector<std::thread> pool;
    for (int t = 0; t < threads; ++t) {
        const auto at = [&](int k) { return static_cast<int>(static_cast<long long>(count) * k / threads); };
        pool.emplace_back([&work, t, from = at(t), to = at(t + 1)] { work(t, from, to); });
    }
    for (std::thread& t : pool) t.join();
}

/// The columns of the spread: readings that speak of one thing have one draw. By row of the Jacobian.
struct Spreads {
    std::vector<SpreadColumn> columns;
    std::vector<int> columnOf;       ///< by row; -1: none
    std::vector<double> perRow;      ///< spread over u
    std::vector<bool> doubtful;      ///< the row adds to the doubt of the kind
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
                          : fmt::format("{}|{}|{}|{}|{}", r.a, r.b, r.c, static_cast<int>(r.contact),
                                        static_cast<int>(r.axis));
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

DropIn::DropIn(const Part& part, const Adjustment& adjustment, const Footprint& f) : d_(std::make_unique<Data>()) {
    Data& d = *d_;
    d.rules = part.rules;
    d.wander = part.rules.fab.wander.mm();
    d.passes = part.rules.fab.passes.mm();
    d.place = part.rules.pinPlace.mm();
    d.wanted = part.rules.dropInWanted;
    const Spreads spreads = spreadsOf(part, adjustment);
    d.spreads = spreads.columns;
    const Eigen::MatrixXd& j = adjustment.jacobian();
    std::vector<Eigen::Index> worldRows;
    for (std::size_t row = 0; row < spreads.doubtful.size(); ++row)
        if (spreads.doubtful[row]) worldRows.push_back(static_cast<Eigen::Index>(row));
    d.worldSize = static_cast<Eigen::Index>(worldRows.size());
    const auto quantity = [&](const Expr& e) {
        Quantity q;
        q.value = e.value();
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
    std::map<std::string, std::pair<std::size_t, std::size_t>> halves;  // by formation
    const auto base = [&](const FeatureId& id, bool shared, const std::string& key) {
        const Feature& feature = adjustment.features().at(id);
        Lead lead;
        lead.id = id;
        lead.x = quantity(feature.x);
        lead.y = quantity(feature.y);
        if (!shared || !halves.contains(key)) halves[key] = {quantity(feature.halfX), quantity(feature.halfY)};
        std::tie(lead.halfX, lead.halfY) = halves[key];
        lead.section = feature.round ? Lead::Section::Round : Lead::Section::Corners;
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
    for (const Pad& p : f.pads) {
        if (p.hole <= Length()) continue;
        if (!p.firm) d.why = featureWords(part, p.id) + " is loose";
        else if (!p.sized) d.why = "the lead is not measured";
        if (!d.why.empty()) return;
        Lead lead = base(p.id, true, part.formations[p.formation].id);
        const Formation& formation = part.formations[p.formation];
        if (shapeOf(part, formation).lead == LeadShape::Oval) lead.section = Lead::Section::Oval;
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
    for (const BareHole& h : f.bareHoles) {
        if (h.kind == SpotKind::MountingHole) continue;
        if (!h.firm) d.why = h.name + " is loose";
        else if (!h.sized) d.why = h.name + " is not measured";
        if (!d.why.empty()) return;
        Lead lead = base(h.id, false, h.id);
        lead.pin = false;
        lead.plated = h.plated;
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
    for (const Lead& lead : d.leads)
        if (seen.insert(lead.group).second) d.groups.emplace_back(lead.group, lead.size);
}

DropIn::~DropIn() = default;
DropIn::DropIn(DropIn&&) noexcept = default;

const std::string& DropIn::why() const { return d_->why; }

void DropIn::Data::seats(std::uint64_t seed, std::uint64_t trial, const Variant& v, std::vector<Seat>& out,
                         std::vector<std::size_t>* owner) const {
    const Draw draw(seed, trial);
    out.clear();
    if (owner != nullptr) owner->clear();
    static thread_local std::vector<double> values;
    values = v.values != nullptr ? *v.values : base;
    for (std::size_t k = 0; k < spreads.size(); ++k) {
        if (static_cast<int>(k) == v.spread) continue;
        // Both laws have a standard deviation of one.
        const double by = spreads[k].uniform ? std::sqrt(3.0) * draw.symmetric(kSpread + k) : draw.normals(kSpread + k).first;
        for (std::size_t q = 0; q < values.size(); ++q) values[q] += quantities[q].spread[static_cast<Eigen::Index>(k)] * by;
    }
    double px = 0;
    double py = 0;
    if (bothPasses && v.passes && passes > 0) {
        const auto [a, b] = draw.normals(kPasses);
        px = passes * a;
        py = passes * b;
    }
    for (std::size_t i = 0; i < leads.size(); ++i) {
        const Lead& lead = leads[i];
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
        switch (lead.section) {
            case Lead::Section::Round: add(0, 0, size / 2 - a); break;
            case Lead::Section::Oval: {
                const double r = std::min(a, b);
                add(a - r, b - r, size / 2 - r);
                add(-(a - r), -(b - r), size / 2 - r);
                break;
            }
            case Lead::Section::Corners:
                for (const double sx : {1.0, -1.0})
                    for (const double sy : {1.0, -1.0}) add(sx * a, sy * b, size / 2);
        }
    }
}

int DropIn::Data::count(int trials, std::uint64_t seed, int threads, const Variant& v) const {
    std::vector<int> in(64, 0);
    spreadOver(threads, trials, [&](int thread, int from, int to) {
        std::vector<Seat> seats_;
        int n = 0;
        for (int t = from; t < to; ++t) {
            seats(seed, static_cast<std::uint64_t>(t), v, seats_);
            n += goesIn(seats_) ? 1 : 0;
        }
        in[static_cast<std::size_t>(thread)] = n;
    });
    int all = 0;
    for (const int n : in) all += n;
    return all;
}

double DropIn::spare(std::uint64_t seed, std::uint64_t trial) const {
    std::vector<Seat> seats;
    d_->seats(seed, trial, {}, seats);
    return bestSeat(seats).spare;
}

namespace {

DropInShare shareOf(int in, int trials, bool spreadKnown) {
    DropInShare s;
    s.known = true;
    s.trials = trials;
    s.in = in;
    s.share = trials > 0 ? static_cast<double>(in) / trials : 0;
    std::tie(s.low, s.high) = wilson(in, trials);
    s.spreadKnown = spreadKnown;
    return s;
}

}  // namespace

DropInShare DropIn::share(int trials, std::uint64_t seed, int threads) const {
    if (!d_->why.empty()) {
        DropInShare s;
        s.why = d_->why;
        return s;
    }
    return shareOf(d_->count(trials, seed, threads, {}), trials, !d_->spreads.empty() || d_->place > 0);
}

LeastHole DropIn::Data::leastHole(const std::string& group, double now, int trials, std::uint64_t seed,
                                  int threads) const {
    LeastHole result;
    result.about = group;
    result.now = Length::fromMm(now);
    // Sizes of the drill list around the one it has; a hole off the list goes in steps of 0.05.
    std::vector<double> steps;
    for (const Length& l : drillList(rules)) steps.push_back(l.mm() - now);
    if (steps.empty() || steps.back() < 0.5)
        for (int i = -20; i <= 20; ++i) steps.push_back(i * 0.05);
    std::sort(steps.begin(), steps.end());
    const auto passes_ = [&](double more) {
        Variant v;
        v.allPlated = group.empty();
        v.group = group.empty() ? "" : group;
        v.more = more;
        return count(trials, seed, threads, v) >= wanted * trials;
    };
    // More room never hurts, so the sizes that pass are the upper ones.
    auto low = std::lower_bound(steps.begin(), steps.end(), -0.6 * now);
    auto high = std::upper_bound(steps.begin(), steps.end(), 1.0);
    if (high == low || !passes_(*(high - 1))) return result;
    std::ptrdiff_t a = 0;
    std::ptrdiff_t b = high - low - 1;
    while (a < b) {
        const std::ptrdiff_t m = (a + b) / 2;
        if (passes_(*(low + m)))
            b = m;
        else
            a = m + 1;
    }
    result.least = Length::fromMm(now + *(low + b));
    return result;
}

DropInReport DropIn::report(const DropInOptions& options) const {
    const Data& d = *d_;
    DropInReport r;
    r.seed = options.seed;
    const int trials = std::max(options.trials, 1);
    if (!d.why.empty()) {
        r.share.why = d.why;
        return r;
    }
    std::vector<double> spare(static_cast<std::size_t>(trials), 0);
    std::vector<std::vector<int>> blame(64, std::vector<int>(d.leads.size(), 0));
    spreadOver(options.threads, trials, [&](int thread, int from, int to) {
        std::vector<Seat> seats;
        std::vector<std::size_t> owner;
        for (int t = from; t < to; ++t) {
            d.seats(options.seed, static_cast<std::uint64_t>(t), {}, seats, &owner);
            // A nanometre is enough for a histogram; whether it is more or less than nothing is made sure.
            BestSeat best = bestSeat(seats, 1e-6);
            if (std::abs(best.spare) < 3e-6) best = bestSeat(seats, 1e-9);
            spare[static_cast<std::size_t>(t)] = best.spare;
            if (best.spare >= 0) continue;
            double least = kNoClass;
            std::size_t who = 0;
            for (std::size_t i = 0; i < seats.size(); ++i) {
                const Seat& s = seats[i];
                const double x = s.x + best.shiftX - best.turn * s.y - s.hx;
                const double y = s.y + best.shiftY + best.turn * s.x - s.hy;
                const double len2 = s.sx * s.sx + s.sy * s.sy;
                const double along = len2 > 0 ? std::clamp((x * s.sx + y * s.sy) / len2, -1.0, 1.0) : 0;
                const double room = s.room - std::hypot(x - along * s.sx, y - along * s.sy);
                if (room < least) {
                    least = room;
                    who = owner[i];
                }
            }
            ++blame[static_cast<std::size_t>(thread)][who];
        }
    });
    const int in = static_cast<int>(std::count_if(spare.begin(), spare.end(), [](double s) { return s >= 0; }));
    r.share = shareOf(in, trials, !d.spreads.empty() || d.place > 0);
    std::vector<int> all(d.leads.size(), 0);
    for (const auto& one : blame)
        for (std::size_t i = 0; i < all.size(); ++i) all[i] += one[i];
    if (in < trials)
        r.tightest = d.leads[static_cast<std::size_t>(std::max_element(all.begin(), all.end()) - all.begin())].id;
    std::sort(spare.begin(), spare.end());
    r.least = spare.front();
    r.most = spare.back();
    r.middle = spare[spare.size() / 2];
    // Classes of a round width, about two dozen of them.
    const double span = std::max(r.most - r.least, 1e-6);
    double width = std::pow(10, std::floor(std::log10(span / 24)));
    for (const double m : {1.0, 2.0, 5.0, 10.0})
        if (span / (width * m) <= 30) {
            width *= m;
            break;
        }
    r.histogramStep = width;
    r.histogramFrom = std::floor(r.least / width) * width;
    r.histogram.assign(static_cast<std::size_t>(std::floor((r.most - r.histogramFrom) / width)) + 1, 0);
    for (const double s : spare) {
        const auto k = static_cast<std::size_t>(std::max((s - r.histogramFrom) / width, 0.0));
        ++r.histogram[std::min(k, r.histogram.size() - 1)];
    }

    if (options.band) {
        const int worlds = std::max(options.worlds, 1);
        const int each = std::min(trials, std::max(trials / worlds, 1000));
        // All worlds have the same few trials; how these differ from all of them at the best estimate is taken off.
        const double off = r.share.share - static_cast<double>(d.count(each, options.seed, options.threads, {})) / each;
        std::vector<double> shares;
        for (int w = 0; w < worlds; ++w) {
            const Draw draw(options.seed, static_cast<std::uint64_t>(w) + (1ULL << 48));
            Eigen::VectorXd z(d.worldSize);
            for (Eigen::Index k = 0; k < d.worldSize; ++k)
                z[k] = draw.normals(kWorld + static_cast<std::uint64_t>(k)).first;
            std::vector<double> values = d.base;
            for (std::size_t q = 0; q < values.size(); ++q) values[q] += d.quantities[q].world.dot(z);
            Variant v;
            v.values = &values;
            const double share = static_cast<double>(d.count(each, options.seed, options.threads, v)) / each;
            shares.push_back(std::clamp(share + off, 0.0, 1.0));
        }
        std::sort(shares.begin(), shares.end());
        const auto at = [&](double q) {
            const double k = q * static_cast<double>(shares.size() - 1);
            const auto i = static_cast<std::size_t>(k);
            const auto next = std::min(i + 1, shares.size() - 1);
            return shares[i] + (k - static_cast<double>(i)) * (shares[next] - shares[i]);
        };
        r.bandLow = at(0.05);
        r.bandHigh = at(0.95);
    }

    if (options.costs) {
        const auto without = [&](const std::string& name, const Variant& v) {
            const double share = static_cast<double>(d.count(trials, options.seed, options.threads, v)) / trials;
            r.costs.push_back({name, share, share - r.share.share});
        };
        Variant v;
        if (d.wander > 0) {
            v.wander = false;
            without("place of the holes", v);
            v = {};
        }
        if (d.bothPasses && d.passes > 0) {
            v.passes = false;
            without("bare against plated holes", v);
            v = {};
        }
        if (d.place > 0) {
            v.place = false;
            without("place of the pins in the part", v);
            v = {};
        }
        if (std::any_of(d.leads.begin(), d.leads.end(), [](const Lead& l) { return l.plated; })) {
            v.plated = false;
            without("size of the plated holes", v);
            v = {};
        }
        if (std::any_of(d.leads.begin(), d.leads.end(), [](const Lead& l) { return !l.plated; })) {
            v.bare = false;
            without("size of the bare holes", v);
            v = {};
        }
        for (std::size_t k = 0; k < d.spreads.size(); ++k) {
            v.spread = static_cast<int>(k);
            without(d.spreads[k].name, v);
        }
        std::stable_sort(r.costs.begin(), r.costs.end(),
                         [](const ToleranceCost& a, const ToleranceCost& b) { return a.cost > b.cost; });
    }

    if (options.holes) {
        const bool plated = std::any_of(d.leads.begin(), d.leads.end(), [](const Lead& l) { return l.plated; });
        const int some = std::min(trials, 20000);
        if (plated) r.holes.push_back(d.leastHole("", d.groups.front().second, some, options.seed, options.threads));
        if (d.groups.size() > 1)
            for (const auto& [name, size] : d.groups)
                r.holes.push_back(d.leastHole(name, size, some, options.seed, options.threads));
    }
    return r;
}

DropInReport dropIn(const Part& part, Footprint& footprint, const DropInOptions& options) {
    const Adjustment adjustment(part);
    DropInReport report = DropIn(part, adjustment, footprint).report(options);
    footprint.dropIn = report.share;
    setDropInGauge(part, footprint);
    return report;
}

}  // namespace punch
