#include "core/measure/adjust.h"

#include <fmt/format.h>

#include <Eigen/QR>
#include <algorithm>
#include <boost/math/distributions/chi_squared.hpp>
#include <cmath>

namespace punch {
namespace {
constexpr int kMostIterations = 30;
constexpr double kConverged = 1e-10;  // mm
constexpr double kNoRedundancy = 1e-6;
constexpr double kWholeTestRisk = 0.001;
}  // namespace

Adjustment::Adjustment(const Part& part, const std::string& free) : parameters_(part, free) {
    values_ = parameters_.start();
    drawn_ = featuresAt(part, parameters_, values_);
    const auto stats = readingStats(part);
    readings_.resize(part.readings.size());
    std::vector<bool> use(part.readings.size());
    for (std::size_t i = 0; i < readings_.size(); ++i) {
        ReadingResult& r = readings_[i];
        r.stats = stats[i];
        r.words = stats[i].question;
        const auto f = contactExpr(part, part.readings[i], drawn_, drawn_);
        if (!f) {
            r.state = ReadingState::Orphan;
            r.words = f.error().what;
        }
        use[i] = f.has_value() && stats[i].usable;
    }
    used_ = static_cast<int>(std::count(use.begin(), use.end(), true));
    solve(part, use);
    judge(part);
    // One blunder at a time is set aside, as long as something is left to check the rest.
    for (int round = 0; round < 20; ++round) {
        std::size_t worst = readings_.size();
        for (const std::size_t i : rows_)
            if (std::abs(readings_[i].w) > kInDoubt &&
                (worst == readings_.size() || std::abs(readings_[i].w) > std::abs(readings_[worst].w)))
                worst = i;
        if (worst == readings_.size() || redundancy_ < 1 || readings_[worst].state == ReadingState::OneOf) break;
        const double w = readings_[worst].w;
        use[worst] = false;
        solve(part, use);
        judge(part);
        readings_[worst].state = ReadingState::InDoubt;
        readings_[worst].w = w;
    }
    for (std::size_t i = 0; i < readings_.size(); ++i) {
        ReadingResult& r = readings_[i];
        if (r.state == ReadingState::Orphan || r.state == ReadingState::Unused) continue;
        r.expected = contactExpr(part, part.readings[i], features_, drawn_)->value();
        if (r.state == ReadingState::InDoubt)
            r.words =
                fmt::format("{:.3f} mm off what the rest agree on ({:.3f} mm)", r.stats.mean - r.expected, r.expected);
    }
}

void Adjustment::solve(const Part& part, const std::vector<bool>& use) {
    const auto n = parameters_.unknowns();
    rows_.clear();
    for (std::size_t i = 0; i < use.size(); ++i)
        if (use[i]) rows_.push_back(i);
    const auto m = static_cast<Eigen::Index>(rows_.size());
    j_ = Eigen::MatrixXd::Zero(m, n);
    v_ = Eigen::VectorXd::Zero(m);
    scale_ = Eigen::VectorXd::Ones(n);
    values_ = parameters_.start();
    Eigen::CompleteOrthogonalDecomposition<Eigen::MatrixXd> cod;
    cod.setThreshold(kRankThreshold);
    for (int iteration = 0; iteration < kMostIterations; ++iteration) {
        features_ = featuresAt(part, parameters_, values_);
        j_.setZero();
        for (Eigen::Index row = 0; row < m; ++row) {
            const std::size_t i = rows_[static_cast<std::size_t>(row)];
            const Expr f = *contactExpr(part, part.readings[i], features_, drawn_);
            const double u = readings_[i].stats.u;
            for (const auto& [index, d] : f.gradient()) j_(row, index) = d / u;
            v_(row) = (readings_[i].stats.mean - f.value()) / u;
        }
        if (m == 0 || n == 0) break;
        for (Eigen::Index k = 0; k < n; ++k) {
            const double norm = j_.col(k).norm();
            scale_(k) = norm > 0 ? 1.0 / norm : 1.0;
        }
        cod.compute(j_ * scale_.asDiagonal());
        const Eigen::VectorXd step = scale_.asDiagonal() * cod.solve(v_);
        for (Eigen::Index k = 0; k < n; ++k) values_[static_cast<std::size_t>(k)] += step(k);
        if (step.lpNorm<Eigen::Infinity>() < kConverged) break;
    }
    features_ = featuresAt(part, parameters_, values_);
    const Eigen::Index rank = m == 0 || n == 0 ? 0 : cod.rank();
    null_ = Eigen::MatrixXd::Identity(n, n);
    c_ = Eigen::MatrixXd::Zero(n, n);
    if (rank > 0) {
        const Eigen::MatrixXd pseudo = cod.pseudoInverse();
        c_ = scale_.asDiagonal() * (pseudo * pseudo.transpose()) * scale_.asDiagonal();
        null_.resize(n, 0);
        if (rank < n) {
            // The last n - rank rows of Z span the null space of the scaled Jacobian.
            const Eigen::MatrixXd z = cod.colsPermutation() * Eigen::MatrixXd(cod.matrixZ()).transpose();
            null_ = scale_.asDiagonal() * z.rightCols(n - rank);
        }
    }
    redundancy_ = static_cast<int>(m - rank);
}

void Adjustment::judge(const Part& part) {
    for (Eigen::Index row = 0; row < v_.size(); ++row) {
        const std::size_t i = rows_[static_cast<std::size_t>(row)];
        const Expr f = *contactExpr(part, part.readings[i], features_, drawn_);
        v_(row) = (readings_[i].stats.mean - f.value()) / readings_[i].stats.u;
    }
    chi2_ = v_.squaredNorm();
    // Cofactors of the standardised residuals: I - A C A'.
    const Eigen::MatrixXd q = Eigen::MatrixXd::Identity(v_.size(), v_.size()) - j_ * c_ * j_.transpose();
    for (Eigen::Index row = 0; row < v_.size(); ++row) {
        ReadingResult& r = readings_[rows_[static_cast<std::size_t>(row)]];
        r.redundancy = std::max(q(row, row), 0.0);
        const bool checked = r.redundancy > kNoRedundancy;
        r.state = checked ? ReadingState::Agrees : ReadingState::Unchecked;
        r.w = checked ? v_(row) / std::sqrt(r.redundancy) : 0.0;
    }
    Eigen::Index worst = -1;
    for (Eigen::Index row = 0; row < v_.size(); ++row) {
        const double w = std::abs(readings_[rows_[static_cast<std::size_t>(row)]].w);
        if (w > kInDoubt && (worst < 0 || w > std::abs(readings_[rows_[static_cast<std::size_t>(worst)]].w)))
            worst = row;
    }
    if (worst < 0) return;
    std::vector<std::size_t> group;
    for (Eigen::Index row = 0; row < v_.size(); ++row) {
        if (q(row, row) <= kNoRedundancy) continue;
        const double rho = q(worst, row) / std::sqrt(q(worst, worst) * q(row, row));
        if (row == worst || std::abs(rho) >= kSameResidual) group.push_back(rows_[static_cast<std::size_t>(row)]);
    }
    if (group.size() < 2) return;
    std::string names;
    for (const std::size_t i : group) names += fmt::format("{}{}", names.empty() ? "" : ", ", i + 1);
    for (const std::size_t i : group) {
        readings_[i].state = ReadingState::OneOf;
        readings_[i].words = fmt::format("one of readings {} is wrong; nothing tells which", names);
    }
}

Eigen::VectorXd Adjustment::dense(const Expr& e) const {
    Eigen::VectorXd g = Eigen::VectorXd::Zero(parameters_.unknowns());
    for (const auto& [index, d] : e.gradient()) g(index) = d;
    return g;
}

bool Adjustment::firm(const Expr& e) const {
    if (null_.cols() == 0) return true;
    const Eigen::VectorXd g = dense(e);
    const double size = scale_.cwiseProduct(g).norm();
    return size == 0.0 || (g.transpose() * null_).norm() <= 1e-7 * size;
}

double Adjustment::u(const Expr& e) const { return std::sqrt(std::max(covariance(e, e), 0.0)); }

double Adjustment::covariance(const Expr& a, const Expr& b) const {
    double sum = 0;
    for (const auto& [i, da] : a.gradient())
        for (const auto& [k, db] : b.gradient()) sum += da * db * c_(i, k);
    return sum;
}

bool Adjustment::wholeTestHolds() const {
    if (redundancy_ < 1) return true;
    const boost::math::chi_squared law(redundancy_);
    return chi2_ <= boost::math::quantile(boost::math::complement(law, kWholeTestRisk));
}

std::vector<std::pair<std::size_t, double>> Adjustment::weightsIn(const Expr& e) const {
    // The value's change per reading is g C A' / u; its share of the variance is the square, over the whole.
    std::vector<std::pair<std::size_t, double>> weights;
    if (j_.rows() == 0) return weights;
    const Eigen::VectorXd share = (j_ * (c_ * dense(e))).cwiseAbs2();
    const double all = share.sum();
    if (all <= 0) return weights;
    for (Eigen::Index row = 0; row < share.size(); ++row)
        if (share(row) / all >= 0.005) weights.emplace_back(rows_[static_cast<std::size_t>(row)], share(row) / all);
    std::sort(weights.begin(), weights.end(), [](const auto& a, const auto& b) { return a.second > b.second; });
    return weights;
}

}  // namespace punch
