// The adjustment's judgement of its readings: standardised residuals, data snooping after Baarda, readings in doubt.

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/measure/adjust.h"

namespace punch {
namespace {
constexpr double kNoRedundancy = 1e-6;
constexpr int kMostBlunders = 20;
constexpr double kWild = 15;  // |w| from which a bent model may point at the wrong reading
}  // namespace

void Adjustment::judge() {
    chi2_ = v_.squaredNorm();
    // Cofactors of the standardised residuals: I - A C A'.
    const Eigen::MatrixXd a = j_ * c_;
    const auto cofactor = [&](Eigen::Index i, Eigen::Index k) {
        return (i == k ? 1.0 : 0.0) - a.row(i).dot(j_.row(k));
    };
    const auto resultOf = [&](Eigen::Index row) -> ReadingResult* {
        const int reading = rows_[static_cast<std::size_t>(row)];
        return reading < 0 ? nullptr : &readings_[static_cast<std::size_t>(reading)];
    };
    Eigen::Index worst = -1;
    double largest = kInDoubt;
    for (Eigen::Index row = 0; row < v_.size(); ++row) {
        ReadingResult* r = resultOf(row);
        if (r == nullptr) continue;
        r->redundancy = std::max(cofactor(row, row), 0.0);
        const bool checked = r->redundancy > kNoRedundancy;
        r->state = checked ? ReadingState::Agrees : ReadingState::Unchecked;
        r->w = checked ? v_(row) / std::sqrt(r->redundancy) : 0.0;
        if (std::abs(r->w) > largest) {
            largest = std::abs(r->w);
            worst = row;
        }
    }
    if (worst < 0) return;
    std::vector<int> group;
    const double own = cofactor(worst, worst);
    for (Eigen::Index row = 0; row < v_.size(); ++row) {
        const ReadingResult* r = resultOf(row);
        if (r == nullptr || r->redundancy <= kNoRedundancy) continue;
        const double rho = cofactor(worst, row) / std::sqrt(own * r->redundancy);
        if (row == worst || std::abs(rho) >= kSameResidual) group.push_back(rows_[static_cast<std::size_t>(row)]);
    }
    if (group.size() < 2) return;
    std::string names;
    for (const int i : group) names += fmt::format("{}{}", names.empty() ? "" : ", ", i + 1);
    for (const int i : group) {
        ReadingResult& r = readings_[static_cast<std::size_t>(i)];
        r.state = ReadingState::OneOf;
        r.words = fmt::format("one of readings {} is wrong; nothing tells which", names);
    }
}

std::size_t Adjustment::wildest(const Part& part, std::vector<bool> use, std::size_t worst) {
    if (std::all_of(equations_.begin(), equations_.end(), [](const Equation& e) { return e.linear; })) return worst;
    // Where distances bend, a wild value drags the solution so far that the residuals there no longer point at it. What
    // was farthest off as drawn is asked as well: the one without which the rest agrees best is the blunder.
    std::vector<std::pair<double, std::size_t>> now, drawn;
    for (const int i : rows_) {
        if (i < 0) continue;
        const auto k = static_cast<std::size_t>(i);
        now.emplace_back(std::abs(readings_[k].w), k);
        const ReadingStats& s = readings_[k].stats;
        if (equations_[k].f) drawn.emplace_back(std::abs(s.mean - equations_[k].f->value()) / s.u, k);
    }
    std::vector<std::size_t> candidates{worst};
    for (auto* list : {&now, &drawn}) {
        std::sort(list->rbegin(), list->rend());
        for (std::size_t k = 0; k < std::min<std::size_t>(list->size(), 4); ++k)
            if (std::find(candidates.begin(), candidates.end(), (*list)[k].second) == candidates.end())
                candidates.push_back((*list)[k].second);
    }
    double least = std::numeric_limits<double>::infinity();
    for (const std::size_t c : candidates) {
        use[c] = false;
        solve(part, use);
        use[c] = true;
        if (v_.squaredNorm() >= least) continue;
        least = v_.squaredNorm();
        worst = c;
    }
    return worst;
}

void Adjustment::snoop(const Part& part, std::vector<bool> use) {
    // One blunder at a time is set aside, as long as something is left to check the rest.
    for (int round = 0; round < kMostBlunders && redundancy_ >= 1; ++round) {
        std::size_t worst = readings_.size();
        for (const int i : rows_) {
            if (i < 0) continue;
            const double w = std::abs(readings_[static_cast<std::size_t>(i)].w);
            if (w > kInDoubt && (worst == readings_.size() || w > std::abs(readings_[worst].w)))
                worst = static_cast<std::size_t>(i);
        }
        if (worst == readings_.size() || readings_[worst].state == ReadingState::OneOf) break;
        const double w = readings_[worst].w;
        if (std::abs(w) > kWild) worst = wildest(part, use, worst);
        use[worst] = false;
        solve(part, use);
        judge();
        readings_[worst].state = ReadingState::InDoubt;
        readings_[worst].w = w;
    }
}

}  // namespace punch
