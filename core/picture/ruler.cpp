#include "core/picture/ruler.h"

#include <Eigen/Cholesky>
#include <algorithm>
#include <array>
#include <cmath>
#include <numbers>

namespace punch {

namespace {

constexpr int kLeastTicks = 11;
constexpr double kLean = 0.008;     // standard deviation of how ticks lean against the nearest scan line
constexpr double kLeastPulse = 18;  // grey levels

struct Pulse {
    double at, width;
};

/// Thin marks along one line of values; `sign` +1 for dark ones.
void pulsesOf(const std::vector<float>& line, float sign, int window, std::vector<Pulse>& out) {
    out.clear();
    const int n = static_cast<int>(line.size());
    if (n < 2 * window) return;
    // Against the lighter of both neighbourhoods' middles, so that a step of brightness is no mark.
    for (int i = 2; i < n - 2;) {
        const float v = sign * line[i];
        const int l = std::max(0, i - window);
        const int r = std::min(n - 1, i + window);
        const float around = std::min(sign * line[l], sign * line[r]);
        if (around - v < kLeastPulse || v > sign * line[i - 1] || v > sign * line[i + 1]) {
            ++i;
            continue;
        }
        // The mark is what lies below the middle between its floor and its surroundings.
        const float half = (around + v) / 2;
        int a = i, b = i;
        while (a > 0 && i - a <= window && sign * line[a - 1] < half) --a;
        while (b < n - 1 && b - i <= window && sign * line[b + 1] < half) ++b;
        if (i - a < window && b - i < window) {
            double weight = 0, sum = 0;
            for (int k = std::max(0, a - 1); k <= std::min(n - 1, b + 1); ++k) {
                const double w = std::max(0.0f, around - sign * line[k]);
                weight += w;
                sum += w * k;
            }
            if (weight > 0) out.push_back({sum / weight, b - a + 1.0});
        }
        i = b + 1;
    }
}

struct Run {
    double first = 0, step = 0;
    int count = 0;  // ticks
    double width = 0;
};

/// The longest series of equal steps in it, each mark next to the one before.
Run longestRun(const std::vector<Pulse>& pulses, double leastStep, double mostStep) {
    Run best;
    const int n = static_cast<int>(pulses.size());
    std::vector<bool> used(pulses.size());
    for (int i = 0; i + kLeastTicks <= n + 1 && i + 1 < n; ++i) {
        if (used[i]) continue;
        const double step0 = pulses[i + 1].at - pulses[i].at;
        if (step0 < leastStep || step0 > mostStep) continue;
        double step = step0;
        int last = i;
        int count = 1;
        double width = pulses[i].width;
        for (int next = i + 1; next < n;) {
            const double goal = pulses[last].at + step;
            const double tolerance = std::max(1.2, 0.12 * step);
            int hit = -1;
            for (int k = next; k < n && pulses[k].at <= goal + tolerance; ++k)
                if (std::abs(pulses[k].at - goal) <= tolerance &&
                    (hit < 0 || std::abs(pulses[k].at - goal) < std::abs(pulses[hit].at - goal)))
                    hit = k;
            if (hit < 0) break;
            ++count;
            width += pulses[hit].width;
            last = hit;
            next = hit + 1;
            step = (pulses[last].at - pulses[i].at) / (count - 1);
        }
        if (count > best.count) best = {pulses[i].at, step, count, width / count};
        if (count >= kLeastTicks)
            for (int k = i; k < last; ++k) used[k] = true;
    }
    return best.count >= kLeastTicks && best.width < 0.45 * best.step ? best : Run{};
}

Grey transposed(const Grey& g) {
    Grey out{g.height, g.width, {}};
    out.data.resize(g.data.size());
    for (int y = 0; y < g.height; ++y)
        for (int x = 0; x < g.width; ++x) out.data[static_cast<std::size_t>(x) * out.width + y] = g.at(x, y);
    return out;
}

struct Line {
    Run run;
    double y0 = 0, slope = 0;  // y = y0 + slope x
    int sign = 1;
};

/// The best series on lines that run roughly along x.
Line bestLine(const Grey& grey, double leastStep, double mostStep) {
    Line best;
    std::vector<float> line(static_cast<std::size_t>(grey.width));
    std::vector<Pulse> pulses;
    const int window = std::max(3, static_cast<int>(mostStep * 0.3));
    const int rows = std::max(2, static_cast<int>(leastStep / 2));
    for (int tenth = -50; tenth <= 50; tenth += 5) {
        const double slope = std::tan(tenth / 10.0 * std::numbers::pi / 180);
        const double drop = slope * grey.width;
        for (double y0 = std::min(0.0, -drop); y0 < std::max<double>(grey.height, grey.height - drop); y0 += rows) {
            double low = 255, high = 0;
            for (int x = 0; x < grey.width; ++x) {
                const int y = static_cast<int>(std::lround(y0 + slope * x));
                line[x] = y < 0 || y >= grey.height ? -1.0f : static_cast<float>(grey.at(x, y));
                if (line[x] < 0) continue;
                low = std::min<double>(low, line[x]);
                high = std::max<double>(high, line[x]);
            }
            if (high - low < kLeastPulse) continue;
            // Beyond the picture its border goes on.
            for (int x = 1; x < grey.width; ++x)
                if (line[x] < 0) line[x] = line[x - 1];
            for (int x = grey.width - 2; x >= 0; --x)
                if (line[x] < 0) line[x] = line[x + 1];
            for (const int sign : {1, -1}) {
                pulsesOf(line, static_cast<float>(sign), window, pulses);
                const Run run = longestRun(pulses, leastStep, mostStep);
                if (run.count > best.run.count) best = {run, y0, slope, sign};
            }
        }
    }
    return best;
}

/// How far a tick reaches from its place on the line, to both sides along (nx, ny); pixels.
std::array<double, 2> reachOf(const Grey& grey, PixelPoint p, double nx, double ny, double half, int sign,
                              double most) {
    std::array<double, 2> reach{};
    for (const int way : {0, 1}) {
        const double dir = way == 0 ? 1 : -1;
        int misses = 0;
        for (double t = 0; t < most && misses < 3; t += 1) {
            const double x = p.x + dir * t * nx;
            const double y = p.y + dir * t * ny;
            if (x < 1 || y < 1 || x > grey.width - 2 || y > grey.height - 2) break;
            const double mark = std::min(
                {sign * grey.sample(x, y), sign * grey.sample(x - ny, y + nx), sign * grey.sample(x + ny, y - nx)});
            const double beside = std::min(sign * grey.sample(x - half * ny, y + half * nx),
                                           sign * grey.sample(x + half * ny, y - half * nx));
            if (beside - mark > kLeastPulse / 2) {
                reach[static_cast<std::size_t>(way)] = t;
                misses = 0;
            } else {
                ++misses;
            }
        }
    }
    return reach;
}

double medianOf(std::vector<double> v) {
    if (v.empty()) return 0;
    std::nth_element(v.begin(), v.begin() + static_cast<std::ptrdiff_t>(v.size() / 2), v.end());
    return v[v.size() / 2];
}

/// How clearly every `period`th tick is longer than the rest, in lengths of a step; at the best phase.
double longerEvery(const std::vector<double>& lengths, int period, double step) {
    if (static_cast<int>(lengths.size()) < 2 * period) return 0;
    double best = 0;
    for (int phase = 0; phase < period; ++phase) {
        std::vector<double> chosen, rest;
        for (std::size_t i = 0; i < lengths.size(); ++i)
            (static_cast<int>(i) % period == phase ? chosen : rest).push_back(lengths[i]);
        if (chosen.size() < 2) continue;
        // The shorter quarter of the chosen against the median of the rest.
        std::sort(chosen.begin(), chosen.end());
        best = std::max(best, (chosen[chosen.size() / 4] - medianOf(rest)) / step);
    }
    return best;
}

/// What a step is in mm; 0 when it cannot be told.
double stepLength(const std::vector<double>& lengths, double stepPixels, double dpi) {
    const double five = std::max(longerEvery(lengths, 5, stepPixels), longerEvery(lengths, 10, stepPixels));
    const double four = longerEvery(lengths, 4, stepPixels);
    const double two = longerEvery(lengths, 2, stepPixels);
    const bool decimal = five > 0.15 && five > 1.2 * four;
    const bool half = decimal && two > 0.15;
    if (dpi > 0) {
        constexpr std::array<double, 9> steps = {1.0,       0.5,       2.0,      25.4 / 16, 25.4 / 32,
                                                 25.4 / 10, 25.4 / 20, 25.4 / 8, 10.0};
        double best = 0;
        for (const double s : steps)
            if (std::abs(stepPixels * 25.4 / dpi / s - 1) < 0.03 && (best == 0 || s == 1.0)) best = s;
        if (best > 0) return best;
    }
    if (!decimal) return 0;
    return half ? 0.5 : 1.0;
}

/// along = a + b k + c t, robustly: places along the line of the ticks with these numbers, at these offsets along the
/// ticks. c: the ticks lean against the scan line.
struct TickFit {
    double a, b, c, scale;
};
std::optional<TickFit> fitTicks(const std::vector<double>& numbers, const std::vector<double>& places,
                                const std::vector<double>& offsets, double step) {
    double a = 0, b = step, c = 0, scale = 0;
    for (int round = 0; round < 8; ++round) {
        std::vector<double> residuals;
        for (std::size_t i = 0; i < numbers.size(); ++i)
            residuals.push_back(places[i] - a - b * numbers[i] - c * offsets[i]);
        std::vector<double> sizes;
        for (const double r : residuals) sizes.push_back(std::abs(r));
        scale = std::max(1.4826 * medianOf(sizes), 0.05);
        Eigen::Matrix3d n = Eigen::Matrix3d::Zero();
        Eigen::Vector3d right = Eigen::Vector3d::Zero();
        for (std::size_t i = 0; i < numbers.size(); ++i) {
            const double t = residuals[i] / (4.685 * scale);
            const double w = std::abs(t) >= 1 ? 0.0 : (1 - t * t) * (1 - t * t);
            const Eigen::Vector3d row(1, numbers[i], offsets[i]);
            n += w * row * row.transpose();
            right += w * residuals[i] * row;
        }
        // Lines are laid every half degree: more than about that the ticks do not lean against them.
        n(2, 2) += scale * scale / (kLean * kLean);
        const Eigen::Vector3d by = n.ldlt().solve(right);
        if (!by.allFinite()) return {};
        a += by[0];
        b += by[1];
        c += by[2];
    }
    return TickFit{a, b, c, scale};
}

std::optional<Ruler> follow(const Grey& grey, const Line& line, double dpi) {
    const Run& run = line.run;
    double dx = 1, dy = line.slope;
    const double l = std::hypot(dx, dy);
    dx /= l;
    dy /= l;
    PixelPoint start{run.first, line.y0 + line.slope * run.first};
    double step = run.step * l;
    int count = run.count;
    // Ticks stand across the line that their middles make; first guess: across the scan line.
    const auto tickPlace = [&](int k) { return PixelPoint{start.x + k * step * dx, start.y + k * step * dy}; };
    const double window = 0.4 * step;
    const auto centred = [&](PixelPoint p) -> std::optional<double> {  // offset of the mark along the line
        double weight = 0, sum = 0;
        double around = 255;
        for (const double side : {-1.0, 1.0})
            around = std::min(around, line.sign * grey.sample(p.x + side * window * dx, p.y + side * window * dy) +
                                          (line.sign < 0 ? 255 : 0));
        double most = 0;
        std::vector<std::pair<double, double>> values;
        for (double s = -window; s <= window; s += 0.5) {
            const double v = line.sign * grey.sample(p.x + s * dx, p.y + s * dy) + (line.sign < 0 ? 255 : 0);
            values.emplace_back(s, around - v);
            most = std::max(most, around - v);
        }
        if (most < kLeastPulse / 2) return {};
        for (const auto& [s, depth] : values) {
            const double w = std::max(0.0, depth - 0.3 * most);
            weight += w;
            sum += w * s;
        }
        return sum / weight;
    };
    // How far the ticks reach, and on which side their ends line up.
    const double most = 8 * step;
    std::vector<double> plus, minus;
    for (int k = 0; k < count; ++k) {
        PixelPoint p = tickPlace(k);
        if (const auto o = centred(p)) p = {p.x + *o * dx, p.y + *o * dy};
        const auto r = reachOf(grey, p, -dy, dx, 0.45 * step, line.sign, most);
        plus.push_back(r[0]);
        minus.push_back(r[1]);
    }
    const auto spread = [](const std::vector<double>& v) {
        const double m = medianOf(v);
        double sum = 0;
        for (const double x : v) sum += std::min(std::abs(x - m), 50.0);
        return sum;
    };
    const bool towardsPlus = spread(plus) >= spread(minus);
    std::vector<double> lengths;
    for (std::size_t i = 0; i < plus.size(); ++i) lengths.push_back(plus[i] + minus[i] + 1);
    if (medianOf(lengths) < 3 * run.width || medianOf(lengths) < 0.6 * step) return {};
    const double stepMm = stepLength(lengths, step, dpi);
    if (stepMm <= 0) return {};

    // Centres on several lines along the ticks, and a straight line through them by number.
    const auto common = [](std::vector<double> v) {  // as far as nearly all of them reach
        std::sort(v.begin(), v.end());
        return std::max(0.0, v[v.size() / 10] - 1);
    };
    const double shortPlus = common(plus);
    const double shortMinus = common(minus);
    std::vector<double> numbers, places, offsets;
    for (int j = 0; j < 9; ++j) {
        const double t = -shortMinus + (shortPlus + shortMinus) * j / 8.0;
        for (int k = 0; k < count; ++k) {
            PixelPoint p = tickPlace(k);
            p = {p.x - t * dy, p.y + t * dx};
            if (const auto o = centred(p)) {
                numbers.push_back(k);
                places.push_back(k * step + *o);
                offsets.push_back(t);
            }
        }
    }
    if (numbers.size() < 4u * kLeastTicks) return {};
    const auto fit = fitTicks(numbers, places, offsets, step);
    if (!fit) return {};
    const auto [a, b, c, scale] = *fit;
    if (scale > 0.12 * step) return {};
    // Ticks stand square to the ruler: leaning by c, the ruler's true direction is turned by it, and steps measured
    // along the scan line are longer than along the ruler by 1 / cos.
    const double lean = std::atan(c);
    const double trueStep = b * std::cos(lean);
    const double rx = dx * std::cos(lean) + dy * std::sin(lean);
    const double ry = dy * std::cos(lean) - dx * std::sin(lean);
    Ruler ruler;
    const PixelPoint first{start.x + a * dx, start.y + a * dy};
    ruler.first = first;
    ruler.last = {first.x + (count - 1) * trueStep * rx, first.y + (count - 1) * trueStep * ry};
    ruler.steps = count - 1;
    ruler.step = stepMm;
    ruler.scatter = scale;
    ruler.inwards = towardsPlus ? PixelPoint{-ry, rx} : PixelPoint{ry, -rx};
    ruler.edge = medianOf(towardsPlus ? minus : plus);
    ruler.tickLength = *std::max_element(lengths.begin(), lengths.end());
    return ruler;
}

}  // namespace

bool Ruler::covers(PixelPoint p) const {
    const double l = std::hypot(last.x - first.x, last.y - first.y);
    const double dx = (last.x - first.x) / l;
    const double dy = (last.y - first.y) / l;
    const double perMm = l / length();
    const double along = (p.x - first.x) * dx + (p.y - first.y) * dy;
    const double in = (p.x - first.x) * inwards.x + (p.y - first.y) * inwards.y;
    return along > -12 * perMm && along < l + 12 * perMm && in > -edge - 0.3 * perMm && in < 32 * perMm;
}

std::vector<Ruler> findRulers(const Grey& grey, const std::optional<Dpi>& dpi) {
    std::vector<Ruler> out;
    const int longest = std::max(grey.width, grey.height);
    // Ticks are about 0.15 mm wide: they must stay wider than a pixel.
    const double perMm = dpi ? std::min(dpi->x, dpi->y) / 25.4 : 0;
    const int factor = std::max(1, perMm > 0 ? static_cast<int>(perMm / 11) : longest / 2400);
    const Grey small = reduced(grey, factor);
    const double least = perMm > 0 ? 0.45 * perMm / factor : 4.5;
    const double most = perMm > 0 ? 2.7 * perMm / factor : 60;
    for (const bool vertical : {false, true}) {
        const Grey turned = vertical ? transposed(small) : Grey{};
        Line line = bestLine(vertical ? turned : small, std::max(least, 4.0), most);
        if (line.run.count < kLeastTicks) continue;
        line.run.first = (line.run.first + 0.5) * factor - 0.5;
        line.run.step *= factor;
        line.run.width *= factor;
        line.y0 = (line.y0 + 0.5) * factor - 0.5 + line.slope * (0.5 - 0.5 * factor);
        const Grey full = vertical ? transposed(grey) : Grey{};
        auto ruler = follow(vertical ? full : grey, line, !dpi ? 0.0 : vertical ? dpi->y : dpi->x);
        if (!ruler) continue;
        ruler->vertical = vertical;
        if (vertical) {
            std::swap(ruler->first.x, ruler->first.y);
            std::swap(ruler->last.x, ruler->last.y);
            std::swap(ruler->inwards.x, ruler->inwards.y);
        }
        out.push_back(*ruler);
    }
    std::sort(out.begin(), out.end(), [](const Ruler& a, const Ruler& b) { return a.steps > b.steps; });
    return out;
}

}  // namespace punch
