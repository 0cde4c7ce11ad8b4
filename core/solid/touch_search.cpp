#include "core/solid/touch_search.h"

#include <fcl/geometry/bvh/BVH_model.h>
#include <fcl/math/bv/OBBRSS.h>
#include <fcl/narrowphase/collision.h>

#include <algorithm>
#include <array>
#include <cmath>
#include <set>
#include <utility>
#include <vector>

namespace punch {
namespace {

constexpr double kPlaceStep = 0.1;  // mm between places that are looked at
constexpr int kMostSteps = 4000;
constexpr double kExact = 1e-3;   // degrees or mm
constexpr double kGuided = 0.06;  // mm: faces nearer than this at the start guide it

using TriangleModel = fcl::BVHModel<fcl::OBBRSS<double>>;

fcl::Transform3<double> transform(const Pose& p) {
    fcl::Transform3<double> t = fcl::Transform3<double>::Identity();
    t.linear() << p.x.x, p.y.x, p.z.x, p.x.y, p.y.y, p.z.y, p.x.z, p.y.z, p.z.z;
    t.translation() << p.move.x, p.move.y, p.move.z;
    return t;
}

/// Where an edge of one triangle goes through the other; none where they only touch, or lie in one plane.
std::optional<Vec3> meeting(const std::array<Vec3, 3>& a, const std::array<Vec3, 3>& b) {
    Vec3 sum;
    int n = 0;
    for (const auto& [edges, face] : {std::pair(&a, &b), std::pair(&b, &a)}) {
        const Vec3 u = (*face)[1] - (*face)[0], v = (*face)[2] - (*face)[0];
        for (std::size_t i = 0; i < 3; ++i) {
            const Vec3 from = (*edges)[i], way = (*edges)[(i + 1) % 3] - from;
            const Vec3 p = cross(way, v);
            const double det = dot(u, p);
            if (std::abs(det) < 1e-14) continue;
            const Vec3 s = from - (*face)[0], q = cross(s, u);
            const double k = dot(s, p) / det, l = dot(way, q) / det, t = dot(v, q) / det;
            if (k < 0 || l < 0 || k + l > 1 || t < 0 || t > 1) continue;
            sum = sum + from + t * way;
            ++n;
        }
    }
    if (n == 0) return {};
    return (1.0 / n) * sum;
}

using Pairs = std::set<std::pair<int, int>>;

}  // namespace

/// A mesh with the face of each of its triangles.
struct TouchMesh {
    std::vector<fcl::Vector3<double>> corners;
    std::vector<fcl::Triangle> triangles;
    std::vector<int> faces;
    int faceCount = 0;

