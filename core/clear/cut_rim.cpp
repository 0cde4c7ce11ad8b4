#include "core/clear/cut_rim.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"

namespace punch {
namespace {

using plane::V;

constexpr double kOutside = 1e-6;  // mm
constexpr double kDrawn = 0.05;    // mm between drawn places

V vOf(Point p) { return {p.x.mm(), p.y.mm()}; }

}  // namespace

CutRim::CutRim(const RoundedPolygon& shape) : closed_(true) {
    const std::size_t n = shape.corners.size();
    const double r = shape.radius.mm() + kOutside;
    for (std::size_t i = 0; i < n; ++i) {
        const V before = vOf(shape.corners[(i + n - 1) % n]);
        const V at = vOf(shape.corners[i]);
        const V next = vOf(shape.corners[(i + 1) % n]);
        // Outward normals of the sides before and after a corner of a counter-clockwise polygon.
        const double from = std::atan2(-(at.x - before.x), at.y - before.y);
        double sweep = n == 1 ? kTwoPi : std::atan2(-(next.x - at.x), next.y - at.y) - from;
        while (sweep < 0) sweep += kTwoPi;
        pieces_.push_back({at, at, r, from, sweep, r * sweep});
        if (n == 1) continue;
        const V off{r * std::cos(from + sweep), r * std::sin(from + sweep)};
        const double side = std::hypot(next.x - at.x, next.y - at.y);
        pieces_.push_back({{at.x + off.x, at.y + off.y}, {next.x + off.x, next.y + off.y}, 0, 0, 0, side});
    }
    sum();
}

CutRim::CutRim(V a, V b) {
    pieces_.push_back({a, b, 0, 0, 0, std::hypot(b.x - a.x, b.y - a.y)});
    sum();
}

void CutRim::sum() {
    for (const Piece& p : pieces_) length_ += p.length;
}

V CutRim::at(double s) const {
    if (closed_) {
        s = std::fmod(s, length_);
        if (s < 0) s += length_;
    } else {
        s = std::clamp(s, 0.0, length_);
    }
    for (const Piece& p : pieces_) {
        if (s <= p.length || &p == &pieces_.back()) {
            const double share = p.length > 0 ? std::min(s / p.length, 1.0) : 0;
            if (p.radius <= 0) return {p.a.x + share * (p.b.x - p.a.x), p.a.y + share * (p.b.y - p.a.y)};
            const double angle = p.from + share * p.sweep;
            return {p.a.x + p.radius * std::cos(angle), p.a.y + p.radius * std::sin(angle)};
        }
        s -= p.length;
    }
    return pieces_.front().a;
}

double CutRim::signedAlong(double s, double t) const { return closed_ ? std::remainder(t - s, length_) : t - s; }

double CutRim::along(double s, double t) const { return std::abs(signedAlong(s, t)); }

std::vector<double> CutRim::places(double step) const {
    std::vector<double> all;
    double start = 0;
    for (const Piece& p : pieces_) {
        const int n = std::max(1, static_cast<int>(std::ceil(p.length / step)));
        for (int i = 0; i < n; ++i) all.push_back(start + p.length * i / n);
        start += p.length;
    }
    all.push_back(start);
    return all;
}

std::vector<double> CutRim::between(double s, double t) const {
    const double d = signedAlong(s, t);
    const int pieces = static_cast<int>(std::abs(d) / kDrawn);
    std::vector<double> all;
    for (int i = 1; i < pieces; ++i) all.push_back(s + d * i / pieces);
    return all;
}

}  // namespace punch
