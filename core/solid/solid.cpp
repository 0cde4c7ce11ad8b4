#include "core/solid/solid.h"

#include <algorithm>

namespace punch {

void Box3::add(Vec3 p) {
    if (empty) low = high = p;
    low = {std::min(low.x, p.x), std::min(low.y, p.y), std::min(low.z, p.z)};
    high = {std::max(high.x, p.x), std::max(high.y, p.y), std::max(high.z, p.z)};
    empty = false;
}

Box3 boundsOf(const Solid& solid) {
    Box3 box;
    for (const Vec3& p : solid.corners) box.add(p);
    return box;
}

Solid moved(Solid solid, const Pose& pose) {
    for (Vec3& p : solid.corners) p = pose(p);
    for (SolidFace& f : solid.faces) {
        f.at = pose(f.at);
        f.axis = pose.turned(f.axis);
    }
    return solid;
}

void pack(Packed& to, const Solid& s) {
    to.put(s.corners);
    to.put(s.triangles);
    to.put(s.faces);
    to.put(s.bodies.size());
    for (const SolidBody& b : s.bodies) {
        to.put(b.name);
        to.put(b.colour);
        to.put(b.volume);
        to.put(b.closed);
        to.put(b.look);
        to.put(b.of);
    }
    to.put(s.notes);
}

void unpack(Packed& from, Solid& s) {
    from.get(s.corners);
    from.get(s.triangles);
    from.get(s.faces);
    std::size_t bodies = 0;
    from.get(bodies);
    s.bodies.clear();
    for (std::size_t i = 0; i < bodies; ++i) {
        SolidBody& b = s.bodies.emplace_back();
        from.get(b.name);
        from.get(b.colour);
        from.get(b.volume);
        from.get(b.closed);
        from.get(b.look);
        from.get(b.of);
    }
    from.get(s.notes);
}

}  // namespace punch
