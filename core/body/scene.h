#pragma once
// The board with its holes and copper, and the bodies on it, as triangles and lines to be drawn in space: by the bench
// on OpenGL, by core/body/drawn_scene without.
// Frame: mm, x right, y up, z away from the board towards the part, the board's upper face at 0.

#include <cstdint>
#include <memory>
#include <vector>

#include "core/base/motion.h"
#include "core/body/pieces.h"
#include "core/body/space_camera.h"
#include "core/footprint.h"
#include "core/solid/solid.h"

namespace punch {

/// A colour and how much of what is behind it is covered.
struct Paint {
    Colour colour = 0;
    double share = 1;
};

struct SceneVertex {
    float x = 0, y = 0, z = 0;
    float nx = 0, ny = 0, nz = 0;
    unsigned char r = 0, g = 0, b = 0, a = 255;
};

/// What is drawn together: first what is solid, then what is seen through, from the board outwards.
struct SceneLayer {
    std::vector<SceneVertex> corners;
    std::vector<std::uint32_t> triangles;  ///< of the corners, three for each
    std::vector<SceneVertex> lines;
};

/// A body that moves, where it is drawn.
struct SceneMover {
    std::string of;  ///< the solid or the mark
    int body = -1;   ///< of the solid
    std::string name;
    Motion motion;  ///< on the board
    SceneLayer layer;
};

struct SolidScene {
    SceneLayer copper;  ///< lands, barrels, ink
    SceneLayer board;   ///< its sheet, seen through
    SceneLayer leads;   ///< of the bodies: what stands below the seating plane
    SceneLayer body;
    std::vector<SceneMover> movers;
    Box3 box;
    float boardThickness = 1.6F;
};

/// What marks put on the part, on the board already: its triangles, and which of them is which (SolidBody::of).
struct MarkedSolid {
    std::shared_ptr<const Solid> solid;
    std::vector<MarkedBody> marked;
};

/// `meshes` in the order of the footprint's solids; null for those that are not read yet. What is chosen is marked:
/// leads by their pin, bodies by their mark or solid.
SolidScene sceneOf(const Part& part, const Footprint& footprint,
                   const std::vector<std::shared_ptr<const Solid>>& meshes, const MarkedSolid& pieces,
                   const FeatureId& chosen);

/// Bodies and leads alone, and the board alone: with this edge and what is cut out of it, or as large as the part asks.
SolidScene bodiesOf(const Part& part, const Footprint& footprint,
                    const std::vector<std::shared_ptr<const Solid>>& meshes, const MarkedSolid& pieces,
                    const FeatureId& chosen);
SolidScene bareBoard(const Part& part, const Footprint& footprint, const Polygons& edge);
/// All of `from` too.
void add(SolidScene& to, const SolidScene& from);
/// Elsewhere in space.
SolidScene placed(SolidScene scene, const Pose& pose);

/// Where a plane cuts through a solid: its sections, filled, in the colours of its bodies, and their outlines.
void addSection(SceneLayer& to, const Solid& solid, const Pose& pose, const SpaceCut& cut);

}  // namespace punch
