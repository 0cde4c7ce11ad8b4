// Drawings: lines and areas that are printed.

#include "core/dress/mark_scene.h"
#include "core/marks/fields.h"

namespace punch {
namespace {

using V = MarkValue;

void inkDrawing(const MarkScene& scene, const Mark& mark, const LaidMark& laid) { printOutline(scene, mark, laid); }

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::Drawing>() {
    using namespace marks;
    MarkKindInfo kind = {
        MarkKind::Drawing,
        MarkGroup::Print,
        {1, kMostMarkPoints, true},
        with(outlineFields("line", "line"), {{"filled", "Filled", V::Flag, "no", "Inked all over"},
                                             {"corners",
                                              "Only corners",
                                              V::Length,
                                              "0",
                                              "Only this much of the outline beside each corner; 0: all of it",
                                              {},
                                              "form!=line"},
                                             lineField(),
                                             layerField("assembly")}),
        "Lines and areas that are printed"};
    kind.begin = bodyMiddleLine();
    kind.acts.ink = inkDrawing;
    return kind;
}

}  // namespace punch
