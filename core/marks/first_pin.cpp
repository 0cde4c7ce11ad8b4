// The first pin: a triangle, a dot, a bar, a bevelled corner or its number.

#include "core/dress/first_pin.h"
#include "core/dress/mark_scene.h"
#include "core/marks/fields.h"

namespace punch {
namespace {

using V = MarkValue;

/// A triangle with its tip at `tip` that points along (dx, dy), filled by hatching with its own line, so that every fab
/// draws it alike.
std::vector<std::vector<Point>> triangle(Point tip, double dx, double dy, Length size) {
    const Point points[3] = {tip,
                             {tip.x - dx * size - dy * (size / 2), tip.y - dy * size + dx * (size / 2)},
                             {tip.x - dx * size + dy * (size / 2), tip.y - dy * size - dx * (size / 2)}};
    const Point centre{(points[0].x + points[1].x + points[2].x) / 3, (points[0].y + points[1].y + points[2].y) / 3};
    std::vector<std::vector<Point>> lines;
    for (const double k : {1.0, 0.66, 0.33}) {
        lines.emplace_back();
        for (const int i : {0, 1, 2, 0}) {
            const Point d = points[i] - centre;
            lines.back().push_back({centre.x + k * d.x, centre.y + k * d.y});
        }
    }
    return lines;
}

void inkFirstPin(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
    const auto first = firstOf(scene.board);
    if (!first) return scene.ink.say(mark.id, "there is no first pin");
    const Length size = laid.length("size"), line = laid.length("line");
    const std::string style = valueOf(mark, "style");
    if (style == "bevelled corner") {
        if (!scene.shaped.body) return scene.ink.say(mark.id, "the part has no body");
        const Rect r = scene.shaped.body->rect.grown(scene.part.dress.outlineAllowance);
        const bool left = first->at.x - r.left <= r.right - first->at.x,
                   front = first->at.y - r.bottom <= r.top - first->at.y;
        const Point corner{left ? r.left : r.right, front ? r.bottom : r.top};
        return print(scene, mark, laid,
                     {{corner.x + (left ? size : -size), corner.y}, {corner.x, corner.y + (front ? size : -size)}});
    }
    const std::string stands = valueOf(mark, "stands");
    const Length off = Length::fromMm(0.3) + line;
    Beside b = besideFirst(*first, scene.inkBox, stands == "at the end of its row");
    Point tip{b.at.x - b.dx * off, b.at.y - b.dy * off};
    if (!laid.points.empty()) {
        // Where the user put it; it still points at the pin.
        tip = laid.points.front();
        const Point d = first->at - tip;
        const double far = hypot(d.x, d.y).mm();
        if (far > 1e-6) b = {tip, d.x.mm() / far, d.y.mm() / far};
    } else if (stands == "at its land") {
        b = {{}, 0, -1};
        tip = {first->at.x, first->at.y + first->above + leastInkGap() * 1.2 + line};
    }
    const Point middle{tip.x - b.dx * (size / 2), tip.y - b.dy * (size / 2)};
    if (style == "triangle") {
        for (auto& points : triangle(tip, b.dx, b.dy, size)) print(scene, mark, laid, std::move(points));
    } else if (style == "dot") {
        print(scene, mark, laid, polygonsOf(circle(middle, size)));
    } else if (style == "bar") {
        print(
            scene, mark, laid,
            std::vector<Point>{{tip.x - b.dy * size, tip.y + b.dx * size}, {tip.x + b.dy * size, tip.y - b.dx * size}});
    } else {
        printText(scene, mark, laid, first->number, middle, size);
    }
}

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::FirstPin>() {
    using namespace marks;
    MarkKindInfo kind = {
        MarkKind::FirstPin,
        MarkGroup::WayRound,
        {0, 1, false},
        {{"style",
          "Looks like",
          V::Choice,
          "triangle",
          "How the first pin is marked",
          {"triangle", "dot", "bar", "bevelled corner", "number"}},
         {"stands",
          "Stands",
          V::Choice,
          "beside the part",
          "While it has no place of its own",
          {"beside the part", "at the end of its row", "at its land"}},
         sizeField("0.8", "How large it is"),
         lineField(),
         layerField("top silkscreen")},
        "Points at the first pin, beside the body where there is room; a place of its own puts it there"};
    kind.acts.ink = inkFirstPin;
    return kind;
}

}  // namespace punch
