#pragma once
// Weighted least squares with a rank: the linear algebra under the adjustment, which knows nothing of readings.
//
// Rows come divided by their standard uncertainty and freed from what they share. Columns are scaled to one.
//   up to 150 unknowns   column-pivoted complete orthogonal decomposition, dense
//   above                sparse QR with column ordering (Eigen), the null space made orthonormal afterwards
// Both give the step of least norm in scaled unknowns, so that what is loose stays where it is assumed; the relative
// threshold of the rank is 1e-9.

#include <Eigen/Core>
#include <Eigen/SparseCore>
#include <memory>
#include <vector>

namespace punch {

inline constexpr double kRankThreshold = 1e-9;

/// Row by row: a reading touches a handful of unknowns.
using SparseRows = Eigen::SparseMatrix<double, Eigen::RowMajor>;

class LeastSquares {
public:
    LeastSquares();
    ~LeastSquares();
    LeastSquares(LeastSquares&&) noexcept;
    LeastSquares& operator=(LeastSquares&&) noexcept;

    void factorise(const SparseRows& j);

    /// The change of the unknowns that fits `v` best, unscaled.
    Eigen::VectorXd solve(const Eigen::VectorXd& v) const;
    /// The same with Levenberg's damping, which holds back what is poorly determined.
    Eigen::VectorXd solveDamped(const Eigen::VectorXd& v, double damping) const;

    Eigen::Index rank() const;
    /// One over each column's norm; 1 for an empty column.
    const Eigen::VectorXd& scale() const { return scale_; }

    /// C = (J'J)^-1 on what is determined, and the null space (columns orthonormal in scaled unknowns, unscaled again).
    struct Spread {
        Eigen::MatrixXd covariances, null;
    };
    Spread spread() const;

private:
    struct Dense;
    struct Sparse;
    /// From unknowns that some row touches to all.
    Eigen::VectorXd spreadOut(const Eigen::VectorXd& touched) const;
    bool dense_ = true;
    Eigen::VectorXd scale_;
    std::vector<Eigen::Index>
        touched_;        ///< unknowns with a column of more than nothing; the others are loose as they are
    SparseRows scaled_;  ///< of the touched ones
    std::unique_ptr<Dense> full_;
    std::unique_ptr<Sparse> sparse_;
};

}  // namespace punch
