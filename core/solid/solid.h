#pragma once
// What is known of solids outside the kernel that makes them: triangles with the faces that they approximate, colours,
// names, volumes. The kernel runs in a program of its own (core/solid/solid_worker.h); none of its types leaves it.

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "core/base/packed.h"
#include "core/base/vec3.h"

namespace punch {

enum class SurfaceKind { Plane, Cylinder, Cone, Sphere, Torus, Other };

/// 0xRRGGBB.
using Colour = std::uint32_t;
inline constexpr Colour kNoColour = 0xFFFFFFFF;

struct SolidFace {
    SurfaceKind kind = SurfaceKind::Other;
    Vec3 at;            ///< on a plane; on the axis of what is round; the middle of a sphere
    Vec3 axis;          ///< of a plane its outward normal
    double radius = 0;  ///< mm, of what has one
    double area = 0;    ///< mm²
    int body = 0;
    Colour colour = kNoColour;
    int first = 0, count = 0;  ///< of its triangles
};

/// What a body is made of, as far as it shows.
enum class Look : std::int32_t { Plastic, Metal, Clear };

struct SolidBody {
    std::string name;
    Colour colour = kNoColour;
    double volume = 0;  ///< mm³; 0 for surfaces without a solid
    bool closed = true;
    Look look = Look::Plastic;
    int of = -1;  ///< of what was made: which of the bodies that were asked for
};

struct Triangle {
    int a = 0, b = 0, c = 0;  ///< corners, counter-clockwise seen from outside
};

struct Solid {
    std::vector<Vec3> corners;  ///< on the surfaces themselves; each face has its own
    std::vector<Triangle> triangles;
    std::vector<SolidFace> faces;
    std::vector<SolidBody> bodies;
    std::vector<std::string> notes;  ///< what was left out or taken for granted
};

/// Between two bodies: where they are nearest, and what both fill, mm³.
struct SolidDistance {
    double distance = 0, common = 0;
    Vec3 from, to;
};

struct Box3 {
    Vec3 low, high;
    bool empty = true;
    void add(Vec3 p);
    Vec3 size() const { return empty ? Vec3{} : high - low; }
};
Box3 boundsOf(const Solid& solid);
/// Turned and moved; faces too.
Solid moved(Solid solid, const Pose& pose);

void pack(Packed& to, const Solid& solid);
void unpack(Packed& from, Solid& solid);

}  // namespace punch
