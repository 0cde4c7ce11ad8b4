#include "core/measure/mend.h"

#include <algorithm>
#include <boost/math/special_functions/gamma.hpp>
#include <cmath>

#include "core/linear/decompositions.h"
#include "core/measure/reading_result.h"

namespace punch {
namespace {
constexpr double kWholeTestRisk = 0.001;
constexpr std::size_t kMostCandidates = 64;
constexpr int kMostInTriples = 40;
constexpr std::size_t kCarriedOnSets = 40;
constexpr double kRelated = 0.3;  // correlation of residuals from which one may hide behind another
}  // namespace

double wholeTestLimit(int redundancy) {
    // The quantile of chi-square by the function that it is made of: the distributions' headers take ten times as long
    // to compile, and long doubles twice as long again.
    using Plain = boost::math::policies::policy<boost::math::policies::promote_double<false>>;
    return 2 * boost::math::gamma_q_inv(std::max(redundancy, 1) / 2.0, kWholeTestRisk, Plain());
}

double Residuals::w(Eigen::Index row) const { return checked(row) ? std::abs(y(row)) / std::sqrt(diagonal(row)) : 0.0; }

MendSearch::MendSearch(const Residuals& residuals) : r_(residuals) {
    std::vector<Eigen::Index> rows;
    for (Eigen::Index row = 0; row < r_.y.size(); ++row)
        if (r_.isReading[static_cast<std::size_t>(row)] && r_.checked(row)) rows.push_back(row);
    std::stable_sort(rows.begin(), rows.end(), [&](Eigen::Index a, Eigen::Index b) { return r_.w(a) > r_.w(b); });
    if (rows.size() > kMostCandidates) {
        // Half by their |w|; then what is related to the largest of them, and so may be hidden by them.
        constexpr std::size_t kLargest = 8;
        std::vector<Eigen::Index> chosen(rows.begin(), rows.begin() + kMostCandidates / 2);
        for (std::size_t k = 0; k < kLargest && chosen.size() < kMostCandidates; ++k) {
            const Eigen::VectorXd column = r_.columnOf(rows[k]);
            for (std::size_t i = kMostCandidates / 2; i < rows.size() && chosen.size() < kMostCandidates; ++i) {
                const double related =
                    std::abs(column(rows[i])) / std::sqrt(r_.diagonal(rows[k]) * r_.diagonal(rows[i]));
                if (related >= kRelated && std::find(chosen.begin(), chosen.end(), rows[i]) == chosen.end())
                    chosen.push_back(rows[i]);
            }
        }
        rows = std::move(chosen);
    }
    candidates_ = std::move(rows);
    const auto n = static_cast<Eigen::Index>(candidates_.size());
    columns_.resize(r_.y.size(), n);
    inner_.resize(n, n);
    for (Eigen::Index k = 0; k < n; ++k) columns_.col(k) = r_.columnOf(candidates_[static_cast<std::size_t>(k)]);
    for (Eigen::Index i = 0; i < n; ++i)
        for (Eigen::Index k = 0; k < n; ++k) inner_(i, k) = columns_(candidates_[static_cast<std::size_t>(i)], k);
}

namespace {

/// Cholesky by hand of a few rows: false when they cannot be left out together without loosening something, in which
/// case a smaller set does the same.
bool solveFew(const Eigen::MatrixXd& inner, const std::vector<int>& picks, const Eigen::VectorXd& y, double& falls) {
    double l[MendSearch::kMostRows][MendSearch::kMostRows];
    double z[MendSearch::kMostRows];
    falls = 0;
    const std::size_t n = picks.size();
    for (std::size_t i = 0; i < n; ++i) {
        for (std::size_t k = 0; k <= i; ++k) {
            double sum = inner(picks[i], picks[k]);
            for (std::size_t j = 0; j < k; ++j) sum -= l[i][j] * l[k][j];
            if (k < i) {
                l[i][k] = sum / l[k][k];
            } else {
                if (sum <= 1e-7 * inner(picks[i], picks[i])) return false;
                l[i][i] = std::sqrt(sum);
            }
        }
        double sum = y(static_cast<Eigen::Index>(i));
        for (std::size_t j = 0; j < i; ++j) sum -= l[i][j] * z[j];
        z[i] = sum / l[i][i];
        falls += z[i] * z[i];
    }
    return true;
}

}  // namespace

bool MendSearch::leave(const Picks& picks, double& chi2) const {
    Eigen::Matrix<double, Eigen::Dynamic, 1, 0, kMostRows, 1> y(static_cast<Eigen::Index>(picks.size()));
    for (std::size_t i = 0; i < picks.size(); ++i)
        y(static_cast<Eigen::Index>(i)) = r_.y(candidates_[static_cast<std::size_t>(picks[i])]);
    double falls = 0;
    if (!solveFew(inner_, picks, y, falls)) return false;
    chi2 = std::max(r_.chi2 - falls, 0.0);
    return true;
}

RowSet MendSearch::setOf(const Picks& picks) const {
    RowSet set;
    const auto n = static_cast<Eigen::Index>(picks.size());
    Eigen::MatrixXd m(n, n);
    Eigen::VectorXd y(n);
    for (Eigen::Index i = 0; i < n; ++i) {
        const int a = picks[static_cast<std::size_t>(i)];
        set.rows.push_back(candidates_[static_cast<std::size_t>(a)]);
        y(i) = r_.y(set.rows.back());
        for (Eigen::Index k = 0; k < n; ++k) m(i, k) = inner_(a, picks[static_cast<std::size_t>(k)]);
    }
    const Eigen::MatrixXd inverse = linear::inverse(m);
    set.blunder = inverse * y;
    set.u = inverse.diagonal().cwiseMax(0).cwiseSqrt();
    set.chi2 = std::max(r_.chi2 - y.dot(set.blunder), 0.0);
    return set;
}

bool MendSearch::restAgrees(const RowSet& set, const Picks& picks) const {
    const auto n = static_cast<Eigen::Index>(picks.size());
    Eigen::MatrixXd m(n, n);
    Eigen::MatrixXd columns(r_.y.size(), n);
    for (Eigen::Index i = 0; i < n; ++i) {
        columns.col(i) = columns_.col(picks[static_cast<std::size_t>(i)]);
        for (Eigen::Index k = 0; k < n; ++k)
            m(i, k) = inner_(picks[static_cast<std::size_t>(i)], picks[static_cast<std::size_t>(k)]);
    }
    const Eigen::VectorXd y = r_.y - columns * set.blunder;
    const Eigen::MatrixXd half = linear::solvedLower(linear::lowerFactor(m), columns.transpose());
    for (Eigen::Index row = 0; row < y.size(); ++row) {
        if (std::find(set.rows.begin(), set.rows.end(), row) != set.rows.end()) continue;
        const double left = r_.diagonal(row) - half.col(row).squaredNorm();
        if (left > Residuals::kLeastChecked && y(row) * y(row) > kInDoubt * kInDoubt * left) return false;
    }
    return true;
}

void MendSearch::next(std::size_t size) {
    const int n = static_cast<int>(candidates_.size());
    std::vector<Tried> found;
    const auto attempt = [&](Picks picks) {
        double chi2 = 0;
        if (leave(picks, chi2)) found.push_back({std::move(picks), chi2});
    };
    if (size == 1) {
        for (int i = 0; i < n; ++i) attempt({i});
    } else if (size == 2) {
        for (int i = 0; i < n; ++i)
            for (int k = i + 1; k < n; ++k) attempt({i, k});
    } else if (size == 3) {
        const int most = std::min(n, kMostInTriples);
        for (int i = 0; i < most; ++i)
            for (int k = i + 1; k < most; ++k)
                for (int l = k + 1; l < most; ++l) attempt({i, k, l});
    } else {
        std::vector<Picks> seen;
        for (std::size_t t = 0; t < std::min(tried_.size(), kCarriedOnSets); ++t)
            for (int i = 0; i < n; ++i) {
                Picks picks = tried_[t].picks;
                if (std::find(picks.begin(), picks.end(), i) != picks.end()) continue;
                picks.insert(std::upper_bound(picks.begin(), picks.end(), i), i);
                seen.push_back(std::move(picks));
            }
        std::sort(seen.begin(), seen.end());
        seen.erase(std::unique(seen.begin(), seen.end()), seen.end());
        for (Picks& picks : seen) attempt(std::move(picks));
    }
    std::stable_sort(found.begin(), found.end(), [](const Tried& a, const Tried& b) { return a.chi2 < b.chi2; });
    tried_ = std::move(found);
}

std::vector<RowSet> MendSearch::mending(std::size_t size) {
    next(size);
    std::vector<RowSet> sets;
    if (static_cast<int>(size) > r_.redundancy) return sets;
    const double limit = wholeTestLimit(r_.redundancy - static_cast<int>(size));
    for (const Tried& t : tried_) {
        if (t.chi2 > limit) break;
        RowSet set = setOf(t.picks);
        if (restAgrees(set, t.picks)) sets.push_back(std::move(set));
    }
    return sets;
}

std::vector<RowSet> MendSearch::best(std::size_t count) const {
    std::vector<RowSet> sets;
    for (std::size_t k = 0; k < std::min(count, tried_.size()); ++k) sets.push_back(setOf(tried_[k].picks));
    return sets;
}

}  // namespace punch
