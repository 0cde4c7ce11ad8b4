#include "core/picture/ruler_marks.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

#include "core/linear/decompositions.h"
#include "core/picture/rim_points.h"
#include "core/picture/ruler_order.h"

namespace punch {

namespace {

constexpr int kLeastMarks = 11;
constexpr double kLean = 0.02;          // standard deviation of how marks lean against square to their row
constexpr double kLeastMarkDepth = 12;  // grey levels
constexpr double kAgreeing = 0.03;      // relative, of a step and the file's dpi
constexpr int kLevels = 9;              // lines across the marks on which their centres are taken

/// The row that the marks stand on: place of mark k, and along the marks.
struct Row {
    PixelPoint start;
    double dx = 1, dy = 0;  // along, unit
    double step = 0;
    int count = 0;
    PixelPoint at(double k, double t) const {
        return {start.x + k * step * dx - t * dy, start.y + k * step * dy + t * dx};
    }
};

class Marks {
public:
    Marks(const Seen& seen, bool dark) : seen_(seen), sign_(dark ? 1 : -1) {}

    /// Centre of a mark near a place, along the row from there; none where nothing stands out.
    std::optional<double> centre(const Row& row, PixelPoint p, double window) const {
        std::array<double, 161> value{};
        const int half = std::clamp(static_cast<int>(window / 0.5), 2, 80);
        const double step = window / half;
        for (int i = -half; i <= half; ++i)
            value[static_cast<std::size_t>(i + half)] =
                sign_ * seen_.at(p.x + i * step * row.dx, p.y + i * step * row.dy);
        const double around = std::min(value[0], value[static_cast<std::size_t>(2 * half)]);
        double most = 0;
        for (int i = 0; i <= 2 * half; ++i) most = std::max(most, around - value[static_cast<std::size_t>(i)]);
        if (most < std::max(kLeastMarkDepth, least_)) return {};
        depth_ = most;
        double weight = 0, sum = 0;
        int wide = 0;
        for (int i = 0; i <= 2 * half; ++i) {
            const double depth = around - value[static_cast<std::size_t>(i)];
            const double w = std::max(0.0, depth - 0.3 * most);
            weight += w;
            sum += w * (i - half) * step;
            wide += depth > 0.5 * most ? 1 : 0;
        }
        width_ = wide * step;
        return sum / weight;
    }
    double lastWidth() const { return width_; }
    double lastDepth() const { return depth_; }
    /// From now on what is much fainter than this is no mark: noise is not.
    void setUsualDepth(double depth) { least_ = 0.4 * depth; }

