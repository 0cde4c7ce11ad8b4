#include "core/linear/decompositions.h"

#include <Eigen/Cholesky>
#include <Eigen/QR>

namespace punch::linear {

// One type of each decomposition and of each argument: every other one is compiled anew.
using Orthogonal = Eigen::CompleteOrthogonalDecomposition<Eigen::MatrixXd>;

Eigen::VectorXd solved(const Matrix& n, const Vector& right) {
    return Eigen::LDLT<Eigen::MatrixXd>(n).solve(Eigen::MatrixXd(right));
}

std::optional<Eigen::VectorXd> solvedFirmly(const Matrix& m, const Vector& right, double threshold) {
    Orthogonal cod;
    cod.setThreshold(threshold);
    cod.compute(m);
    if (cod.rank() < m.cols()) return {};
    return cod.solve(Eigen::VectorXd(right));
}

Eigen::MatrixXd inverse(const Matrix& m) { return Eigen::LDLT<Eigen::MatrixXd>(m).solve(Eigen::MatrixXd(Eigen::MatrixXd::Identity(m.rows(), m.cols()))); }

LeastNorm leastNorm(const Matrix& a, const Vector& b) {
    const Orthogonal cod(a);
    return {cod.solve(Eigen::VectorXd(b)), cod.rank()};
}

Eigen::MatrixXd pseudoInverse(const Matrix& m) {
    return Orthogonal(m).pseudoInverse();
}

Eigen::MatrixXd times(const Matrix& a, const Matrix& b) { return a * b; }
Eigen::MatrixXd transposeTimes(const Matrix& a, const Matrix& b) { return a.transpose() * b; }

Eigen::MatrixXd lowerFactor(const Matrix& m) { return Eigen::LLT<Eigen::MatrixXd>(m).matrixL(); }

Eigen::MatrixXd solvedLower(const Matrix& l, const Matrix& right) {
    return l.triangularView<Eigen::Lower>().solve(Eigen::MatrixXd(right));
}

Eigen::MatrixXd solvedLowerTransposed(const Matrix& l, const Matrix& right) {
    return l.transpose().triangularView<Eigen::Upper>().solve(Eigen::MatrixXd(right));
}

}  // namespace punch::linear
