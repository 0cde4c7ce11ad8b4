#pragma once
// A length, and a point of two lengths.
//
// Length counts nanometres in a double. Every whole multiple of 1 µm and of 0.1 mil (2 540 nm) is a whole count,
// so such values convert exactly from and to mm, mil and inch, and sums of them stay exact up to 9 007 km.
// A typed decimal such as 16.23 mm has no exact double; the count it names is taken (16 230 000 nm), not the
// double's neighbour. A Length never converts to or from a bare number, a Voltage or an Angle by itself.

#include <cmath>
#include <compare>

namespace punch {

inline constexpr double kNmPerMm = 1e6;
inline constexpr double kNmPerMil = 25400.0;
inline constexpr double kNmPerInch = 25.4e6;

class Length {
public:
    constexpr Length() = default;

    static Length fromNm(double nm) { return Length(nm); }
    static Length fromUm(double um) { return Length(wholeCount(um * 1e3)); }
    static Length fromMm(double mm) { return Length(wholeCount(mm * kNmPerMm)); }
    static Length fromMil(double mil) { return Length(wholeCount(mil * kNmPerMil)); }
    static Length fromInch(double inch) { return Length(wholeCount(inch * kNmPerInch)); }

    double nm() const { return nm_; }
    double um() const { return nm_ / 1e3; }
    double mm() const { return nm_ / kNmPerMm; }
    double mil() const { return nm_ / kNmPerMil; }
    double inch() const { return nm_ / kNmPerInch; }

    bool isFinite() const { return std::isfinite(nm_); }

    Length operator-() const { return Length(-nm_); }
    Length& operator+=(Length o) {
        nm_ += o.nm_;
        return *this;
    }
    Length& operator-=(Length o) {
        nm_ -= o.nm_;
        return *this;
    }
    friend Length operator+(Length a, Length b) { return Length(a.nm_ + b.nm_); }
    friend Length operator-(Length a, Length b) { return Length(a.nm_ - b.nm_); }
    friend Length operator*(Length a, double k) { return Length(a.nm_ * k); }
    friend Length operator*(double k, Length a) { return Length(a.nm_ * k); }
    friend Length operator/(Length a, double k) { return Length(a.nm_ / k); }
    friend double operator/(Length a, Length b) { return a.nm_ / b.nm_; }
    friend auto operator<=>(const Length&, const Length&) = default;

private:
    explicit constexpr Length(double nm) : nm_(nm) {}
    /// The whole count of nanometres within rounding of `nm`, else `nm` itself.
    static double wholeCount(double nm) {
        const double whole = std::nearbyint(nm);
        return std::abs(nm - whole) <= 1e-6 + 4e-16 * std::abs(nm) ? whole : nm;
    }
    double nm_ = 0.0;
};

inline Length abs(Length a) { return Length::fromNm(std::abs(a.nm())); }
inline Length hypot(Length a, Length b) { return Length::fromNm(std::hypot(a.nm(), b.nm())); }
inline Length min(Length a, Length b) { return b < a ? b : a; }
inline Length max(Length a, Length b) { return a < b ? b : a; }

/// A place in the part's plane: x right, y up, seen from the part side.
struct Point {
    Length x, y;
    friend Point operator+(Point a, Point b) { return {a.x + b.x, a.y + b.y}; }
    friend Point operator-(Point a, Point b) { return {a.x - b.x, a.y - b.y}; }
    friend bool operator==(const Point&, const Point&) = default;
};

inline Length distance(Point a, Point b) { return hypot(a.x - b.x, a.y - b.y); }

/// An upright rectangle. Empty until something is added.
struct Rect {
    Length left, right, bottom, top;
    bool empty = true;

    Length width() const { return right - left; }
    Length height() const { return top - bottom; }
    Point middle() const { return {(left + right) / 2, (bottom + top) / 2}; }

    void add(Point p) {
        left = empty ? p.x : min(left, p.x);
        right = empty ? p.x : max(right, p.x);
        bottom = empty ? p.y : min(bottom, p.y);
        top = empty ? p.y : max(top, p.y);
        empty = false;
    }
    void add(const Rect& o) {
        if (o.empty) return;
        add(Point{o.left, o.bottom});
        add(Point{o.right, o.top});
    }
    /// This rectangle, larger by `by` on every side.
    Rect grown(Length by) const { return {left - by, right + by, bottom - by, top + by, empty}; }
    static Rect around(Point c, Length w, Length h) {
        return {c.x - w / 2, c.x + w / 2, c.y - h / 2, c.y + h / 2, false};
    }
};

inline namespace literals {
inline Length operator""_mm(long double v) { return Length::fromMm(static_cast<double>(v)); }
inline Length operator""_mm(unsigned long long v) { return Length::fromMm(static_cast<double>(v)); }
inline Length operator""_mil(unsigned long long v) { return Length::fromMil(static_cast<double>(v)); }
}  // namespace literals

}  // namespace punch
