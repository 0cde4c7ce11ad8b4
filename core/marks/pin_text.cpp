// Pin texts: numbers beside pins.

#include <algorithm>

#include "core/dress/mark_scene.h"
#include "core/dress/stroke_text.h"
#include "core/marks/fields.h"
#include "core/part/carriers.h"

namespace punch {
namespace {

using V = MarkValue;

void inkPinText(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
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
    int without = 0;
    for (const Pad& pad : scene.board.pads) {
        if (std::find(pins.begin(), pins.end(), pad.id) == pins.end()) continue;
        const auto at = placeBeside(scene, pad, onTop(mark), strokeTextWidth(pad.number, height), height, line);
        if (at)
            printText(scene, mark, laid, pad.number, *at, height);
        else
            ++without;
    }
    if (without > 0) scene.ink.say(mark.id, std::to_string(without) + " of its pins have no room beside them");
}

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::PinText>() {
    using namespace marks;
    MarkKindInfo kind = {MarkKind::PinText,
                         MarkGroup::WayRound,
                         {0, 0, false},
                         {{"pins", "Pins", V::Pins, "all", "Which pins: numbers, ranges, or all"},
                          heightField("0.8"),
                          lineField(),
                          layerField("top silkscreen")},
                         "Numbers beside pins, outside the body where there is room"};
    kind.acts.ink = inkPinText;
    return kind;
}

}  // namespace punch
