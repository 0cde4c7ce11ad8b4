#include "core/solid/fit_pose.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <map>
#include <numbers>
#include <set>
#include <unordered_map>

#include "core/solid/flat_fit.h"

namespace punch {
namespace {

constexpr double kReach = 0.7;    // mm: a lead this far from a hole may be meant for it
constexpr double kPairOff = 0.9;  // mm: two leads may be so much further apart than their holes
constexpr double kSpare = 0.3;    // mm that a lead may be wider than its hole and still be meant for it
constexpr std::size_t kMostPairs = 60;
constexpr std::size_t kMostPoses = 16;

/// Holes by where they are.
class Holes {
public:
    explicit Holes(const std::vector<Socket>& all) : all_(all) {
        for (std::size_t i = 0; i < all.size(); ++i) cells_[key(cell(all[i].at.x), cell(all[i].at.y))].push_back(i);
    }
    /// The nearest that the lead could be meant for; the number of holes when there is none.
    std::size_t nearest(Flat at, double lead) const {
        std::size_t best = all_.size();
        double least = kReach;
        const long x = cell(at.x), y = cell(at.y);
        for (long i = x - 1; i <= x + 1; ++i)
            for (long k = y - 1; k <= y + 1; ++k)
                if (const auto it = cells_.find(key(i, k)); it != cells_.end())
                    for (const std::size_t h : it->second) {
                        if (all_[h].size > 0 && lead > all_[h].size + kSpare) continue;
                        if (const double d = far(all_[h].at, at); d < least) {
                            least = d;
                            best = h;
                        }
                    }
        return best;
    }

private:
    static long cell(double v) { return std::lround(v); }
    static std::uint64_t key(long a, long b) {
        return static_cast<std::uint64_t>(a) * 0x9E3779B97F4A7C15ULL ^ static_cast<std::uint64_t>(b);
    }
    const std::vector<Socket>& all_;
    std::unordered_map<std::uint64_t, std::vector<std::size_t>> cells_;
};

using Pair = std::array<std::size_t, 2>;

/// Pairs of leads far apart, no lead in too many of them: one that is bent spoils few.
std::vector<Pair> pairsOf(const std::vector<SolidLead>& leads) {
    std::vector<std::pair<double, Pair>> all;
    for (std::size_t i = 0; i < leads.size(); ++i)
        for (std::size_t k = i + 1; k < leads.size(); ++k) all.push_back({far(leads[i].at, leads[k].at), {i, k}});
    std::stable_sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.first > b.first; });
    std::vector<std::size_t> used(leads.size(), 0);
    std::vector<Pair> pairs;
    for (const auto& [d, p] : all) {
        if (pairs.size() >= kMostPairs || d < 0.2) break;
        if (used[p[0]] > 5 || used[p[1]] > 5) continue;
        ++used[p[0]];
        ++used[p[1]];
        pairs.push_back(p);
    }
    return pairs;
}

class Fitting {
public:
    Fitting(const Standing& standing, const std::vector<Socket>& sockets, const Holes& holes)
        : standing_(standing), sockets_(sockets), holes_(holes) {}

