// The solution of the adjustment: its rows, and the descent to where they are met best.

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>

#include "core/linear/decompositions.h"
#include "core/measure/adjust.h"
#include "core/measure/drawn_range.h"
#include "core/measure/instruments.h"

namespace punch {
namespace {

constexpr int kMostIterations = 60;
constexpr int kTrialIterations = 25;  // of a trial: what takes longer is no clear explanation
constexpr double kConverged = 1e-10;  // mm or degrees

/// A step as it may be taken where distances bend: sizes, pitches and gaps stay on their side of nothing and change by
/// a factor of three at most, angles by 20 degrees. Otherwise a poorly known size runs into a mirrored solution. Each
/// is held back by itself, so that one that a blunder drives to nothing does not hold back the rest.
Eigen::VectorXd heldBack(const Model& model, const std::vector<double>& values, Eigen::VectorXd step) {
    constexpr double kFactor = 3;
    constexpr double kMostDegrees = 20;
    constexpr double kLeastSize = 0.02;  // mm
    for (const Parameter& p : model.parameters()) {
        if (p.unknown < 0) continue;
        double& by = step(p.unknown);
        const double now = values[static_cast<std::size_t>(p.unknown)];
        if (p.isAngle)
            by = std::clamp(by, -kMostDegrees, kMostDegrees);
        else if (p.isPositive && now > 0)
            by = std::clamp(by, std::min(std::max(now / kFactor, kLeastSize), now) - now,
                            std::max(now, kLeastSize) * kFactor - now);
    }
    return step;
}

}  // namespace

void Adjustment::findShared(const Part& part) {
    for (std::size_t i = 0; i < equations_.size(); ++i) {
        if (equations_[i].twin >= 0 || readings_[i].stats.shared <= 0) continue;
        for (std::size_t k = i + 1; k < equations_.size(); ++k)
            if (equations_[k].twin < 0 && saidTwice(part.readings[i], part.readings[k]))
                equations_[i].twin = equations_[k].twin = static_cast<int>(i);
    }
}

void Adjustment::fillRows(const Part& part, bool drawn) {
    // What a row says is kept from the first filling where it is the same everywhere.
    const auto set = [&](Eigen::Index row, const Expr& f, double value, double u) {
        gradients_[static_cast<std::size_t>(row)].clear();
        for (const auto& [index, d] : f.gradient())
            if (std::abs(d) > kNoInfluence) gradients_[static_cast<std::size_t>(row)].emplace_back(index, d / u);
        misfit_(row) = value - f.value();
        v_(row) = misfit_(row) / u;
    };
    for (Eigen::Index row = 0; row < v_.size(); ++row) {
        const int reading = rows_[static_cast<std::size_t>(row)];
        if (reading < 0) {
            const auto known = static_cast<std::size_t>(-1 - reading);
            if (known >= model_.letterValues().size()) {
                const Prior& prior = model_.priors()[known - model_.letterValues().size()];
                Expr p = at_.parameter(prior.parameter);
                if (prior.minus >= 0) p = p - at_.parameter(prior.minus);
                set(row, p, prior.value, prior.u);
                continue;
            }
            const auto& letter = model_.letterValues()[known];
            const DrawnRange range = drawnRange(letter.value);
            set(row, at_.parameter(letter.parameter), range.middle(), std::max(range.half() / std::sqrt(3.0), kLeastU));
            continue;
        }
        const auto i = static_cast<std::size_t>(reading);
        const ReadingStats& s = readings_[i].stats;
        Equation& e = equations_[i];
        if (!e.linear || drawn) {
            set(row, drawn ? *e.f : *evaluate(part, i, at_), s.mean, s.u);
            continue;
        }
        // Its value follows from the one as drawn.
        double value = e.f->value();
        for (const auto& [index, d] : e.f->gradient()) {
            const auto k = static_cast<std::size_t>(index);
            value += d * (values_[k] - drawnValues_[k]);
        }
        misfit_(row) = s.mean - value;
        v_(row) = misfit_(row) / s.u;
    }
    std::vector<Eigen::Triplet<double>> entries;
    const auto add = [&](std::size_t row, std::size_t to, double by) {
        for (const auto& [index, d] : gradients_[row]) entries.emplace_back(static_cast<int>(to), index, by * d);
    };
    std::vector<bool> isShared(rows_.size(), false);
    for (const SharedRows& s : shared_) {
        const Eigen::MatrixXd inverse =
            linear::solvedLower(s.lower, Eigen::MatrixXd::Identity(s.lower.rows(), s.lower.cols()));
        for (std::size_t i = 0; i < s.rows.size(); ++i) {
            isShared[static_cast<std::size_t>(s.rows[i])] = true;
            for (std::size_t k = 0; k <= i; ++k)
                add(static_cast<std::size_t>(s.rows[k]), static_cast<std::size_t>(s.rows[i]),
                    inverse(static_cast<Eigen::Index>(i), static_cast<Eigen::Index>(k)));
        }
    }
    for (std::size_t row = 0; row < rows_.size(); ++row)
        if (!isShared[row]) add(row, row, 1);
    j_.setFromTriplets(entries.begin(), entries.end());
    free(v_);
}

void Adjustment::free(Eigen::VectorXd& byRow) const {
    for (const SharedRows& s : shared_) {
        Eigen::VectorXd part(static_cast<Eigen::Index>(s.rows.size()));
        for (Eigen::Index i = 0; i < part.size(); ++i) part(i) = byRow(s.rows[static_cast<std::size_t>(i)]);
        part = linear::solvedLower(s.lower, part);
        for (Eigen::Index i = 0; i < part.size(); ++i) byRow(s.rows[static_cast<std::size_t>(i)]) = part(i);
    }
}

void Adjustment::freeBack(Eigen::VectorXd& byRow) const {
    for (const SharedRows& s : shared_) {
        Eigen::VectorXd part(static_cast<Eigen::Index>(s.rows.size()));
        for (Eigen::Index i = 0; i < part.size(); ++i) part(i) = byRow(s.rows[static_cast<std::size_t>(i)]);
        part = linear::solvedLowerTransposed(s.lower, part);
        for (Eigen::Index i = 0; i < part.size(); ++i) byRow(s.rows[static_cast<std::size_t>(i)]) = part(i);
    }
}

/// The rows of what is used, and which of them share an error.
void Adjustment::arrange(const std::vector<bool>& use) {
    rows_.clear();
    std::map<int, SharedRows> groups;
    for (std::size_t i = 0; i < use.size(); ++i)
        if (use[i]) {
            if (equations_[i].twin >= 0)
                groups[equations_[i].twin].rows.push_back(static_cast<Eigen::Index>(rows_.size()));
            rows_.push_back(static_cast<int>(i));
        }
    for (std::size_t i = 0; i < model_.letterValues().size() + model_.priors().size(); ++i)
        rows_.push_back(-1 - static_cast<int>(i));
    shared_.clear();
    for (auto& entry : groups) {
        SharedRows& group = entry.second;
        const auto size = static_cast<Eigen::Index>(group.rows.size());
        if (size < 2) continue;
        const auto stats = [&](Eigen::Index k) -> const ReadingStats& {
            const auto row = static_cast<std::size_t>(group.rows[static_cast<std::size_t>(k)]);
            return readings_[static_cast<std::size_t>(rows_[row])].stats;
        };
        Eigen::MatrixXd correlation = Eigen::MatrixXd::Identity(size, size);
        for (Eigen::Index i = 0; i < size; ++i)
            for (Eigen::Index k = 0; k < i; ++k)
                // An instrument without any handling of its own would leave nothing apart.
                correlation(i, k) = correlation(k, i) =
                    std::min(stats(i).shared * stats(k).shared / (stats(i).u * stats(k).u), 0.9999);
        group.lower = linear::lowerFactor(correlation);
        shared_.push_back(std::move(group));
    }
}

void Adjustment::goTo(const Part& part, const Eigen::VectorXd& values) {
    for (std::size_t k = 0; k < values_.size(); ++k) values_[k] = values(static_cast<Eigen::Index>(k));
    at_ = ModelAt(model_, values_);
    fillRows(part, false);
}

/// Down from where the values are; `squares` is that place's.
void Adjustment::descend(const Part& part, LeastSquares& squares) {
    // In a small notebook a trial may take its time; where each step is long it is a rough one.
    constexpr std::size_t kLong = 20'000;
    const auto unknowns = static_cast<std::size_t>(model_.unknowns());
    const int most = trying_ && rows_.size() * unknowns * unknowns > kLong ? kTrialIterations : kMostIterations;
    for (int iteration = 0; iteration < most; ++iteration) {
        const Eigen::VectorXd whole = squares.solve(v_);
        if (!whole.allFinite() || heldBack(model_, values_, whole).lpNorm<Eigen::Infinity>() < kConverged) break;
        const Eigen::VectorXd residuals = v_;
        const double before = v_.squaredNorm();
        const std::vector<double> from = values_;
        const auto good = [&](const Eigen::VectorXd& step, bool whenNear) {
            const Eigen::VectorXd held = heldBack(model_, from, step);
            if (!step.allFinite() || (whenNear && held != step)) return false;
            goTo(part, held + Eigen::Map<const Eigen::VectorXd>(from.data(), held.size()));
            return v_.allFinite() && v_.squaredNorm() <= before * (1 + 1e-9) + 1e-12;
        };
        bool taken = good(whole, true);
        const auto damped = [&](double damping, bool whenNear) {
            return good(squares.solveDamped(residuals, damping), whenNear);
        };
        for (double damping = 1e-6; !taken && damping < 3; damping *= 10) taken = damped(damping, true);
        // What a blunder drives to nothing is held back by itself, so that the rest goes on.
        if (!taken) taken = good(whole, false);
        for (double damping = 1e-6; !taken && damping < 1e3; damping *= 10) taken = damped(damping, false);
        if (!taken) {
            goTo(part, Eigen::Map<const Eigen::VectorXd>(from.data(), static_cast<Eigen::Index>(from.size())));
            break;
        }
        squares.factorise(j_);
    }
}

bool Adjustment::turnSides(const Part& part) {
    std::vector<double> values = values_;
    std::vector<bool> put(values.size(), false);
    bool any = false;
    for (const Parameter& p : model_.parameters()) {
        if (p.unknown < 0 || p.isPositive || p.isAngle || !part.assumed.contains(p.name)) continue;
        const auto k = static_cast<std::size_t>(p.unknown);
        values[k] = p.assumed;
        put[k] = any = true;
    }
    if (!any) return false;
    const ModelAt at(model_, values);
    bool turned = false;
    for (std::size_t i = 0; i < equations_.size(); ++i) {
        const Reading& r = part.readings[i];
        Equation& e = equations_[i];
        if (!e.f || e.a < 0 || e.b < 0 || r.isSigned || r.pick || r.axis == Axis::Direct || r.contact == Contact::Angle)
            continue;
        const Feature a = at.feature(e.a);
        const Feature b = at.feature(e.b);
        const Axis axis = a.kind == FeatureKind::Face && b.kind == FeatureKind::Face ? a.faceAxis : r.axis;
        const Expr between = b.coordinate(axis) - a.coordinate(axis);
        const bool byHand = std::any_of(between.gradient().begin(), between.gradient().end(), [&](const auto& entry) {
            return put[static_cast<std::size_t>(entry.first)] && std::abs(entry.second) > kNoInfluence;
        });
        const double sign = drawnSign(r, &a, &b);
        if (!byHand || sign == e.sign) continue;
        e.sign = sign;
        if (auto f = evaluate(part, i, drawn_)) {
            e.f = std::move(*f);
            drawnMisfit_[i] = readings_[i].stats.mean - e.f->value();
        }
        turned = true;
    }
    return turned;
}

void Adjustment::solve(const Part& part, const std::vector<bool>& use, const std::vector<double>& other) {
    arrange(use);
    const auto n = static_cast<Eigen::Index>(model_.unknowns());
    const auto m = static_cast<Eigen::Index>(rows_.size());
    j_.resize(m, n);
    v_.resize(m);
    misfit_.resize(m);
    gradients_.assign(rows_.size(), {});
    scale_ = Eigen::VectorXd::Ones(n);
    values_ = drawnValues_;
    at_ = drawn_;
    fillRows(part, true);
    null_ = Eigen::MatrixXd::Identity(n, n);
    c_ = Eigen::MatrixXd::Zero(n, n);
    redundancy_ = static_cast<int>(m);
    if (m == 0 || n == 0) return;

    LeastSquares squares;
    squares.factorise(j_);
    const auto vector = [n](const std::vector<double>& values) {
        return Eigen::Map<const Eigen::VectorXd>(values.data(), n);
    };
    if (!bends()) {
        goTo(part, vector(drawnValues_) + squares.solve(v_));
    } else {
        descend(part, squares);
        if (!other.empty()) {
            // Bent distances have more than one valley: the deeper of both counts.
            const std::vector<double> first = values_;
            const double depth = v_.squaredNorm();
            goTo(part, vector(other));
            squares.factorise(j_);
            descend(part, squares);
            if (!(v_.squaredNorm() < depth * (1 - 1e-9) - 1e-12)) {
                goTo(part, vector(first));
                squares.factorise(j_);
            }
        }
    }
    scale_ = squares.scale();
    redundancy_ = static_cast<int>(m - squares.rank());
    auto spread = squares.spread();
    c_ = std::move(spread.covariances);
    null_ = std::move(spread.null);
}

}  // namespace punch
