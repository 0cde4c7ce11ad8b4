#include "core/picture/slant.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/linear/decompositions.h"

namespace punch {

namespace {

constexpr double kSure = 20;       // squared significance, two degrees of freedom: one in 20,000
constexpr double kLeast = 0.0012;  // relative change of scale over what is measured, below which nothing is said
constexpr double kWeak = 1e-3;     // per pixel: what nothing says is known so well beforehand

/// Where the formation has a position, mm along and across its rows, from its origin.
std::pair<double, double> patternPlace(const RecognisedFormation& f, const PatternSlot& s) {
    if (f.kind == FormationKind::Ring) {
        if (s.row < 0) return {0, 0};
        const double a = (f.start->value + s.column * f.step->value) * std::numbers::pi / 180;
        return {f.circle->value / 2 * std::cos(a), f.circle->value / 2 * std::sin(a)};
    }
    double u = s.column * (s.row == 1 && f.rearPitch ? f.rearPitch->value : f.pitch ? f.pitch->value : 0);
    if (f.kind == FormationKind::Staggered && s.row % 2 == 1)
        u += (f.rowShift ? -0.5 : 0.5) * f.pitch->value;
    else if (f.rowShift && s.row == 1)
        u += f.rowShift->value;
    return {u, f.rowGap ? s.row * f.rowGap->value : 0};
}

/// p = o + A q + p (k.p) for the places p, pixels from their middle, of a pattern's places q: k is the slant.
void addPattern(const Found& found, Eigen::Matrix2d& n, Eigen::Vector2d& right) {
    const RecognisedFormation& f = *found.formation;
    if (f.positions.size() < 5) return;
    std::vector<Eigen::Vector2d> p;
    std::vector<std::pair<double, double>> q;
    Eigen::Vector2d middle(0, 0);
    double u2 = 0;
    for (const PatternSlot& s : f.positions) {
        const Rim& rim = found.features[static_cast<std::size_t>(s.place)].seen.rim;
        p.emplace_back(rim.centre.x, rim.centre.y);
        q.push_back(patternPlace(f, s));
        middle += p.back() / static_cast<double>(f.positions.size());
        u2 += rim.u * rim.u / static_cast<double>(f.positions.size());
    }
    const auto rows = static_cast<Eigen::Index>(2 * p.size());
    Eigen::MatrixXd a = Eigen::MatrixXd::Zero(rows, 8);
    Eigen::VectorXd b(rows);
    for (std::size_t i = 0; i < p.size(); ++i) {
        const Eigen::Vector2d d = p[i] - middle;
        for (const Eigen::Index c : {0, 1}) {
            const Eigen::Index row = static_cast<Eigen::Index>(2 * i) + c;
            a(row, 3 * c) = 1;
            a(row, 3 * c + 1) = q[i].first;
            a(row, 3 * c + 2) = q[i].second;
            a(row, 6) = d[c] * d[0];
            a(row, 7) = d[c] * d[1];
            b[row] = d[c];
        }
    }
    const auto [x, rank] = linear::leastNorm(a, b);
    const double rest = static_cast<double>(rows - rank);
    if (rest < 3) return;
    const double scatter2 = std::max((b - a * x).squaredNorm() / rest, u2);
    // What the other unknowns leave of k: the information of both, less theirs.
    const Eigen::MatrixXd all = linear::transposeTimes(a, a) / scatter2;
    const Eigen::MatrixXd others = all.topLeftCorner(6, 6);
    const Eigen::MatrixXd cross = all.topRightCorner(6, 2);
    const Eigen::Matrix2d info = all.bottomRightCorner(2, 2) -
                                 linear::transposeTimes(cross, linear::transposeTimes(linear::pseudoInverse(others), cross));
    n += info;
    right += info * x.tail(2);
}

}  // namespace

void testSlant(Found& found) {
    Eigen::Matrix2d n = Eigen::Matrix2d::Identity() / (kWeak * kWeak);
    Eigen::Vector2d right(0, 0);
    if (found.formation) addPattern(found, n, right);
    PixelPoint ruler;
    bool hasRuler = false;
    for (const std::size_t i : found.scaleRulers) {
        const Ruler& r = found.rulers[i];
        if (!r.slant) continue;
        const double l = std::hypot(r.last.x - r.first.x, r.last.y - r.first.y);
        const Eigen::Vector2d along((r.last.x - r.first.x) / l, (r.last.y - r.first.y) / l);
        const Eigen::Vector2d k(r.slant->x, r.slant->y);
        // The slant's two parts are measured by themselves: along by its steps, across by how its marks fan out.
        const Eigen::Vector2d across(-along[1], along[0]);
        const Eigen::Vector2d u(r.slant->ux, r.slant->uy);
        const auto uAlong = [&](const Eigen::Vector2d& d) {
            return std::max(std::hypot(d[0] * u[0], d[1] * u[1]), 1e-8);
        };
        for (const Eigen::Vector2d& d : {along, across}) {
            const double w = 1 / (uAlong(d) * uAlong(d));
            n += w * d * d.transpose();
            right += w * d * d.dot(k);
        }
        ruler = {(r.first.x + r.last.x) / 2, (r.first.y + r.last.y) / 2};
        hasRuler = true;
    }
    const Eigen::Matrix2d c = linear::inverse(n);
    const Eigen::Vector2d k = c * right;
    double left = 1e18, rightmost = -1e18, top = 1e18, bottom = -1e18;
    PixelPoint middle;
    double count = 0;
    for (const FoundFeature& f : found.features) {
        if (f.slot < 0) continue;
        const PixelPoint p = f.seen.rim.centre;
        left = std::min(left, p.x);
        rightmost = std::max(rightmost, p.x);
        top = std::min(top, p.y);
        bottom = std::max(bottom, p.y);
        middle = {middle.x + p.x, middle.y + p.y};
        count += 1;
    }
    if (count < 1) return;
    middle = {middle.x / count, middle.y / count};
    const double span = std::hypot(rightmost - left, bottom - top);
    const double away = hasRuler ? std::abs(k[0] * (middle.x - ruler.x) + k[1] * (middle.y - ruler.y)) : 0;
    const double change = 2 * (away + k.norm() * span);
    if (k.dot(n * k) < kSure || change < kLeast) return;
    found.slant = Slant{k[0], k[1], std::sqrt(c(0, 0)), std::sqrt(c(1, 1))};
    // Along k scales change by twice k, across it by k; at the pins, as far from the ruler as they are.
    const double relative = (2 * away + k.norm() * span) / 1.96;
    found.scale.ux = std::hypot(found.scale.ux, relative * found.scale.x);
    found.scale.uy = std::hypot(found.scale.uy, relative * found.scale.y);
    found.notes.push_back(
        {NoteAbout::Slant,
         fmt::format("the camera looked slantwise: the scale changes by {:.1f} % over what was measured, and its doubt "
                     "counts that; make the picture square by a rectangle of known size",
                     100 * change)});
}

}  // namespace punch
