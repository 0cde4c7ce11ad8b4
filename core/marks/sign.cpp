// Signs of polarity.

#include "core/dress/mark_scene.h"
#include "core/marks/fields.h"
#include "core/part/carriers.h"
#include "core/part/part.h"

namespace punch {
namespace {

using V = MarkValue;

void beginSign(Mark& mark, const Part& part) {
    const auto pins = allPins(part);
    if (!pins.empty()) mark.set["pin"] = pins.front();
}

void inkSign(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
    const Length size = laid.length("size"), line = laid.length("line");
    std::optional<Point> at;
    if (!laid.points.empty()) {
        at = laid.points.front();
    } else {
        const Pad* pad = scene.board.pad(valueOf(mark, "pin"));
        if (pad == nullptr) return scene.ink.say(mark.id, "it stands beside no pin yet");
        at = placeBeside(scene, *pad, onTop(mark), size, size, line);
        if (!at) return scene.ink.say(mark.id, "there is no room beside its pin");
    }
    const std::string sign = valueOf(mark, "sign");
    const Length half = size / 2;
    if (sign == "~") return printText(scene, mark, laid, "~", *at, size);
    print(scene, mark, laid, std::vector<Point>{{at->x - half, at->y}, {at->x + half, at->y}});
    if (sign == "+") print(scene, mark, laid, std::vector<Point>{{at->x, at->y - half}, {at->x, at->y + half}});
}

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::Sign>() {
    using namespace marks;
    MarkKindInfo kind = {MarkKind::Sign,
                         MarkGroup::WayRound,
                         {0, 1, false},
                         {{"sign", "Sign", V::Choice, "+", "Polarity", {"+", "-", "~"}},
                          {"pin", "Beside", V::Feature, "", "The pin that has the polarity"},
                          sizeField("1", "How wide it is"),
                          lineField(),
                          layerField("both")},
                         "The polarity of a pin, beside it and off its land"};
    kind.acts.begin = beginSign;
    kind.acts.ink = inkSign;
    return kind;
}

}  // namespace punch
