// Marks at the first pin: triangle, dot, bar, bevelled corner, number; and the notch at its end of the body.

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/dress/mark_table.h"
#include "core/dress/stroke_text.h"
#include "core/geometry/shapes.h"
#include "core/part/numbering.h"

namespace punch {
namespace {

/// What is marked as the first, and what may be taken for it.
struct First {
    std::string number;
    Point at;
    Length above;               ///< from its middle to the rear end of its opening
    std::vector<Point> others;  ///< all other pads and lands
};

/// The first pin; of a part without pins the surface land with the lowest number.
std::optional<First> firstOf(const Board& board) {
    std::optional<First> first;
    const auto take = [&](const Conductor& c) {
        first = First{c.number, c.at, boundsOf(maskOpening(c)).top - c.at.y, {}};
    };
    std::string taken;
    for (const Pad& p : board.pads)
        if (p.first) {
            take(p);
            taken = p.id;
        }
    if (!first)
        for (const Conductor& c : board.attached.lands)
            if (isSurfaceLand(c) && (!first || numberLess(c.number, first->number))) {
                take(c);
                taken = c.id;
            }
    if (!first) return first;
    for (const Pad& p : board.pads)
        if (p.id != taken) first->others.push_back(p.at);
    for (const Conductor& c : board.attached.lands)
        if (isSurfaceLand(c) && c.id != taken) first->others.push_back(c.at);
    return first;
}

/// Does a mark there, which points at the first pin along (dx, dy), meet another one before it?
bool isMistakable(const First& first, Point mark, double dx, double dy) {
    const Length own = distance(first.at, mark), beside = Length::fromMm(1);
    return std::any_of(first.others.begin(), first.others.end(), [&](Point p) {
        const Point d = p - mark;
        const Length along = dx * d.x + dy * d.y;
        return along > Length() && along < own && abs(dx * d.y - dy * d.x) < beside;
    });
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

/// `rowsFirst`: the ends of the row come before its sides.
Beside besidePin(const First& first, const Rect& box, bool rowsFirst) {
    const Point pin = first.at;
    struct Way {
        Length away;
        Beside beside;
    };
    std::vector<Way> ways = {{pin.x - box.left, {{box.left, pin.y}, 1, 0}},
                             {box.right - pin.x, {{box.right, pin.y}, -1, 0}},
                             {pin.y - box.bottom, {{pin.x, box.bottom}, 0, 1}},
                             {box.top - pin.y, {{pin.x, box.top}, 0, -1}}};
    const auto nearer = [](const Way& a, const Way& b) { return a.away < b.away; };
    std::stable_sort(ways.begin(), rowsFirst ? ways.begin() + 2 : ways.end(), nearer);
    if (rowsFirst) std::stable_sort(ways.begin() + 2, ways.end(), nearer);
    const Way* best = nullptr;
    for (const Way& way : ways) {
        if (isMistakable(first, way.beside.at, way.beside.dx, way.beside.dy)) continue;
        // The end of a row that is far off tells less than its side.
        if (best == nullptr || best->away > 2.0 * way.away + Length::fromMm(2)) best = &way;
    }
    return (best == nullptr ? ways.front() : *best).beside;
}

}  // namespace

std::vector<Stroke> ruledFirstPin(const Part& part, const Board& board, const Rect& inkBox) {
    const auto first = firstOf(board);
    if (!first || part.dress.mark == PinOneMark::None) return {};
    const Length line = part.dress.line, size = Length::fromMm(0.8);
    std::vector<std::vector<Point>> lines;
    if (part.dress.mark == PinOneMark::Outside) {
        // At the end of the row that the pin is nearer to, else where it cannot be taken for another's.
        const Beside b = besidePin(*first, inkBox, true);
        const Length off = Length::fromMm(0.3) + line;
        lines = triangle({b.at.x - b.dx * off, b.at.y - b.dy * off}, b.dx, b.dy, size);
    } else {
        lines = triangle({first->at.x, first->at.y + first->above + leastInkGap() * 1.2 + line}, 0, -1, size);
    }
    std::vector<Stroke> strokes;
    for (auto& points : lines) strokes.push_back({std::move(points), line, "pin 1 mark"});
    return strokes;
}

void drawFirstPin(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
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
    Beside b = besidePin(*first, scene.inkBox, false);
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
    const auto first = firstOf(scene.board);
    const Rect r = scene.shaped.body->rect.grown(scene.part.dress.outlineAllowance);
    std::string face = valueOf(mark, "face");
    if (face == "by the first pin") {
        if (!first) return scene.ink.say(mark.id, "there is no first pin");
        // In the shorter end that the first pin is nearer to.
        if (r.width() >= r.height())
            face = first->at.x - r.left <= r.right - first->at.x ? "left face" : "right face";
        else
            face = first->at.y - r.bottom <= r.top - first->at.y ? "front face" : "rear face";
    }
    const bool upright = face == "left face" || face == "right face";
    const Length along = upright ? r.height() : r.width(), width = laid.length("width");
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
        const Length deep = laid.length("depth");
        line = {at(width / 2, {}), at(width / 2, deep), at(-(width / 2), deep), at(-(width / 2), {})};
    }
    print(scene, mark, laid, std::move(line));
}

}  // namespace punch
