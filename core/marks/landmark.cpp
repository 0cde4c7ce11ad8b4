// Landmarks: what on the part tells its ends apart.

#include "core/dress/mark_scene.h"
#include "core/dress/stroke_text.h"
#include "core/marks/fields.h"

namespace punch {
namespace {

using V = MarkValue;

void inkLandmark(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
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

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::Landmark>() {
    using namespace marks;
    MarkKindInfo kind = {
        MarkKind::Landmark,
        MarkGroup::WayRound,
        {1, kMostMarkPoints, true},
        with(outlineFields("rectangle"), {{"label", "Name in it", V::Flag, "yes", "Its name is written into it"},
                                          {"filled", "Filled", V::Flag, "no", "Inked all over"},
                                          lineField(),
                                          layerField("both")}),
        "Something on the part that tells its ends apart: a coil, a window, a lever"};
    kind.begin = bodyCorners();
    kind.acts.ink = inkLandmark;
    return kind;
}

}  // namespace punch
