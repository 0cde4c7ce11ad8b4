#include "core/picture/pattern_fit.h"

#include <algorithm>
#include <cmath>

#include "core/base/angle.h"
#include "core/linear/decompositions.h"
#include "core/picture/rim.h"

namespace punch {

namespace {

/// Which of the pattern's numbers are fitted, in this order after x, y and the turn (of a ring: its middle direction).
enum Number { kPitch, kRearPitch, kGap, kShift, kCircle, kStep };

struct StartedFit {
    const Pattern& pattern;
    std::vector<Number> free;
    Eigen::VectorXd values;  // x, y, turn, then `free`

    double number(Number which) const {
        for (std::size_t i = 0; i < free.size(); ++i)
            if (free[i] == which) return values[static_cast<Eigen::Index>(3 + i)];
        switch (which) {
            case kPitch: return pattern.pitch;
            case kRearPitch: return number(kPitch);
            case kGap: return pattern.gap;
            case kShift: return pattern.shift;
            case kCircle: return pattern.circle;
            default: return pattern.step;
        }
    }
    /// Steps from the first position to the middle of the ring's places.
    double middleStep() const { return pattern.arc ? (pattern.columns[0] - 1) / 2.0 : 0.0; }

    Eigen::Vector2d at(const PatternSlot& s) const {
        const Eigen::Vector2d origin(values[0], values[1]);
        if (pattern.kind == FormationKind::Ring) {
            if (s.row < 0) return origin;
            const double a = (values[2] + (s.column - middleStep()) * number(kStep)) * kRadians;
            return origin + number(kCircle) / 2 * Eigen::Vector2d(std::cos(a), std::sin(a));
        }
        double u = s.column * number(s.row == 1 && pattern.rearPitch > 0 ? kRearPitch : kPitch);
        if (pattern.kind == FormationKind::Staggered && s.row % 2 == 1)
            u += (pattern.staggerLeft ? -0.5 : 0.5) * number(kPitch);
        if (pattern.hasShift && s.row == 1) u += number(kShift);
        const double v = s.row * number(kGap);
        const double c = std::cos(values[2] * kRadians);
        const double sn = std::sin(values[2] * kRadians);
        return origin + Eigen::Vector2d(c * u - sn * v, sn * u + c * v);
    }
};

StartedFit started(const std::vector<FoundPlace>& places, const Pattern& p) {
    StartedFit fit{p, {}, {}};
    const bool ring = p.kind == FormationKind::Ring;
    if (ring) {
        fit.free = {kCircle};
        if (p.arc) fit.free.push_back(kStep);
    } else {
        fit.free = {kPitch};
        if (p.rearPitch > 0) fit.free.push_back(kRearPitch);
        if (p.columns.size() > 1) fit.free.push_back(kGap);
        if (p.hasShift) fit.free.push_back(kShift);
    }
    fit.values = Eigen::VectorXd::Zero(static_cast<Eigen::Index>(3 + fit.free.size()));
    for (std::size_t i = 0; i < fit.free.size(); ++i) {
        const Number w = fit.free[i];
        fit.values[static_cast<Eigen::Index>(3 + i)] = w == kPitch       ? p.pitch
                                                       : w == kRearPitch ? p.rearPitch
                                                       : w == kGap       ? p.gap
                                                       : w == kShift     ? p.shift
                                                       : w == kCircle    ? p.circle
                                                                         : p.step;
    }
    if (ring) {
        fit.values[0] = p.centreX;
        fit.values[1] = p.centreY;
        fit.values[2] = p.start + fit.middleStep() * p.step;
    } else {
        fit.values[2] = p.turn;
        const Eigen::Vector2d first = fit.at(p.positions.front());
        const FoundPlace& seen = places[static_cast<std::size_t>(p.positions.front().place)];
        fit.values[0] = seen.x - first[0];
        fit.values[1] = seen.y - first[1];
    }
    return fit;
}

}  // namespace

RecognisedFormation fitPattern(const std::vector<FoundPlace>& places, const Pattern& pattern) {
    StartedFit fit = started(places, pattern);
    const auto m = static_cast<Eigen::Index>(2 * pattern.positions.size());
    const Eigen::Index k = fit.values.size();
    Eigen::MatrixXd j(m, k);
    Eigen::VectorXd r(m);
    double meanU2 = 0;
    for (int round = 0; round < 15; ++round) {
        meanU2 = 0;
        for (std::size_t i = 0; i < pattern.positions.size(); ++i) {
            const FoundPlace& seen = places[static_cast<std::size_t>(pattern.positions[i].place)];
            const Eigen::Vector2d at = fit.at(pattern.positions[i]);
            r[static_cast<Eigen::Index>(2 * i)] = seen.x - at[0];
            r[static_cast<Eigen::Index>(2 * i + 1)] = seen.y - at[1];
            meanU2 += seen.u * seen.u / static_cast<double>(pattern.positions.size());
        }
        for (Eigen::Index c = 0; c < k; ++c) {
            const double h = 1e-5;
            const double kept = fit.values[c];
            for (const double way : {1.0, -1.0}) {
                fit.values[c] = kept + way * h;
                for (std::size_t i = 0; i < pattern.positions.size(); ++i) {
                    const Eigen::Vector2d at = fit.at(pattern.positions[i]) * (way / (2 * h));
                    const auto row = static_cast<Eigen::Index>(2 * i);
                    j(row, c) = way > 0 ? at[0] : j(row, c) + at[0];
                    j(row + 1, c) = way > 0 ? at[1] : j(row + 1, c) + at[1];
                }
            }
            fit.values[c] = kept;
        }
        const Eigen::VectorXd step = linear::leastNorm(j, r).x;
        if (!step.allFinite()) break;
        fit.values += step;
        if (step.norm() < 1e-12) break;
    }
    const double sum = r.squaredNorm();
    const double rest = static_cast<double>(m - k);
    const double scatter = rest > 0 ? std::sqrt(sum / rest) : 0.0;
    // What the places are off the pattern counts too, when it is more than their own doubt.
    const double u2 = std::max(meanU2, rest >= 3 ? scatter * scatter : 0.0);
    const Eigen::MatrixXd c = u2 * linear::pseudoInverse(linear::transposeTimes(j, j));
    const auto u = [&](Eigen::Index i) { return std::sqrt(std::max(c(i, i), 0.0)); };

    RecognisedFormation out;
    out.kind = pattern.kind;
    out.rows = pattern.columns;
    out.arc = pattern.arc;
    out.middle = pattern.middle;
    out.scatter = scatter;
    out.origin = {fit.values[0], fit.values[1], u(0)};
    out.turn = fit.values[2];
    out.uTurn = u(2);
    for (std::size_t i = 0; i < fit.free.size(); ++i) {
        const FittedValue f{fit.values[static_cast<Eigen::Index>(3 + i)], u(static_cast<Eigen::Index>(3 + i))};
        switch (fit.free[i]) {
            case kPitch: out.pitch = f; break;
            case kRearPitch: out.rearPitch = f; break;
            case kGap: out.rowGap = f; break;
            case kShift: out.rowShift = f; break;
            case kCircle: out.circle = f; break;
            default: out.step = f; break;
        }
    }
    if (pattern.kind == FormationKind::Ring) {
        // Straight is where an axis of symmetry of the ring stands upright; nearest to how it lies.
        const double step = fit.number(kStep);
        const double middle = fit.values[2];
        out.turn = pattern.arc ? std::remainder(middle - 90, 90.0) : std::remainder(middle - 90, step / 2);
        if (pattern.arc && std::abs(out.turn) > 20) out.turn = std::remainder(middle - 90, step / 2);
        out.start = FittedValue{std::remainder(middle - fit.middleStep() * step - out.turn, 360.0), u(2)};
        if (!out.step) out.step = FittedValue{step, 0};
    } else if (pattern.kind == FormationKind::Staggered && pattern.staggerLeft) {
        // A formation's origin is the first place of its front row, whichever way the next row is set off.
        out.rowShift = FittedValue{-0.5 * fit.number(kPitch), 0};
    }
    out.positions = pattern.positions;
    std::stable_sort(out.positions.begin(), out.positions.end(), [](const PatternSlot& a, const PatternSlot& b) {
        const auto key = [](const PatternSlot& s) { return std::pair(s.row < 0 ? 1 << 20 : s.row, s.column); };
        return key(a) < key(b);
    });
    int base = 0;
    for (std::size_t row = 0; row < out.rows.size(); ++row) {
        for (int column = 0; column < out.rows[row]; ++column) {
            const bool there = std::any_of(out.positions.begin(), out.positions.end(), [&](const PatternSlot& s) {
                return s.row == static_cast<int>(row) && s.column == column;
            });
            if (!there) out.leftOut.push_back(base + column);
        }
        base += out.rows[row];
    }
    return out;
}

std::optional<PlaceCircle> circleThroughPlaces(const std::vector<FoundPlace>& places, const std::vector<int>& which) {
    std::vector<PixelPoint> points;
    for (const int i : which)
        points.push_back({places[static_cast<std::size_t>(i)].x, places[static_cast<std::size_t>(i)].y});
    const auto c = circleThrough(points);
    if (!c) return {};
    return PlaceCircle{c->centre.x, c->centre.y, c->radius};
}

}  // namespace punch
