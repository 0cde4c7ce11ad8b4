#include "core/part/solid_file.h"

namespace punch {

Pose upright(Vec3 down) {
    const Vec3 z = -unit(down);
    const Vec3 some = std::abs(z.x) < 0.8 ? Vec3{1, 0, 0} : Vec3{0, 1, 0};
    const Vec3 x = unit(some - dot(some, z) * z), y = cross(z, x);
    // The rows of the turn are where its axes come from.
    return {{x.x, y.x, z.x}, {x.y, y.y, z.y}, {x.z, y.z, z.z}, {}};
}

Pose standingPose(const SolidFile& solid) {
    Pose p = upright(solid.down);
    p.move.z = -solid.seat;
    return p;
}

Pose boardPose(const SolidFile& solid) {
    Pose board = turnAbout({0, 0, 1}, solid.turn);
    board.move = {solid.x, solid.y, solid.lift};
    return after(board, standingPose(solid));
}

}  // namespace punch
