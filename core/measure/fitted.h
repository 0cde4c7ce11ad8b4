#pragma once
// How well places are known against the best fit of all leads: what a hole feels (core/model/best_fit.h).
//
// What is left of a place after the fit is the place less three expressions over all pins (mean x, mean y, turn). Their
// covariances are worked out once, so that each place costs what its own few unknowns cost, however many pins there
// are.

#include <Eigen/Core>

#include "core/measure/adjust.h"
#include "core/model/best_fit.h"

namespace punch {

class Fitted {
public:
    Fitted(const Part& part, const Adjustment& adjustment);

    /// Covariance of what is left of a place, mm². Not firm: something loose moves it.
    struct Spread {
        bool firm = false;
        double xx = 0, xy = 0, yy = 0;
        /// Largest variance in any direction, all in all, and without what drawings' tolerances put into it.
        double largest = 0, largestRead = 0;
        double reach = 0;  ///< mm, how far the ways to explain the readings move it at most
    };
    Spread of(const Feature& feature) const;

    /// Derivatives of what is left along x and y, times a vector by unknown.
    std::pair<double, double> along(const Feature& feature, const Eigen::VectorXd& byUnknown) const;

    /// The part of along() that is alike for all places.
    struct Common {
        double meanX = 0, meanY = 0, turn = 0;
    };
    Common common(const Eigen::VectorXd& byUnknown) const;
    std::pair<double, double> along(const Feature& feature, const Eigen::VectorXd& byUnknown, const Common& c) const;

private:
    const Adjustment& a_;
    BestFit fit_;
    /// A covariance of the unknowns, and what it says of the three common expressions.
    struct Law {
        Eigen::MatrixXd own;    ///< by unknown; empty: the adjustment's
        Eigen::MatrixXd with;   ///< times the gradients of the three, by unknown
        Eigen::Matrix3d among;  ///< their covariances
    };
    Law lawOf(Eigen::MatrixXd own) const;
    /// xx, xy, yy
    Eigen::Vector3d spreadBy(const Law& law, const Feature& feature) const;
    Law all_, read_;
    bool drawings_ = false;
    Eigen::MatrixXd loose_;    ///< their movement along each null direction
    Eigen::Vector3d scaled2_;  ///< squared norm of their scaled gradients
};

}  // namespace punch
