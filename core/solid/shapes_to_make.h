#pragma once
// Solids that the kernel is asked to make: simple bodies, leads, boards with holes, files of others put at a place.
// Frame: as core/base/vec3.h; lengths in mm.

#include <string>
#include <variant>
#include <vector>

#include "core/solid/solid.h"

namespace punch {

/// An outline in a plane: corners with the bulge of the edge to the next one, as in core/geometry/outline.h.
struct FlatBend {
    double x = 0, y = 0, bulge = 0;
};
struct FlatArea {
    std::vector<FlatBend> outer;
    std::vector<std::vector<FlatBend>> holes;
};
FlatArea flatRectangle(double left, double bottom, double right, double top);
FlatArea flatCircle(double x, double y, double diameter);

/// An outline from one height to another.
struct Prism {
    FlatArea outline;
    double low = 0, high = 1;
};
/// From an outline to another with as many corners, straight edges only.
struct Tapered {
    std::vector<FlatBend> below, above;
    double low = 0, high = 1;
};
/// A profile turned about the z axis: distances from it and heights, closed over the axis.
struct TurnedProfile {
    struct At {
        double r = 0, z = 0, bulge = 0;
    };
    std::vector<At> profile;
};
struct Ball {
    double diameter = 1;
};
/// A rectangle or disc moved along a line of straight pieces with round bends between them: a formed lead. The section
/// stands across the first piece; `across` lies along x there (along y where that piece runs along x).
struct Swept {
    std::vector<Vec3> way;
    double bend = 0;  ///< radius of the middle line
    double across = 0.6, thick = 0.6;
    bool round = false;
};
/// A STEP file.
struct FromFile {
    std::string path;
};

/// What is joined to a body or taken out of it, in the body's own frame.
struct Simple {
    std::variant<Prism, Tapered, TurnedProfile> form;
    Pose pose;
    Simple() = default;
    template <class Form>
    Simple(Form its, Pose at = {}) : form(std::move(its)), pose(at) {}
};

struct MadeBody {
    std::string name;
    Colour colour = kNoColour;
    std::variant<Prism, Tapered, TurnedProfile, Ball, Swept, FromFile> form;
    Pose pose;
    std::vector<Simple> cut = {};   ///< taken out of it, before it is put at its pose
    std::vector<Simple> join = {};  ///< added to it before that
    Look look = Look::Plastic;
};

/// The application protocols of ISO 10303 that carry solids.
enum class StepSchema : std::int32_t { Ap203, Ap214, Ap242 };

struct SolidsToMake {
    std::vector<MadeBody> bodies;
    /// Of the whole, when it is written: its name, its unit and frame.
    std::string name = "part";
    bool inches = false;
    StepSchema schema = StepSchema::Ap214;
    Pose pose;
};

void pack(Packed& to, const SolidsToMake& all);
void unpack(Packed& from, SolidsToMake& all);

}  // namespace punch
