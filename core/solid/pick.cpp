#include "core/solid/pick.h"

#include <algorithm>
#include <cmath>
#include <limits>
#include <map>

namespace punch {
namespace {

constexpr double kParallel = 1e-7;  // sine
constexpr double kOneEdge = 1e-6;   // mm, of pieces that make one edge

using Kind = SpaceThing::Kind;

bool hasWay(const SpaceThing& t) { return t.kind == Kind::Axis || t.kind == Kind::Edge; }
bool parallel(Vec3 a, Vec3 b) { return norm(cross(a, b)) < kParallel; }
/// The foot of a place on the plane, on the line.
Vec3 onPlane(const SpaceThing& plane, Vec3 p) { return p - dot(p - plane.at, plane.way) * plane.way; }
Vec3 onLine(const SpaceThing& line, Vec3 p) { return line.at + dot(p - line.at, line.way) * line.way; }

double angleOf(Vec3 a, Vec3 b) { return std::atan2(norm(cross(a, b)), std::abs(dot(a, b))) * 180 / M_PI; }

}  // namespace

std::optional<PickedFace> pick(const Solid& solid, const Pose& pose, Vec3 from, Vec3 along,
                               const std::function<bool(Vec3)>& keeps, const BodyFilter& which) {
    // The line goes into the solid's own frame: that is less to turn.
    const Pose back = inverse(pose);
    const Vec3 o = back(from), d = back.turned(unit(along));
    std::optional<PickedFace> best;
    for (std::size_t f = 0; f < solid.faces.size(); ++f) {
        const SolidFace& face = solid.faces[f];
        if (which && !which(face.body)) continue;
        for (int i = face.first; i < face.first + face.count; ++i) {
            const Triangle& t = solid.triangles[static_cast<std::size_t>(i)];
            const Vec3 a = solid.corners[static_cast<std::size_t>(t.a)];
            const Vec3 u = solid.corners[static_cast<std::size_t>(t.b)] - a,
                       v = solid.corners[static_cast<std::size_t>(t.c)] - a;
            const Vec3 p = cross(d, v);
            const double det = dot(u, p);
            if (std::abs(det) < 1e-14) continue;
            const Vec3 s = o - a;
            const double k = dot(s, p) / det;
            if (k < 0 || k > 1) continue;
            const Vec3 q = cross(s, u);
            const double l = dot(d, q) / det;
            if (l < 0 || k + l > 1) continue;
            const double far = dot(v, q) / det;
            if (best && far >= best->far) continue;
            const Vec3 at = from + far * unit(along);
            if (keeps && !keeps(at)) continue;
            best = PickedFace{f, at, far};
        }
    }
    return best;
}

SpaceThing thingOf(const SolidFace& face, const Pose& pose, Vec3 at) {
    SpaceThing t;
    switch (face.kind) {
        case SurfaceKind::Plane:
            t.kind = Kind::Plane;
            t.at = pose(face.at);
            t.way = unit(pose.turned(face.axis));
            t.at = onPlane(t, at);
            t.words = "flat face";
            return t;
        case SurfaceKind::Cylinder:
        case SurfaceKind::Cone:
        case SurfaceKind::Torus:
            t.kind = Kind::Axis;
            t.at = pose(face.at);
            t.way = unit(pose.turned(face.axis));
            t.at = onLine(t, at);
            t.radius = face.kind == SurfaceKind::Cylinder ? face.radius : 0;
            t.words = face.kind == SurfaceKind::Cylinder ? "round face" : "axis of a turned face";
            return t;
        case SurfaceKind::Sphere:
            t.kind = Kind::Middle;
            t.at = pose(face.at);
            t.radius = face.radius;
            t.words = "middle of a ball";
            return t;
        case SurfaceKind::Other: break;
    }
    t.at = at;
    t.words = "place";
    return t;
}

std::optional<SpaceThing> edgeNear(const Solid& solid, const Pose& pose, const PickedFace& picked, double reach) {
    const SolidFace& face = solid.faces[picked.face];
    std::map<std::pair<int, int>, int> seen;
    for (int i = face.first; i < face.first + face.count; ++i) {
        const Triangle& t = solid.triangles[static_cast<std::size_t>(i)];
        for (const auto& [a, b] : {std::pair(t.a, t.b), std::pair(t.b, t.c), std::pair(t.c, t.a)})
            ++seen[{std::min(a, b), std::max(a, b)}];
    }
    std::optional<SpaceThing> best;
    for (const auto& [edge, count] : seen) {
        if (count != 1) continue;
        const Vec3 a = pose(solid.corners[static_cast<std::size_t>(edge.first)]),
                   b = pose(solid.corners[static_cast<std::size_t>(edge.second)]);
        const double length = norm(b - a);
        if (length < kOneEdge) continue;
        const Vec3 way = (1 / length) * (b - a);
        const double s = std::clamp(dot(picked.at - a, way), 0.0, length);
        if (norm(picked.at - (a + s * way)) > reach) continue;
        // A piece of a round rim is no edge: the next piece there runs another way.
        const bool bent = std::any_of(seen.begin(), seen.end(), [&](const auto& other) {
            if (other.second != 1 || other.first == edge) return false;
            const Vec3 p = pose(solid.corners[static_cast<std::size_t>(other.first.first)]),
                       q = pose(solid.corners[static_cast<std::size_t>(other.first.second)]);
            const bool meets =
                norm(p - a) < kOneEdge || norm(p - b) < kOneEdge || norm(q - a) < kOneEdge || norm(q - b) < kOneEdge;
            const double turn = angleOf(way, unit(q - p));
            return meets && turn > 1e-3 && turn < 31 && norm(q - p) < 1.2 * length && norm(q - p) > 0.8 * length;
        });
        if (bent || (best && best->length >= length)) continue;
        best = SpaceThing{Kind::Edge, a, way, length, 0, "edge"};
    }
    return best;
}

SpaceMeasure measured(const SpaceThing& a, const SpaceThing& b) {
    SpaceMeasure m;
    const auto between = [&](Vec3 from, Vec3 to, const char* words) {
        m.from = from;
        m.to = to;
        m.length = norm(to - from);
        m.words = words;
        return m;
    };
    if (a.kind == Kind::Plane && b.kind == Kind::Plane) {
        if (parallel(a.way, b.way)) return between(a.at, onPlane(b, a.at), "between flat faces");
        m.angle = angleOf(a.way, b.way);
        m.from = a.at;
        m.to = b.at;
        m.words = "between flat faces";
        return m;
    }
    if (a.kind == Kind::Plane || b.kind == Kind::Plane) {
        const bool first = a.kind == Kind::Plane;
        const SpaceThing &plane = first ? a : b, &other = first ? b : a;
        if (hasWay(other) && std::abs(dot(plane.way, other.way)) >= kParallel) {
            m.angle = 90 - angleOf(plane.way, other.way);
            m.from = a.at;
            m.to = b.at;
            m.words = "between a flat face and a direction";
            return m;
        }
        return between(other.at, onPlane(plane, other.at), "to the flat face");
    }
    if (hasWay(a) && hasWay(b)) {
        const char* words = a.kind == Kind::Axis && b.kind == Kind::Axis   ? "between axes"
                            : a.kind == Kind::Edge && b.kind == Kind::Edge ? "between edges"
                                                                           : "between axis and edge";
        if (parallel(a.way, b.way)) return between(a.at, onLine(b, a.at), words);
        // Where they pass each other.
        const Vec3 n = cross(a.way, b.way), off = b.at - a.at;
        const double nn = dot(n, n), s = dot(cross(off, b.way), n) / nn, t = dot(cross(off, a.way), n) / nn;
        m = between(a.at + s * a.way, b.at + t * b.way, words);
        m.angle = angleOf(a.way, b.way);
        return m;
    }
    if (hasWay(a)) return between(onLine(a, b.at), b.at, a.kind == Kind::Axis ? "to the axis" : "to the edge");
    if (hasWay(b)) return between(a.at, onLine(b, a.at), b.kind == Kind::Axis ? "to the axis" : "to the edge");
    return between(a.at, b.at, "between places");
}

}  // namespace punch
