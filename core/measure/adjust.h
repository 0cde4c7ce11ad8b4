#pragma once
// The adjustment: all readings together, weighted least squares.
//
// Model    x_j = f_j(p) + e_j, standard uncertainty u_j, weights 1/u_j². Gauss-Newton to convergence; the step is the
//          one of least norm in scaled unknowns, so that loose unknowns stay where they are assumed.
// Rank     column-pivoted complete orthogonal decomposition of the scaled Jacobian, relative threshold 1e-9. Its null
//          space is what is loose. A value is firm when its gradient is orthogonal to the null space.
// Doubt    C = (J'WJ)^-1 on what is determined; not rescaled by how well these readings happen to agree. Shown as
//          the 95 % half interval, 1.96 standard uncertainties.
// Agree    whole test v'Wv against chi-square with the redundancy at 0.1 %. Each reading w = v / u_v; the largest |w|
//          over 3.29 is in doubt: it is set aside and the rest adjusted again (Baarda's data snooping). Readings whose
//          residuals correlate by 0.8 or more cannot be told apart: they are named together and none is set aside.
// Source   shared definitions of docs/numbers.md; GUM (JCGM 100); Baarda 1968.

#include <Eigen/Core>
#include <map>
#include <string>
#include <vector>

#include "core/measure/contacts.h"
#include "core/measure/reading_result.h"
#include "core/model/model.h"

namespace punch {

inline constexpr double kSameResidual = 0.8;  ///< correlation from which residuals cannot be told apart
inline constexpr double kRankThreshold = 1e-9;

class Adjustment {
public:
    /// `free`: a parameter whose taken value is ignored ("what do the readings say?").
    explicit Adjustment(const Part& part, const std::string& free = {});

    const Parameters& parameters() const { return parameters_; }
    const std::vector<double>& values() const { return values_; }
    const std::map<FeatureId, Feature>& features() const { return features_; }
    const std::vector<ReadingResult>& readings() const { return readings_; }

    /// Is the value free of every loose movement?
    bool firm(const Expr& e) const;
    /// Standard uncertainty on what is determined, mm.
    double u(const Expr& e) const;
    /// 95 % half interval, mm.
    double doubt(const Expr& e) const { return kNinetyFive * u(e); }
    double covariance(const Expr& a, const Expr& b) const;

    double wholeTest() const { return chi2_; }
    int redundancy() const { return redundancy_; }
    bool wholeTestHolds() const;
    int usedReadings() const { return used_; }

    /// Null space of the Jacobian by unknown (columns orthonormal in scaled unknowns, given back unscaled).
    const Eigen::MatrixXd& loose() const { return null_; }
    const Eigen::MatrixXd& cofactors() const { return c_; }

    /// The reading's equation at the solution, its standard uncertainty, and the weight with which it enters `e`:
    /// the share of the reading in the value, between 0 and 1, over all readings summing to 1.
    std::vector<std::pair<std::size_t, double>> weightsIn(const Expr& e) const;

    Eigen::VectorXd dense(const Expr& e) const;

private:
    void solve(const Part& part, const std::vector<bool>& use);
    void judge(const Part& part);

    Parameters parameters_;
    std::vector<double> values_;
    std::map<FeatureId, Feature> drawn_;
    std::map<FeatureId, Feature> features_;
    std::vector<ReadingResult> readings_;
    std::vector<std::size_t> rows_;  // reading behind each row of the last solution
    Eigen::MatrixXd j_;              // rows scaled by 1/u
    Eigen::VectorXd v_;              // residuals over u
    Eigen::MatrixXd c_;
    Eigen::MatrixXd null_;
    Eigen::VectorXd scale_;
    double chi2_ = 0;
    int redundancy_ = 0;
    int used_ = 0;
};

}  // namespace punch
