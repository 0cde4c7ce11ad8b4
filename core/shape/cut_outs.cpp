#include "core/shape/shape.h"

#include "core/geometry/rounded_polygon.h"

namespace punch {

CutShape cutShapeOf(const CutOut& c, Point datum) {
    CutShape s{c.id, c.name, c.kind, {}, c.width / 2, c.width};
    const Point a = c.from - datum;
    const Point b = c.to - datum;
    if (c.kind == CutOutKind::Slot) {
        s.corners = a == b ? std::vector<Point>{a} : std::vector<Point>{a, b};
    } else {
        Rect r;
        r.add(a);
        r.add(b);
        s.width = min(r.width(), r.height());
        s.radius = min(s.radius, s.width / 2);
        const Rect core = r.grown(-s.radius);
        s.corners = RoundedPolygon::rectangle(core).corners;
        if (core.width() < Length::fromNm(1) || core.height() < Length::fromNm(1)) {
            // As narrow as its corners are round: a slot.
            s.corners = {{core.left, core.bottom}, {core.right, core.top}};
            if (s.corners.front() == s.corners.back()) s.corners.pop_back();
        }
    }
    return s;
}

std::vector<CutShape> cutShapes(const Part& part, Point datum) {
    std::vector<CutShape> all;
    for (const CutOut& c : part.cutOuts) all.push_back(cutShapeOf(c, datum));
    return all;
}

}  // namespace punch
