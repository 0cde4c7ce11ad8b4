#include "core/measure/adjust.h"

#include <fmt/format.h>

#include <Eigen/QR>
#include <algorithm>
#include <boost/math/distributions/chi_squared.hpp>
#include <cmath>
#include <limits>

#include "core/measure/drawn_range.h"
#include "core/measure/instruments.h"

namespace punch {
namespace {
constexpr int kMostIterations = 60;
constexpr double kConverged = 1e-10;  // mm or degrees
constexpr double kNoInfluence = 1e-9;  // mm per mm or degree; what cancels but for rounding determines nothing
constexpr double kWholeTestRisk = 0.001;

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

using Decomposition = Eigen::CompleteOrthogonalDecomposition<Eigen::MatrixXd>;
}  // namespace

Adjustment::Adjustment(const Part& part, const std::string& free)
    : model_(part, free), drawnValues_(model_.start()), values_(drawnValues_), drawn_(model_, values_), at_(drawn_) {
    const std::size_t count = part.readings.size();
    auto stats = readingStats(part);
    readings_.resize(count);
    equations_.resize(count);
    std::vector<bool> use(count);
    for (std::size_t i = 0; i < count; ++i) equations_[i] = resolve(part, part.readings[i], drawn_);
    for (std::size_t i = 0; i < count; ++i) {
        ReadingResult& r = readings_[i];
        r.stats = std::move(stats[i]);
        r.words = r.stats.question;
        auto f = evaluate(part, i, drawn_);
        if (f)
            equations_[i].f = std::move(*f);
        else {
            r.state = ReadingState::Orphan;
            r.words = f.error().what;
        }
        use[i] = f.has_value() && r.stats.usable && std::isfinite(r.stats.mean);
    }
    solve(part, use);
    judge();
    snoop(part, use);
    for (Eigen::Index row = 0; row < v_.size(); ++row)
        if (const int i = rows_[static_cast<std::size_t>(row)]; i >= 0) {
            ReadingResult& r = readings_[static_cast<std::size_t>(i)];
            r.expected = r.stats.mean - v_(row) * r.stats.u;
        }
    for (std::size_t i = 0; i < count; ++i) {
        ReadingResult& r = readings_[i];
        if (r.state == ReadingState::InDoubt) {
            r.expected = evaluate(part, i, at_)->value();
            const char* unit = inDegrees(part.readings[i].contact) ? "°" : " mm";
            r.words = fmt::format("{:.3f}{} off what the rest agree on", r.stats.mean - r.expected, unit);
            // A place in a picture is no number that people know.
            if (part.readings[i].contact != Contact::Picture) r.words += fmt::format(" ({:.3f}{})", r.expected, unit);
        }
    }
}

Adjustment::Equation Adjustment::resolve(const Part& part, const Reading& r, const ModelAt& drawn) const {
    Equation e;
    if (r.contact == Contact::Quantity) {
        e.parameter = model_.parameterIndex(r.name);
        return e;
    }
    if (r.pick) {
        e.picture = model_.pictureIndex(r.source);
        e.a = r.a.empty() ? -1 : model_.featureIndex(r.a);
        return e;
    }
    e.a = model_.featureIndex(asMeant(r, r.a));
    if (!r.b.empty()) e.b = model_.featureIndex(asMeant(r, r.b));
    if (!r.c.empty()) e.c = model_.featureIndex(r.c);
    if (!part.zeros.empty() && !r.drawing) e.zero = model_.parameterIndex("zero." + r.instrument);
    if (!r.sameAs.empty())
        for (std::size_t i = 0; i < part.readings.size(); ++i)
            if (part.readings[i].id == r.sameAs && part.readings[i].sameAs.empty()) e.same = static_cast<int>(i);
    if (e.a >= 0 && e.b >= 0 && !r.isSigned && r.axis != Axis::Direct) {
        const Feature a = drawn.feature(e.a);
        const Feature b = drawn.feature(e.b);
        e.sign = drawnSign(r, &a, &b);
    }
    e.linear = (r.b.empty() || r.axis != Axis::Direct) && r.contact != Contact::Angle && r.sameAs.empty() &&
               model_.isLinear(e.a) && (e.b < 0 || model_.isLinear(e.b));
    return e;
}

Result<Expr> Adjustment::evaluate(const Part& part, std::size_t index, const ModelAt& at) const {
    const Reading& r = part.readings[index];
    const Equation& e = equations_[index];
    if (r.contact == Contact::Quantity) {
        if (e.parameter >= 0) return at.parameter(e.parameter);
        return problem("a named value needs a name", r.id, "Name it, as in “A”");
    }
    if (r.pick && e.picture < 0)
        return problem("the picture that it was taken in is no longer there", r.id,
                       "Bring the picture back, or remove it");
    if (r.pick && (r.contact == Contact::PictureLength || r.contact == Contact::PictureLevel))
        return pictureExpr(r, at.picture(e.picture), nullptr);
    if (e.a < 0 || (!r.b.empty() && e.b < 0) || (!r.c.empty() && e.c < 0))
        return problem("it was taken on a feature that is no longer there", r.id,
                       "Bring the feature back, join the reading to another, or remove it");
    const Feature a = at.feature(e.a);
    if (r.pick) return pictureExpr(r, at.picture(e.picture), &a);
    std::optional<Feature> b;
    std::optional<Feature> c;
    if (e.b >= 0) b.emplace(at.feature(e.b));
    if (e.c >= 0) c.emplace(at.feature(e.c));
    auto f = contactExpr(r, &a, b ? &*b : nullptr, c ? &*c : nullptr, e.sign);
    if (!f) return f;
    if (r.contact == Contact::Angle && readings_[index].stats.usable) {
        // The turn of the value nearest to what was read.
        const double turns = std::round((readings_[index].stats.mean - f->value()) / 360.0);
        if (turns != 0) *f = *f + Expr(360.0 * turns);
    }
    if (e.zero >= 0) *f = *f + at.parameter(e.zero);
    if (!r.sameAs.empty()) {
        if (e.same < 0)
            return problem("the reading that it was found equal to is no longer there", r.id, "Choose another");
        const auto other = evaluate(part, static_cast<std::size_t>(e.same), at);
        if (!other) return other;
        return *f - *other;
    }
    return f;
}

void Adjustment::fillRows(const Part& part, bool drawn) {
    if (drawn) j_.setZero();
    for (Eigen::Index row = 0; row < v_.size(); ++row) {
        const int reading = rows_[static_cast<std::size_t>(row)];
        if (reading < 0) {
            const auto known = static_cast<std::size_t>(-1 - reading);
            if (known >= model_.letterValues().size()) {
                const Prior& prior = model_.priors()[known - model_.letterValues().size()];
                Expr p = at_.parameter(prior.parameter);
                if (prior.minus >= 0) p = p - at_.parameter(prior.minus);
                j_.row(row).setZero();
                for (const auto& [index, d] : p.gradient()) j_(row, index) = d / prior.u;
                v_(row) = (prior.value - p.value()) / prior.u;
                continue;
            }
            const auto& letter = model_.letterValues()[known];
            const DrawnRange range = drawnRange(letter.value);
            const Expr& f = at_.parameter(letter.parameter);
            const double u = std::max(range.half() / std::sqrt(3.0), kLeastU);
            j_.row(row).setZero();
            for (const auto& [index, d] : f.gradient()) j_(row, index) = d / u;
            v_(row) = (range.middle() - f.value()) / u;
            continue;
        }
        const auto i = static_cast<std::size_t>(reading);
        const ReadingStats& s = readings_[i].stats;
        Equation& e = equations_[i];
        if (e.linear) {
            // Its value follows from the one as drawn.
            double value = e.f->value();
            for (const auto& [index, d] : e.f->gradient()) {
                const auto k = static_cast<std::size_t>(index);
                value += d * (values_[k] - drawnValues_[k]);
                if (drawn) j_(row, index) = d / s.u;
            }
            v_(row) = (s.mean - value) / s.u;
            continue;
        }
        const Expr f = drawn ? *e.f : *evaluate(part, i, at_);
        j_.row(row).setZero();
        for (const auto& [index, d] : f.gradient())
            if (std::abs(d) > kNoInfluence) j_(row, index) = d / s.u;
        v_(row) = (s.mean - f.value()) / s.u;
    }
}

void Adjustment::solve(const Part& part, const std::vector<bool>& use) {
    const auto n = static_cast<Eigen::Index>(model_.unknowns());
    rows_.clear();
    for (std::size_t i = 0; i < use.size(); ++i)
        if (use[i]) rows_.push_back(static_cast<int>(i));
    for (std::size_t i = 0; i < model_.letterValues().size() + model_.priors().size(); ++i)
        rows_.push_back(-1 - static_cast<int>(i));
    const auto m = static_cast<Eigen::Index>(rows_.size());
    j_.resize(m, n);
    v_.resize(m);
    scale_ = Eigen::VectorXd::Ones(n);
    values_ = drawnValues_;
    at_ = drawn_;
    fillRows(part, true);
    null_ = Eigen::MatrixXd::Identity(n, n);
    c_ = Eigen::MatrixXd::Zero(n, n);
    redundancy_ = static_cast<int>(m);
    if (m == 0 || n == 0) return;

    Decomposition cod;
    cod.setThreshold(kRankThreshold);
    Eigen::MatrixXd factored;
    const auto factorise = [&] {
        factored = j_;
        for (Eigen::Index k = 0; k < n; ++k) {
            const double norm = j_.col(k).norm();
            scale_(k) = norm > 0 ? 1.0 / norm : 1.0;
        }
        cod.compute(j_ * scale_.asDiagonal());
    };
    factorise();
    const bool linear = std::all_of(rows_.begin(), rows_.end(), [&](int reading) {
        return reading >= 0 && equations_[static_cast<std::size_t>(reading)].linear;
    });
    const auto take = [&](const std::vector<double>& from, const Eigen::VectorXd& step) {
        for (Eigen::Index k = 0; k < n; ++k)
            values_[static_cast<std::size_t>(k)] = from[static_cast<std::size_t>(k)] + step(k);
        at_ = ModelAt(model_, values_);
        fillRows(part, false);
    };
    if (linear) {
        take(drawnValues_, scale_.asDiagonal() * cod.solve(v_));
    } else {
        for (int iteration = 0; iteration < kMostIterations; ++iteration) {
            const Eigen::VectorXd whole = scale_.asDiagonal() * cod.solve(v_);
            if (!whole.allFinite() || heldBack(model_, values_, whole).lpNorm<Eigen::Infinity>() < kConverged) break;
            const Eigen::VectorXd residuals = v_;
            const double before = v_.squaredNorm();
            const std::vector<double> from = values_;
            const auto good = [&](const Eigen::VectorXd& step, bool whenNear) {
                const Eigen::VectorXd held = heldBack(model_, from, step);
                if (!step.allFinite() || (whenNear && held != step)) return false;
                take(from, held);
                return v_.allFinite() && v_.squaredNorm() <= before * (1 + 1e-9) + 1e-12;
            };
            bool taken = good(whole, true);
            // Levenberg's damping holds back what is poorly determined and lets the rest go on.
            const Eigen::MatrixXd scaled = factored * scale_.asDiagonal();

            const auto damped = [&](double damping, bool whenNear) {
                Eigen::MatrixXd rows(m + n, n);
                rows << scaled, std::sqrt(damping) * Eigen::MatrixXd::Identity(n, n);
                Eigen::VectorXd right = Eigen::VectorXd::Zero(m + n);
                right.head(m) = residuals;
                return good(scale_.asDiagonal() * Decomposition(rows).solve(right), whenNear);
            };
            for (double damping = 1e-6; !taken && damping < 3; damping *= 10) taken = damped(damping, true);
            // What a blunder drives to nothing is held back by itself, so that the rest goes on.
            if (!taken) taken = good(whole, false);
            for (double damping = 1e-6; !taken && damping < 1e3; damping *= 10) taken = damped(damping, false);
            if (!taken) {
                take(from, Eigen::VectorXd::Zero(n));
                break;
            }
            factorise();
        }
    }
    const Eigen::Index rank = cod.rank();
    redundancy_ = static_cast<int>(m - rank);
    if (rank == 0) return;
    const Eigen::MatrixXd r = cod.matrixT().topLeftCorner(rank, rank).triangularView<Eigen::Upper>();
    Eigen::MatrixXd inverse = Eigen::MatrixXd::Identity(rank, rank);
    r.triangularView<Eigen::Upper>().solveInPlace(inverse);
    if (rank == n) {
        const Eigen::MatrixXd g = scale_.asDiagonal() * (cod.colsPermutation() * inverse);
        c_.noalias() = g * g.transpose();
        null_.resize(n, 0);
    } else {
        // The first rows of Z span what is determined, the last n - rank the null space of the scaled Jacobian.
        const Eigen::MatrixXd z = cod.colsPermutation() * Eigen::MatrixXd(cod.matrixZ()).transpose();
        const Eigen::MatrixXd g = scale_.asDiagonal() * (z.leftCols(rank) * inverse);
        c_.noalias() = g * g.transpose();
        null_ = scale_.asDiagonal() * z.rightCols(n - rank);
    }
}

Result<Expr> Adjustment::equation(const Reading& r) const {
    const auto index = [&](const FeatureId& id) { return id.empty() ? -1 : model_.featureIndex(asMeant(r, id)); };
    const int ia = index(r.a);
    const int ib = index(r.b);
    const int ic = index(r.c);
    if (ia < 0 || (!r.b.empty() && ib < 0) || (!r.c.empty() && ic < 0))
        return problem("it names a feature that is not there", {}, "Choose another");
    const Feature a = at_.feature(ia);
    std::optional<Feature> b;
    std::optional<Feature> c;
    if (ib >= 0) b = at_.feature(ib);
    if (ic >= 0) c = at_.feature(ic);
    return contactExpr(r, &a, b ? &*b : nullptr, c ? &*c : nullptr, drawnSign(r, &a, b ? &*b : nullptr));
}

const std::map<FeatureId, Feature>& Adjustment::features() const {
    if (features_.empty()) features_ = at_.features();
    return features_;
}

Eigen::VectorXd Adjustment::dense(const Expr& e) const {
    Eigen::VectorXd g = Eigen::VectorXd::Zero(model_.unknowns());
    for (const auto& [index, d] : e.gradient()) g(index) = d;
    return g;
}

bool Adjustment::firm(const Expr& e) const {
    if (null_.cols() == 0) return true;
    double size2 = 0;
    Eigen::RowVectorXd along = Eigen::RowVectorXd::Zero(null_.cols());
    for (const auto& [index, d] : e.gradient()) {
        if (std::abs(d) <= kNoInfluence) continue;
        size2 += scale_(index) * scale_(index) * d * d;
        along += d * null_.row(index);
    }
    return size2 == 0.0 || along.squaredNorm() <= 1e-14 * size2;
}

double Adjustment::u(const Expr& e) const { return std::sqrt(std::max(covariance(e, e), 0.0)); }

double Adjustment::covariance(const Expr& a, const Expr& b) const {
    double sum = 0;
    for (const auto& [i, da] : a.gradient())
        for (const auto& [k, db] : b.gradient()) sum += da * db * c_(i, k);
    return sum;
}

bool Adjustment::wholeTestHolds() const {
    // With nothing to spare every reading is met exactly, unless no part could show them together.
    if (redundancy_ < 1) return chi2_ <= 1;
    const boost::math::chi_squared law(redundancy_);
    return chi2_ <= boost::math::quantile(boost::math::complement(law, kWholeTestRisk));
}

std::vector<std::pair<std::size_t, double>> Adjustment::weightsIn(const Expr& e) const {
    // The value's change per reading is g C A' / u; its share of the variance is the square, over the whole.
    std::vector<std::pair<std::size_t, double>> weights;
    if (j_.rows() == 0 || e.gradient().empty()) return weights;
    Eigen::VectorXd cg = Eigen::VectorXd::Zero(c_.rows());
    for (const auto& [index, d] : e.gradient()) cg += d * c_.col(index);
    const Eigen::VectorXd share = (j_ * cg).cwiseAbs2();
    const double all = share.sum();
    if (all <= 0) return weights;
    for (Eigen::Index row = 0; row < share.size(); ++row)
        if (const int i = rows_[static_cast<std::size_t>(row)]; i >= 0 && share(row) / all >= 0.005)
            weights.emplace_back(static_cast<std::size_t>(i), share(row) / all);
    std::sort(weights.begin(), weights.end(), [](const auto& a, const auto& b) { return a.second > b.second; });
    return weights;
}

}  // namespace punch
