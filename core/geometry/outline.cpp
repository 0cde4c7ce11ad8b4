#include "core/geometry/outline.h"

#include <algorithm>
#include <cmath>
#include <optional>

#include "core/base/angle.h"
#include "core/geometry/plane.h"

namespace punch {
namespace {

struct Arc {
    double cx = 0, cy = 0, r = 0;  // nm
    double from = 0, sweep = 0;    // radians, counter-clockwise above 0
};

/// The arc from a to b; none where the edge is straight.
std::optional<Arc> arcOf(const Bend& a, Point b) {
    const double dx = b.x.nm() - a.at.x.nm(), dy = b.y.nm() - a.at.y.nm();
    const double chord = std::hypot(dx, dy);
    if (a.bulge == 0 || chord < 1) return {};
    Arc arc;
    arc.sweep = 4 * std::atan(a.bulge);
    arc.r = chord * (1 + a.bulge * a.bulge) / (4 * std::abs(a.bulge));
    // The middle lies to the left of the chord for arcs of less than half a circle that run counter-clockwise.
    const double off = chord * (1 - a.bulge * a.bulge) / (4 * a.bulge);
    arc.cx = (a.at.x.nm() + b.x.nm()) / 2 - off * dy / chord;
    arc.cy = (a.at.y.nm() + b.y.nm()) / 2 + off * dx / chord;
    arc.from = std::atan2(a.at.y.nm() - arc.cy, a.at.x.nm() - arc.cx);
    return arc;
}

Point onArc(const Arc& arc, double angle, double stretch = 1) {
    return {Length::fromNm(arc.cx + stretch * arc.r * std::cos(angle)),
            Length::fromNm(arc.cy + stretch * arc.r * std::sin(angle))};
}

/// How many chords an arc takes. With corners beyond it the sagitta is a little more than with corners on it.
int chordsOf(const Arc& arc, Length sagitta) {
    const double s = std::min(std::max(sagitta.nm(), 1.0) / arc.r, 0.5);
    const double step = 2 * std::acos(1 - s) * 0.98;
    return std::clamp(static_cast<int>(std::ceil(std::abs(arc.sweep) / step)), 1, 20000);
}

void addArc(std::vector<Point>& out, const Arc& arc, Length sagitta, bool beyond) {
    const int n = chordsOf(arc, sagitta);
    const double step = arc.sweep / n;
    if (!beyond) {
        for (int i = 1; i < n; ++i) out.push_back(onArc(arc, arc.from + i * step));
        return;
    }
    // Tangents: their meeting points lie beyond the middles of the chords.
    const double stretch = 1 / std::cos(step / 2);
    for (int i = 0; i < n; ++i) out.push_back(onArc(arc, arc.from + (i + 0.5) * step, stretch));
}

const Bend& next(const Ring& ring, std::size_t i) { return ring.bends[(i + 1) % ring.bends.size()]; }

/// A bulge from the rise of an arc over its chord, above 0 to the right of the direction.
double bulgeOf(Point a, Point b, Length rise) {
    const double chord = distance(a, b).nm();
    return chord < 1 ? 0 : 2 * rise.nm() / chord;
}

Point towards(Point a, Point b, double share) { return {a.x + (b.x - a.x) * share, a.y + (b.y - a.y) * share}; }

/// The bends of one corner between its neighbours.
void addCorner(std::vector<Bend>& out, Point before, const Corner& c, Point after) {
    const Length in = distance(before, c.at), on = distance(c.at, after);
    const double cross =
        (c.at.x - before.x).nm() * (after.y - c.at.y).nm() - (c.at.y - before.y).nm() * (after.x - c.at.x).nm();
    const double dot =
        (c.at.x - before.x).nm() * (after.x - c.at.x).nm() + (c.at.y - before.y).nm() * (after.y - c.at.y).nm();
    const double angle = std::atan2(cross, dot);  // by which the direction turns
    if (c.turn == CornerForm::Sharp || c.size <= Length() || in.nm() < 1 || on.nm() < 1 || std::abs(angle) < 1e-9 ||
        std::abs(std::abs(angle) - kPi) < 1e-6) {
        out.push_back({c.at, 0});
        return;
    }
    Length off = c.turn == CornerForm::Round ? c.size * std::tan(std::abs(angle) / 2) : c.size;
    off = min(off, min(in, on) / 2);
    out.push_back({towards(c.at, before, off / in), c.turn == CornerForm::Round ? std::tan(angle / 4) : 0.0});
    out.push_back({towards(c.at, after, off / on), 0});
}

double doubleArea(const std::vector<Point>& p) {
    double sum = 0;
    for (std::size_t i = 0; i < p.size(); ++i) {
        const Point& a = p[i];
        const Point& b = p[(i + 1) % p.size()];
        sum += a.x.mm() * b.y.mm() - b.x.mm() * a.y.mm();
    }
    return sum;
}

}  // namespace

Ring ringOf(const std::vector<Point>& corners) {
    Ring ring;
    for (const Point& p : corners) ring.bends.push_back({p, 0});
    return ring;
}

Ring circle(Point c, Length d) { return {{{{c.x - d / 2, c.y}, 1}, {{c.x + d / 2, c.y}, 1}}}; }

Ring rectangleRing(const Rect& r) { return ringOf(RoundedPolygon::rectangle(r).corners); }

Ring ringOf(const RoundedPolygon& s) {
    if (s.radius <= Length()) return ringOf(s.corners);
    if (s.corners.size() == 1) return circle(s.corners.front(), 2.0 * s.radius);
    Ring ring;
    const std::size_t n = s.corners.size();
    for (std::size_t i = 0; i < n; ++i) {
        const Point a = s.corners[(i + n - 1) % n], c = s.corners[i], b = s.corners[(i + 1) % n];
        const auto beside = [&](Point from, Point to) {
            const Length d = distance(from, to);
            return Point{c.x + s.radius * ((to.y - from.y) / d), c.y - s.radius * ((to.x - from.x) / d)};
        };
        const double in = std::atan2((c.y - a.y).nm(), (c.x - a.x).nm());
        const double on = std::atan2((b.y - c.y).nm(), (b.x - c.x).nm());
        double turn = on - in;
        while (turn <= 0) turn += 2 * kPi;
        while (turn > 2 * kPi) turn -= 2 * kPi;
        ring.bends.push_back({beside(a, c), std::tan(turn / 4)});
        ring.bends.push_back({beside(c, b), 0});
    }
    return ring;
}

Ring ringThrough(const std::vector<Corner>& corners) {
    Ring ring;
    const std::size_t n = corners.size();
    if (n < 2) return ring;
    // Above 0 outwards: to the right of a counter-clockwise ring.
    std::vector<Point> places;
    for (const Corner& c : corners) places.push_back(c.at);
    const double sense = doubleArea(places) < 0 ? -1 : 1;
    for (std::size_t i = 0; i < n; ++i) {
        const Corner& before = corners[(i + n - 1) % n];
        const Corner& after = corners[(i + 1) % n];
        Corner c = corners[i];
        if (c.arc.nm() != 0 || before.arc.nm() != 0) c.turn = CornerForm::Sharp;
        addCorner(ring.bends, before.at, c, after.at);
        if (c.arc.nm() != 0) ring.bends.back().bulge = sense * bulgeOf(c.at, after.at, c.arc);
    }
    return ring;
}

std::vector<Bend> lineThrough(const std::vector<Corner>& corners) {
    std::vector<Bend> line;
    for (std::size_t i = 0; i < corners.size(); ++i) {
        Corner c = corners[i];
        const bool atEnd = i == 0 || i + 1 == corners.size();
        if (atEnd || c.arc.nm() != 0 || corners[i - 1].arc.nm() != 0) c.turn = CornerForm::Sharp;
        if (atEnd)
            line.push_back({c.at, 0});
        else
            addCorner(line, corners[i - 1].at, c, corners[i + 1].at);
        if (i + 1 < corners.size() && c.arc.nm() != 0) line.back().bulge = bulgeOf(c.at, corners[i + 1].at, c.arc);
    }
    return line;
}

std::vector<Point> flattened(const Ring& ring, Length sagitta, Chords chords) {
    std::vector<Point> out;
    const double sense = areaOf(ring) < 0 ? -1 : 1;
    for (std::size_t i = 0; i < ring.bends.size(); ++i) {
        const Bend& a = ring.bends[i];
        out.push_back(a.at);
        if (const auto arc = arcOf(a, next(ring, i).at))
            addArc(out, *arc, sagitta, (chords == Chords::Outside) == (sense * arc->sweep > 0));
    }
    return out;
}

std::vector<Point> flattened(const std::vector<Bend>& line, Length sagitta) {
    std::vector<Point> out;
    for (std::size_t i = 0; i < line.size(); ++i) {
        out.push_back(line[i].at);
        if (i + 1 == line.size()) break;
        if (const auto arc = arcOf(line[i], line[i + 1].at)) addArc(out, *arc, sagitta, false);
    }
    return out;
}

double areaOf(const Ring& ring) {
    std::vector<Point> corners;
    for (const Bend& b : ring.bends) corners.push_back(b.at);
    double sum = doubleArea(corners) / 2;
    for (std::size_t i = 0; i < ring.bends.size(); ++i)
        if (const auto arc = arcOf(ring.bends[i], next(ring, i).at))
            // The segment between chord and arc.
            sum += arc->r * arc->r / 2 * (arc->sweep - std::sin(arc->sweep)) / (kNmPerMm * kNmPerMm);
    return sum;
}

double areaOf(const Area& area) {
    double sum = std::abs(areaOf(area.outer));
    for (const Ring& hole : area.holes) sum -= std::abs(areaOf(hole));
    return sum;
}

Rect boundsOf(const Ring& ring) {
    Rect box;
    for (std::size_t i = 0; i < ring.bends.size(); ++i) {
        const Bend& a = ring.bends[i];
        box.add(a.at);
        const auto arc = arcOf(a, next(ring, i).at);
        if (!arc) continue;
        for (int quarter = 0; quarter < 4; ++quarter) {
            double at = quarter * kPi / 2 - arc->from;
            if (arc->sweep < 0) at = -at;
            at -= 2 * kPi * std::floor(at / (2 * kPi));
            if (at < std::abs(arc->sweep)) box.add(onArc(*arc, quarter * kPi / 2));
        }
    }
    return box;
}

bool contains(const Ring& ring, Point p) {
    // By the chords' polygon, then by the segments between chords and arcs.
    std::vector<Point> corners;
    for (const Bend& b : ring.bends) corners.push_back(b.at);
    bool in = false;
    for (std::size_t i = 0; i < corners.size(); ++i) {
        const Point& a = corners[i];
        const Point& b = corners[(i + 1) % corners.size()];
        const plane::V v{p.x.nm(), p.y.nm()}, va{a.x.nm(), a.y.nm()}, vb{b.x.nm(), b.y.nm()};
        const auto arc = arcOf(ring.bends[i], b);
        if (!arc && plane::pointToSegment(v, va, vb) < 0.5) return true;
        if ((a.y > p.y) != (b.y > p.y) &&
            p.x.nm() < a.x.nm() + (b.x.nm() - a.x.nm()) * ((p.y.nm() - a.y.nm()) / (b.y.nm() - a.y.nm())))
            in = !in;
        if (!arc) continue;
        const double r = std::hypot(v.x - arc->cx, v.y - arc->cy);
        if (r > arc->r + 0.5) continue;
        // On the arc's side of its chord?
        const double side = plane::cross(va, vb, v);
        if (side != 0 && (side < 0) == (arc->sweep > 0)) {
            if (r > arc->r - 0.5) return true;
            in = !in;
        }
    }
    return in;
}

bool contains(const Area& area, Point p) {
    if (!contains(area.outer, p)) return false;
    return std::none_of(area.holes.begin(), area.holes.end(), [&](const Ring& hole) { return contains(hole, p); });
}

bool crossesItself(const Ring& ring) {
    std::vector<plane::V> v;
    for (const Point& p : flattened(ring, Length::fromUm(1))) {
        if (!v.empty() && std::hypot(v.back().x - p.x.nm(), v.back().y - p.y.nm()) < 1) continue;
        v.push_back({p.x.nm(), p.y.nm()});
    }
    while (v.size() > 1 && std::hypot(v.back().x - v.front().x, v.back().y - v.front().y) < 1) v.pop_back();
    const std::size_t n = v.size();
    if (n < 3) return n > 0 && ring.bends.size() > 2;
    // By upright strips, so that thousands of chords stay quick.
    struct Edge {
        double low, high;
        std::size_t i;
    };
    std::vector<Edge> edges;
    for (std::size_t i = 0; i < n; ++i)
        edges.push_back({std::min(v[i].x, v[(i + 1) % n].x), std::max(v[i].x, v[(i + 1) % n].x), i});
    std::sort(edges.begin(), edges.end(), [](const Edge& a, const Edge& b) { return a.low < b.low; });
    for (std::size_t a = 0; a < n; ++a)
        for (std::size_t b = a + 1; b < n && edges[b].low <= edges[a].high; ++b) {
            const std::size_t i = edges[a].i, k = edges[b].i;
            const plane::V p = v[i], q = v[(i + 1) % n], s = v[k], t = v[(k + 1) % n];
            if ((i + 1) % n == k || (k + 1) % n == i) {
                // Neighbours share an end; they may still lie on each other.
                const plane::V shared = (i + 1) % n == k ? q : p, other = (i + 1) % n == k ? p : q,
                               far = (i + 1) % n == k ? t : s;
                if (n > 3 && plane::cross(other, shared, far) == 0 &&
                    (other.x - shared.x) * (far.x - shared.x) + (other.y - shared.y) * (far.y - shared.y) > 0)
                    return true;
                continue;
            }
            if (plane::segmentsCross(p, q, s, t) || plane::pointToSegment(p, s, t) < 0.5 ||
                plane::pointToSegment(s, p, q) < 0.5)
                return true;
        }
    return false;
}

Point turned(Point p, Point about, double degrees) {
    const double c = std::cos(degrees * kPi / 180), s = std::sin(degrees * kPi / 180);
    const Point d = p - about;
    return {about.x + d.x * c - d.y * s, about.y + d.x * s + d.y * c};
}

Ring turned(Ring ring, Point about, double degrees) {
    for (Bend& b : ring.bends) b.at = turned(b.at, about, degrees);
    return ring;
}

}  // namespace punch
