#include "core/body/space_camera.h"

#include <algorithm>
#include <cmath>

namespace punch {

void SpaceCamera::look(SeenFrom from) {
    switch (from) {
        case SeenFrom::Above: yaw = 0, pitch = 90; break;
        case SeenFrom::Below: yaw = 0, pitch = -90; break;
        case SeenFrom::Front: yaw = 0, pitch = 0; break;
        case SeenFrom::Right: yaw = 90, pitch = 0; break;
        case SeenFrom::Slanted: yaw = 28, pitch = 34; break;
    }
}

Pose SpaceCamera::turn() const {
    // Yaw about z, then tipped towards who looks: from above x is right and y up.
    return after(turnAbout({1, 0, 0}, pitch - 90), turnAbout({0, 0, 1}, -yaw));
}

void SpaceCamera::fit(const Box3& box, double aside, double above) {
    if (box.empty) return;
    middle = 0.5 * (box.low + box.high);
    const Pose pose = turn();
    double w = 1, h = 1;
    for (const double x : {box.low.x, box.high.x})
        for (const double y : {box.low.y, box.high.y})
            for (const double z : {box.low.z, box.high.z}) {
                const Vec3 v = pose.turned(Vec3{x, y, z} - middle);
                w = std::max(w, 2 * std::abs(v.x));
                h = std::max(h, 2 * std::abs(v.y));
            }
    scale = std::clamp(std::min((width - aside) / w, (height - above) / h), 0.5, 2000.0);
}

Vec3 SpaceCamera::seen(Vec3 p) const {
    const Vec3 v = turn().turned(p - middle);
    return {width / 2.0 + v.x * scale, height / 2.0 - v.y * scale, v.z};
}

Vec3 SpaceCamera::along(double dx, double dy) const { return inverse(turn()).turned({dx / scale, -dy / scale, 0}); }

Vec3 SpaceCamera::behind(double x, double y) const { return middle + along(x - width / 2.0, y - height / 2.0); }

Vec3 SpaceCamera::away() const { return inverse(turn()).turned({0, 0, -1}); }

}  // namespace punch
