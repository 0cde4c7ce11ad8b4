#include "core/model/best_fit.h"

namespace punch {

BestFit::BestFit(const Part& part, const std::map<FeatureId, Feature>& features) {
    std::vector<const Feature*> pins;
    for (const FeatureId& id : allPins(part)) pins.push_back(&features.at(id));
    const auto n = static_cast<double>(pins.size());
    for (const Feature* f : pins) {
        cx_ += f->x.value() / n;
        cy_ += f->y.value() / n;
    }
    double inertia = 0;
    for (const Feature* f : pins) {
        const double dx = f->x.value() - cx_;
        const double dy = f->y.value() - cy_;
        inertia += dx * dx + dy * dy;
        meanX_ = meanX_ + f->x / n;
        meanY_ = meanY_ + f->y / n;
        turn_ = turn_ + (dx * f->y - dy * f->x);
    }
    turns_ = inertia > 1e-12;
    if (turns_) turn_ = turn_ / inertia;
}

std::pair<Expr, Expr> BestFit::remaining(const Feature& f) const {
    const double dx = f.x.value() - cx_;
    const double dy = f.y.value() - cy_;
    const Expr x = f.x - meanX_ + (turns_ ? dy * turn_ : Expr());
    const Expr y = f.y - meanY_ - (turns_ ? dx * turn_ : Expr());
    return {x, y};
}

}  // namespace punch
