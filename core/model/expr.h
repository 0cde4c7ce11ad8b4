#pragma once
// Expr: a number in mm that depends on the unknowns of the adjustment, with its first derivatives.
//
// Built up with + - * and a few functions, it carries the exact gradient along (forward differentiation). From the
// gradient g and the covariance C of the unknowns follow the standard uncertainty sqrt(g C g') and whether the value
// is loose. The gradient is sparse: a reading touches a handful of unknowns.

#include <cmath>
#include <utility>
#include <vector>

namespace punch {

class Expr {
public:
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
    const std::vector<std::pair<int, double>>& gradient() const { return gradient_; }

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

private:
    static Expr combine(double value, const Expr& a, double ka, const Expr& b, double kb);
    double value_ = 0.0;
    std::vector<std::pair<int, double>> gradient_;
};

}  // namespace punch
