// Texts: at a place, beside pins; and signs of polarity.

#include <algorithm>

#include "core/dress/mark_table.h"
#include "core/dress/stroke_text.h"
#include "core/geometry/shapes.h"
#include "core/part/carriers.h"

namespace punch {
namespace {

/// Beside a pad, off every opening and all ink: outside the body where that is as near.
class PlacesBeside {
public:
    explicit PlacesBeside(const MarkScene& scene, bool top) : scene_(scene), top_(top) {}

    /// The middle of a box of this size; none where there is no room near the pad.
    std::optional<Point> find(const Pad& pad, Length width, Length height, Length line) {
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
                if (!scene_.ink.isFree(box, top_)) continue;
                const auto& body = scene_.shaped.body;
                const bool hidden = body && at.x > body->rect.left && at.x < body->rect.right &&
                                    at.y > body->rect.bottom && at.y < body->rect.top;
                const double cost = distance(at, pad.at).mm() + (hidden ? 4 : 0) + (dx != 0 ? 0.3 : 0);
                if (cost < least) {
                    least = cost;
                    best = at;
                }
            }
        return best;
    }

private:
    const MarkScene& scene_;
    bool top_;
};

bool onTop(const Mark& mark) { return inkLayersOf(mark).front() != InkLayer::BottomSilkscreen; }

}  // namespace

void drawText(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
    const std::string text = withFields(scene.part, valueOf(mark, "text"));
    const Length height = laid.length("height");
    const std::string hold = valueOf(mark, "hold");
    const double turn = laid.angle("turn");
    Point middle = laid.points.front();
    if (hold != "middle") {
        const Length half = strokeTextWidth(text, height) / 2;
        middle = turned({middle.x + (hold == "left end" ? half : -half), middle.y}, middle, turn);
    }
    printText(scene, mark, laid, text, middle, height, turn);
}

void drawPinTexts(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
    const std::string typed = valueOf(mark, "pins");
    std::vector<FeatureId> pins;
    if (typed == "all") {
        pins = allPins(scene.part);
    } else {
        const auto named = carriersByWords(scene.part, typed);
        if (!named) return scene.ink.say(mark.id, named.error().what);
        pins = *named;
    }
    const Length height = laid.length("height"), line = laid.length("line");
    PlacesBeside places(scene, onTop(mark));
    int without = 0;
    for (const Pad& pad : scene.board.pads) {
        if (std::find(pins.begin(), pins.end(), pad.id) == pins.end()) continue;
        const auto at = places.find(pad, strokeTextWidth(pad.number, height), height, line);
        if (at)
            printText(scene, mark, laid, pad.number, *at, height);
        else
            ++without;
    }
    if (without > 0) scene.ink.say(mark.id, std::to_string(without) + " of its pins have no room beside them");
}

void drawSign(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
    const Length size = laid.length("size"), line = laid.length("line");
    std::optional<Point> at;
    if (!laid.points.empty()) {
        at = laid.points.front();
    } else {
        const Pad* pad = scene.board.pad(valueOf(mark, "pin"));
        if (pad == nullptr) return scene.ink.say(mark.id, "it stands beside no pin yet");
        at = PlacesBeside(scene, onTop(mark)).find(*pad, size, size, line);
        if (!at) return scene.ink.say(mark.id, "there is no room beside its pin");
    }
    const std::string sign = valueOf(mark, "sign");
    const Length half = size / 2;
    if (sign == "~") return printText(scene, mark, laid, "~", *at, size);
    print(scene, mark, laid, std::vector<Point>{{at->x - half, at->y}, {at->x + half, at->y}});
    if (sign == "+") print(scene, mark, laid, std::vector<Point>{{at->x, at->y - half}, {at->x, at->y + half}});
}

}  // namespace punch
