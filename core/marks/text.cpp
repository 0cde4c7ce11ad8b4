// Texts: words with fields of the part.

#include "core/dress/mark_scene.h"
#include "core/dress/stroke_text.h"
#include "core/marks/fields.h"

namespace punch {
namespace {

using V = MarkValue;

/// In print above all that is there, on the assembly drawing inside the body.
void printByItself(const MarkScene& scene, const Mark& mark, const LaidMark& laid, const std::string& text) {
    const auto& body = scene.shaped.body;
    const Rect& box = scene.inkBox;
    const Length height = laid.length("height");
    if (body && inkLayersOf(mark).front() == InkLayer::Assembly)
        return printText(scene, mark, laid, text, {body->rect.middle().x, body->rect.top - height}, height);
    if (box.empty) return;
    const Length middle = body ? body->rect.middle().x : box.middle().x;
    printText(scene, mark, laid, text, {middle, box.top + height / 2 + Length::fromMm(0.35) + laid.length("line")},
              height);
}

void inkText(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
    const std::string text = withFields(scene.part, valueOf(mark, "text"));
    const Length height = laid.length("height");
    if (laid.points.empty()) return printByItself(scene, mark, laid, text);
    Point middle = laid.points.front();
    const std::string hold = valueOf(mark, "hold");
    const double turn = laid.angle("turn");
    if (hold != "middle") {
        const Length half = strokeTextWidth(text, height) / 2;
        middle = turned({middle.x + (hold == "left end" ? half : -half), middle.y}, middle, turn);
    }
    printText(scene, mark, laid, text, middle, height, turn);
}

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::Text>() {
    using namespace marks;
    MarkKindInfo kind = {
        MarkKind::Text,
        MarkGroup::Print,
        {0, 1, false},
        {{"text", "Text", V::Text, "{name}", "Fields: {reference}, {value}, {name}, {description}"},
         heightField("1"),
         lineField(),
         {"turn", "Turned by", V::Angle, "0", "Counter-clockwise"},
         {"hold",
          "Held at",
          V::Choice,
          "middle",
          "Which end of the text stands at its place",
          {"middle", "left end", "right end"}},
         layerField("assembly")},
        "Words, held at a place; without one they stand above the part, on the assembly drawing in it"};
    kind.begin = bodyMiddle();
    kind.acts.ink = inkText;
    return kind;
}

}  // namespace punch
