#include "core/picture/recognise.h"

#include <algorithm>
#include <cmath>
#include <numeric>

#include "core/base/angle.h"
#include "core/picture/pattern_fit.h"

namespace punch {

namespace {

using Places = std::vector<FoundPlace>;

struct Lines {
    double turn = 0;                     // degrees, of the lines
    std::vector<std::vector<int>> rows;  // places, front row first, each from the left
};

Lines linesAt(const Places& places, double turn) {
    std::vector<int> order(places.size());
    std::iota(order.begin(), order.end(), 0);
    std::sort(order.begin(), order.end(),
              [&](int a, int b) { return across(places[a], turn) < across(places[b], turn); });
    Lines out{turn, {}};
    double last = 0;
    for (const int i : order) {
        const double c = across(places[i], turn);
        if (out.rows.empty() || c - last > 2 * kPatternTolerance) out.rows.emplace_back();
        out.rows.back().push_back(i);
        last = c;
    }
    for (auto& row : out.rows)
        std::sort(row.begin(), row.end(),
                  [&](int a, int b) { return along(places[a], turn) < along(places[b], turn); });
    return out;
}

/// The common slope of the rows, taken off once more.
Lines straightened(const Places& places, Lines lines) {
    for (int round = 0; round < 2; ++round) {
        double sab = 0, saa = 0;
        for (const auto& row : lines.rows) {
            double ma = 0, mc = 0;
            for (const int i : row) {
                ma += along(places[i], lines.turn) / static_cast<double>(row.size());
                mc += across(places[i], lines.turn) / static_cast<double>(row.size());
            }
            for (const int i : row) {
                sab += (along(places[i], lines.turn) - ma) * (across(places[i], lines.turn) - mc);
                saa += (along(places[i], lines.turn) - ma) * (along(places[i], lines.turn) - ma);
            }
        }
        if (saa <= 0) break;
        lines = linesAt(places, lines.turn + std::atan(sab / saa) / kRadians);
    }
    return lines;
}

bool isWithin(const Places& places, const Lines& lines) {
    for (const auto& row : lines.rows) {
        double low = 1e18, high = -1e18;
        for (const int i : row) {
            low = std::min(low, across(places[i], lines.turn));
            high = std::max(high, across(places[i], lines.turn));
        }
        if (high - low > 2 * kPatternTolerance) return false;
    }
    return true;
}

/// Every different way to see the places as lines, the fewest lines first, then the least turned.
std::vector<Lines> waysToSeeLines(const Places& places) {
    std::vector<double> turns;
    const auto consider = [&](int i, int j) {
        double t = std::atan2(places[j].y - places[i].y, places[j].x - places[i].x) / kRadians;
        t = std::remainder(t, 180.0);
        for (const double other : turns)
            if (std::abs(std::remainder(t - other, 180.0)) < 0.25) return;
        turns.push_back(t);
    };
    const int n = static_cast<int>(places.size());
    for (int i = 0; i < n; ++i) {
        std::vector<std::pair<double, int>> near;
        for (int j = 0; j < n; ++j)
            if (j != i) near.emplace_back(std::hypot(places[j].x - places[i].x, places[j].y - places[i].y), j);
        std::sort(near.begin(), near.end());
        if (n > 24 && near.size() > 6) near.resize(6);
        for (const auto& [d, j] : near) consider(i, j);
    }
    std::vector<Lines> out;
    for (const double t : turns) {
        Lines l = straightened(places, linesAt(places, t));
        if (isWithin(places, l)) out.push_back(std::move(l));
    }
    // Lines mostly run along or across the picture; a part that lies crooked is the exception.
    const auto crooked = [](const Lines& l) { return std::abs(std::remainder(l.turn, 90.0)) > 20; };
    std::stable_sort(out.begin(), out.end(), [&](const Lines& a, const Lines& b) {
        if (a.rows.size() != b.rows.size()) return a.rows.size() < b.rows.size();
        if (crooked(a) != crooked(b)) return crooked(b);
        return std::abs(std::remainder(a.turn, 180.0)) < std::abs(std::remainder(b.turn, 180.0));
    });
    return out;
}

/// The largest step of which all distances between neighbours in the rows are multiples; 0 when there is none.
double commonPitch(const std::vector<std::vector<double>>& rows, std::size_t places) {
    std::vector<double> gaps;
    for (const auto& row : rows)
        for (std::size_t i = 1; i < row.size(); ++i) gaps.push_back(row[i] - row[i - 1]);
    if (gaps.empty()) return 0;
    std::sort(gaps.begin(), gaps.end());
    for (const int parts : {1, 2, 3}) {
        double pitch = gaps.front() / parts;
        if (pitch < kLeastPitchOfPins) break;
        double sum = 0, count = 0;
        bool all = true;
        for (const double g : gaps) {
            const double k = std::round(g / pitch);
            if (k < 1 || std::abs(g - k * pitch) > kPatternTolerance + kTolerancePerLength * g) {
                all = false;
                break;
            }
            sum += g;
            count += k;
            pitch = sum / count;
        }
        // A step of which most positions are empty is no pitch.
        if (all && (parts == 1 || count + static_cast<double>(rows.size()) <= 2.5 * static_cast<double>(places)))
            return pitch;
    }
    return 0;
}

std::vector<double> alongOf(const Places& places, const Lines& lines, std::size_t row) {
    std::vector<double> out;
    for (const int i : lines.rows[row]) out.push_back(along(places[i], lines.turn));
    return out;
}

double acrossOf(const Places& places, const Lines& lines, std::size_t row) {
    double sum = 0;
    for (const int i : lines.rows[row]) sum += across(places[i], lines.turn);
    return sum / static_cast<double>(lines.rows[row].size());
}

/// How far `shift` is from a multiple of `pitch`, signed.
double off(double shift, double pitch) { return shift - std::round(shift / pitch) * pitch; }

/// Columns of a row counted from `from`; empty positions between are noted.
void addRow(Pattern& p, const Places& places, const Lines& lines, std::size_t row, double from, double pitch) {
    for (const int i : lines.rows[row]) {
        const int column = static_cast<int>(std::lround((along(places[i], lines.turn) - from) / pitch));
        p.positions.push_back({i, static_cast<int>(row), column});
    }
}

std::optional<Pattern> oneRow(const Places& places, const Lines& lines) {
    const auto a = alongOf(places, lines, 0);
    const double pitch = commonPitch({a}, places.size());
    if (pitch <= 0) return {};
    Pattern p;
    p.kind = FormationKind::Row;
    p.turn = lines.turn;
    p.pitch = pitch;
    addRow(p, places, lines, 0, a.front(), pitch);
    p.columns = {p.positions.back().column + 1};
    return p;
}

std::optional<Pattern> twoRows(const Places& places, const Lines& lines) {
    const auto front = alongOf(places, lines, 0);
    const auto rear = alongOf(places, lines, 1);
    const double p1 = commonPitch({front}, front.size());
    const double p2 = commonPitch({rear}, rear.size());
    if ((front.size() > 1 && p1 <= 0) || (rear.size() > 1 && p2 <= 0)) return {};
    Pattern p;
    p.kind = FormationKind::TwoRows;
    p.turn = lines.turn;
    p.gap = acrossOf(places, lines, 1) - acrossOf(places, lines, 0);
    const double one = p1 > 0 ? p1 : p2;
    if (one <= 0) return {};
    const bool equal = p1 <= 0 || p2 <= 0 || std::abs(p1 - p2) < 0.05 + kTolerancePerLength * one;
    p.pitch = p1 > 0 ? p1 : one;
    if (!equal) {
        p.rearPitch = p2;
        p.shift = rear.front() - front.front();
        p.hasShift = true;
        addRow(p, places, lines, 0, front.front(), p1);
        addRow(p, places, lines, 1, rear.front(), p2);
        p.columns = {p.positions[front.size() - 1].column + 1, p.positions.back().column + 1};
        return p;
    }
    const double pitch = commonPitch({front, rear}, places.size());
    if (pitch <= 0) return {};
    p.pitch = pitch;
    const double shift = rear.front() - front.front();
    const double rest = off(shift, pitch);
    const bool aligned = std::abs(rest) < kPatternTolerance + kTolerancePerLength * std::abs(shift);
    const bool half = std::abs(std::abs(rest) - pitch / 2) < kPatternTolerance + kTolerancePerLength * std::abs(shift);
    if (aligned) {
        const double from = std::min(front.front(), front.front() + shift - rest);
        addRow(p, places, lines, 0, from, pitch);
        addRow(p, places, lines, 1, from, pitch);
        const int columns = 1 + std::max(p.positions[front.size() - 1].column, p.positions.back().column);
        p.columns = {columns, columns};
        return p;
    }
    addRow(p, places, lines, 0, front.front(), pitch);
    addRow(p, places, lines, 1, rear.front(), pitch);
    p.columns = {p.positions[front.size() - 1].column + 1, p.positions.back().column + 1};
    const bool whole = p.columns[0] == static_cast<int>(front.size()) && p.columns[1] == static_cast<int>(rear.size());
    if (half && whole && std::abs(p.columns[0] - p.columns[1]) <= 1 && std::abs(shift) < 0.75 * pitch) {
        p.kind = FormationKind::Staggered;
        p.staggerLeft = shift < 0;
        return p;
    }
    p.shift = shift;
    p.hasShift = true;
    return p;
}

std::optional<Pattern> manyRows(const Places& places, const Lines& lines) {
    std::vector<std::vector<double>> rows;
    std::vector<double> levels;
    for (std::size_t r = 0; r < lines.rows.size(); ++r) {
        rows.push_back(alongOf(places, lines, r));
        levels.push_back(acrossOf(places, lines, r));
    }
    const double pitch = commonPitch(rows, places.size());
    const double gap = commonPitch({levels}, levels.size());
    if (pitch <= 0 || gap <= 0) return {};
    double from = 1e18;
    for (const auto& r : rows) from = std::min(from, r.front());
    Pattern p;
    p.turn = lines.turn;
    p.pitch = pitch;
    p.gap = gap;
    bool aligned = true, staggered = true;
    const double first = rows[0].front();
    for (std::size_t r = 0; r < rows.size(); ++r) {
        const double shift = rows[r].front() - first;
        const double rest = std::abs(off(shift, pitch));
        const double tolerance = kPatternTolerance + kTolerancePerLength * std::abs(shift);
        aligned &= rest < tolerance;
        staggered &= r % 2 == 0 ? rest < tolerance : std::abs(rest - pitch / 2) < tolerance;
    }
    if (aligned) {
        p.kind = FormationKind::Grid;
        int columns = 0;
        for (std::size_t r = 0; r < rows.size(); ++r) {
            addRow(p, places, lines, r, from, pitch);
            columns = std::max(columns, p.positions.back().column + 1);
        }
        const int rowCount = static_cast<int>(std::lround((levels.back() - levels.front()) / gap)) + 1;
        for (PatternSlot& s : p.positions)
            s.row = static_cast<int>(std::lround((levels[static_cast<std::size_t>(s.row)] - levels.front()) / gap));
        // A few places scattered over many positions are no grid.
        if (1.0 * columns * rowCount > 3.0 * static_cast<double>(places.size())) return {};
        p.columns.assign(static_cast<std::size_t>(rowCount), columns);
        return p;
    }
    if (!staggered || std::lround((levels.back() - levels.front()) / gap) + 1 != static_cast<long>(rows.size()))
        return {};
    p.kind = FormationKind::Staggered;
    p.staggerLeft = rows[1].front() < rows[0].front();
    for (std::size_t r = 0; r < rows.size(); ++r) {
        const double start = r % 2 == 0 ? first : rows[1].front();
        if (std::abs(rows[r].front() - start) > pitch / 2) return {};
        addRow(p, places, lines, r, start, pitch);
        p.columns.push_back(p.positions.back().column + 1);
        if (p.columns.back() != static_cast<int>(rows[r].size())) return {};
    }
    return p;
}

/// The angles at which places stand around, and which steps they take. Null when they are not on a ring.
std::optional<Pattern> ringOf(const Places& places, int middle) {
    std::vector<int> around;
    for (int i = 0; i < static_cast<int>(places.size()); ++i)
        if (i != middle) around.push_back(i);
    if (around.size() < 3) return {};
    const auto circle = circleThroughPlaces(places, around);
    if (!circle || circle->radius > 60) return {};
    const double r = circle->radius;
    const double tolerance = kPatternTolerance + kTolerancePerLength * r;
    for (const int i : around)
        if (std::abs(std::hypot(places[i].x - circle->x, places[i].y - circle->y) - r) > tolerance) return {};
    if (middle >= 0 && std::hypot(places[middle].x - circle->x, places[middle].y - circle->y) > tolerance) return {};
    const auto angle = [&](int i) { return std::atan2(places[i].y - circle->y, places[i].x - circle->x) / kRadians; };
    std::sort(around.begin(), around.end(), [&](int a, int b) { return angle(a) < angle(b); });
    const std::size_t n = around.size();
    std::vector<double> gaps;
    for (std::size_t i = 0; i < n; ++i) {
        double g = angle(around[(i + 1) % n]) - angle(around[i]);
        if (g <= 0) g += 360;
        gaps.push_back(g);
    }
    // Starts after the widest gap.
    const auto widest = static_cast<std::size_t>(std::max_element(gaps.begin(), gaps.end()) - gaps.begin());
    const bool uneven = gaps[widest] > *std::min_element(gaps.begin(), gaps.end()) * 1.3;
    std::rotate(around.begin(), around.begin() + static_cast<std::ptrdiff_t>(uneven ? (widest + 1) % n : 0),
                around.end());
    std::rotate(gaps.begin(), gaps.begin() + static_cast<std::ptrdiff_t>(uneven ? (widest + 1) % n : 0), gaps.end());
    const double loose = 2 * tolerance / r / kRadians;
    const double least = *std::min_element(gaps.begin(), gaps.end());
    if (least < 2 * loose) return {};
    for (const int parts : {1, 2}) {
        double step = least / parts, sum = 0, count = 0;
        bool all = true;
        for (std::size_t i = 0; i + 1 < n && all; ++i) {
            const double k = std::round(gaps[i] / step);
            all = k >= 1 && std::abs(gaps[i] - k * step) < loose + 0.3 * loose * k;
            sum += gaps[i];
            count += k;
            if (all) step = sum / count;
        }
        if (!all || (parts > 1 && count > 1.6 * static_cast<double>(n))) continue;
        Pattern p;
        p.kind = FormationKind::Ring;
        p.centreX = circle->x;
        p.centreY = circle->y;
        p.circle = 2 * r;
        const double positions = std::round(360 / step);
        const bool closes = std::abs(gaps[n - 1] - std::round(gaps[n - 1] / step) * step) < 1.5 * loose &&
                            std::abs(360 / positions - step) < loose;
        const double missing = positions - static_cast<double>(n);
        p.arc = !closes || missing > positions / 4;
        p.step = p.arc ? step : 360 / positions;
        p.columns = {p.arc ? static_cast<int>(count) + 1 : static_cast<int>(positions)};
        double at = 0;
        for (std::size_t i = 0; i < n; ++i) {
            p.positions.push_back({around[i], 0, static_cast<int>(at)});
            at += std::round(gaps[i] / step);
        }
        p.start = angle(around[0]);
        if (middle >= 0) {
            p.middle = true;
            p.positions.push_back({middle, -1, 0});
        }
        return p;
    }
    return {};
}

std::optional<Pattern> ring(const Places& places) {
    if (const auto p = ringOf(places, -1)) return p;
    if (places.size() < 4) return {};
    // The place nearest to the middle of all may stand in the ring's middle.
    double mx = 0, my = 0;
    for (const FoundPlace& p : places) {
        mx += p.x / static_cast<double>(places.size());
        my += p.y / static_cast<double>(places.size());
    }
    const auto nearest = std::min_element(places.begin(), places.end(), [&](const FoundPlace& a, const FoundPlace& b) {
        return std::hypot(a.x - mx, a.y - my) < std::hypot(b.x - mx, b.y - my);
    });
    return ringOf(places, static_cast<int>(nearest - places.begin()));
}

std::optional<Pattern> rowsOrGrid(const Places& places, const std::vector<Lines>& ways) {
    for (const Lines& l : ways) {
        const auto p = l.rows.size() == 1   ? oneRow(places, l)
                       : l.rows.size() == 2 ? twoRows(places, l)
                                            : manyRows(places, l);
        if (p) return p;
    }
    return {};
}

}  // namespace

std::optional<RecognisedFormation> recogniseFormation(const Places& places) {
    const std::size_t n = places.size();
    if (n == 0) return {};
    if (n == 1) {
        RecognisedFormation f;
        f.positions = {{0, 0, 0}};
        f.rows = {1};
        f.origin = places[0];
        return f;
    }
    const std::vector<Lines> ways = waysToSeeLines(places);
    const std::size_t fewest = ways.empty() ? 99 : ways.front().rows.size();
    // A straight row first: a flat arc is not one, since its places do not keep within the row's width.
    if (fewest == 1) {
        const auto p = oneRow(places, ways.front());
        return p ? std::optional(fitPattern(places, *p)) : std::nullopt;
    }
    const auto round = n >= 3 ? ring(places) : std::nullopt;
    const auto straight = rowsOrGrid(places, ways);
    bool takeRing = round.has_value();
    if (round && straight) {
        const bool crooked = std::abs(std::remainder(straight->turn, 90.0)) > 20;
        const std::size_t around = n - (round->middle ? 1 : 0);
        const bool whole = !round->arc && round->columns[0] == static_cast<int>(around);
        if (around == 3)
            takeRing = whole && round->middle;
        else if (around == 4)
            takeRing = whole ? crooked || round->middle : straight->rearPitch > 0 || straight->hasShift;
        if (around == 3 && !round->middle)
            takeRing = whole && straight->kind == FormationKind::TwoRows && straight->hasShift;
    }
    if (takeRing) return fitPattern(places, *round);
    if (straight) return fitPattern(places, *straight);
    return {};
}

}  // namespace punch
