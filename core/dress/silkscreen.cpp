#include "core/dress/silkscreen.h"

#include "core/dress/courtyard.h"
#include "core/dress/mark_table.h"
#include "core/dress/outline_ink.h"
#include "core/dress/stroke_text.h"
#include "core/geometry/shapes.h"

namespace punch {
namespace {

const Length kAssemblyLine = Length::fromMm(0.1);

/// The body as the rules draw it: on the assembly drawing as it is, on the silkscreen at its allowance.
void inkOutline(const Part& part, const BodyBox& body, Ink& ink) {
    const Dress& dress = part.dress;
    for (Stroke s : bodyOutline(body, Length(), kAssemblyLine, "body")) {
        s.firm = body.allFirm();
        ink.add(InkLayer::Assembly, s);
    }
    if (!dress.outline) return;
    for (const Stroke& line : bodyOutline(body, dress.outlineAllowance, dress.line, "outline"))
        for (Stroke s : dress.outlineCorners ? cornersOf(line, dress.cornerLength) : std::vector<Stroke>{line}) {
            s.firm = body.allFirm();
            ink.add(InkLayer::TopSilkscreen, s);
        }
}

/// Around the body at its allowance and all openings: outside it nothing is in the way.
Rect inkBoxOf(const Part& part, const std::optional<BodyBox>& body, const Ink& ink) {
    Rect box;
    if (body) {
        box = body->rect;
        for (const Point& p : body->outline) box.add(p);
        box = box.grown(part.dress.outlineAllowance);
    }
    for (const bool top : {true, false})
        for (const InkOpening& o : ink.openings(top))
            for (const Point& c : o.shape.corners)
                box.add(Rect::around(c, 2.0 * o.shape.radius, 2.0 * o.shape.radius).grown(leastInkGap()));
    return box;
}

void inkTexts(const Part& part, const std::optional<BodyBox>& body, const Rect& inkBox, Ink& ink) {
    const Dress& dress = part.dress;
    if (dress.referenceText && !inkBox.empty) {
        const Length middle = body ? body->rect.middle().x : inkBox.middle().x;
        const Point at{middle, inkBox.top + dress.textHeight / 2 + Length::fromMm(0.35) + dress.line};
        for (const Stroke& s : strokeText(part.reference + "1", at, dress.textHeight, dress.line, "reference"))
            ink.add(InkLayer::TopSilkscreen, s);
    }
    if (dress.valueText && body) {
        const Point at{body->rect.middle().x, body->rect.top - dress.textHeight};
        for (const Stroke& s : strokeText(part.name, at, dress.textHeight, kAssemblyLine, "value"))
            ink.add(InkLayer::Assembly, s);
    }
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
    if (body) inkOutline(part, *body, ink);
    const Rect inkBox = inkBoxOf(part, body, ink);
    for (const Stroke& s : ruledFirstPin(part, board, inkBox)) ink.add(InkLayer::TopSilkscreen, s);
    inkTexts(part, body, inkBox, ink);
    const MarkScene scene{part, board, shaped, inkBox, ink};
    for (std::size_t i = 0; i < shaped.laid.size(); ++i)
        if (const DrawMark draw = drawerOf(shaped.laid[i].kind); draw != nullptr && shaped.laid[i].wrong.empty())
            draw(scene, part.marks[i], shaped.laid[i]);
    std::move(ink).giveTo(d);
    d.inkWords.insert(board.attached.words.begin(), board.attached.words.end());
    return d;
}

std::optional<InkGap> nearestInk(const Board& board, const Dressed& dressed) {
    std::optional<InkGap> best;
    for (const bool top : {true, false}) {
        const auto& strokes = top ? dressed.silkscreen : dressed.bottomSilkscreen;
        const auto& areas = top ? dressed.silkscreenAreas : dressed.bottomSilkscreenAreas;
        if (strokes.empty() && areas.empty()) continue;
        const auto all = inkOpenings(board, top);
        for (const Stroke& s : strokes)
            for (std::size_t i = 0; i + 1 < s.points.size(); ++i)
                for (const InkOpening& o : all) {
                    if (best && o.atLeast(s.points[i], s.points[i + 1]) - s.width / 2 > best->gap) continue;
                    const Length g = gap(RoundedPolygon::stroke(s.points[i], s.points[i + 1], s.width), o.shape);
                    if (!best || g < best->gap) best = InkGap{g, s.what, o.feature, s.cut};
                }
        for (const InkArea& a : areas)
            for (const InkOpening& o : all) {
                const Rect box = boundsOf(a.area);
                if (best && o.atLeast({box.left, box.bottom}, {box.right, box.top}) > best->gap) continue;
                const Length g = gap(a.area, Polygons{o.shape.corners}) - o.shape.radius;
                if (!best || g < best->gap) best = InkGap{g, a.what, o.feature, a.cut};
            }
    }
    return best;
}

}  // namespace punch
