#include "core/fit/best_seat.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <limits>
#include <utility>

namespace punch {
namespace {

using Vec3 = std::array<double, 3>;

// A distance has a kink where it is nothing. It is rounded off, by less and less as the search closes in: a rounding of
// the size of what is left to gain costs nothing, and keeps the steps long.
constexpr double kLeastRound = 1e-9;
constexpr int kMostSteps = 80;
// Points with so much more room than the tightest one at the start, mm, are left out until they are in the way.
constexpr double kWindow = 0.03;

/// A seat as the search wants it: from the hole's middle, with how a turn moves the point.
struct SeatSpot {
    double qx, qy;  ///< from the middle of the hole
    double mx, my;  ///< movement of the point by the turn
    double room;
    double sx, sy;  ///< a slot: to the middle of its rounded end
    double inv2;    ///< 1 / (sx² + sy²); 0: a disc
};

/// The seats with the turn measured at `arm` from the middle, so that all three unknowns are lengths of one size.
struct SeatProblem {
    std::vector<SeatSpot>& spots;
    double cx = 0, cy = 0, arm = 1;
    Vec3 start{};
};

/// One seat at one place: distance less room, which has to be at most nothing, its gradient, and how it bends.
struct Term {
    double f, gx, gy, gt;
    double bend;    ///< 1 / distance
    double ex, ey;  ///< of a slot between its ends: the direction in which it bends; 0: a disc
};

inline void evaluate(double round2, const SeatSpot& s, const Vec3& u, Term& t) {
    double qx = s.qx + u[0] + u[2] * s.mx;
    double qy = s.qy + u[1] + u[2] * s.my;
    t.ex = t.ey = 0;
    if (s.inv2 > 0) {
        const double along = (qx * s.sx + qy * s.sy) * s.inv2;
        const double at = std::clamp(along, -1.0, 1.0);
        qx -= at * s.sx;
        qy -= at * s.sy;
        if (at == along) {
            const double inv = std::sqrt(s.inv2);
            t.ex = -s.sy * inv;
            t.ey = s.sx * inv;
        }
    }
    const double d = std::sqrt(qx * qx + qy * qy + round2);
    const double bend = 1 / d;
    t.bend = bend;
    t.gx = qx * bend;
    t.gy = qy * bend;
    t.gt = t.gx * s.mx + t.gy * s.my;
    t.f = d - s.room;
}

SeatProblem centred(const std::vector<Seat>& seats) {
    static thread_local std::vector<SeatSpot> spots;
    SeatProblem p{spots};
    double hx = 0;
    double hy = 0;
    for (const Seat& s : seats) {
        p.cx += s.x;
        p.cy += s.y;
        hx += s.hx;
        hy += s.hy;
    }
    const double n = static_cast<double>(seats.size());
    p.cx /= n;
    p.cy /= n;
    p.start = {hx / n - p.cx, hy / n - p.cy, 0};
    double arm2 = 0;
    double turn = 0;
    for (const Seat& s : seats) {
        const double x = s.x - p.cx;
        const double y = s.y - p.cy;
        arm2 += x * x + y * y;
        turn += x * (s.hy - s.y - p.start[1]) - y * (s.hx - s.x - p.start[0]);
    }
    p.arm = std::max(std::sqrt(arm2 / n), 1e-3);
    // The least-squares turn to start with.
    if (arm2 > 1e-9) p.start[2] = turn / arm2 * p.arm;
    spots.clear();
    const double inv = 1 / p.arm;
    for (const Seat& s : seats) {
        const double len2 = s.sx * s.sx + s.sy * s.sy;
        spots.push_back({s.x - s.hx, s.y - s.hy, -(s.y - p.cy) * inv, (s.x - p.cx) * inv, s.room, s.sx, s.sy,
                         len2 > 0 ? 1 / len2 : 0.0});
    }
    return p;
}

/// Solves the symmetric 4 x 4 system by Cholesky's L D Lt; false when it is singular.
bool solve4(std::array<std::array<double, 4>, 4>& m, std::array<double, 4>& b) {
    std::array<double, 4> d{};
    for (std::size_t j = 0; j < 4; ++j) {
        d[j] = m[j][j];
        for (std::size_t k = 0; k < j; ++k) d[j] -= m[j][k] * m[j][k] * d[k];
        if (!(std::abs(d[j]) > 1e-300)) return false;
        for (std::size_t i = j + 1; i < 4; ++i) {
            double v = m[i][j];
            for (std::size_t k = 0; k < j; ++k) v -= m[i][k] * m[j][k] * d[k];
            m[i][j] = v / d[j];
        }
    }
    for (std::size_t i = 0; i < 4; ++i)
        for (std::size_t k = 0; k < i; ++k) b[i] -= m[i][k] * b[k];
    for (std::size_t i = 0; i < 4; ++i) b[i] /= d[i];
    for (std::size_t i = 4; i-- > 0;)
        for (std::size_t k = i + 1; k < 4; ++k) b[i] -= m[k][i] * b[k];
    return std::isfinite(b[0]) && std::isfinite(b[1]) && std::isfinite(b[2]) && std::isfinite(b[3]);
}

/// What the search works on; kept by each thread, so that a trial needs no memory of its own.
struct Work {
    std::vector<SeatSpot> spots;
    std::vector<Term> terms, tried;
    std::vector<double> lambda, slack, inverse, newSlack, growth;
    void resize(std::size_t n) {
        terms.resize(n);
        tried.resize(n);
        for (std::vector<double>* v : {&lambda, &slack, &inverse, &newSlack, &growth}) v->resize(n);
    }
};

struct Found {
    Vec3 at{};
    double most = 0;  ///< the worst term there
    double low = 0;   ///< no place does better than this
};

using Matrix4 = std::array<std::array<double, 4>, 4>;  // lower half
using Vec4 = std::array<double, 4>;

/// The equations of a step towards the centre `mu`: by x, y, turn and level.
inline std::pair<Matrix4, Vec4> newton(const Work& w, double mu) {
    const std::size_t n = w.spots.size();
    double m00 = 0, m10 = 0, m11 = 0, m20 = 0, m21 = 0, m22 = 0, m30 = 0, m31 = 0, m32 = 0, m33 = 0;
    double b0 = 0, b1 = 0, b2 = 0, b3 = 0;
    for (std::size_t i = 0; i < n; ++i) {
        const Term& t = w.terms[i];
        const double a = w.lambda[i] * w.inverse[i];
        const double c = mu * w.inverse[i];
        // Of a disc the distance bends by (I - g g')/d, taken through the movement; of a slot between its ends only
        // across its line, and there not at all but for the rounding of the kink.
        const double bend = w.lambda[i] * t.bend;
        double outer = a;
        const SeatSpot& s = w.spots[i];
        if (t.ex != 0 || t.ey != 0) {
            const double et = t.ex * s.mx + t.ey * s.my;
            const double along = t.gx * t.ex + t.gy * t.ey;
            const double by = bend * std::max(1 - along * along, 0.0);
            m00 += by * t.ex * t.ex;
            m10 += by * t.ey * t.ex;
            m11 += by * t.ey * t.ey;
            m20 += by * et * t.ex;
            m21 += by * et * t.ey;
            m22 += by * et * et;
        } else {
            outer -= bend;
            m00 += bend;
            m11 += bend;
            m20 += bend * s.mx;
            m21 += bend * s.my;
            m22 += bend * (s.mx * s.mx + s.my * s.my);
        }
        const double ox = outer * t.gx, oy = outer * t.gy, ot = outer * t.gt;
        m00 += ox * t.gx;
        m10 += oy * t.gx;
        m11 += oy * t.gy;
        m20 += ot * t.gx;
        m21 += ot * t.gy;
        m22 += ot * t.gt;
        m30 -= a * t.gx;
        m31 -= a * t.gy;
        m32 -= a * t.gt;
        m33 += a;
        b0 -= c * t.gx;
        b1 -= c * t.gy;
        b2 -= c * t.gt;
        b3 += c;
    }
    // A part that may turn freely has no curvature there.
    const double little = 1e-9 * (m00 + m11 + m22);
    const Matrix4 m{
        {{m00 + little, 0, 0, 0}, {m10, m11 + little, 0, 0}, {m20, m21, m22 + little, 0}, {m30, m31, m32, m33}}};
    const Vec4 b{b0, b1, b2, b3 - 1};
    return {m, b};
}

/// Lowers the worst of w.spots from `start`. With `signOnly` it ends when that is known to be at most nothing, or
/// above.
Found lower(Work& w, const Vec3& start, double tolerance, bool signOnly) {
    const std::size_t n = w.spots.size();
    constexpr double kInfinite = std::numeric_limits<double>::infinity();
    w.resize(n);
    Vec3 u = start;
    double round = 0.003;
    double reach = 0;  // no best seat lies further from the start than every disc is wide
    double here = -kInfinite;
    for (std::size_t i = 0; i < n; ++i) {
        const SeatSpot& s = w.spots[i];
        evaluate(round * round, s, u, w.terms[i]);
        here = std::max(here, w.terms[i].f);
        reach = std::max(reach, std::abs(s.room) + std::abs(s.sx) + std::abs(s.sy));
    }
    Found found{u, here, -kInfinite};
    reach = 4 * (reach + std::abs(here)) + 1;
    double level = here + std::max(0.01, 0.1 * std::abs(here));
    double sum = 0;
    for (std::size_t i = 0; i < n; ++i) sum += w.inverse[i] = 1 / (w.slack[i] = level - w.terms[i].f);
    for (std::size_t i = 0; i < n; ++i) w.lambda[i] = w.inverse[i] / sum;
    double centring = 0.1;
    for (int step = 0; step < kMostSteps; ++step) {
        // Lagrange's bound, from multipliers that sum to one.
        double all = 0, value = 0, complementarity = 0, pullX = 0, pullY = 0, pullT = 0;
        for (std::size_t i = 0; i < n; ++i) {
            const Term& t = w.terms[i];
            const double l = w.lambda[i];
            all += l;
            value += l * t.f;
            pullX += l * t.gx;
            pullY += l * t.gy;
            pullT += l * t.gt;
            complementarity += l * w.slack[i];
        }
        const double pull = std::sqrt(pullX * pullX + pullY * pullY + pullT * pullT);
        // Rounded distances are at most that much longer than true ones.
        found.low = std::max(found.low, value / all - round - pull / all * reach);
        if (found.most - found.low <= tolerance) break;
        if (signOnly && (found.most <= 0 || found.low > 0)) break;
        const double mu = std::max(centring * complementarity / static_cast<double>(n), 1e-15);

        auto [m, b] = newton(w, mu);
        if (!solve4(m, b)) break;
        double length = 1;
        for (std::size_t i = 0; i < n; ++i) {
            const Term& t = w.terms[i];
            const double ds = b[3] - (t.gx * b[0] + t.gy * b[1] + t.gt * b[2]);
            const double dl = (mu - w.lambda[i] * (w.slack[i] + ds)) * w.inverse[i];
            w.growth[i] = dl;
            if (dl * length < -0.98 * w.lambda[i]) length = -0.98 * w.lambda[i] / dl;
        }
        round = std::clamp(0.2 * complementarity, kLeastRound, round);
        // Every slack stays positive on the bent functions too.
        Vec3 next{};
        double nextLevel = 0;
        bool moved = false;
        for (int half = 0; half < 40; ++half) {
            for (std::size_t k = 0; k < 3; ++k) next[k] = u[k] + length * b[k];
            nextLevel = level + length * b[3];
            here = -kInfinite;
            moved = true;
            for (std::size_t i = 0; i < n && moved; ++i) {
                evaluate(round * round, w.spots[i], next, w.tried[i]);
                here = std::max(here, w.tried[i].f);
                w.newSlack[i] = nextLevel - w.tried[i].f;
                moved = w.newSlack[i] > 0.01 * w.slack[i];
            }
            if (moved) break;
            length *= 0.6;
        }
        if (!moved) break;
        for (std::size_t i = 0; i < n; ++i) {
            w.lambda[i] += length * w.growth[i];
            w.inverse[i] = 1 / w.newSlack[i];
        }
        // A full step says that the path to the best is straight: further ahead next time.
        centring = length > 0.9 ? 0.02 : length > 0.5 ? 0.1 : 0.3;
        std::swap(w.terms, w.tried);
        std::swap(w.slack, w.newSlack);
        u = next;
        level = nextLevel;
        if (here < found.most) {
            found.most = here;
            found.at = u;
        }
    }
    return found;
}

Found solve(const SeatProblem& p, double tolerance, bool signOnly) {
    static thread_local Work work;
    static thread_local std::vector<double> room;
    const std::size_t n = p.spots.size();
    room.resize(n);
    Vec3 at = p.start;
    Term t;
    double most = -std::numeric_limits<double>::infinity();
    for (std::size_t i = 0; i < n; ++i) {
        evaluate(0, p.spots[i], at, t);
        room[i] = t.f;
        most = std::max(most, t.f);
    }
    if (signOnly && most <= 0) return {at, most, -1};
    double window = kWindow;
    for (;;) {
        work.spots.clear();
        for (std::size_t i = 0; i < n; ++i)
            if (room[i] >= most - window) work.spots.push_back(p.spots[i]);
        Found found = lower(work, at, tolerance, signOnly);
        // Those left out only matter where they are worse than what was found: then they come in. What bounds some of
        // the terms from below bounds all of them.
        double worst = -std::numeric_limits<double>::infinity();
        for (std::size_t i = 0; i < n; ++i) {
            evaluate(0, p.spots[i], found.at, t);
            room[i] = std::max(room[i], t.f);
            worst = std::max(worst, t.f);
        }
        if (work.spots.size() == n || worst <= found.most + tolerance / 2 ||
            (signOnly && (worst <= 0 || found.low > 0))) {
            found.most = worst;
            return found;
        }
        at = found.at;
        most = worst;
        window *= 3;
    }
}

}  // namespace

BestSeat bestSeat(const std::vector<Seat>& seats, double tolerance) {
    if (seats.empty()) return {};
    const SeatProblem p = centred(seats);
    const Found found = solve(p, tolerance, false);
    BestSeat best;
    best.spare = -found.most;
    best.turn = found.at[2] / p.arm;
    // The turn was about the middle of the seats; said about the frame's origin it shifts too.
    best.shiftX = found.at[0] + best.turn * p.cy;
    best.shiftY = found.at[1] - best.turn * p.cx;
    best.within = std::max(found.most - found.low, 0.0);
    return best;
}

bool goesIn(const std::vector<Seat>& seats) {
    if (seats.empty()) return true;
    return solve(centred(seats), 1e-9, true).most <= 0;
}

}  // namespace punch
