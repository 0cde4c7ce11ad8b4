#pragma once
// The adjustment: all readings together, weighted least squares.
//
// Model    x_j = f_j(p) + e_j, standard uncertainty u_j, weights 1/u_j². Gauss-Newton, with Levenberg's damping where
//          distances bend; the step is the one of least norm in scaled unknowns, so that loose unknowns stay where they
//          are assumed.
// Rank     least_squares.h. What has a gradient along the null space is loose.
// Doubt    C = (J'WJ)^-1 on what is determined; not rescaled by how well these readings happen to agree. Shown as
//          the 95 % half interval, 1.96 standard uncertainties; ellipses 95 % in two dimensions, 2.448.
// Twice    readings of the same contact on the same features of one specimen with one instrument share the
//          instrument's error: their rows are correlated, and freed from that by the Cholesky factor of the
//          correlation.
// Agree    whole test v'Wv against chi-square with the redundancy at 0.1 %. Each reading w = v / u_v. With a |w| over
//          3.29, or the whole test failed, the smallest sets of readings without which the rest agrees are sought
//          (mend.h). The best of them is set aside when it is the only one or leaves a v'Wv smaller by 10.83 than the
//          next. Else they are the *ways* to explain the readings, best first; none is set aside, and what each way
//          would change is counted as doubt.
// Impossible  a size at or below nothing, and a length typed negative where nothing gives it a sign (impossible.h):
//          the readings behind it are named and left out.
// Source   shared definitions of docs/numbers.md; GUM (JCGM 100); Baarda 1968.

#include <map>
#include <optional>
#include <string>
#include <vector>

#include "core/linear/least_squares.h"
#include "core/measure/impossible.h"
#include "core/measure/mend.h"
#include "core/measure/reading_result.h"
#include "core/model/contacts.h"
#include "core/model/model.h"

namespace punch {

/// One way to explain readings that contradict each other: these are wrong, the rest agrees.
struct Way {
    std::vector<std::size_t> readings;
    double chi2 = 0;           ///< v'Wv of the rest
    std::vector<double> off;   ///< by reading of the set: how far it lies off what the rest says, mm or degrees
    std::vector<double> offU;  ///< standard uncertainty of that
    double bend = 0;           ///< mm, by which a place may differ from what its tangent says of the way
    Eigen::VectorXd by;        ///< change of the unknowns against the adjustment of all
};

/// Rows of readings that share an error, and the Cholesky factor of their correlation.
struct SharedRows {
    std::vector<Eigen::Index> rows;
    Eigen::MatrixXd lower;
};

class Adjustment {
public:
    /// What is done about readings that do not agree.
    enum class Search {
        Mending,  ///< which of them are wrong is looked for
        None,     ///< they are left as they are
    };
    /// `free`: a parameter whose taken value is ignored ("what do the readings say?"). `aside`: readings that are set
    /// aside beforehand.
    explicit Adjustment(const Part& part, const std::string& free = {}, const std::vector<std::size_t>& aside = {},
                        Search search = Search::Mending);
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
    /// Squared norm of its gradient in scaled unknowns.
    double scaledSize2(const Expr& e) const;
    /// Standard uncertainty on what is determined, mm or degrees.
    double u(const Expr& e) const;
    /// 95 % half interval, and as far as the ways to explain contradicting readings lead from the value; mm or degrees.
    double doubt(const Expr& e) const { return kNinetyFive * u(e) + reach(e); }
    /// The largest change that one of the ways makes of the value; 0 while the readings have one explanation.
    double reach(const Expr& e) const;
    /// Between the ways' values: their largest less their smallest.
    double span(const Expr& e) const;
    /// How one way changes the value.
    static double change(const Expr& e, const Way& way);
    /// The ways to explain the readings, best first; empty when there is one explanation.
    const std::vector<Way>& ways() const { return ways_; }
    /// True when the readings do not fit together and no few of them explain it.
    bool unexplained() const { return unexplained_; }
    const std::vector<Impossible>& impossible() const { return impossible_; }
    /// What a further reading of the same contact shares with the solution: the covariance of each unknown's error
    /// with the error that the instrument makes at this reading.
    Eigen::VectorXd sharedError(std::size_t reading) const;
    double covariance(const Expr& a, const Expr& b) const;

    int redundancy() const { return redundancy_; }
    bool wholeTestHolds() const;

    /// Null space of the Jacobian by unknown (columns orthonormal in scaled unknowns, given back unscaled).
    const Eigen::MatrixXd& loose() const { return null_; }
    /// C, by unknown.
    const Eigen::MatrixXd& covariances() const { return c_; }

    /// The share of each reading in the variance of a value, the weightiest first; all readings together have 1.
    std::vector<std::pair<std::size_t, double>> weightsIn(const Expr& e) const;

