#pragma once
// How something moves: about an axis, or along a direction. mm and degrees, frame as core/base/vec3.h.

#include "core/base/vec3.h"

namespace punch {

struct Motion {
    bool turns = true;
    Vec3 at;                  ///< on the axis that it turns about
    Vec3 axis{0, 0, 1};       ///< that, or the direction that it slides in
    double from = 0, to = 0;  ///< degrees or mm from where it is drawn
    friend bool operator==(const Motion&, const Motion&) = default;

    /// Where it is after so many degrees or mm.
    Pose pose(double by) const {
        if (!turns) return {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, by * unit(axis)};
        Pose p = turnAbout(axis, by);
        p.move = at - p.turned(at);
        return p;
    }
};

/// The same in another frame.
inline Motion moved(Motion motion, const Pose& pose) {
    motion.at = pose(motion.at);
    motion.axis = pose.turned(motion.axis);
    return motion;
}

}  // namespace punch
