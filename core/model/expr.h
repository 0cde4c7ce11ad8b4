#pragma once
// Expr: a number in mm that depends on the unknowns of the adjustment, with its first derivatives.
//
// Built up with + - * and a few functions, it carries the exact gradient along (forward differentiation). From the
// gradient g and the covariance C of the unknowns follow the standard uncertainty sqrt(g C g') and whether the value
// is loose. The gradient is sparse: a reading touches a handful of unknowns.

#include <boost/container/small_vector.hpp>
#include <cmath>
#include <map>
#include <numbers>
#include <utility>
#include <vector>

namespace punch {

class Expr {
public:
    using Gradient = boost::container::small_vector<std::pair<int, double>, 4>;

    Expr() = default;
    explicit Expr(double value) : value_(value) {}
    /// The unknown with index `index`, at `value`.
    static Expr unknown(int index, double value) {
        Expr e(value);
        e.gradient_.emplace_back(index, 1.0);
        return e;
    }

    double value() const { return value_; }
    /// Pairs of unknown and derivative, ordered by unknown.
    const Gradient& gradient() const { return gradient_; }

    friend Expr operator+(const Expr& a, const Expr& b) { return combine(a.value_ + b.value_, a, 1, b, 1); }
    friend Expr operator-(const Expr& a, const Expr& b) { return combine(a.value_ - b.value_, a, 1, b, -1); }
    friend Expr operator*(double k, const Expr& a) { return combine(k * a.value_, a, k, Expr(), 0); }
    friend Expr operator*(const Expr& a, const Expr& b) {
        return combine(a.value_ * b.value_, a, b.value_, b, a.value_);
    }
    /// The divisor must not be 0.
    friend Expr operator/(const Expr& a, const Expr& b) {
        return combine(a.value_ / b.value_, a, 1 / b.value_, b, -a.value_ / (b.value_ * b.value_));
    }
    friend Expr operator/(const Expr& a, double k) { return (1.0 / k) * a; }
    Expr operator-() const { return -1.0 * *this; }

    /// sqrt(a² + b²). At 0,0 the derivative is taken along the first coordinate.
    friend Expr hypot(const Expr& a, const Expr& b) {
        const double h = std::hypot(a.value_, b.value_);
        if (h < 1e-12) return combine(0.0, a, 1, b, 0);
        return combine(h, a, a.value_ / h, b, b.value_ / h);
    }

    /// sqrt(a); a must be above 0.
    friend Expr sqrt(const Expr& a) {
        const double s = std::sqrt(a.value_);
        return combine(s, a, 0.5 / s, Expr(), 0);
    }
    /// Of an angle in degrees.
    friend Expr sinDegrees(const Expr& a) {
        const double r = a.value_ * kRadians;
        return combine(std::sin(r), a, kRadians * std::cos(r), Expr(), 0);
    }
    friend Expr cosDegrees(const Expr& a) {
        const double r = a.value_ * kRadians;
        return combine(std::cos(r), a, -kRadians * std::sin(r), Expr(), 0);
    }
    /// The direction of (x, y) in degrees, from -180 to 180; 0 at the origin.
    friend Expr atan2Degrees(const Expr& y, const Expr& x) {
        const double h2 = x.value_ * x.value_ + y.value_ * y.value_;
        if (h2 < 1e-24) return Expr();
        return combine(std::atan2(y.value_, x.value_) / kRadians, y, x.value_ / h2 / kRadians, x,
                       -y.value_ / h2 / kRadians);
    }
    friend Expr abs(const Expr& a) { return a.value_ < 0 ? -a : a; }

    /// A value whose derivatives are `derivatives` by the expressions `of`.
    static Expr chain(double value, const std::vector<double>& derivatives, const std::vector<Expr>& of);

    static Expr withGradient(double value, const std::map<int, double>& byUnknown) {
        Expr e(value);
        for (const auto& [index, d] : byUnknown)
            if (d != 0) e.gradient_.emplace_back(index, d);
        return e;
    }

private:
    static constexpr double kRadians = std::numbers::pi / 180.0;
    static Expr combine(double value, const Expr& a, double ka, const Expr& b, double kb);
    double value_ = 0.0;
    Gradient gradient_;
};

}  // namespace punch
