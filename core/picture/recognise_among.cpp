#include "core/picture/recognise_among.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <numeric>
#include <set>

#include "core/base/angle.h"
#include "core/picture/pattern_fit.h"

namespace punch {

namespace {

constexpr double kEmptyWeight = 0.6;
constexpr std::size_t kDirections = 14, kCircles = 40;

using Places = std::vector<FoundPlace>;
using Members = std::vector<int>;

class Search {
public:
    explicit Search(const Places& places) : places_(places) {}

    void consider(Members members) {
        std::sort(members.begin(), members.end());
        members.erase(std::unique(members.begin(), members.end()), members.end());
        if (members.size() < 2 || static_cast<double>(members.size()) <= best_.score || !seen_.insert(members).second)
            return;
        Places chosen;
        for (const int i : members) chosen.push_back(places_[static_cast<std::size_t>(i)]);
        auto f = recogniseFormation(chosen);
        if (!f) return;
        const double score = scoreOf(*f);
        if (score > best_.score + 1e-9) best_ = {std::move(*f), std::move(members), score};
    }
    const FormationAmong& best() const { return best_; }

private:
    const Places& places_;
    std::set<Members> seen_;
    FormationAmong best_;
};

std::vector<std::vector<std::pair<double, int>>> neighboursOf(const Places& places, std::size_t most) {
    std::vector<std::vector<std::pair<double, int>>> out(places.size());
    for (std::size_t i = 0; i < places.size(); ++i) {
        auto& near = out[i];
        for (std::size_t j = 0; j < places.size(); ++j)
            if (j != i)
                near.emplace_back(std::hypot(places[j].x - places[i].x, places[j].y - places[i].y),
                                  static_cast<int>(j));
        const std::size_t kept = std::min(most, near.size());
        std::partial_sort(near.begin(), near.begin() + static_cast<std::ptrdiff_t>(kept), near.end());
        near.resize(kept);
    }
    return out;
}

struct Direction {
    double turn = 0, pitch = 0;
    int votes = 0;
};

std::vector<Direction> directionsOf(const Places& places,
                                    const std::vector<std::vector<std::pair<double, int>>>& near) {
    std::vector<Direction> found;
    for (std::size_t i = 0; i < places.size(); ++i)
        for (const auto& [d, j] : near[i]) {
            if (d < kLeastPitchOfPins) continue;
            const FoundPlace& q = places[static_cast<std::size_t>(j)];
            double t = std::remainder(std::atan2(q.y - places[i].y, q.x - places[i].x) / kRadians, 180.0);
            const auto same = std::find_if(found.begin(), found.end(), [&](const Direction& o) {
                return std::abs(std::remainder(t - o.turn, 180.0)) < 1.0 && std::abs(o.pitch / d - 1) < 0.03;
            });
            if (same != found.end())
                ++same->votes;
            else if (found.size() < 4000)
                found.push_back({t, d, 1});
        }
    std::stable_sort(found.begin(), found.end(),
                     [](const Direction& a, const Direction& b) { return a.votes > b.votes; });
    if (found.size() > kDirections) found.resize(kDirections);
    return found;
}

/// Places on one line at steps of a pitch, at most two missing in between.
struct Stretch {
    Members members;
    double from = 0, to = 0, level = 0;
};

std::vector<Stretch> stretchesOf(const Places& places, double turn, double pitch) {
    Members order(places.size());
    std::iota(order.begin(), order.end(), 0);
    std::sort(order.begin(), order.end(),
              [&](int a, int b) { return across(places[a], turn) < across(places[b], turn); });
    std::vector<Members> lines;
    double last = -1e18;
    for (const int i : order) {
        const double c = across(places[i], turn);
        if (c - last > 2 * kPatternTolerance) lines.emplace_back();
        lines.back().push_back(i);
        last = c;
    }
    std::vector<Stretch> out;
    for (Members line : lines) {
        std::sort(line.begin(), line.end(),
                  [&](int a, int b) { return along(places[a], turn) < along(places[b], turn); });
        while (line.size() >= 2) {
            Members best;
            for (std::size_t k = 0; k < line.size() && best.size() < line.size() - k; ++k) {
                Members run{line[k]};
                double at = along(places[line[k]], turn);
                for (std::size_t m = k + 1; m < line.size(); ++m) {
                    const double gap = along(places[line[m]], turn) - at;
                    const double steps = std::round(gap / pitch);
                    if (steps > 3) break;
                    if (steps < 1 || std::abs(gap - steps * pitch) > kPatternTolerance + kTolerancePerLength * gap)
                        continue;
                    run.push_back(line[m]);
                    at += gap;
                }
                if (run.size() > best.size()) best = std::move(run);
            }
            if (best.size() < 2) break;
            Stretch s{best, along(places[best.front()], turn), along(places[best.back()], turn), 0};
            for (const int i : best) s.level += across(places[i], turn) / static_cast<double>(best.size());
            out.push_back(std::move(s));
            std::erase_if(line, [&](int i) { return std::find(best.begin(), best.end(), i) != best.end(); });
        }
    }
    std::stable_sort(out.begin(), out.end(),
                     [](const Stretch& a, const Stretch& b) { return a.members.size() > b.members.size(); });
    return out;
}

/// The direction of the longest stretch, more exactly.
double straightened(const Places& places, const Stretch& s, double turn) {
    double ma = 0, mc = 0, sab = 0, saa = 0;
    const double n = static_cast<double>(s.members.size());
    for (const int i : s.members) {
        ma += along(places[i], turn) / n;
        mc += across(places[i], turn) / n;
    }
    for (const int i : s.members) {
        const double a = along(places[i], turn) - ma;
        sab += a * (across(places[i], turn) - mc);
        saa += a * a;
    }
    return saa > 0 ? turn + std::atan(sab / saa) / kRadians : turn;
}

void tryRows(const Places& places, const Direction& d, Search& search) {
    auto stretches = stretchesOf(places, d.turn, d.pitch);
    if (stretches.empty()) return;
    const double turn = straightened(places, stretches.front(), d.turn);
    stretches = stretchesOf(places, turn, d.pitch);
    if (stretches.empty()) return;
    const Stretch& first = stretches.front();
    search.consider(first.members);
    const auto add = [](Members to, const Members& more) {
        to.insert(to.end(), more.begin(), more.end());
        return to;
    };
    // Runs beside the longest one, the nearest first: alone with it, all as they come, those in step, half steps too.
    std::vector<const Stretch*> beside;
    for (std::size_t i = 1; i < stretches.size(); ++i) {
        const Stretch& s = stretches[i];
        const double shared = std::min(s.to, first.to) - std::max(s.from, first.from);
        if (shared >= 0.4 * std::min(s.to - s.from, first.to - first.from)) beside.push_back(&s);
    }
    std::stable_sort(beside.begin(), beside.end(), [&](const Stretch* a, const Stretch* b) {
        return std::abs(a->level - first.level) < std::abs(b->level - first.level);
    });
    const auto off = [&](const Stretch& s) {
        const double shift = s.from - first.from;
        return std::abs(shift - std::round(shift / d.pitch) * d.pitch);
    };
    Members inStep = first.members, halfStep = first.members, all = first.members;
    const std::size_t alone = std::min<std::size_t>(beside.size(), 8);
    for (std::size_t i = 0; i < beside.size(); ++i) {
        const Stretch& s = *beside[i];
        const double far =
            kPatternTolerance + kTolerancePerLength * (std::abs(s.from - first.from) + std::abs(s.level - first.level));
        if (i < alone) search.consider(add(first.members, s.members));
        all = add(all, s.members);
        if (off(s) < far) inStep = add(inStep, s.members);
        if (off(s) < far || std::abs(off(s) - d.pitch / 2) < far) halfStep = add(halfStep, s.members);
        if (i < 24) {
            search.consider(inStep);
            search.consider(halfStep);
        }
    }
    search.consider(inStep);
    search.consider(halfStep);
    search.consider(all);
}

void tryCircles(const Places& places, const std::vector<std::vector<std::pair<double, int>>>& near, Search& search) {
    if (places.size() < 5) return;
    std::vector<Members> sets;
    for (std::size_t i = 0; i < places.size() && i < 400; ++i)
        for (std::size_t a = 0; a < std::min<std::size_t>(near[i].size(), 3); ++a)
            for (std::size_t b = a + 1; b < std::min<std::size_t>(near[i].size(), 4); ++b) {
                const auto c = circleThroughPlaces(places, {static_cast<int>(i), near[i][a].second, near[i][b].second});
                if (!c || c->radius < 1.5 || c->radius > 60) continue;
                Members on, middle;
                const double tolerance = 1.5 * kPatternTolerance + kTolerancePerLength * c->radius;
                for (std::size_t k = 0; k < places.size(); ++k) {
                    const double d = std::hypot(places[k].x - c->x, places[k].y - c->y);
                    if (std::abs(d - c->radius) < tolerance) on.push_back(static_cast<int>(k));
                    if (d < tolerance) middle.push_back(static_cast<int>(k));
                }
                if (on.size() < 5) continue;
                if (middle.size() == 1) {
                    on.push_back(middle.front());
                    sets.push_back(on);
                } else {
                    sets.push_back(on);
                }
            }
    std::stable_sort(sets.begin(), sets.end(), [](const Members& a, const Members& b) { return a.size() > b.size(); });
    sets.erase(std::unique(sets.begin(), sets.end()), sets.end());
    if (sets.size() > kCircles) sets.resize(kCircles);
    for (const Members& s : sets) search.consider(s);
}

/// Few places: all of them but one, or but two.
void tryWithout(const Places& places, Search& search) {
    const int n = static_cast<int>(places.size());
    if (n > 24 || n < 4) return;
    Members all(places.size());
    std::iota(all.begin(), all.end(), 0);
    for (int i = 0; i < n; ++i) {
        Members one = all;
        std::erase(one, i);
        search.consider(one);
        for (int j = i + 1; j < n && n <= 14; ++j) {
            Members two = one;
            std::erase(two, j);
            search.consider(two);
        }
    }
}

FormationAmong bestAmong(const Places& places) {
    Search search(places);
    Members all(places.size());
    std::iota(all.begin(), all.end(), 0);
    if (places.size() == 1) {
        auto f = recogniseFormation(places);
        return {std::move(*f), all, 1};
    }
    search.consider(all);
    if (search.best().score >= static_cast<double>(places.size()) - 1e-9) return search.best();
    const auto near = neighboursOf(places, 8);
    tryWithout(places, search);
    for (const Direction& d : directionsOf(places, near)) tryRows(places, d, search);
    tryCircles(places, near, search);
    return search.best();
}

}  // namespace

double scoreOf(const RecognisedFormation& f) {
    double score = static_cast<double>(f.positions.size()) - kEmptyWeight * static_cast<double>(f.leftOut.size());
    if (f.rearPitch) score -= 1.4;
    if (f.rowShift) score -= 0.7;
    if (f.kind == FormationKind::Ring && f.arc) score -= f.positions.size() < 5 ? 1.6 : 0.3;
    if (f.kind != FormationKind::Ring)
        for (std::size_t row = 0; row < f.rows.size() && f.rows.size() > 1; ++row)
            if (f.rows[row] == 1) score -= 0.5;
    return score;
}

std::vector<FormationAmong> formationsAmong(const Places& places, std::size_t most) {
    std::vector<FormationAmong> out;
    Members left(places.size());
    std::iota(left.begin(), left.end(), 0);
    while (!left.empty() && out.size() < most) {
        Places rest;
        for (const int i : left) rest.push_back(places[static_cast<std::size_t>(i)]);
        FormationAmong best = bestAmong(rest);
        if (best.members.empty() || (best.members.size() < 3 && !out.empty())) break;
        if (best.members.size() < 3 && places.size() > 2 && best.members.size() < places.size()) break;
        for (int& m : best.members) m = left[static_cast<std::size_t>(m)];
        std::erase_if(
            left, [&](int i) { return std::find(best.members.begin(), best.members.end(), i) != best.members.end(); });
        out.push_back(std::move(best));
    }
    return out;
}

}  // namespace punch
