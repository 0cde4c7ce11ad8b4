// A notch: taken out of the body's outline.

#include <cmath>
#include <numbers>

#include "core/dress/first_pin.h"
#include "core/dress/mark_scene.h"
#include "core/marks/fields.h"

namespace punch {
namespace {

using V = MarkValue;

void inkNotch(const MarkScene& scene, const Mark& mark, const LaidMark& laid) {
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

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::Notch>() {
    using namespace marks;
    MarkKindInfo kind = {MarkKind::Notch,
                         MarkGroup::WayRound,
                         {0, 0, false},
                         {{"style",
                           "Looks like",
                           V::Choice,
                           "arc",
                           "A half circle or a rectangle taken out of the outline",
                           {"arc", "notch"}},
                          {"face",
                           "In the",
                           V::Choice,
                           "by the first pin",
                           "Which face of the body it is in",
                           {"by the first pin", "left face", "right face", "front face", "rear face"}},
                          {"width", "Width", V::Length, "2", "Along the face"},
                          {"depth", "Depth", V::Length, "0.8", "Into the body", {}, "style=notch"},
                          lineField(),
                          layerField("both")},
                         "Taken out of the body's outline at the end of the first pin"};
    kind.acts.ink = inkNotch;
    return kind;
}

}  // namespace punch