    void run(std::vector<FittedPose>& out) {
        const auto& leads = standing_.leads;
        if (leads.size() == 1) {
            for (const Socket& s : sockets_) tryOne({1, 0, s.at.x - leads[0].at.x, s.at.y - leads[0].at.y});
        } else {
            struct Apart {
                double d;
                std::size_t a, b;
            };
            std::vector<Apart> apart;
            for (std::size_t i = 0; i < sockets_.size(); ++i)
                for (std::size_t k = 0; k < sockets_.size(); ++k)
                    if (i != k) apart.push_back({far(sockets_[i].at, sockets_[k].at), i, k});
            std::stable_sort(apart.begin(), apart.end(), [](const Apart& a, const Apart& b) { return a.d < b.d; });
            for (const auto& [i, k] : pairsOf(leads)) {
                const double d = far(leads[i].at, leads[k].at);
                auto it = std::lower_bound(apart.begin(), apart.end(), d - kPairOff,
                                           [](const Apart& a, double v) { return a.d < v; });
                for (; it != apart.end() && it->d <= d + kPairOff; ++it)
                    tryOne(fitted({leads[i].at, leads[k].at}, {sockets_[it->a].at, sockets_[it->b].at}, {1, 1}));
            }
        }
        for (FittedPose& p : found_) out.push_back(std::move(p));
    }

private:
    /// Which hole each lead is over; no hole takes two.
    std::vector<std::size_t> over(const Flatly& t, std::size_t& count) const {
        std::vector<std::size_t> of;
        std::vector<std::pair<double, std::size_t>> taken(sockets_.size(), {kReach, standing_.leads.size()});
        count = 0;
        for (std::size_t i = 0; i < standing_.leads.size(); ++i) {
            const Flat at = t(standing_.leads[i].at);
            std::size_t h = holes_.nearest(at, standing_.leads[i].section.along);
            if (h < sockets_.size()) {
                const double d = far(sockets_[h].at, at);
                auto& [least, lead] = taken[h];
                if (lead < i) {
                    // The nearer keeps it.
                    if (d < least) {
                        of[lead] = sockets_.size();
                        --count;
                    } else {
                        h = sockets_.size();
                    }
                }
                if (h < sockets_.size()) {
                    least = d;
                    lead = i;
                    ++count;
                }
            }
            of.push_back(h);
        }
        return of;
    }

    void tryOne(const Flatly& first) {
        std::size_t count = 0;
        std::vector<std::size_t> of = over(first, count);
        // Clearly less than what there is already is not looked at.
        if (count < std::max<std::size_t>(1, most_ * 3 / 4)) return;
        if (!seen_.insert(of).second) return;
        Flatly place = first;
        FlatFit robust;
        for (int again = 0; again < 4; ++again) {
            std::vector<Flat> from, to;
            for (std::size_t i = 0; i < of.size(); ++i)
                if (of[i] < sockets_.size()) {
                    from.push_back(standing_.leads[i].at);
                    to.push_back(sockets_[of[i]].at);
                }
            if (from.empty()) return;
            robust = from.size() < 2 ? FlatFit{place, {true}, 0} : bestOf(place, from, to);
            place = robust.place;
            std::size_t now = 0;
            const std::vector<std::size_t> next = over(place, now);
            if (next == of) break;
            of = next;
            seen_.insert(of);
        }
        keep(place, of);
    }

    /// With few leads each of them is tried as the one that is off.
    static FlatFit bestOf(const Flatly& first, const std::vector<Flat>& from, const std::vector<Flat>& to) {
        const std::vector<double> even(from.size(), 1);
        FlatFit best = settled(fitted(from, to, even), from, to);
        const auto offer = [&](const FlatFit& r) {
            if (r.count() > best.count() || (r.count() == best.count() && r.rms < best.rms)) best = r;
        };
        offer(settled(first, from, to));
        if (from.size() >= 4 && from.size() <= 16 && best.count() < from.size())
            for (std::size_t i = 0; i < from.size(); ++i) {
                std::vector<double> without = even;
                without[i] = 0;
                offer(settled(fitted(from, to, without), from, to));
            }
        return best;
    }

    void keep(const Flatly& place, const std::vector<std::size_t>& of) {
        FittedPose p;
        std::vector<bool> filled(sockets_.size(), false);
        std::vector<double> all;
        for (std::size_t i = 0; i < of.size(); ++i) {
            if (of[i] >= sockets_.size()) {
                p.withoutHole.push_back(i);
                continue;
            }
            filled[of[i]] = true;
            const Flat at = place(standing_.leads[i].at), hole = sockets_[of[i]].at;
            LeadMatch m{i, of[i], {at.x - hole.x, at.y - hole.y}, far(at, hole), true};
            all.push_back(m.residual);
            p.matches.push_back(m);
        }
        if (p.matches.empty()) return;
        const double limit = offLimit(all);
        double sum = 0;
        std::size_t count = 0;
        for (std::size_t i = 0; i < p.matches.size(); ++i) {
            LeadMatch& m = p.matches[i];
            m.counted = m.residual <= limit;
            if (!m.counted) {
                p.off.push_back(i);
                continue;
            }
            sum += m.residual * m.residual;
            p.worst = std::max(p.worst, m.residual);
            ++count;
        }
        p.rms = std::sqrt(sum / static_cast<double>(std::max<std::size_t>(count, 1)));
        // Three others at least agree, and with more of them than there are against them.
        p.sure = p.matches.size() >= 4 && count >= 3 && count > p.off.size();
        if (!p.sure && (p.worst > kLeastOff || !p.off.empty())) {
            p.off.clear();
            for (std::size_t i = 0; i < p.matches.size(); ++i) p.off.push_back(i);
        }
        for (std::size_t h = 0; h < sockets_.size(); ++h)
            if (!filled[h]) p.withoutLead.push_back(h);
        most_ = std::max(most_, p.matches.size());
        p.turn = std::atan2(place.s, place.c) * 180 / std::numbers::pi;
        Pose board{{place.c, place.s, 0}, {-place.s, place.c, 0}, {0, 0, 1}, {place.x, place.y, 0}};
        p.standing = standing_;
        p.pose = after(board, standing_.pose);
        found_.push_back(std::move(p));
    }

