// Marks at the first pin: triangle, dot, bar, bevelled corner, number; and the notch at its end of the body.

#include <cmath>
#include <numbers>

#include "core/dress/mark_table.h"
#include "core/dress/stroke_text.h"
#include "core/geometry/shapes.h"

namespace punch {
namespace {

const Pad* firstOf(const std::vector<Pad>& pads) {
    return findIn(pads, [](const Pad& p) { return p.first; });
}

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

/// Beside the first pin, outside all that is there, on the side that the pin is nearest to.
struct Beside {
    Point at;               ///< on the edge of what is there
    double dx = 0, dy = 0;  ///< from there to the pin
};

Beside besidePin(Point pin, const Rect& box) {
    const Length left = pin.x - box.left, right = box.right - pin.x, front = pin.y - box.bottom, rear = box.top - pin.y;
    const Length least = min(min(left, right), min(front, rear));
    if (least == left) return {{box.left, pin.y}, 1, 0};
    if (least == right) return {{box.right, pin.y}, -1, 0};
    if (least == front) return {{pin.x, box.bottom}, 0, 1};
    return {{pin.x, box.top}, 0, -1};
}

}  // namespace

std::vector<Stroke> ruledFirstPin(const Part& part, const std::vector<Pad>& pads, const Rect& inkBox) {
    const Pad* first = firstOf(pads);
    if (first == nullptr || part.dress.mark == PinOneMark::None) return {};
    const Length line = part.dress.line, size = Length::fromMm(0.8);
    std::vector<std::vector<Point>> lines;
    if (part.dress.mark == PinOneMark::Outside) {
        // On the side of the row's end that the pin is nearer to.
        const bool left = first->at.x - inkBox.left <= inkBox.right - first->at.x;
        const double out = left ? -1.0 : 1.0;
        lines = triangle({(left ? inkBox.left : inkBox.right) + out * (Length::fromMm(0.3) + line), first->at.y}, -out,
                         0, size);
    } else {
        lines = triangle({first->at.x, boundsOf(maskOpening(*first)).top + leastInkGap() * 1.2 + line}, 0, -1, size);
    }
    std::vector<Stroke> strokes;
    for (auto& points : lines) strokes.push_back({std::move(points), line, "pin 1 mark"});
    return strokes;
}

void drawFirstPin(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
    const Pad* first = firstOf(scene.board.pads);
    if (first == nullptr) return scene.ink.say(mark.id, "there is no first pin");
    const Length size = laid.lengths.at("size"), line = laid.lengths.at("line");
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
    Beside b = besidePin(first->at, scene.inkBox);
    const Length off = Length::fromMm(0.3) + line;
    Point tip{b.at.x - b.dx * off, b.at.y - b.dy * off};
    if (!laid.points.empty()) {
        // Where the user put it; it still points at the pin.
        tip = laid.points.front();
        const Point d = first->at - tip;
        const double far = hypot(d.x, d.y).mm();
        if (far > 1e-6) b = {tip, d.x.mm() / far, d.y.mm() / far};
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

void drawNotch(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
    if (!scene.shaped.body) return scene.ink.say(mark.id, "the part has no body");
    const Pad* first = firstOf(scene.board.pads);
    const Rect r = scene.shaped.body->rect.grown(scene.part.dress.outlineAllowance);
    std::string face = valueOf(mark, "face");
    if (face == "by the first pin") {
        if (first == nullptr) return scene.ink.say(mark.id, "there is no first pin");
        // In the shorter end that the first pin is nearer to.
        if (r.width() >= r.height())
            face = first->at.x - r.left <= r.right - first->at.x ? "left face" : "right face";
        else
            face = first->at.y - r.bottom <= r.top - first->at.y ? "front face" : "rear face";
    }
    const bool upright = face == "left face" || face == "right face";
    const Length along = upright ? r.height() : r.width(), width = laid.lengths.at("width");
    if (width <= Length() || width >= along) return scene.ink.say(mark.id, "it is wider than the face");
    // Along (ax, ay) of the face, inwards (ix, iy).
    const double ix = face == "left face" ? 1 : face == "right face" ? -1 : 0;
    const double iy = face == "front face" ? 1 : face == "rear face" ? -1 : 0;
    const Point middle{ix > 0   ? r.left
                       : ix < 0 ? r.right
                                : r.middle().x,
                       iy > 0   ? r.bottom
                       : iy < 0 ? r.top
                                : r.middle().y};
    const auto at = [&](Length side, Length deep) {
        return Point{middle.x + ix * deep - iy * side, middle.y + iy * deep + ix * side};
    };
    std::vector<Point> line;
    if (valueOf(mark, "style") == "arc") {
        constexpr int kSteps = 48;
        for (int i = 0; i <= kSteps; ++i) {
            const double a = std::numbers::pi * i / kSteps;
            line.push_back(at(width / 2 * std::cos(a), width / 2 * std::sin(a)));
        }
    } else {
        const Length deep = laid.lengths.at("depth");
        line = {at(width / 2, {}), at(width / 2, deep), at(-(width / 2), deep), at(-(width / 2), {})};
    }
    print(scene, mark, laid, std::move(line));
}

}  // namespace punch