    void add(const Solid& solid, const Pose& pose, int only, int but) {
        const std::size_t base = corners.size();
        for (const Vec3& c : solid.corners) {
            const Vec3 p = pose(c);
            corners.emplace_back(p.x, p.y, p.z);
        }
        for (const SolidFace& face : solid.faces) {
            const int number = faceCount++;
            if ((only >= 0 && face.body != only) || (but >= 0 && face.body == but)) continue;
            for (int i = face.first; i < face.first + face.count; ++i) {
                const Triangle& t = solid.triangles[static_cast<std::size_t>(i)];
                triangles.emplace_back(base + static_cast<std::size_t>(t.a), base + static_cast<std::size_t>(t.b),
                                       base + static_cast<std::size_t>(t.c));
                faces.push_back(number);
            }
        }
    }
    std::array<Vec3, 3> triangle(long i, const Pose& pose) const {
        std::array<Vec3, 3> out;
        const fcl::Triangle& t = triangles[static_cast<std::size_t>(i)];
        for (std::size_t k = 0; k < 3; ++k) {
            const auto& c = corners[t[static_cast<int>(k)]];
            out[k] = pose({c.x(), c.y(), c.z()});
        }
        return out;
    }
    std::shared_ptr<TriangleModel> model() const {
        auto made = std::make_shared<TriangleModel>();
        made->beginModel(static_cast<int>(triangles.size()), static_cast<int>(corners.size()));
        made->addSubModel(corners, triangles);
        made->endModel();
        return made;
    }
};

struct TouchSearch::Meshes {
    TouchMesh moving, standing;
};

TouchSearch::TouchSearch() : meshes_(std::make_unique<Meshes>()) {}
TouchSearch::~TouchSearch() = default;

void TouchSearch::addMoving(const Solid& solid, const Pose& pose, int body) {
    meshes_->moving.add(solid, pose, body, -1);
}

void TouchSearch::addStanding(const Solid& solid, const Pose& pose, int but) {
    meshes_->standing.add(solid, pose, -1, but);
}

void TouchSearch::addStandingBody(const Solid& solid, const Pose& pose, int body) {
    meshes_->standing.add(solid, pose, body, -1);
}

std::optional<FirstTouch> TouchSearch::first(const Motion& motion) const {
    const TouchMesh &moving = meshes_->moving, &standing = meshes_->standing;
    if (moving.triangles.empty() || standing.triangles.empty()) return {};
    const auto a = moving.model(), b = standing.model();
    /// Face pairs that meet, and a place of one that is not among `but`.
    const auto meet = [&](const Pose& pose, const Pairs* but, Pairs* all) -> std::optional<Vec3> {
        fcl::CollisionRequest<double> request(1000000, true);
        fcl::CollisionResult<double> result;
        fcl::collide(a.get(), transform(pose), b.get(), fcl::Transform3<double>::Identity(), request, result);
        std::vector<fcl::Contact<double>> contacts;
        result.getContacts(contacts);
        std::optional<Vec3> at, beside;
        for (const auto& c : contacts) {
            const std::pair<int, int> pair(moving.faces[static_cast<std::size_t>(c.b1)],
                                           standing.faces[static_cast<std::size_t>(c.b2)]);
            if (all != nullptr) all->insert(pair);
            if (at || (but != nullptr && but->contains(pair))) continue;
            at = meeting(moving.triangle(c.b1, pose), standing.triangle(c.b2, {}));
            if (!beside) beside = Vec3{c.pos.x(), c.pos.y(), c.pos.z()};
        }
        if (!at) at = beside;
        return at;
    };
    // What guides it: faces that meet at the start, or would if it were a little off.
    Pairs guides;
    const Pose start = motion.pose(motion.from);
    for (const Vec3 off : {Vec3{}, Vec3{kGuided, 0, 0}, Vec3{-kGuided, 0, 0}, Vec3{0, kGuided, 0}, Vec3{0, -kGuided, 0},
                           Vec3{0, 0, kGuided}, Vec3{0, 0, -kGuided}}) {
        Pose pose = start;
        pose.move = pose.move + off;
        meet(pose, nullptr, &guides);
    }
    double far = 0;
    for (const fcl::Triangle& t : moving.triangles)
        for (int k = 0; k < 3; ++k) {
            const auto& c = moving.corners[t[k]];
            const Vec3 p = Vec3{c.x(), c.y(), c.z()} - motion.at;
            far = std::max(far, norm(p - dot(p, unit(motion.axis)) * unit(motion.axis)));
        }
    const double range = motion.to - motion.from;
    const double length = motion.turns ? std::abs(range) * M_PI / 180 * far : std::abs(range);
    const int steps = std::clamp(static_cast<int>(std::ceil(length / kPlaceStep)), 1, kMostSteps);
    double clear = motion.from;
    for (int i = 1; i <= steps; ++i) {
        double at = motion.from + range * i / steps;
        auto where = meet(motion.pose(at), &guides, nullptr);
        if (!where) {
            clear = at;
            continue;
        }
        while (std::abs(at - clear) > kExact) {
            const double middle = (at + clear) / 2;
            if (const auto there = meet(motion.pose(middle), &guides, nullptr)) {
                at = middle;
                where = there;
            } else {
                clear = middle;
            }
        }
        return FirstTouch{at, *where};
    }
    return {};
}

}  // namespace punch
