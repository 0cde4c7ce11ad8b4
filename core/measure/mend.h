#pragma once
// Which readings are wrong? The smallest sets without which the rest agrees.
//
// With R the correlation of the rows, v their residuals over u and Q the cofactors of v:
//   y = R^-1 v,  M = R^-1 Q R^-1;  w_i = y_i / sqrt(M_ii)
// Leaving out a set S is the same as giving each of its rows an unknown blunder (Baarda). That blunder is
// M_SS^-1 y_S, and of the rest
//   v'Wv falls by y_S' M_SS^-1 y_S,  y by M_.S M_SS^-1 y_S,  M by M_.S M_SS^-1 M_S.
// which is exact where the model is linear and a forecast where it bends. A set *mends* when every |w| of the rest is
// 3.29 or less and the whole test holds (chi-square with the redundancy that is left, 0.1 %).
// Single rows are tried, then pairs, then triples, all of them among the 64 (triples: 40) rows that the largest |w|
// point at; beyond three the 40 best of each size are carried on, to six at most. Never one after another: the best
// single one need not be in the best pair.
// Source   docs/numbers.md, "Agree"; Baarda 1968; GUM has nothing on it.

#include <Eigen/Core>
#include <cstddef>
#include <functional>
#include <vector>

namespace punch {

/// Largest v'Wv that the whole test lets pass. With nothing to spare every reading is met exactly, but for where the
/// model folds (a direct distance as short as its part across): there one reading's error may be left over.
double wholeTestLimit(int redundancy);

/// What is left of the readings at one adjustment, by row.
struct Residuals {
    Eigen::VectorXd y;         ///< R^-1 v
    Eigen::VectorXd diagonal;  ///< of M
    double chi2 = 0;
    int redundancy = 0;
    std::vector<bool> isReading;                            ///< rows that may be left out
    std::function<Eigen::VectorXd(Eigen::Index)> columnOf;  ///< of M

    /// |w| of a row; 0 where nothing checks it.
    double w(Eigen::Index row) const;
    /// With nothing to spare nothing is checked; and where a model bends, less than this is what is left of bending.
    static constexpr double kLeastChecked = 1e-4;
    bool checked(Eigen::Index row) const { return redundancy > 0 && diagonal(row) > kLeastChecked; }
};

/// Rows that are left out together.
struct RowSet {
    std::vector<Eigen::Index> rows;
    double chi2 = 0;          ///< of the rest
    Eigen::VectorXd blunder;  ///< by row of the set, over u
    Eigen::VectorXd u;        ///< standard uncertainty of that, over u
};

class MendSearch {
public:
    static constexpr std::size_t kMostRows = 6;

    explicit MendSearch(const Residuals& residuals);

    /// All sets of this size that mend, best first. Sizes are to be asked for in turn from 1.
    std::vector<RowSet> mending(std::size_t size);
    /// Of the sets last looked at, the best `count` by what is left, whether they mend or not.
    std::vector<RowSet> best(std::size_t count) const;

private:
    using Picks = std::vector<int>;  // indices of candidates, ascending
    struct Tried {
        Picks picks;
        double chi2;
    };
    bool leave(const Picks& picks, double& chi2) const;
    RowSet setOf(const Picks& picks) const;
    bool restAgrees(const RowSet& set, const Picks& picks) const;
    void next(std::size_t size);

    const Residuals& r_;
    std::vector<Eigen::Index> candidates_;
    Eigen::MatrixXd columns_;  ///< of M, by candidate
    Eigen::MatrixXd inner_;    ///< M among the candidates
    std::vector<Tried> tried_;
};

}  // namespace punch
