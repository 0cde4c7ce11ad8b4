#include "core/shape/cut_outs.h"

#include "core/part/mark_kinds.h"

namespace punch {

Shape cutShapeOf(const CutOut& c, Point datum) {
    RoundedPolygon s{{}, c.width / 2};
    Length width = c.width;
    const Point a = c.from - datum;
    const Point b = c.to - datum;
    if (c.kind == CutOutKind::Slot) {
        s.corners = a == b ? std::vector<Point>{a} : std::vector<Point>{a, b};
    } else {
        Rect r;
        r.add(a);
        r.add(b);
        width = min(r.width(), r.height());
        s.radius = min(s.radius, width / 2);
        const Rect core = r.grown(-s.radius);
        s.corners = RoundedPolygon::rectangle(core).corners;
        if (core.width() < Length::fromNm(1) || core.height() < Length::fromNm(1)) {
            // As narrow as its corners are round: a slot.
            s.corners = {{core.left, core.bottom}, {core.right, core.top}};
            if (s.corners.front() == s.corners.back()) s.corners.pop_back();
        }
    }
    Shape cut{Purpose::Cut, c.id, c.name, s};
    cut.pieces = {s};
    cut.milled.kind = c.kind;
    cut.milled.width = width;
    return cut;
}

std::vector<CutOut> cutOutsOf(const Part& part, const Shaped& shaped, Point datum) {
    std::vector<CutOut> all;
    for (std::size_t i = 0; i < shaped.laid.size(); ++i) {
        const LaidMark& m = shaped.laid[i];
        if (m.kind != MarkKind::CutOut || !m.wrong.empty() || m.points.size() != 2) continue;
        const std::string form = valueOf(part.marks[i], "form");
        if (form != "slot" && form != "rectangle") continue;
        CutOut cut;
        cut.id = m.id;
        cut.name = m.name;
        cut.kind = form == "slot" ? CutOutKind::Slot : CutOutKind::Window;
        cut.width = m.length(form == "slot" ? "width" : "bit");
        cut.from = m.points[0] + datum;
        cut.to = m.points[1] + datum;
        all.push_back(cut);
    }
    return all;
}

}  // namespace punch
