#pragma once
// An angle, counter-clockwise seen from the part side. Whole degrees are exact.

#include <compare>
#include <numbers>

namespace punch {

inline constexpr double kPi = std::numbers::pi, kTwoPi = 2 * kPi;
inline constexpr double kRadians = kPi / 180;  ///< in a degree

class Angle {
public:
    constexpr Angle() = default;
    static constexpr Angle fromDegrees(double d) { return Angle(d); }
    static constexpr Angle fromRadians(double r) { return Angle(r * 180.0 / std::numbers::pi); }
    constexpr double degrees() const { return deg_; }
    constexpr double radians() const { return deg_ * std::numbers::pi / 180.0; }
    Angle operator-() const { return Angle(-deg_); }
    friend Angle operator+(Angle a, Angle b) { return Angle(a.deg_ + b.deg_); }
    friend Angle operator-(Angle a, Angle b) { return Angle(a.deg_ - b.deg_); }
    friend auto operator<=>(const Angle&, const Angle&) = default;

private:
    explicit constexpr Angle(double d) : deg_(d) {}
    double deg_ = 0.0;
};

}  // namespace punch
