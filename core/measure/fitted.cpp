#include "core/measure/fitted.h"

#include <algorithm>
#include <cmath>

namespace punch {
namespace {

double dot(const Expr& e, const Eigen::Ref<const Eigen::VectorXd>& byUnknown) {
    double sum = 0;
    for (const auto& [index, d] : e.gradient()) sum += d * byUnknown(index);
    return sum;
}

/// The pins that the fit is over: those that nothing loose moves, so that one pin off its place does not make all the
/// others loose; where hardly any is firm, all.
std::vector<const Feature*> placed(const Part& part, const Adjustment& a) {
    std::vector<const Feature*> all, firm;
    for (const FeatureId& id : allPins(part)) {
        const Feature& f = a.features().at(id);
        all.push_back(&f);
        if (a.firm(f.x) && a.firm(f.y)) firm.push_back(&f);
    }
    return firm.size() >= 3 && 2 * firm.size() > all.size() ? firm : all;
}

}  // namespace

Fitted::Fitted(const Part& part, const Adjustment& a) : a_(a), fit_(placed(part, a)) {
    const Expr* of[3] = {&fit_.meanX(), &fit_.meanY(), &fit_.turn()};
    loose_ = Eigen::MatrixXd::Zero(3, a.loose().cols());
    for (Eigen::Index k = 0; k < 3; ++k) {
        scaled2_(k) = a.scaledSize2(*of[k]);
        for (const auto& [index, d] : of[k]->gradient()) loose_.row(k) += d * a.loose().row(index);
    }
    all_ = lawOf({});
    Eigen::MatrixXd read = a.covariancesWithoutDrawings();
    drawings_ = read.size() > 0;
    if (drawings_) read_ = lawOf(std::move(read));
}

Fitted::Law Fitted::lawOf(Eigen::MatrixXd own) const {
    Law law;
    law.own = std::move(own);
    const Eigen::MatrixXd& c = law.own.size() > 0 ? law.own : a_.covariances();
    const Expr* of[3] = {&fit_.meanX(), &fit_.meanY(), &fit_.turn()};
    law.with = Eigen::MatrixXd::Zero(c.rows(), 3);
    for (Eigen::Index k = 0; k < 3; ++k)
        for (const auto& [index, d] : of[k]->gradient()) law.with.col(k) += d * c.col(index);
    for (Eigen::Index i = 0; i < 3; ++i)
        for (Eigen::Index k = 0; k < 3; ++k) law.among(i, k) = dot(*of[i], law.with.col(k));
    return law;
}

Eigen::Vector3d Fitted::spreadBy(const Law& law, const Feature& f) const {
    const auto [kx, ky] = fit_.shares(f);
    const Eigen::MatrixXd& c = law.own.size() > 0 ? law.own : a_.covariances();
    const auto among = [&](const Expr& a, const Expr& b) {
        double sum = 0;
        for (const auto& [i, da] : a.gradient())
            for (const auto& [k, db] : b.gradient()) sum += da * db * c(i, k);
        return sum;
    };
    const auto cross = [&](const Expr& e) {
        return Eigen::Vector3d(dot(e, law.with.col(0)), dot(e, law.with.col(1)), dot(e, law.with.col(2)));
    };
    const Eigen::Vector3d x = cross(f.x);
    const Eigen::Vector3d y = cross(f.y);
    return {among(f.x, f.x) + 2 * kx.dot(x) + kx.dot(law.among * kx),
            among(f.x, f.y) + ky.dot(x) + kx.dot(y) + kx.dot(law.among * ky),
            among(f.y, f.y) + 2 * ky.dot(y) + ky.dot(law.among * ky)};
}

Fitted::Spread Fitted::of(const Feature& f) const {
    const auto [kx, ky] = fit_.shares(f);
    Spread s;
    const auto firm = [&](const Expr& e, const Eigen::Vector3d& k) {
        if (a_.loose().cols() == 0) return true;
        Eigen::RowVectorXd along = k.transpose() * loose_;
        double size2 = a_.scaledSize2(e);
        for (Eigen::Index i = 0; i < 3; ++i) size2 += k(i) * k(i) * scaled2_(i);
        for (const auto& [index, d] : e.gradient()) along += d * a_.loose().row(index);
        return size2 == 0.0 || along.squaredNorm() <= 1e-14 * size2;
    };
    s.firm = firm(f.x, kx) && firm(f.y, ky);
    const auto largest = [](const Eigen::Vector3d& c) {
        return std::max((c(0) + c(2)) / 2 + std::hypot((c(0) - c(2)) / 2, c(1)), 0.0);
    };
    const Eigen::Vector3d all = spreadBy(all_, f);
    s.xx = all(0);
    s.xy = all(1);
    s.yy = all(2);
    s.largest = largest(all);
    s.largestRead = drawings_ ? std::min(largest(spreadBy(read_, f)), s.largest) : s.largest;
    for (const Way& way : a_.ways()) {
        const auto [dx, dy] = along(f, way.by);
        // Its own bend, and that of the fit.
        s.reach = std::max(s.reach, std::hypot(dx, dy) + 2 * way.bend);
    }
    return s;
}

Fitted::Common Fitted::common(const Eigen::VectorXd& by) const {
    return {dot(fit_.meanX(), by), dot(fit_.meanY(), by), dot(fit_.turn(), by)};
}

std::pair<double, double> Fitted::along(const Feature& f, const Eigen::VectorXd& by, const Common& c) const {
    const auto [kx, ky] = fit_.shares(f);
    return {dot(f.x, by) + kx(0) * c.meanX + kx(1) * c.meanY + kx(2) * c.turn,
            dot(f.y, by) + ky(0) * c.meanX + ky(1) * c.meanY + ky(2) * c.turn};
}

std::pair<double, double> Fitted::along(const Feature& f, const Eigen::VectorXd& by) const {
    return along(f, by, common(by));
}

}  // namespace punch
