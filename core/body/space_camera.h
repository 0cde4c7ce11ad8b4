#pragma once
// From where a scene is seen: straight on, without perspective, so that what is equal looks equal.

#include <optional>
#include <utility>

#include "core/base/vec3.h"
#include "core/solid/solid.h"

namespace punch {

/// Named views.
enum class SeenFrom { Slanted, Above, Below, Front, Right };
inline constexpr std::pair<const char*, SeenFrom> kSeenFrom[] = {{"slanted", SeenFrom::Slanted},
                                                                 {"above", SeenFrom::Above},
                                                                 {"below", SeenFrom::Below},
                                                                 {"front", SeenFrom::Front},
                                                                 {"right", SeenFrom::Right}};

struct SpaceCamera {
    double yaw = 28, pitch = 34;  ///< degrees: about z, and above the board
    double scale = 20;            ///< pixels per mm
    Vec3 middle;                  ///< what is in the middle of the picture
    int width = 1, height = 1;    ///< pixels

    void look(SeenFrom from);
    /// All of the box is seen, but for a margin in pixels to the sides, above and below.
    void fit(const Box3& box, double aside, double above);
    /// Where x, y and z of the board point to: right and up on the picture, towards who looks.
    Pose turn() const;
    /// Pixels from the left and from above, and mm towards who looks.
    Vec3 seen(Vec3 p) const;
    /// What is behind a pixel: a place in the plane of `middle`, and the direction away from who looks.
    Vec3 behind(double x, double y) const;
    Vec3 away() const;
    /// mm along the picture for a way in pixels, right and down.
    Vec3 along(double dx, double dy) const;
};

/// What is cut away: everything in front of a plane across x, y or z.
struct SpaceCut {
    int axis = 1;         ///< 0 x, 1 y, 2 z
    double at = 0;        ///< mm
    bool beyond = false;  ///< what lies beyond it goes, in place of what lies before
    Vec3 normal() const {
        const double s = beyond ? -1 : 1;
        return axis == 0 ? Vec3{s, 0, 0} : axis == 1 ? Vec3{0, s, 0} : Vec3{0, 0, s};
    }
    bool keeps(Vec3 p) const { return dot(normal(), p) >= (beyond ? -at : at); }
};

}  // namespace punch
