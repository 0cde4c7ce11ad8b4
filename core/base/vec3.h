#pragma once
// Points and directions in space: mm, x right, y up on the board, z away from it towards the part.

#include <cmath>

namespace punch {

struct Vec3 {
    double x = 0, y = 0, z = 0;
    friend bool operator==(const Vec3&, const Vec3&) = default;
};

inline Vec3 operator+(Vec3 a, Vec3 b) { return {a.x + b.x, a.y + b.y, a.z + b.z}; }
inline Vec3 operator-(Vec3 a, Vec3 b) { return {a.x - b.x, a.y - b.y, a.z - b.z}; }
inline Vec3 operator-(Vec3 a) { return {-a.x, -a.y, -a.z}; }
inline Vec3 operator*(double k, Vec3 a) { return {k * a.x, k * a.y, k * a.z}; }
inline double dot(Vec3 a, Vec3 b) { return a.x * b.x + a.y * b.y + a.z * b.z; }
inline Vec3 cross(Vec3 a, Vec3 b) { return {a.y * b.z - a.z * b.y, a.z * b.x - a.x * b.z, a.x * b.y - a.y * b.x}; }
inline double norm(Vec3 a) { return std::sqrt(dot(a, a)); }
/// Of length 1; the zero vector stays.
inline Vec3 unit(Vec3 a) {
    const double n = norm(a);
    return n > 0 ? (1 / n) * a : a;
}

/// A turn and then a move; never a mirror image. The columns of the turn are where x, y and z go.
struct Pose {
    Vec3 x{1, 0, 0}, y{0, 1, 0}, z{0, 0, 1};
    Vec3 move;
    friend bool operator==(const Pose&, const Pose&) = default;

    Vec3 turned(Vec3 p) const { return p.x * x + p.y * y + p.z * z; }
    Vec3 operator()(Vec3 p) const { return turned(p) + move; }
};
/// First b, then a.
inline Pose after(const Pose& a, const Pose& b) { return {a.turned(b.x), a.turned(b.y), a.turned(b.z), a(b.move)}; }
inline Pose inverse(const Pose& p) {
    const Pose back{{p.x.x, p.y.x, p.z.x}, {p.x.y, p.y.y, p.z.y}, {p.x.z, p.y.z, p.z.z}, {}};
    return {back.x, back.y, back.z, -back.turned(p.move)};
}
/// About an axis through the origin, degrees, counter-clockwise seen against it.
inline Pose turnAbout(Vec3 axis, double degrees) {
    const Vec3 a = unit(axis);
    const double r = degrees * M_PI / 180, c = std::cos(r), s = std::sin(r);
    const auto of = [&](Vec3 p) { return c * p + s * cross(a, p) + (1 - c) * dot(a, p) * a; };
    return {of({1, 0, 0}), of({0, 1, 0}), of({0, 0, 1}), {}};
}

}  // namespace punch
