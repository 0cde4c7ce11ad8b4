#pragma once
// The adjustment: all readings together, weighted least squares.
//
// Model    x_j = f_j(p) + e_j, standard uncertainty u_j, weights 1/u_j². Gauss-Newton, with Levenberg's damping where
//          distances bend; the step is the one of least norm in scaled unknowns, so that loose unknowns stay where they
//          are assumed.
// Rank     column-pivoted complete orthogonal decomposition of the scaled Jacobian, relative threshold 1e-9. Its null
//          space is what is loose. A value is firm when its gradient is orthogonal to the null space.
// Doubt    C = (J'WJ)^-1 on what is determined; not rescaled by how well these readings happen to agree. Shown as
//          the 95 % half interval, 1.96 standard uncertainties; ellipses 95 % in two dimensions, 2.448.
// Agree    whole test v'Wv against chi-square with the redundancy at 0.1 %. Each reading w = v / u_v; the largest |w|
//          over 3.29 is in doubt: it is set aside and the rest adjusted again (Baarda's data snooping). Readings whose
//          residuals correlate by 0.8 or more cannot be told apart: they are named together and none is set aside.
// Source   shared definitions of docs/numbers.md; GUM (JCGM 100); Baarda 1968.

#include <Eigen/Core>
#include <map>
#include <optional>
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
    // The features at the solution refer to the model beside them.
    Adjustment(const Adjustment&) = delete;
    Adjustment& operator=(const Adjustment&) = delete;

    const Model& model() const { return model_; }
    /// By unknown, mm or degrees.
    const std::vector<double>& values() const { return values_; }
    /// The parameters and features at the solution.
    const ModelAt& at() const { return at_; }
    const Expr& parameter(const std::string& name) const { return at_.parameter(name); }
    const std::map<FeatureId, Feature>& features() const;
    const std::vector<ReadingResult>& readings() const { return readings_; }

    /// Is the value free of every loose movement?
    bool firm(const Expr& e) const;
    /// Standard uncertainty on what is determined, mm or degrees.
    double u(const Expr& e) const;
    /// 95 % half interval, mm or degrees.
    double doubt(const Expr& e) const { return kNinetyFive * u(e); }
    double covariance(const Expr& a, const Expr& b) const;

    int redundancy() const { return redundancy_; }
    bool wholeTestHolds() const;

    /// Null space of the Jacobian by unknown (columns orthonormal in scaled unknowns, given back unscaled).
    const Eigen::MatrixXd& loose() const { return null_; }
    /// C, by unknown.
    const Eigen::MatrixXd& covariances() const { return c_; }

    /// The share of each reading in the variance of a value, the weightiest first; all readings together have 1.
    std::vector<std::pair<std::size_t, double>> weightsIn(const Expr& e) const;

    /// The last Jacobian, rows over their u; residuals over their u; and the reading of each row (below 0: a letter's
    /// value, or what is known of a picture's scale).
    const Eigen::MatrixXd& jacobian() const { return j_; }
    const Eigen::VectorXd& residuals() const { return v_; }
    const std::vector<int>& rows() const { return rows_; }

    /// What a reading that nobody took yet would show. Errors: a contact that its features do not have.
    Result<Expr> equation(const Reading& reading) const;

    Eigen::VectorXd dense(const Expr& e) const;

private:
    /// A reading's features, looked up once.
    struct Equation {
        int a = -1, b = -1, c = -1;
        int parameter = -1;  ///< of a named value
        int zero = -1;       ///< the instrument's zero
        int same = -1;       ///< reading that it was found equal to
        int picture = -1;    ///< of Model::pictures()
        double sign = 1;
        bool linear = false;    ///< its gradient is the same everywhere
        std::optional<Expr> f;  ///< as drawn; later at the last values that were tried
    };
    Equation resolve(const Part& part, const Reading& reading, const ModelAt& drawn) const;
    Result<Expr> evaluate(const Part& part, std::size_t reading, const ModelAt& at) const;
    /// The value and gradient of every row at `values_`. With `drawn` they are those of the start.
    void fillRows(const Part& part, bool drawn);
    void solve(const Part& part, const std::vector<bool>& use);
    void judge();
    void snoop(const Part& part, std::vector<bool> use);
    /// Of a bent model with a wild residual: the reading without which the rest agrees best; else `worst`.
    std::size_t wildest(const Part& part, std::vector<bool> use, std::size_t worst);

    Model model_;
    std::vector<double> drawnValues_;
    std::vector<double> values_;
    ModelAt drawn_;
    ModelAt at_;
    mutable std::map<FeatureId, Feature> features_;  ///< made when first asked for
    std::vector<Equation> equations_;
    std::vector<ReadingResult> readings_;
    std::vector<int> rows_;
    Eigen::MatrixXd j_;
    Eigen::VectorXd v_;
    Eigen::MatrixXd c_;
    Eigen::MatrixXd null_;
    Eigen::VectorXd scale_;
    double chi2_ = 0;
    int redundancy_ = 0;
};

}  // namespace punch