    /// The last Jacobian, rows over their u and freed from what they share; residuals the same; and the reading of each
    /// row (below 0: a letter's value, or what is known of a picture's scale).
    const SparseRows& jacobian() const { return j_; }
    const Eigen::VectorXd& residuals() const { return v_; }
    /// Frees a vector by rows, over their u, from what readings of one contact share.
    void free(Eigen::VectorXd& byRow) const;
    const std::vector<int>& rows() const { return rows_; }

    /// Does a drawing's tolerance stand behind the row? That is how parts of the kind differ, and no doubt of one part.
    bool isDrawn(std::size_t row) const;
    /// C without what drawings' tolerances put into it; empty when no drawing has a say.
    Eigen::MatrixXd covariancesWithoutDrawings() const;

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
        int twin = -1;       ///< first reading of the same contact, of one that was taken as several readings
        double sign = 1;
        bool linear = false;    ///< its gradient is the same everywhere
        std::optional<Expr> f;  ///< as drawn; later at the last values that were tried
    };
    Equation resolve(const Part& part, const Reading& reading, const ModelAt& drawn) const;
    Result<Expr> evaluate(const Part& part, std::size_t reading, const ModelAt& at) const;
    /// The value and gradient of every row at `values_`. With `drawn` they are those of the start.
    void fillRows(const Part& part, bool drawn);
    /// `other`: a second place to start from, where the model bends; empty: only from what is drawn.
    void solve(const Part& part, const std::vector<bool>& use, const std::vector<double>& other = {});
    /// Judges anew on which side of each other the two features of a reading without a sign stand: where a place was
    /// put by hand it counts as put, all else where the solution has it. At the start a pitch is a guess, and what was
    /// put beside the last pin may stand on its other side there. True when a reading changed its side.
    bool turnSides(const Part& part);
    static constexpr int kMostSideRounds = 5;
    void arrange(const std::vector<bool>& use);
    void descend(const Part& part, LeastSquares& squares);
    void goTo(const Part& part, const Eigen::VectorXd& values);
    void findShared(const Part& part);
    /// The transposed of free(): R^-1 is both, one after the other.
    void freeBack(Eigen::VectorXd& byRow) const;
    bool bends() const;
    bool agrees() const;
    Residuals residualsNow() const;
    Way wayOf(const RowSet& set) const;
    std::vector<Way> waysByForecast() const;
    /// Where the model bends: forecasts, adjusted anew.
    /// mm per mm or degree; what cancels but for rounding determines nothing
    static constexpr double kNoInfluence = 1e-9;

    std::vector<Way> waysByTrial(const Part& part, const std::vector<bool>& use);
    bool sizesCanBe(const Eigen::VectorXd& values) const;
    bool canBe(const Way& way) const;
    Way tryWithout(const Part& part, const std::vector<bool>& use, const std::vector<std::size_t>& readings,
                   const std::vector<double>& start);
    void addBends(std::vector<Way>& ways) const;
    void adjustFirst(std::size_t count, std::vector<Way>& ways, const Part& part, const std::vector<bool>& use,
                     const std::vector<double>& start);
    void leaveUnexplained(const Part& part, const std::vector<bool>& use);
    /// Residuals of each reading, whole test.
    void judge();
    /// Sets aside what is in doubt, or finds the ways. `use` loses what is set aside.
    void settle(const Part& part, std::vector<bool>& use);
    /// Marks readings of what cannot be, and leaves them out. True when something changed.
    bool leaveOutImpossible(const Part& part, std::vector<bool>& use);
    void say(const Part& part);

    Model model_;
    std::vector<double> drawnValues_;
    std::vector<double> values_;
    ModelAt drawn_;
    ModelAt at_;
    mutable std::map<FeatureId, Feature> features_;  ///< made when first asked for
    std::vector<Equation> equations_;
    std::vector<ReadingResult> readings_;
    std::vector<int> rows_;
    std::vector<SharedRows> shared_;
    std::vector<std::vector<std::pair<int, double>>> gradients_;  ///< by row, over u
    SparseRows j_;
    Eigen::VectorXd v_;
    Eigen::VectorXd misfit_;  ///< by row, mm or degrees: read less expected
    Eigen::MatrixXd c_;
    Eigen::MatrixXd null_;
    Eigen::VectorXd scale_;
    std::vector<Way> ways_;
    std::vector<Impossible> impossible_;
    std::vector<double> drawnMisfit_;  ///< by reading: read less drawn
    bool unexplained_ = false;
    Search search_ = Search::Mending;
    bool trying_ = false;  ///< a trial is being solved, roughly if it has to be
    double chi2_ = 0;
    int redundancy_ = 0;
};

}  // namespace punch
