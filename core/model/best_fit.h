#pragma once
// The best fit of all leads, to first order: what a small shift and turn of the whole part takes off every place.
//
// A hole does not feel where the datum is: a part that stands a little shifted or turned as a whole still goes in.
// The fit is the unweighted least-squares one over the pins it is given (core/measure/fitted: the firm ones); with one
// pin, or pins on one spot, it only shifts.

#include <Eigen/Core>
#include <utility>
#include <vector>

#include "core/model/model.h"

namespace punch {

class BestFit {
public:
    explicit BestFit(const std::vector<const Feature*>& pins);

    // The fit's movement, over its pins. Only the derivatives have a meaning.
    const Expr& meanX() const { return meanX_; }
    const Expr& meanY() const { return meanY_; }
    const Expr& turn() const { return turn_; }

    /// What is left of a feature's movement along x (y) after the fit is its own, plus these shares of mean x, mean y
    /// and turn.
    std::pair<Eigen::Vector3d, Eigen::Vector3d> shares(const Feature& feature) const;

private:
    double cx_ = 0, cy_ = 0;
    bool turns_ = false;
    Expr meanX_, meanY_, turn_;
};

}  // namespace punch
