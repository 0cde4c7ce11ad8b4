// The adjustment's judgement of its readings: standardised residuals, which of them are in doubt, the ways to explain
// what contradicts, and what cannot be.

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>

#include "core/measure/adjust.h"
#include "core/measure/mend.h"

namespace punch {
namespace {

constexpr double kClearlyBetter = 10.83;  // of v'Wv: chi-square with one degree of freedom, 0.1 %
constexpr std::size_t kMostJudgedWays = 64;
constexpr std::size_t kNamedWays = 6;
// Where the model bends, forecasts are tried by adjusting anew; no more than these.
constexpr std::size_t kMostForecasts = 40, kBestForecasts = 16, kCarriedOnForecasts = 5, kAsDrawn = 6, kMostPairs = 200;

/// How many sets are tried in all: thousands in a small notebook, some dozens where each trial is long. Counted, not
/// timed, so that the same notebook is always judged alike.
std::size_t trialsFor(std::size_t rows, std::size_t unknowns) {
    constexpr std::size_t kWork = 2'000'000, kLeast = 48, kMost = 1200;
    return std::clamp(kWork / std::max<std::size_t>(rows * unknowns * unknowns, 1), kLeast, kMost);
}

std::string numbersOf(const std::vector<std::size_t>& readings) {
    std::string words;
    for (std::size_t k = 0; k < readings.size(); ++k)
        words += fmt::format("{}{}", k == 0 ? "" : k + 1 == readings.size() ? " and " : ", ", readings[k] + 1);
    return words;
}

/// "one of readings 3, 5, 7 is wrong; nothing tells which", "readings 1 and 4, or 2 and 6, are wrong; ...".
std::string waysInWords(const std::vector<Way>& ways) {
    std::string names;
    const bool single = ways.front().readings.size() == 1;
    for (std::size_t k = 0; k < std::min(ways.size(), kNamedWays); ++k)
        names += (k == 0 ? "" : single ? ", " : ", or ") + numbersOf(ways[k].readings);
    if (ways.size() > kNamedWays) names += fmt::format(", or {} more", ways.size() - kNamedWays);
    return single ? fmt::format("one of readings {} is wrong; nothing tells which", names)
                  : fmt::format("readings {} are wrong; nothing tells which", names);
}

}  // namespace

bool Adjustment::bends() const {
    // Letters' values and what is known of pictures' scales are linear; the readings in pictures are not.
    return std::any_of(rows_.begin(), rows_.end(), [&](int reading) {
        return reading >= 0 && !equations_[static_cast<std::size_t>(reading)].linear;
    });
}

Residuals Adjustment::residualsNow() const {
    Residuals r;
    r.y = v_;
    freeBack(r.y);
    r.chi2 = chi2_;
    r.redundancy = redundancy_;
    for (const int reading : rows_) r.isReading.push_back(reading >= 0);
    r.columnOf = [this](Eigen::Index row) {
        Eigen::VectorXd unit = Eigen::VectorXd::Zero(v_.size());
        unit(row) = 1;
        free(unit);
        Eigen::VectorXd column = unit - j_ * (c_ * (j_.transpose() * unit));
        freeBack(column);
        return column;
    };
    r.diagonal.resize(v_.size());
    std::vector<bool> shared(rows_.size(), false);
    for (const SharedRows& s : shared_)
        for (const Eigen::Index row : s.rows) {
            shared[static_cast<std::size_t>(row)] = true;
            r.diagonal(row) = r.columnOf(row)(row);
        }
    for (Eigen::Index row = 0; row < v_.size(); ++row) {
        if (shared[static_cast<std::size_t>(row)]) continue;
        double known = 0;
        for (SparseRows::InnerIterator i(j_, row); i; ++i)
            for (SparseRows::InnerIterator k(j_, row); k; ++k) known += i.value() * k.value() * c_(i.col(), k.col());
        r.diagonal(row) = std::max(1 - known, 0.0);
    }
    return r;
}

void Adjustment::judge() {
    chi2_ = v_.squaredNorm();
    const Residuals left = residualsNow();
    for (Eigen::Index row = 0; row < v_.size(); ++row) {
        const int reading = rows_[static_cast<std::size_t>(row)];
        if (reading < 0) continue;
        ReadingResult& r = readings_[static_cast<std::size_t>(reading)];
        r.redundancy = std::clamp(left.diagonal(row), 0.0, 1.0);
        const bool checked = left.checked(row);
        r.state = checked ? ReadingState::Agrees : ReadingState::Unchecked;
        r.w = checked ? left.y(row) / std::sqrt(left.diagonal(row)) : 0.0;
    }
}

bool Adjustment::agrees() const {
    if (!wholeTestHolds()) return false;
    return std::all_of(rows_.begin(), rows_.end(), [&](int reading) {
        return reading < 0 || std::abs(readings_[static_cast<std::size_t>(reading)].w) <= kInDoubt;
    });
}

Way Adjustment::wayOf(const RowSet& set) const {
    Way way;
    way.chi2 = set.chi2;
    Eigen::VectorXd blunder = Eigen::VectorXd::Zero(v_.size());
    for (std::size_t k = 0; k < set.rows.size(); ++k) {
        const auto i = static_cast<std::size_t>(rows_[static_cast<std::size_t>(set.rows[k])]);
        const auto at = static_cast<Eigen::Index>(k);
        way.readings.push_back(i);
        way.off.push_back(set.blunder(at) * readings_[i].stats.u);
        way.offU.push_back(set.u(at) * readings_[i].stats.u);
        blunder(set.rows[k]) = set.blunder(at);
    }
    free(blunder);
    way.by = -(c_ * (j_.transpose() * blunder));
    return way;
}

std::vector<Way> Adjustment::waysByForecast() const {
    const Residuals left = residualsNow();
    MendSearch search(left);
    for (std::size_t size = 1; size <= MendSearch::kMostRows; ++size) {
        std::vector<Way> ways;
        for (const RowSet& set : search.mending(size)) {
            Way way = wayOf(set);
            if (canBe(way)) ways.push_back(std::move(way));
        }
        if (!ways.empty()) return ways;
    }
    return {};
}

/// The way that leaving out these readings is, by adjusting the rest anew from `start` as well. The adjustment is left
/// as it is without them.
Way Adjustment::tryWithout(const Part& part, const std::vector<bool>& use, const std::vector<std::size_t>& readings,
                           const std::vector<double>& start) {
    std::vector<bool> without = use;
    for (const std::size_t i : readings) without[i] = false;
    solve(part, without, start);
    judge();
    Way way;
    way.readings = readings;
    way.chi2 = chi2_;
    way.by = Eigen::VectorXd(model_.unknowns());
    for (std::size_t k = 0; k < start.size(); ++k) way.by(static_cast<Eigen::Index>(k)) = values_[k] - start[k];
    for (const std::size_t i : readings) {
        const auto f = evaluate(part, i, at_);
        way.off.push_back(f ? readings_[i].stats.mean - f->value() : 0);
        way.offU.push_back(f ? std::hypot(readings_[i].stats.u, u(*f)) : readings_[i].stats.u);
    }
    return way;
}

/// How far places differ from what their tangents say of the ways.
void Adjustment::addBends(std::vector<Way>& ways) const {
    for (Way& way : ways) {
        std::vector<double> there = values_;
        for (std::size_t k = 0; k < there.size(); ++k) there[k] += way.by(static_cast<Eigen::Index>(k));
        const ModelAt at(model_, there);
        for (std::size_t i = 0; i < model_.featureCount(); ++i) {
            const Feature here = at_.feature(static_cast<int>(i));
            const Feature moved = at.feature(static_cast<int>(i));
            for (const auto& [a, b] : {std::pair{&here.x, &moved.x}, std::pair{&here.y, &moved.y}})
                way.bend = std::max(way.bend, std::abs(b->value() - a->value() - change(*a, way)));
        }
    }
}

/// Adjusts the first `count` of the ways to the end, and then all readings again, from where they were.
void Adjustment::adjustFirst(std::size_t count, std::vector<Way>& ways, const Part& part, const std::vector<bool>& use,
                             const std::vector<double>& start) {
    for (std::size_t k = 0; k < std::min(ways.size(), count); ++k)
        ways[k] = tryWithout(part, use, ways[k].readings, start);
    solve(part, use, start);
    chi2_ = v_.squaredNorm();
    addBends(ways);
}

std::vector<Way> Adjustment::waysByTrial(const Part& part, const std::vector<bool>& use) {
    const std::vector<ReadingResult> before = readings_;
    const std::vector<double> start = values_;
    const Eigen::VectorXd solution = Eigen::Map<const Eigen::VectorXd>(start.data(), model_.unknowns());
    using Set = std::vector<std::size_t>;
    struct Trial {
        Way way;
        bool agrees;
        std::vector<std::size_t> offenders = {};  ///< what of the rest stands out most
    };
    const auto readingsOf = [&](const std::vector<int>& rows, const RowSet& set) {
        Set readings;
        for (const Eigen::Index row : set.rows)
            readings.push_back(static_cast<std::size_t>(rows[static_cast<std::size_t>(row)]));
        return readings;
    };
    const std::vector<int> rows = rows_;
    const Residuals left = residualsNow();
    // The search looks at the residuals as they are now: it computes all that it needs of them at once.
    MendSearch search(left);
    // A wild value drags a bent solution so far that the residuals no longer point at it: what was farthest off as
    // drawn is asked as well.
    std::vector<std::pair<double, std::size_t>> drawn;
    for (const int i : rows) {
        if (i < 0) continue;
        const auto k = static_cast<std::size_t>(i);
        const ReadingStats& s = readings_[k].stats;
        if (equations_[k].f && drawnMisfit_[k] != 0) drawn.emplace_back(std::abs(drawnMisfit_[k]) / s.u, k);
    }
    std::sort(drawn.rbegin(), drawn.rend());
    Set used;
    for (const int i : rows)
        if (i >= 0) used.push_back(static_cast<std::size_t>(i));
    std::vector<Trial> last;
    std::vector<Way> ways;
    std::size_t budget = trialsFor(rows.size(), static_cast<std::size_t>(model_.unknowns()));
    for (std::size_t size = 1; size <= MendSearch::kMostRows && ways.empty() && budget > 0; ++size) {
        if (static_cast<int>(size) > left.redundancy) break;
        std::set<Set> sets;
        std::vector<Set> inOrder;
        const auto add = [&](Set set) {
            std::sort(set.begin(), set.end());
            set.erase(std::unique(set.begin(), set.end()), set.end());
            if (set.size() == size && inOrder.size() < budget && sets.insert(set).second)
                inOrder.push_back(std::move(set));
        };
        const auto forecast = search.mending(size);
        for (std::size_t k = 0; k < std::min(forecast.size(), kMostForecasts); ++k) add(readingsOf(rows, forecast[k]));
        for (const RowSet& set : search.best(size == 1 ? kMostForecasts : kBestForecasts)) add(readingsOf(rows, set));
        if (size == 1)
            for (std::size_t k = 0; k < std::min(drawn.size(), kAsDrawn); ++k) add({drawn[k].second});
        // A bent solution that a wild value has dragged away may show a reading as unchecked that is not: while they
        // are few, all of them are tried, and all pairs.
        if (size == 1 && used.size() <= kMostForecasts)
            for (const std::size_t i : used) add({i});
        if (size == 2 && used.size() * (used.size() - 1) / 2 <= kMostPairs)
            for (std::size_t a = 0; a < used.size(); ++a)
                for (std::size_t b = a + 1; b < used.size(); ++b) add({used[a], used[b]});
        for (std::size_t t = 0; t < std::min(last.size(), kCarriedOnForecasts); ++t)
            for (const std::size_t reading : last[t].offenders) {
                Set set = last[t].way.readings;
                set.push_back(reading);
                add(std::move(set));
            }
        std::vector<Trial> trials;
        trying_ = true;
        for (const Set& set : inOrder) {
            Trial trial{tryWithout(part, use, set, start), agrees()};
            if (!trial.agrees) {
                std::vector<std::pair<double, std::size_t>> next;
                for (const int i : rows_)
                    if (i >= 0) next.emplace_back(std::abs(readings_[static_cast<std::size_t>(i)].w), i);
                std::sort(next.rbegin(), next.rend());
                for (std::size_t k = 0; k < std::min(next.size(), kCarriedOnForecasts); ++k)
                    trial.offenders.push_back(next[k].second);
            }
            trials.push_back(std::move(trial));
        }
        trying_ = false;
        budget -= inOrder.size();
        std::stable_sort(trials.begin(), trials.end(),
                         [](const Trial& a, const Trial& b) { return a.way.chi2 < b.way.chi2; });
        for (const Trial& t : trials)
            if (t.agrees && sizesCanBe(solution + t.way.by)) ways.push_back(t.way);
        last = std::move(trials);
    }
    // What a trial found roughly is what is counted as doubt: to the end.
    adjustFirst(kMostJudgedWays, ways, part, use, start);
    readings_ = before;
    return ways;
}

bool Adjustment::sizesCanBe(const Eigen::VectorXd& values) const {
    return std::all_of(model_.parameters().begin(), model_.parameters().end(), [&](const Parameter& p) {
        return !p.isPositive || p.unknown < 0 || values(p.unknown) > 1e-9 ||
               values_[static_cast<std::size_t>(p.unknown)] <= 1e-9;
    });
}

bool Adjustment::canBe(const Way& way) const {
    return sizesCanBe(Eigen::Map<const Eigen::VectorXd>(values_.data(), model_.unknowns()) + way.by);
}

void Adjustment::settle(const Part& part, std::vector<bool>& use) {
    unexplained_ = false;
    if (redundancy_ < 1 || agrees()) {
        unexplained_ = !wholeTestHolds();
        return;
    }
    if (search_ == Search::None) {
        unexplained_ = true;
        return;
    }
    std::vector<Way> ways = bends() ? waysByTrial(part, use) : waysByForecast();
    std::stable_sort(ways.begin(), ways.end(), [](const Way& a, const Way& b) { return a.chi2 < b.chi2; });
    if (ways.empty()) {
        leaveUnexplained(part, use);
        return;
    }
    if (ways.size() == 1 || ways[1].chi2 - ways[0].chi2 >= kClearlyBetter) {
        for (const std::size_t i : ways[0].readings) use[i] = false;
        std::vector<double> there = values_;
        for (std::size_t k = 0; k < there.size(); ++k) there[k] += ways[0].by(static_cast<Eigen::Index>(k));
        solve(part, use, there);
        judge();
        for (std::size_t k = 0; k < ways[0].readings.size(); ++k) {
            ReadingResult& r = readings_[ways[0].readings[k]];
            r.state = ReadingState::InDoubt;
            r.w = ways[0].offU[k] > 0 ? ways[0].off[k] / ways[0].offU[k] : 0;
        }
        return;
    }
    const std::string words = waysInWords(ways);
    for (const Way& way : ways)
        for (const std::size_t i : way.readings) {
            readings_[i].state = ReadingState::OneOf;
            readings_[i].words = words;
        }
    if (ways.size() > kMostJudgedWays) ways.resize(kMostJudgedWays);
    ways_ = std::move(ways);
}

void Adjustment::leaveUnexplained(const Part& part, const std::vector<bool>& use) {
    // Nothing explains it: what each of the readings that stand out would change is counted as doubt all the same.
    unexplained_ = true;
    const Residuals left = residualsNow();
    MendSearch search(left);
    search.mending(1);
    for (const RowSet& set : search.best(kMostJudgedWays)) {
        Way way = wayOf(set);
        ReadingResult& r = readings_[way.readings.front()];
        // A size below nothing is nothing that the part could be.
        if (std::abs(r.w) <= kInDoubt || !canBe(way)) continue;
        r.state = ReadingState::OneOf;
        r.words = fmt::format("does not fit the rest, and leaving out up to {} readings mends nothing",
                              MendSearch::kMostRows);
        ways_.push_back(std::move(way));
    }
    if (!bends()) return;
    // A tangent says little of what a reading that far off would change.
    const std::vector<ReadingResult> before = readings_;
    const std::vector<double> start = values_;
    const std::size_t tried = trialsFor(rows_.size(), start.size()) / 4;
    adjustFirst(tried, ways_, part, use, start);
    readings_ = before;
}

bool Adjustment::leaveOutImpossible(const Part& part, std::vector<bool>& use) {
    bool changed = false;
    const auto leaveOut = [&](Impossible what, bool always) {
        for (const std::size_t i : what.readings) {
            if (!use[i] || !always) continue;
            use[i] = false;
            readings_[i].state = ReadingState::Impossible;
            changed = true;
        }
        const bool known = std::any_of(impossible_.begin(), impossible_.end(),
                                       [&](const Impossible& i) { return i.words == what.words; });
        if (!known) impossible_.push_back(std::move(what));
    };
    for (Impossible& what : outsideBelowInside(part, readings_)) {
        // Where the rest tells which of the two is wrong, or narrows it down, only that is left out.
        const bool judged = std::any_of(what.readings.begin(), what.readings.end(), [&](std::size_t i) {
            return readings_[i].state == ReadingState::InDoubt || readings_[i].state == ReadingState::OneOf;
        });
        leaveOut(std::move(what), !judged);
    }
    if (changed) return true;
    for (Impossible& what : sizesBelowNothing(part, *this)) leaveOut(std::move(what), true);
    return changed;
}

}  // namespace punch
