#include "core/measure/adjust.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <limits>

#include "core/linear/decompositions.h"
#include "core/measure/impossible.h"

namespace punch {

Adjustment::Adjustment(const Part& part, const std::string& free, const std::vector<std::size_t>& aside, Search search)
    : model_(part, free),
      drawnValues_(model_.start()),
      values_(drawnValues_),
      drawn_(model_, values_),
      at_(drawn_),
      search_(search) {
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
    for (Impossible& what : negativeLengths(part, readings_)) {
        for (const std::size_t i : what.readings) {
            use[i] = false;
            readings_[i].state = ReadingState::Impossible;
        }
        impossible_.push_back(std::move(what));
    }
    for (const std::size_t i : aside) {
        if (i >= count || !use[i]) continue;
        use[i] = false;
        readings_[i].state = ReadingState::InDoubt;
    }
    findShared(part);
    drawnMisfit_.resize(count);
    for (std::size_t i = 0; i < count; ++i)
        if (equations_[i].f) drawnMisfit_[i] = readings_[i].stats.mean - equations_[i].f->value();
    // Readings that are set aside beforehand can only lower what the others leave: where the model bends, the solution
    // with all of them is a second place to start from.
    std::vector<double> all;
    if (!aside.empty()) {
        std::vector<bool> before = use;
        for (const std::size_t i : aside)
            before[i] = before[i] || (i < count && readings_[i].state == ReadingState::InDoubt);
        solve(part, before);
        if (bends()) all = values_;
    }
    solve(part, use, all);
    for (int round = 0; round < kMostSideRounds && turnSides(part); ++round) solve(part, use, all);
    judge();
    settle(part, use);
    // What cannot be is left out, which may free others from what it did to them.
    for (std::size_t round = 0; round < count && leaveOutImpossible(part, use); ++round) {
        ways_.clear();
        solve(part, use);
        judge();
        settle(part, use);
    }
    say(part);
}

void Adjustment::say(const Part& part) {
    for (Eigen::Index row = 0; row < v_.size(); ++row)
        if (const int i = rows_[static_cast<std::size_t>(row)]; i >= 0) {
            ReadingResult& r = readings_[static_cast<std::size_t>(i)];
            r.expected = r.stats.mean - misfit_(row);
        }
    for (std::size_t i = 0; i < readings_.size(); ++i) {
        ReadingResult& r = readings_[i];
        if (r.state == ReadingState::InDoubt) {
            r.expected = evaluate(part, i, at_)->value();
            const char* unit = inDegrees(part.readings[i].contact) ? "°" : " mm";
            r.words = fmt::format("{:.3f}{} off what the rest agree on", r.stats.mean - r.expected, unit);
            // A place in a picture is no number that people know.
            if (part.readings[i].contact != Contact::Picture) r.words += fmt::format(" ({:.3f}{})", r.expected, unit);
        }
    }
    for (const Impossible& what : impossible_)
        for (const std::size_t i : what.readings) {
            std::string& words = readings_[i].words;
            words = words.empty() ? what.words : what.words + "; " + words;
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
        e.a = r.a.empty() ? -1 : model_.readOn(part, r, r.a);
        return e;
    }
    e.a = model_.readOn(part, r, asMeant(r, r.a));
    if (!r.b.empty()) e.b = model_.readOn(part, r, asMeant(r, r.b));
    if (!r.c.empty()) e.c = model_.readOn(part, r, r.c);
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

double Adjustment::scaledSize2(const Expr& e) const {
    double size2 = 0;
    for (const auto& [index, d] : e.gradient())
        if (std::abs(d) > kNoInfluence) size2 += scale_(index) * scale_(index) * d * d;
    return size2;
}

bool Adjustment::firm(const Expr& e) const {
    if (null_.cols() == 0) return true;
    Eigen::RowVectorXd along = Eigen::RowVectorXd::Zero(null_.cols());
    for (const auto& [index, d] : e.gradient())
        if (std::abs(d) > kNoInfluence) along += d * null_.row(index);
    const double size2 = scaledSize2(e);
    return size2 == 0.0 || along.squaredNorm() <= 1e-14 * size2;
}

double Adjustment::u(const Expr& e) const { return std::sqrt(std::max(covariance(e, e), 0.0)); }

double Adjustment::covariance(const Expr& a, const Expr& b) const {
    double sum = 0;
    for (const auto& [i, da] : a.gradient())
        for (const auto& [k, db] : b.gradient()) sum += da * db * c_(i, k);
    return sum;
}

double Adjustment::change(const Expr& e, const Way& way) {
    double sum = 0;
    for (const auto& [index, d] : e.gradient()) sum += d * way.by(index);
    return sum;
}

double Adjustment::reach(const Expr& e) const {
    double most = 0;
    for (const Way& way : ways_)
        if (const double by = std::abs(change(e, way)); by > 1e-9) most = std::max(most, by + way.bend);
    return most;
}

double Adjustment::span(const Expr& e) const {
    if (ways_.empty()) return 0;
    double low = std::numeric_limits<double>::infinity();
    double high = -low;
    for (const Way& way : ways_) {
        low = std::min(low, change(e, way));
        high = std::max(high, change(e, way));
    }
    return high - low;
}

Eigen::VectorXd Adjustment::sharedError(std::size_t reading) const {
    Eigen::VectorXd byRow = Eigen::VectorXd::Zero(v_.size());
    const int twin = equations_[reading].twin;
    const double shared = readings_[reading].stats.shared;
    for (std::size_t row = 0; row < rows_.size(); ++row) {
        if (rows_[row] < 0) continue;
        const auto i = static_cast<std::size_t>(rows_[row]);
        if (i != reading && (twin < 0 || equations_[i].twin != twin)) continue;
        byRow(static_cast<Eigen::Index>(row)) = shared * readings_[i].stats.shared / readings_[i].stats.u;
    }
    free(byRow);
    return c_ * (j_.transpose() * byRow);
}

bool Adjustment::isDrawn(std::size_t row) const {
    const int reading = rows_[row];
    if (reading < 0) return static_cast<std::size_t>(-1 - reading) < model_.letterValues().size();
    const ReadingStats& s = readings_[static_cast<std::size_t>(reading)].stats;
    return s.specimens == 0 && s.spread > 0;
}

Eigen::MatrixXd Adjustment::covariancesWithoutDrawings() const {
    std::vector<Eigen::Triplet<double>> entries;
    bool any = false;
    for (std::size_t row = 0; row < rows_.size(); ++row) {
        if (isDrawn(row)) {
            any = true;
            continue;
        }
        for (SparseRows::InnerIterator it(j_, static_cast<Eigen::Index>(row)); it; ++it)
            entries.emplace_back(static_cast<int>(row), static_cast<int>(it.col()), it.value());
    }
    if (!any) return {};
    SparseRows rest(j_.rows(), j_.cols());
    rest.setFromTriplets(entries.begin(), entries.end());
    // The error of the solution is C J' times the errors of the rows, each of which has unit variance.
    const Eigen::MatrixXd gain = rest * c_;
    return linear::transposeTimes(gain, gain);
}

bool Adjustment::wholeTestHolds() const { return chi2_ <= wholeTestLimit(redundancy_); }

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
