#include "core/model/best_fit.h"

#include <map>

namespace punch {

BestFit::BestFit(const std::vector<const Feature*>& pins) {
    const auto n = static_cast<double>(pins.size());
    for (const Feature* f : pins) {
        cx_ += f->x.value() / n;
        cy_ += f->y.value() / n;
    }
    double inertia = 0;
    // Over many pins the sums are gathered by unknown, since adding expressions one by one would copy them each time.
    std::map<int, double> meanX, meanY, turn;
    for (const Feature* f : pins) {
        const double dx = f->x.value() - cx_;
        const double dy = f->y.value() - cy_;
        inertia += dx * dx + dy * dy;
        for (const auto& [index, d] : f->x.gradient()) {
            meanX[index] += d / n;
            turn[index] -= dy * d;
        }
        for (const auto& [index, d] : f->y.gradient()) {
            meanY[index] += d / n;
            turn[index] += dx * d;
        }
    }
    turns_ = inertia > 1e-12;
    if (!turns_) turn.clear();
    for (auto& [index, d] : turn) d /= inertia;
    meanX_ = Expr::withGradient(cx_, meanX);
    meanY_ = Expr::withGradient(cy_, meanY);
    turn_ = Expr::withGradient(0, turn);
}

std::pair<Eigen::Vector3d, Eigen::Vector3d> BestFit::shares(const Feature& f) const {
    return {{-1, 0, f.y.value() - cy_}, {0, -1, -(f.x.value() - cx_)}};
}

}  // namespace punch
