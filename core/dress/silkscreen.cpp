#include "core/dress/silkscreen.h"

#include "core/dress/courtyard.h"
#include "core/dress/mark_scene.h"
#include "core/geometry/shapes.h"

namespace punch {

PUNCH_VALUE_IS_HERE(Dressed)
namespace {

/// Around the body at its allowance and all openings: outside it nothing is in the way.
Rect inkBoxOf(const Part& part, const std::optional<BodyBox>& body, const Ink& ink) {
    Rect box;
    if (body) {
        box = body->rect;
        box.add(body->shape.box());
        box = box.grown(part.dress.outlineAllowance);
    }
    for (const bool top : {true, false})
        for (const InkOpening& o : ink.openings(top))
            for (const Point& c : o.shape.corners)
                box.add(Rect::around(c, 2.0 * o.shape.radius, 2.0 * o.shape.radius).grown(leastInkGap()));
    return box;
}

}  // namespace

Dressed dressed(const Part& part, const Board& board, const Shaped& shaped) {
    const std::optional<BodyBox>& body = shaped.body;
    Dressed d;
    d.courtyardExcess = courtyardExcess(part, board.attached);
    d.courtyard = courtyardContent(board, body).grown(d.courtyardExcess);
    d.courtyardTop = courtyardAround(courtyardContent(board, body, true), d.courtyardExcess);
    d.courtyardBottom = courtyardAround(courtyardContent(board, body, false), d.courtyardExcess);
    Ink ink(board, part.dress.leastInk);
    const Rect inkBox = inkBoxOf(part, body, ink);
    const MarkScene scene{part, board, shaped, inkBox, ink};
    const auto printed = [&](const std::vector<Mark>& marks, const std::vector<LaidMark>& laid) {
        for (std::size_t i = 0; i < laid.size(); ++i)
            if (const auto how = markKind(laid[i].kind).acts.ink; how != nullptr && laid[i].wrong.empty())
                how(scene, marks[i], laid[i]);
    };
    printed(shaped.ruled, shaped.ruledLaid);
    printed(part.marks, shaped.laid);
    std::move(ink).giveTo(d);
    d.inkWords.insert(board.attached.missing.begin(), board.attached.missing.end());
    d.inkWords.insert(board.attached.words.begin(), board.attached.words.end());
    return d;
}

std::optional<InkGap> nearestInk(const Board& board, const Dressed& dressed) {
    std::optional<InkGap> best;
    for (const bool top : {true, false}) {
        const std::vector<Shape>& ink = top ? dressed.silkscreen : dressed.bottomSilkscreen;
        if (ink.empty()) continue;
        const auto all = inkOpenings(board, top);
        for (const Shape& s : ink) {
            if (const Line* line = s.line())
                for (std::size_t i = 0; i + 1 < line->points.size(); ++i)
                    for (const InkOpening& o : all) {
                        const Point a = line->points[i], b = line->points[i + 1];
                        if (best && o.atLeast(a, b) - line->width / 2 > best->gap) continue;
                        const Length g = gap(RoundedPolygon::stroke(a, b, line->width), o.shape);
                        if (!best || g < best->gap) best = InkGap{g, s.name, o.feature, s.shortened};
                    }
            if (const Polygons* area = s.polygons())
                for (const InkOpening& o : all) {
                    const Rect box = boundsOf(*area);
                    if (best && o.atLeast({box.left, box.bottom}, {box.right, box.top}) > best->gap) continue;
                    const Length g = gap(*area, Polygons{o.shape.corners}) - o.shape.radius;
                    if (!best || g < best->gap) best = InkGap{g, s.name, o.feature, s.shortened};
                }
        }
    }
    return best;
}

}  // namespace punch
