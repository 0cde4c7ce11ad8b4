#include "core/model/picture_scale.h"

#include <fmt/format.h>
#include <cmath>

#include "core/linear/decompositions.h"

namespace punch {

namespace {

/// Normal matrix of log scales by the pairs alone, at equal scales.
Eigen::Matrix2d normalOf(const std::vector<ScalePair>& pairs) {
    Eigen::Matrix2d n = Eigen::Matrix2d::Zero();
    for (const ScalePair& p : pairs) {
        const double dx = p.b.x - p.a.x;
        const double dy = p.b.y - p.a.y;
        const double d2 = dx * dx + dy * dy;
        if (d2 <= 0 || p.length <= 0) continue;
        const Eigen::Vector2d row(p.length * dx * dx / d2, p.length * dy * dy / d2);
        const double u = pairU(p, p.length / std::sqrt(d2));
        n += row * row.transpose() / (u * u);
    }
    return n;
}

/// A pair at scales s: its length, and how that follows them.
struct PairRow {
    double length, u;
    Eigen::Vector2d row;
};
PairRow rowOf(const ScalePair& p, const Eigen::Vector2d& s) {
    const double dx = p.b.x - p.a.x;
    const double dy = p.b.y - p.a.y;
    const double l = std::hypot(s[0] * dx, s[1] * dy);
    return {l, pairU(p, l / std::hypot(dx, dy)), {s[0] * dx * dx / l, s[1] * dy * dy / l}};
}

}  // namespace

double pairU(const ScalePair& pair, double mmPerPixel) {
    return std::hypot(kRulerLimit / std::sqrt(3.0), std::sqrt(2.0) * pair.u * mmPerPixel);
}

bool pairsMeasureBothAxes(const std::vector<ScalePair>& pairs) {
    const Eigen::Matrix2d n = normalOf(pairs);
    // The eigenvalues of a symmetric matrix of two.
    const double half = n.trace() / 2, apart = std::hypot((n(0, 0) - n(1, 1)) / 2, n(0, 1));
    if (half - apart < 1e-6 * (half + apart) || half - apart <= 0) return false;
    const Eigen::Matrix2d c = linear::inverse(n);
    return 1.96 * std::sqrt(std::max(c(0, 0), c(1, 1))) < kAxesDoubt;
}

Result<PictureScale> scaleByPairs(const std::vector<ScalePair>& pairs) {
    if (pairs.empty()) return problem("no length is given", "scale", "Name two places and how far apart they are");
    double start = 0;
    for (std::size_t i = 0; i < pairs.size(); ++i) {
        const ScalePair& p = pairs[i];
        const std::string where = fmt::format("length {} for the scale", i + 1);
        const double d = std::hypot(p.b.x - p.a.x, p.b.y - p.a.y);
        if (!(p.length > 0) || !std::isfinite(p.length))
            return problem("a length must be above zero", where, "Type what the ruler says between the two places");
        if (!(d >= kLeastPairPixels) || !std::isfinite(d))
            return problem("its two ends lie on each other", where, "Choose two places far apart");
        start += p.length / d / static_cast<double>(pairs.size());
    }
    const bool both = pairsMeasureBothAxes(pairs);
    Eigen::Vector2d s(start, start);
    Eigen::Matrix2d n;
    for (int round = 0; round < 20; ++round) {
        n.setZero();
        Eigen::Vector2d b = Eigen::Vector2d::Zero();
        for (const ScalePair& p : pairs) {
            const PairRow r = rowOf(p, s);
            n += r.row * r.row.transpose() / (r.u * r.u);
            b += r.row * (p.length - r.length) / (r.u * r.u);
        }
        if (!both) {
            const double u = kAxesDoubt / 1.96 * start;
            const Eigen::Vector2d row(-1, 1);
            n += row * row.transpose() / (u * u);
            b += row * (s[0] - s[1]) / (u * u);
        }
        const Eigen::Vector2d step = linear::solved(n, b);
        if (!step.allFinite()) break;
        s += step;
        s = s.cwiseMax(1e-3 * start);
        if (step.norm() < 1e-14 * start) break;
    }
    const Eigen::Matrix2d c = linear::inverse(n);
    PictureScale out{s[0], s[1], std::sqrt(c(0, 0)), std::sqrt(c(1, 1)), ScaleFrom::Pairs, {}, {}};
    for (const ScalePair& p : pairs) {
        const PairRow r = rowOf(p, s);
        const double left = r.u * r.u - r.row.dot(c * r.row);
        out.residuals.push_back(p.length - r.length);
        out.w.push_back(left > 1e-6 * r.u * r.u ? (p.length - r.length) / std::sqrt(left) : 0.0);
    }
    return out;
}

PictureScale scaleByDpi(const Dpi& dpi) {
    const double x = 25.4 / dpi.x;
    const double y = 25.4 / dpi.y;
    return {x, y, kAxesDoubt / 1.96 * x, kAxesDoubt / 1.96 * y, ScaleFrom::Dpi, {}, {}};
}

std::string scaleFromWords(ScaleFrom from) {
    switch (from) {
        case ScaleFrom::Pairs: return "pairs";
        case ScaleFrom::Ruler: return "ruler";
        case ScaleFrom::Dpi: return "dpi";
        case ScaleFrom::Drawing: return "drawing";
        case ScaleFrom::None: break;
    }
    return "none";
}

}  // namespace punch