    /// How far a mark reaches from its place, to both sides along it; pixels.
    std::array<double, 2> reach(const Row& row, PixelPoint p, double half, double most) const {
        std::array<double, 2> out{};
        const double nx = -row.dy, ny = row.dx;
        for (const int way : {0, 1}) {
            const double dir = way == 0 ? 1 : -1;
            double misses = 0;
            // Gaps of a few pixels in a worn mark are bridged, in proportion to its scale.
            const double bridge = std::max(3.0, 0.06 * row.step);
            for (double t = 0; t < most && misses < bridge; t += 1) {
                const double x = p.x + dir * t * nx, y = p.y + dir * t * ny;
                if (x < 1 || y < 1 || x > seen_.width() - 2 || y > seen_.height() - 2) break;
                const double mark = std::min({sign_ * seen_.at(x, y), sign_ * seen_.at(x - row.dx, y - row.dy),
                                              sign_ * seen_.at(x + row.dx, y + row.dy)});
                const double beside = std::min(sign_ * seen_.at(x - half * row.dx, y - half * row.dy),
                                               sign_ * seen_.at(x + half * row.dx, y + half * row.dy));
                if (beside - mark > kLeastMarkDepth) {
                    out[static_cast<std::size_t>(way)] = t;
                    misses = 0;
                } else {
                    misses += 1;
                }
            }
        }
        return out;
    }

private:
    const Seen& seen_;
    double sign_;
    double least_ = 0;
    mutable double width_ = 0, depth_ = 0;
};

bool isInside(const Seen& seen, PixelPoint p) {
    return p.x > 1 && p.y > 1 && p.x < seen.width() - 2 && p.y < seen.height() - 2;
}

/// A first straight line through the marks that are there, and on beyond both ends.
std::optional<Row> settled(const Seen& seen, Marks& marks, Row row) {
    for (int round = 0; round < 3; ++round) {
        double n = 0, k1 = 0, k2 = 0, s1 = 0, ks = 0;
        std::vector<double> depths;
        for (int k = 0; k < row.count; ++k) {
            const PixelPoint p = row.at(k, 0);
            if (!isInside(seen, p)) continue;
            const auto o = marks.centre(row, p, 0.42 * row.step);
            if (!o) continue;
            depths.push_back(marks.lastDepth());
            n += 1;
            k1 += k;
            k2 += k * k;
            s1 += k * row.step + *o;
            ks += k * (k * row.step + *o);
        }
        if (n < kLeastMarks - 3) return {};
        marks.setUsualDepth(median(depths));
        const double det = n * k2 - k1 * k1;
        if (det <= 0) return {};
        const double b = (n * ks - k1 * s1) / det, a = (s1 - b * k1) / n;
        if (std::abs(b / row.step - 1) > 0.2) return {};
        row.start = {row.start.x + a * row.dx, row.start.y + a * row.dy};
        row.step = b;
    }
    // On as long as marks stand where they should.
    const auto there = [&](double k) {
        const PixelPoint p = row.at(k, 0);
        if (!isInside(seen, p)) return false;
        const auto o = marks.centre(row, p, 0.4 * row.step);
        return o && std::abs(*o) < 0.15 * row.step && marks.lastWidth() < 0.45 * row.step;
    };
    while (there(row.count) || there(row.count + 1)) ++row.count;
    int before = 0;
    while (there(-before - 1) || there(-before - 2)) ++before;
    row.start = row.at(-before, 0);
    row.count += before;
    while (row.count > 2 && !there(row.count - 1)) --row.count;
    while (row.count > 2 && !there(0)) {
        row.start = row.at(1, 0);
        --row.count;
    }
    return row;
}

/// Do marks stand between these at every so many parts of a step? Share of them that are there.
double shareBetween(const Seen& seen, const Marks& marks, const Row& row, int parts, double shortest) {
    int hits = 0, tried = 0;
    Row fine = row;
    fine.step = row.step / parts;
    for (int k = 0; k + 1 < row.count; ++k)
        for (int j = 1; j < parts; ++j) {
            const PixelPoint p = row.at(k + 1.0 * j / parts, 0);
            if (!isInside(seen, p)) continue;
            ++tried;
            const auto o = marks.centre(fine, p, 0.42 * fine.step);
            if (!o || std::abs(*o) > 0.2 * fine.step) continue;
            const auto r = marks.reach(fine, p, 0.45 * fine.step, 3 * shortest);
            hits += r[0] + r[1] > 0.35 * shortest ? 1 : 0;
        }
    return tried < 6 ? 0.0 : 1.0 * hits / tried;
}

/// Are there finer marks between these? Then the row by them.
Row refined(const Seen& seen, const Marks& marks, Row row, double shortest) {
    for (int round = 0; round < 3; ++round) {
        int parts = 1;
        for (const int p : {2, 3, 4, 5})
            if (row.step / p >= 3.2 && shareBetween(seen, marks, row, p, shortest) >= 0.75) parts = p;
        if (parts == 1) break;
        row.step /= parts;
        row.count = (row.count - 1) * parts + 1;
        const auto there = [&](int k) {
            const PixelPoint p = row.at(k, 0);
            if (!isInside(seen, p)) return false;
            const auto o = marks.centre(row, p, 0.4 * row.step);
            return o && std::abs(*o) < 0.15 * row.step;
        };
        while (there(row.count)) ++row.count;  // finer marks may go on beyond the last coarse one, and before the first
        while (there(-1)) {
            row.start = row.at(-1, 0);
            ++row.count;
        }
    }
    return row;
}

/// along = a + b k + c t + d k² + e k t, robustly: c: the marks lean; d, e: the camera looks slantwise.
struct MarksFit {
    Eigen::Matrix<double, 5, 1> values = Eigen::Matrix<double, 5, 1>::Zero(), u = values;
    double scale = 0;
};
std::optional<MarksFit> fitMarks(const std::vector<std::array<double, 3>>& points, double step, int parameters) {
    MarksFit fit;
    fit.values[1] = step;
    Eigen::MatrixXd n;
    for (int round = 0; round < 8; ++round) {
        std::vector<double> residuals;
        for (const auto& [k, t, s] : points)
            residuals.push_back(s - fit.values[0] - fit.values[1] * k - fit.values[2] * t - fit.values[3] * k * k -
                                fit.values[4] * k * t);
        std::vector<double> sizes;
        for (const double r : residuals) sizes.push_back(std::abs(r));
        fit.scale = std::max(1.4826 * median(sizes), 0.04);
        n = Eigen::MatrixXd::Zero(parameters, parameters);
        Eigen::VectorXd right = Eigen::VectorXd::Zero(parameters);
        for (std::size_t i = 0; i < points.size(); ++i) {
            const double w = round < 2 ? 1.0 : tukey(residuals[i], fit.scale);
            const auto& [k, t, s] = points[i];
            const std::array<double, 5> full = {1, k, t, k * k, k * t};
            const Eigen::VectorXd row = Eigen::Map<const Eigen::VectorXd>(full.data(), parameters);
            n += w * row * row.transpose();
            right += w * residuals[i] * row;
        }
        n(2, 2) += fit.scale * fit.scale / (kLean * kLean);
        const Eigen::VectorXd by = linear::solved(n, right);
        if (!by.allFinite()) return {};
        fit.values.head(parameters) += by;
    }
    // Centres of one mark on neighbouring lines share their errors.
    const Eigen::MatrixXd c = linear::inverse(n) * (fit.scale * fit.scale * kLevels / 2.5);
    for (int i = 0; i < parameters; ++i) fit.u[i] = std::sqrt(std::max(c(i, i), 0.0));
    return fit;
}

/// What a step is in mm: by the order, and among its steps by the dpi.
void judgeStep(Ruler& ruler, const std::vector<int>& order, double stepPixels, double dpi) {
    std::vector<double> steps = stepsByOrder(order);
    ruler.believed = !steps.empty();
    ruler.order = orderWords(order);
    if (steps.empty()) {
        // Nothing but even spacing: it is offered where it is what the dpi would have.
        for (const double s : {1.0, 0.5, 25.4 / 16, 25.4 / 10, 2.0, 25.4 / 32})
            if (dpi > 0 && std::abs(stepPixels * 25.4 / dpi / s - 1) < kAgreeing) steps.push_back(s);
        if (steps.empty()) steps.push_back(1.0);
    }
    // Millimetres or tenths of an inch: a dpi that agrees decides. Halves of an inch stay as they are counted, since a
    // dpi that is wrong by two, as tags are, would agree with the next halves.
    const bool inches = ruler.believed && steps.front() != 1.0 && steps.front() != 0.5;
    if (dpi > 0 && !inches)
        std::stable_sort(steps.begin(), steps.end(), [&](double a, double b) {
            const auto off = [&](double s) { return std::abs(stepPixels * 25.4 / dpi / s - 1) > kAgreeing; };
            return off(a) < off(b);
        });
    ruler.step = steps.front();
    ruler.otherSteps.assign(steps.begin() + 1, steps.end());
}

}  // namespace

std::optional<Ruler> followed(const Seen& seen, const StrokeSeries& series, double dpi) {
    const double l = std::hypot(series.step.x, series.step.y);
    Row row{series.first, series.step.x / l, series.step.y / l, l, series.count};
    const double inside = (series.tops ? 1 : -1) * 0.45 * series.length;
    row.start = row.at(0, inside);
    Marks marks(seen, series.dark);
    auto first = settled(seen, marks, row);
    if (!first || first->count < kLeastMarks) return {};
    row = refined(seen, marks, *first, 0.6 * series.length);

    // How far the marks reach, and on which side their ends line up.
    std::vector<double> plus, minus, lengths, widths;
    const double most = std::min(14 * row.step, 4 * series.length + 2 * row.step);
    for (int k = 0; k < row.count; ++k) {
        const PixelPoint p = row.at(k, 0);
        const auto o = isInside(seen, p) ? marks.centre(row, p, 0.42 * row.step) : std::nullopt;
        if (!o) {
            lengths.push_back(0);
            continue;
        }
        widths.push_back(marks.lastWidth());
        const auto r = marks.reach(row, {p.x + *o * row.dx, p.y + *o * row.dy}, 0.45 * row.step, most);
        plus.push_back(r[0]);
        minus.push_back(r[1]);
        lengths.push_back(r[0] + r[1] + 1);
    }
    if (static_cast<int>(plus.size()) < kLeastMarks || static_cast<double>(plus.size()) < 0.7 * row.count) return {};
    const double usual = median(lengths);
    if (median(widths) > 0.45 * row.step || usual < 2.5 * median(widths) || usual < 0.6 * row.step) return {};
    const auto spread = [](const std::vector<double>& v) {
        const double m = median(v);
        double sum = 0;
        for (const double x : v) sum += std::min(std::abs(x - m), 50.0);
        return sum;
    };
    const bool towardsPlus = spread(plus) >= spread(minus);

    // Centres on several lines along the marks, and a straight line through them by number.
    const auto common = [](std::vector<double> v) {  // as far as nearly all of them reach
        std::sort(v.begin(), v.end());
        return std::max(0.0, v[v.size() / 10] - 1);
    };
    const double upTo = common(plus), from = -common(minus);
    std::vector<std::array<double, 3>> points;
    for (int j = 0; j < kLevels; ++j) {
        const double t = from + (upTo - from) * j / (kLevels - 1.0);
        for (int k = 0; k < row.count; ++k) {
            const PixelPoint p = row.at(k, t);
            if (!isInside(seen, p)) continue;
            if (const auto o = marks.centre(row, p, 0.42 * row.step)) points.push_back({1.0 * k, t, k * row.step + *o});
        }
    }
    if (points.size() < 4u * kLeastMarks) return {};
    auto fit = fitMarks(points, row.step, 3);
    const auto bent = fitMarks(points, row.step, 5);
    if (!fit || !bent || bent->scale > 0.12 * row.step) return {};
    Ruler ruler;
    const double slantAlong = bent->values[3] / (row.step * row.step), uAlong = bent->u[3] / (row.step * row.step);
    const double slantAcross = bent->values[4] / row.step, uAcross = bent->u[4] / row.step;
    // Marks stand square to the ruler: leaning by c, its true direction is turned by it, and steps measured along the
    // row are longer than along the ruler by 1 / cos.
    const double lean = std::atan(fit->values[2]);
    const double trueStep = fit->values[1] * std::cos(lean);
    const double rx = row.dx * std::cos(lean) + row.dy * std::sin(lean);
    const double ry = row.dy * std::cos(lean) - row.dx * std::sin(lean);
    ruler.slant = Slant{slantAlong * rx - slantAcross * ry, slantAlong * ry + slantAcross * rx,
                        std::hypot(uAlong * rx, uAcross * ry), std::hypot(uAlong * ry, uAcross * rx)};
    ruler.first = {row.start.x + fit->values[0] * row.dx, row.start.y + fit->values[0] * row.dy};
    ruler.steps = row.count - 1;
    ruler.last = {ruler.first.x + ruler.steps * trueStep * rx, ruler.first.y + ruler.steps * trueStep * ry};
    ruler.scatter = bent->scale;
    ruler.inwards = towardsPlus ? PixelPoint{-ry, rx} : PixelPoint{ry, -rx};
    ruler.edge = median(towardsPlus ? minus : plus);
    ruler.tickLength = *std::max_element(lengths.begin(), lengths.end());
    for (int k = 0; k < row.count; ++k)
        if (lengths[static_cast<std::size_t>(k)] > 0)
            ruler.marks.push_back({ruler.first.x + k * trueStep * rx, ruler.first.y + k * trueStep * ry});
    judgeStep(ruler, orderOfLengths(lengths), trueStep, dpi);
    return ruler;
}

}  // namespace punch
