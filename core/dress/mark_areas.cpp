// Landmarks and drawings: outlines, lines and areas of ink.

#include <fmt/format.h>

#include "core/dress/mark_table.h"
#include "core/dress/stroke_text.h"

namespace punch {
namespace {

const Length kInkChords = Length::fromUm(1);

void printOutline(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
    if (!laid.line.empty()) return print(scene, mark, laid, flattened(laid.line, kInkChords));
    if (flagOf(mark, "filled")) return print(scene, mark, laid, polygonsOf(*laid.area));
    std::vector<const Ring*> rings = {&laid.area->outer};
    for (const Ring& hole : laid.area->holes) rings.push_back(&hole);
    for (const Ring* ring : rings) {
        std::vector<Point> line = flattened(*ring, kInkChords);
        line.push_back(line.front());
        print(scene, mark, laid, std::move(line));
    }
}

}  // namespace

void drawDrawing(const MarkScene& scene, const Mark& mark, const LaidMark& laid) { printOutline(scene, mark, laid); }

void drawLogo(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
    if (laid.leftOut > 0.01)
        scene.ink.say(mark.id, fmt::format("{:.0f} % of it is thinner than its thinnest line", 100 * laid.leftOut));
    Polygons figure = laid.figure;
    // On the solder side it reads from below.
    if (valueOf(mark, "layer") == "bottom silkscreen") figure = mirroredAbout(figure, laid.points.front().x);
    print(scene, mark, laid, std::move(figure));
}

void drawLandmark(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
    printOutline(scene, mark, laid);
    if (!flagOf(mark, "label") || flagOf(mark, "filled") || mark.name.empty()) return;
    // As large as fits, and no larger than other texts.
    const Rect box = boundsOf(laid.area->outer);
    const Length one = Length::fromMm(1), line = laid.length("line");
    const double widthAtOne = strokeTextWidth(mark.name, one).mm();
    const bool upright = box.height() > box.width() && widthAtOne > box.width().mm() * 0.8;
    const Length along = upright ? box.height() : box.width(), across = upright ? box.width() : box.height();
    Length height = min(scene.part.dress.textHeight, across * 0.6);
    if (widthAtOne > 0) height = min(height, Length::fromMm((along - 3.0 * line).mm() * 0.9 / widthAtOne));
    if (height < Length::fromMm(0.5)) return scene.ink.say(mark.id, "its name has no room in it");
    printText(scene, mark, laid, mark.name, box.middle(), height, upright ? 90 : 0);
}

}  // namespace punch
