#include "core/fit/drop_in.h"

#include <fmt/format.h>

#include <algorithm>
#include <atomic>
#include <cmath>
#include <map>
#include <set>
#include <thread>

#include "core/fit/drop_in_trials.h"
#include "core/fit/random.h"
#include "core/measure/adjust.h"
#include "core/size/drill_lists.h"

namespace punch {
namespace {

constexpr double kNoClass = 1e9;

}  // namespace

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

}  // namespace

DropIn::~DropIn() = default;
DropIn::DropIn(DropIn&&) noexcept = default;
DropIn& DropIn::operator=(DropIn&&) noexcept = default;

DropIn worstDropIn(const Part& part, const Adjustment& adjustment, const Sized& sized) {
    DropIn worst(part, adjustment, sized);
    if (adjustment.ways().empty() || !worst.why().empty()) return worst;
    double least = worst.coarse(1).share;
    for (const Way& way : adjustment.ways()) {
        DropIn trial(part, adjustment, sized, &way);
        if (const double share = trial.coarse(1).share; share < least) {
            least = share;
            worst = std::move(trial);
        }
    }
    return worst;
}

const std::string& DropIn::why() const { return d_->why; }

int DropIn::Data::count(int trials, std::uint64_t seed, int threads, const TrialVariant& v) const {
    std::vector<int> in(64, 0);
    spreadOver(threads, trials, [&](int thread, int from, int to) {
        std::vector<Seat> seats_;
        int n = 0;
        for (int t = from; t < to; ++t) {
            n += goesInto(seed, static_cast<std::uint64_t>(t), v, seats_) ? 1 : 0;
        }
        in[static_cast<std::size_t>(thread)] = n;
    });
    int all = 0;
    for (const int n : in) all += n;
    return all;
}

bool DropIn::Data::enoughGoIn(int trials, std::uint64_t seed, int threads, const TrialVariant& v) const {
    const int mayFail = trials - static_cast<int>(std::ceil(wanted * trials - 1e-9));
    std::atomic<int> failed = 0;
    spreadOver(threads, trials, [&](int, int from, int to) {
        std::vector<Seat> seats_;
        // Once more have failed than may, the rest changes nothing.
        for (int t = from; t < to && failed <= mayFail; ++t)
            if (!goesInto(seed, static_cast<std::uint64_t>(t), v, seats_)) ++failed;
    });
    return failed <= mayFail;
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

DropInShare DropIn::coarse(std::uint64_t seed) const {
    if (!d_->why.empty()) return share(0, seed);
    // What a trial costs, in leads: finding the best seat is as dear as looking at some forty.
    constexpr double kDear = 40;
    constexpr double kMost = 4e5;
    constexpr int kLeast = 100;
    const auto leads = static_cast<double>(d_->leads.size());
    std::vector<Seat> seats;
    int in = 0;
    int trials = 0;
    for (double work = 0; trials < kCoarseTrials && (trials < kLeast || work < kMost); ++trials) {
        const auto t = static_cast<std::uint64_t>(trials);
        if (d_->surelyIn(seed, t, {})) {
            work += leads;
            ++in;
            continue;
        }
        work += kDear * leads;
        d_->seats(seed, t, {}, seats);
        in += goesIn(seats) ? 1 : 0;
    }
    return shareOf(in, trials, !d_->spreads.empty() || d_->place > 0);
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
        TrialVariant v;
        v.allPlated = group.empty();
        v.group = group.empty() ? "" : group;
        v.more = more;
        return enoughGoIn(trials, seed, threads, v);
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

namespace {

/// The seat with the least room where the part stands best.
std::size_t tightestOf(const std::vector<Seat>& seats, const BestSeat& best) {
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
            who = i;
        }
    }
    return who;
}

/// Classes of a round width, about two dozen of them. `spare` comes sorted.
void addHistogram(const std::vector<double>& spare, DropInReport& r) {
    r.least = spare.front();
    r.most = spare.back();
    r.middle = spare[spare.size() / 2];
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
}

}  // namespace

/// What 5 and 95 % of the worlds give.
void DropIn::addBand(const DropInOptions& options, int trials, DropInReport& r) const {
    const Data& d = *d_;
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
        TrialVariant v;
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

/// The share without each tolerance, the dearest first.
void DropIn::addCosts(const DropInOptions& options, int trials, DropInReport& r) const {
    const Data& d = *d_;
    const auto without = [&](const std::string& name, const TrialVariant& v) {
        const double share = static_cast<double>(d.count(trials, options.seed, options.threads, v)) / trials;
        r.costs.push_back({name, share, share - r.share.share});
    };
    TrialVariant v;
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
    if (std::any_of(d.leads.begin(), d.leads.end(), [](const TrialLead& l) { return l.plated; })) {
        v.plated = false;
        without("size of the plated holes", v);
        v = {};
    }
    if (std::any_of(d.leads.begin(), d.leads.end(), [](const TrialLead& l) { return !l.plated; })) {
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

void DropIn::addLeastHoles(const DropInOptions& options, int trials, DropInReport& r) const {
    const Data& d = *d_;
    const bool plated = std::any_of(d.leads.begin(), d.leads.end(), [](const TrialLead& l) { return l.plated; });
    if (plated) r.holes.push_back(d.leastHole("", d.groups.front().second, trials, options.seed, options.threads));
    if (d.groups.size() > 1)
        for (const auto& [name, size] : d.groups)
            r.holes.push_back(d.leastHole(name, size, trials, options.seed, options.threads));
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
            ++blame[static_cast<std::size_t>(thread)][owner[tightestOf(seats, best)]];
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
    addHistogram(spare, r);
    if (options.band) addBand(options, trials, r);
    if (options.costs) addCosts(options, trials, r);
    if (options.holes) addLeastHoles(options, trials, r);
    return r;
}

}  // namespace punch
