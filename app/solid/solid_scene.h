#pragma once
// The board with its holes and copper, and the bodies on it, as triangles and lines to be drawn in space.
// Frame: mm, x right, y up, z away from the board towards the part.

#include <QColor>
#include <QMatrix4x4>
#include <vector>

#include "core/footprint.h"
#include "core/solid/solid.h"

namespace punch {

struct SceneVertex {
    float x = 0, y = 0, z = 0;
    float nx = 0, ny = 0, nz = 0;
    unsigned char r = 0, g = 0, b = 0, a = 255;
};

/// What is drawn together: first what is solid, then what is seen through, from the board outwards.
struct SceneLayer {
    std::vector<SceneVertex> triangles;
    std::vector<SceneVertex> lines;
};

struct SolidScene {
    SceneLayer copper;  ///< lands, barrels, ink
    SceneLayer board;   ///< its sheet, seen through
    SceneLayer leads;   ///< of the bodies: what stands below the seating plane
    SceneLayer body;
    Box3 box;
    float boardThickness = 1.6F;
};

/// `meshes` in the order of the footprint's solids; null for those that are not read yet. `pieces`: what was put on the
/// part, on the board already; may be null. Chosen leads are marked.
SolidScene sceneOf(const Part& part, const Footprint& footprint,
                   const std::vector<std::shared_ptr<const Solid>>& meshes, const Solid* pieces,
                   const FeatureId& chosen);

}  // namespace punch
