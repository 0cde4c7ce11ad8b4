#include "core/linear/least_squares.h"

#include <Eigen/OrderingMethods>
#include <Eigen/QR>
#include <Eigen/SparseQR>
#include <cmath>
#include <vector>

#include "core/linear/decompositions.h"

namespace punch {
namespace {
constexpr Eigen::Index kMostDense = 150;
using SparseColumns = Eigen::SparseMatrix<double, Eigen::ColMajor>;
}  // namespace

struct LeastSquares::Dense {
    Eigen::CompleteOrthogonalDecomposition<Eigen::MatrixXd> cod;
};

struct LeastSquares::Sparse {
    Eigen::SparseQR<SparseColumns, Eigen::COLAMDOrdering<int>> qr;
    SparseColumns r;       // rank x rank, upper
    Eigen::MatrixXd null;  // orthonormal, in scaled unknowns

    /// From the first `rank` rows of Q'v to a solution that leaves the other columns alone.
    Eigen::VectorXd basic(const Eigen::VectorXd& head) const {
        Eigen::VectorXd x = Eigen::VectorXd::Zero(qr.cols());
        x.head(qr.rank()) = r.triangularView<Eigen::Upper>().solve(head);
        return qr.colsPermutation() * x;
    }
    /// Without its part along the null space.
    Eigen::VectorXd leastNorm(Eigen::VectorXd x) const {
        if (null.cols() > 0) x -= linear::times(null, linear::transposeTimes(null, x)).col(0);
        return x;
    }
};

LeastSquares::LeastSquares() = default;
LeastSquares::~LeastSquares() = default;
LeastSquares::LeastSquares(LeastSquares&&) noexcept = default;
LeastSquares& LeastSquares::operator=(LeastSquares&&) noexcept = default;

void LeastSquares::factorise(const SparseRows& j) {
    const Eigen::Index n = j.cols();
    Eigen::VectorXd norm2 = Eigen::VectorXd::Zero(n);
    for (Eigen::Index row = 0; row < j.rows(); ++row)
        for (SparseRows::InnerIterator it(j, row); it; ++it) norm2(it.col()) += it.value() * it.value();
    scale_ = Eigen::VectorXd::Ones(n);
    touched_.clear();
    std::vector<int> place(static_cast<std::size_t>(n), -1);
    for (Eigen::Index k = 0; k < n; ++k) {
        if (norm2(k) <= 0) continue;
        scale_(k) = 1 / std::sqrt(norm2(k));
        place[static_cast<std::size_t>(k)] = static_cast<int>(touched_.size());
        touched_.push_back(k);
    }
    std::vector<Eigen::Triplet<double>> entries;
    for (Eigen::Index row = 0; row < j.rows(); ++row)
        for (SparseRows::InnerIterator it(j, row); it; ++it)
            if (const int at = place[static_cast<std::size_t>(it.col())]; at >= 0)
                entries.emplace_back(static_cast<int>(row), at, it.value() * scale_(it.col()));
    const auto t = static_cast<Eigen::Index>(touched_.size());
    scaled_.resize(j.rows(), t);
    scaled_.setFromTriplets(entries.begin(), entries.end());
    dense_ = t <= kMostDense;
    if (t == 0) return;
    if (dense_) {
        full_ = std::make_unique<Dense>();
        full_->cod.setThreshold(kRankThreshold);
        full_->cod.compute(Eigen::MatrixXd(scaled_));
        return;
    }
    sparse_ = std::make_unique<Sparse>();
    Sparse& s = *sparse_;
    SparseColumns columns = scaled_;
    // More columns than rows: rows of nothing change nothing, and keep the decomposition's shape.
    if (columns.rows() < t) columns.conservativeResize(t, t);
    columns.makeCompressed();
    s.qr.setPivotThreshold(kRankThreshold);
    s.qr.compute(columns);
    const Eigen::Index rank = s.qr.rank();
    const SparseColumns all = s.qr.matrixR();
    s.r = all.topLeftCorner(rank, rank);
    s.r.makeCompressed();
    s.null.resize(t, t - rank);
    if (rank == t) return;
    for (Eigen::Index k = 0; k < t - rank; ++k) {
        Eigen::VectorXd direction = Eigen::VectorXd::Zero(t);
        Eigen::VectorXd right = Eigen::VectorXd::Zero(rank);
        for (SparseColumns::InnerIterator it(all, rank + k); it; ++it)
            if (it.row() < rank) right(it.row()) = it.value();
        direction.head(rank) = -Eigen::VectorXd(s.r.triangularView<Eigen::Upper>().solve(right));
        direction(rank + k) = 1;
        s.null.col(k) = s.qr.colsPermutation() * direction;
    }
    // A loose unknown of its own is orthogonal to the others already.
    const Eigen::ColPivHouseholderQR<Eigen::MatrixXd> orthonormal(s.null);
    s.null = orthonormal.householderQ() * Eigen::MatrixXd(Eigen::MatrixXd::Identity(t, t - rank));
}

Eigen::Index LeastSquares::rank() const {
    if (touched_.empty()) return 0;
    return dense_ ? full_->cod.rank() : sparse_->qr.rank();
}

Eigen::VectorXd LeastSquares::spreadOut(const Eigen::VectorXd& touched) const {
    Eigen::VectorXd all = Eigen::VectorXd::Zero(scale_.size());
    for (std::size_t k = 0; k < touched_.size(); ++k)
        all(touched_[k]) = scale_(touched_[k]) * touched(static_cast<Eigen::Index>(k));
    return all;
}

Eigen::VectorXd LeastSquares::solve(const Eigen::VectorXd& v) const {
    if (touched_.empty()) return Eigen::VectorXd::Zero(scale_.size());
    if (dense_) return spreadOut(full_->cod.solve(v));
    Eigen::VectorXd right = Eigen::VectorXd::Zero(sparse_->qr.rows());
    right.head(v.size()) = v;
    const Eigen::VectorXd turned = sparse_->qr.matrixQ().adjoint() * right;
    return spreadOut(sparse_->leastNorm(sparse_->basic(turned.head(rank()))));
}

Eigen::VectorXd LeastSquares::solveDamped(const Eigen::VectorXd& v, double damping) const {
    const Eigen::Index n = scaled_.cols();
    const Eigen::Index m = scaled_.rows();
    if (n == 0) return Eigen::VectorXd::Zero(scale_.size());
    Eigen::VectorXd right = Eigen::VectorXd::Zero(m + n);
    right.head(m) = v;
    if (dense_) {
        Eigen::MatrixXd rows(m + n, n);
        rows << Eigen::MatrixXd(scaled_), std::sqrt(damping) * Eigen::MatrixXd::Identity(n, n);
        return spreadOut(linear::leastNorm(rows, right).x);
    }
    SparseColumns rows(m + n, n);
    std::vector<Eigen::Triplet<double>> entries;
    for (Eigen::Index row = 0; row < m; ++row)
        for (SparseRows::InnerIterator it(scaled_, row); it; ++it)
            entries.emplace_back(static_cast<int>(row), static_cast<int>(it.col()), it.value());
    for (Eigen::Index k = 0; k < n; ++k)
        entries.emplace_back(static_cast<int>(m + k), static_cast<int>(k), std::sqrt(damping));
    rows.setFromTriplets(entries.begin(), entries.end());
    rows.makeCompressed();
    const Eigen::SparseQR<SparseColumns, Eigen::COLAMDOrdering<int>> qr(rows);
    return spreadOut(qr.solve(right));
}

LeastSquares::Spread LeastSquares::spread() const {
    const Eigen::Index n = scale_.size();
    const auto t = static_cast<Eigen::Index>(touched_.size());
    const Eigen::Index rank = this->rank();
    // Of the touched unknowns, in their scaled frame.
    Eigen::MatrixXd c = Eigen::MatrixXd::Zero(t, t);
    Eigen::MatrixXd null(t, t - rank);
    if (t > 0 && dense_) {
        const Eigen::MatrixXd r = full_->cod.matrixT().topLeftCorner(rank, rank).triangularView<Eigen::Upper>();
        Eigen::MatrixXd inverse = Eigen::MatrixXd::Identity(rank, rank);
        r.triangularView<Eigen::Upper>().solveInPlace(inverse);
        Eigen::MatrixXd g;
        if (rank == t) {
            g = full_->cod.colsPermutation() * inverse;
        } else {
            // The first rows of Z span what is determined, the last ones the null space of the scaled Jacobian.
            const Eigen::MatrixXd z = full_->cod.colsPermutation() * Eigen::MatrixXd(full_->cod.matrixZ()).transpose();
            g = linear::times(z.leftCols(rank), inverse);
            null = z.rightCols(t - rank);
        }
        c = linear::times(g, g.transpose());
    } else if (t > 0) {
        // R^-1 R^-T by columns, then without what lies along the null space: the least-norm inverse.
        const Sparse& s = *sparse_;
        const SparseColumns lower = s.r.transpose();
        Eigen::VectorXd column(rank);
        for (Eigen::Index k = 0; k < rank; ++k) {
            column.setZero();
            column(k) = 1;
            lower.triangularView<Eigen::Lower>().solveInPlace(column);
            s.r.triangularView<Eigen::Upper>().solveInPlace(column);
            c.col(k).head(rank) = column;
        }
        c = s.qr.colsPermutation() * c * s.qr.colsPermutation().transpose();
        null = s.null;
        if (null.cols() > 0) {
            c -= linear::times(null, linear::transposeTimes(null, c));
            c -= linear::times(linear::times(c, null), null.transpose());
        }
    }
    Spread out{Eigen::MatrixXd::Zero(n, n), Eigen::MatrixXd::Zero(n, n - rank)};
    for (Eigen::Index i = 0; i < t; ++i) {
        const Eigen::Index a = touched_[static_cast<std::size_t>(i)];
        for (Eigen::Index k = 0; k < t; ++k) {
            const Eigen::Index b = touched_[static_cast<std::size_t>(k)];
            out.covariances(b, a) = scale_(a) * scale_(b) * c(k, i);
        }
        out.null.row(a).head(t - rank) = scale_(a) * null.row(i);
    }
    // What no row touches is loose by itself.
    Eigen::Index next = t - rank;
    std::size_t seen = 0;
    for (Eigen::Index k = 0; k < n; ++k) {
        if (seen < touched_.size() && touched_[seen] == k)
            ++seen;
        else
            out.null(k, next++) = 1;
    }
    return out;
}

}  // namespace punch
