#pragma once
// The decompositions of Eigen that more than one file asks for, compiled once: each is dear to instantiate, and small
// systems are solved in many places. Sizes are those of the arguments; what they do not fit is the caller's fault.

#include <Eigen/Core>
#include <optional>

namespace punch::linear {

using Matrix = Eigen::Ref<const Eigen::MatrixXd>;
using Vector = Eigen::Ref<const Eigen::VectorXd>;

/// x of n x = right for a symmetric n that is not negative, by its LDLᵀ. Not finite where n has no inverse.
Eigen::VectorXd solved(const Matrix& n, const Vector& right);
/// x of m x = right for any square m; none where a pivot of its orthogonal decomposition falls below `threshold` times
/// the largest.
std::optional<Eigen::VectorXd> solvedFirmly(const Matrix& m, const Vector& right, double threshold);
/// Of a symmetric m; not finite where it has none.
Eigen::MatrixXd inverse(const Matrix& m);

/// The x of least norm among those for which a x is nearest to b, by a complete orthogonal decomposition.
struct LeastNorm {
    Eigen::VectorXd x;
    Eigen::Index rank = 0;
};
LeastNorm leastNorm(const Matrix& a, const Vector& b);
/// Moore's and Penrose's.
Eigen::MatrixXd pseudoInverse(const Matrix& m);

/// a b, and aᵀ b.
Eigen::MatrixXd times(const Matrix& a, const Matrix& b);
Eigen::MatrixXd transposeTimes(const Matrix& a, const Matrix& b);
/// L of m = L Lᵀ, for a symmetric positive m.
Eigen::MatrixXd lowerFactor(const Matrix& m);
/// X of l X = right, and of lᵀ X = right, for a lower triangular l.
Eigen::MatrixXd solvedLower(const Matrix& l, const Matrix& right);
Eigen::MatrixXd solvedLowerTransposed(const Matrix& l, const Matrix& right);

}  // namespace punch::linear
