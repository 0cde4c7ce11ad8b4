#include "core/dress/mark_scene.h"

#include "core/dress/outline_ink.h"
#include "core/dress/stroke_text.h"
#include "core/geometry/shapes.h"

namespace punch {
namespace {

const Length kInkChords = Length::fromUm(1);

}  // namespace

std::vector<InkLayer> inkLayersOf(const Mark& mark) {
    const std::string layer = valueOf(mark, "layer");
    if (layer == "both") return {InkLayer::TopSilkscreen, InkLayer::Assembly};
    if (layer == "bottom silkscreen") return {InkLayer::BottomSilkscreen};
    // A logo may be copper, or an opening of the mask.
    if (layer.ends_with("copper") || layer.ends_with("mask")) return {};
    return {layer == "assembly" ? InkLayer::Assembly : InkLayer::TopSilkscreen};
}

void print(const MarkScene& scene, const Mark& mark, const LaidMark& laid, Shape ink) {
    ink.id = mark.id;
    ink.firm = laid.firm;
    ink.doubt = laid.doubt;
    ink.places = mark.points;
    for (const InkLayer layer : inkLayersOf(mark)) scene.ink.add(layer, ink);
}

void print(const MarkScene& scene, const Mark& mark, const LaidMark& laid, std::vector<Point> line) {
    print(scene, mark, laid, inkLine(std::move(line), laid.length("line"), mark.name));
}

void print(const MarkScene& scene, const Mark& mark, const LaidMark& laid, Polygons area) {
    print(scene, mark, laid, inkArea(std::move(area), mark.name));
}

void printText(const MarkScene& scene, const Mark& mark, const LaidMark& laid, const std::string& text, Point middle,
               Length height, double turn) {
    // On the solder side a text reads from below.
    const bool below = !onTop(mark);
    for (const Shape& s : strokeText(text, middle, height, laid.length("line"), mark.name)) {
        std::vector<Point> line = s.points();
        for (Point& p : line) {
            if (below) p.x = 2.0 * middle.x - p.x;
            p = turned(p, middle, turn);
        }
        print(scene, mark, laid, std::move(line));
    }
}

std::string withFields(const Part& part, std::string text) {
    const std::pair<const char*, std::string> fields[] = {{"{reference}", designatorOf(part)},
                                                          {"{value}", part.value.empty() ? part.name : part.value},
                                                          {"{name}", part.name},
                                                          {"{description}", part.description}};
    for (const auto& [field, value] : fields)
        for (std::size_t at = text.find(field); at != std::string::npos; at = text.find(field, at + value.size()))
            text.replace(at, std::string_view(field).size(), value);
    return text;
}

bool onTop(const Mark& mark) { return inkLayersOf(mark).front() != InkLayer::BottomSilkscreen; }

void printOutline(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
    if (!laid.line.empty()) return print(scene, mark, laid, flattened(laid.line, kInkChords));
    if (flagOf(mark, "filled")) return print(scene, mark, laid, polygonsOf(*laid.area));
    std::vector<const Ring*> rings = {&laid.area->outer};
    for (const Ring& hole : laid.area->holes) rings.push_back(&hole);
    const Length corners = laid.length("corners");
    for (const Ring* ring : rings) {
        std::vector<Point> line = flattened(*ring, kInkChords);
        line.push_back(line.front());
        if (corners <= Length()) {
            print(scene, mark, laid, std::move(line));
            continue;
        }
        for (Shape& s : cornersOf(inkLine(std::move(line), laid.length("line"), mark.name), corners))
            print(scene, mark, laid, std::move(s));
    }
}

std::optional<Point> placeBeside(const MarkScene& scene, const Pad& pad, bool top, Length width, Length height,
                                 Length line) {
    const Rect land = boundsOf(maskOpening(pad));
    std::optional<Point> best;
    double least = 1e9;
    for (const int k : {1, 2, 3})
        for (const auto& [dx, dy] : {std::pair(0, -1), std::pair(0, 1), std::pair(-1, 0), std::pair(1, 0)}) {
            const Length off = leastInkGap() + line + (k - 1) * Length::fromMm(0.6);
            const Point at{
                pad.at.x + dx * ((dx < 0 ? pad.at.x - land.left : land.right - pad.at.x) + width / 2 + off),
                pad.at.y + dy * ((dy < 0 ? pad.at.y - land.bottom : land.top - pad.at.y) + height / 2 + off)};
            const Rect box = Rect::around(at, width + line, height + line);
            if (!scene.ink.isFree(box, top)) continue;
            const auto& body = scene.shaped.body;
            const bool hidden = body && at.x > body->rect.left && at.x < body->rect.right && at.y > body->rect.bottom &&
                                at.y < body->rect.top;
            const double cost = distance(at, pad.at).mm() + (hidden ? 4 : 0) + (dx != 0 ? 0.3 : 0);
            if (cost < least) {
                least = cost;
                best = at;
            }
        }
    return best;
}

}  // namespace punch