    const Standing& standing_;
    const std::vector<Socket>& sockets_;
    const Holes& holes_;
    std::size_t most_ = 0;
    std::set<std::vector<std::size_t>> seen_;
    std::vector<FittedPose> found_;
};

/// Leads that agree; each that stands over no hole or off its hole takes away.
double score(const FittedPose& p) {
    const auto agree = static_cast<double>(p.matches.size() - (p.sure ? p.off.size() : 0));
    const auto bad = static_cast<double>(p.withoutHole.size() + (p.sure ? p.off.size() : 0));
    return agree - 0.5 * bad - 0.4 * static_cast<double>(p.withoutLead.size());
}

/// How much wider the holes are than the leads in them, unevenly: other leads in other holes than meant.
double misfit(const FittedPose& p, const std::vector<Socket>& sockets) {
    double sum = 0, squares = 0, n = 0;
    for (const LeadMatch& m : p.matches) {
        if (sockets[m.socket].size <= 0) continue;
        const double d = sockets[m.socket].size - p.standing.leads[m.lead].section.along;
        sum += d;
        squares += d * d;
        ++n;
    }
    return n < 1 ? 0 : std::sqrt(std::max(squares / n - sum / n * sum / n, 0.0));
}

bool samePose(const Pose& a, const Pose& b) {
    const double turn = std::min({dot(a.x, b.x), dot(a.y, b.y), dot(a.z, b.z)});
    return turn > std::cos(0.5 * std::numbers::pi / 180) && norm(a.move - b.move) < 0.2;
}

}  // namespace

bool isEquivalent(const FittedPose& pose, const FittedPose& best) {
    return pose.matches.size() == best.matches.size() && pose.off.size() == best.off.size() &&
           pose.withoutHole.size() == best.withoutHole.size() && pose.rms <= best.rms + 0.02;
}

std::vector<FittedPose> fitPoses(const std::vector<Standing>& standings, const std::vector<Socket>& sockets) {
    std::vector<FittedPose> all;
    if (sockets.empty()) return all;
    const Holes holes(sockets);
    for (const Standing& s : standings)
        if (!s.leads.empty()) Fitting(s, sockets, holes).run(all);
    struct Ranked {
        double score, misfit;
        FittedPose pose;
    };
    std::vector<Ranked> ranked;
    for (FittedPose& p : all) {
        const double s = score(p), m = misfit(p, sockets);
        ranked.push_back({s, m, std::move(p)});
    }
    std::stable_sort(ranked.begin(), ranked.end(), [](const Ranked& a, const Ranked& b) {
        if (std::abs(a.score - b.score) > 1e-9) return a.score > b.score;
        // To a hundredth; among equals those whose holes suit, then those that turn least.
        const long ra = std::lround(a.pose.rms / 0.01), rb = std::lround(b.pose.rms / 0.01);
        if (ra != rb) return ra < rb;
        if (std::abs(a.misfit - b.misfit) > 0.02) return a.misfit < b.misfit;
        return std::abs(a.pose.turn) < std::abs(b.pose.turn) - 1e-6;
    });
    std::vector<FittedPose> out;
    for (Ranked& r : ranked) {
        if (out.size() >= kMostPoses) break;
        const bool known =
            std::any_of(out.begin(), out.end(), [&](const FittedPose& p) { return samePose(p.pose, r.pose.pose); });
        if (!known) out.push_back(std::move(r.pose));
    }
    return out;
}

}  // namespace punch
