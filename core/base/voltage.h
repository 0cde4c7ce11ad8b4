#pragma once
// A voltage in volts. A type of its own, so that it is never mistaken for a length or a bare number.

#include <compare>

namespace punch {

class Voltage {
public:
    constexpr Voltage() = default;
    static constexpr Voltage fromVolts(double v) { return Voltage(v); }
    constexpr double volts() const { return v_; }
    friend Voltage operator+(Voltage a, Voltage b) { return Voltage(a.v_ + b.v_); }
    friend Voltage operator-(Voltage a, Voltage b) { return Voltage(a.v_ - b.v_); }
    friend Voltage operator*(double k, Voltage a) { return Voltage(k * a.v_); }
    friend auto operator<=>(const Voltage&, const Voltage&) = default;

private:
    explicit constexpr Voltage(double v) : v_(v) {}
    double v_ = 0.0;
};

inline Voltage abs(Voltage a) { return a < Voltage() ? Voltage() - a : a; }

}  // namespace punch
