// Pieces of the body: blocks, cylinders, cones, domes and balls that stand over the board, held on what was measured.

#include "core/marks/fields.h"
#include "core/shape/mark_laying.h"

namespace punch {
namespace {

using V = MarkValue;

void lay(MarkLaying& laying) {
    const std::string shape = valueOf(laying.mark, "shape");
    const bool circle = valueOf(laying.mark, "form") == "circle";
    const LaidMark& out = laying.out;
    if (shape != "straight" && !circle) return laying.wrong("a " + shape + " stands on a circle");
    if (shape != "ball" && out.length("high") <= out.length("low"))
        return laying.wrong("its upper end lies below its lower end");
    if (shape == "cone" && out.length("top") < Length())
        return laying.wrong("its diameter at the top is less than nothing");
    if (shape == "dome" && out.length("high") - out.length("low") < out.length("diameter") / 1000)
        return laying.wrong("its dome has no height");
    if (circle && out.length("hole") >= out.length("diameter") && out.length("hole") > Length())
        return laying.wrong("its hole is as wide as it");
}

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::Piece>() {
    using namespace marks;
    MarkKindInfo kind = {
        MarkKind::Piece,
        MarkGroup::Room,
        {1, kMostMarkPoints, true},
        with(
            outlineFields("rectangle"),
            {{"is", "It is", V::Choice, "body", "What of the part it is", {"body", "lead", "peg", "moving part"}},
             {"shape",
              "Shape",
              V::Choice,
              "straight",
              "Over its outline: straight up; over a circle also a cone, a dome or a ball",
              {"straight", "cone", "dome", "ball"}},
             {"low", "Its lower end", V::Length, "0", "Height above the seating plane; below 0 it goes into the board"},
             {"high", "Its upper end", V::Length, "5", "Height above the seating plane", {}, "shape!=ball"},
             {"top", "Diameter at the top", V::Length, "1", "Of a cone; 0 for a point", {}, "shape=cone"},
             {"hole",
              "Hole through it",
              V::Length,
              "0",
              "Diameter, in its middle; 0: there is none",
              {},
              "form=circle"},
             {"look", "Looks like", V::Choice, "plastic", "What it is made of", {"plastic", "metal", "clear"}},
             {"colour",
              "Colour",
              V::Choice,
              "slate",
              "In space, and in STEP",
              {"slate", "black", "white", "grey", "green", "blue", "red", "yellow", "brown"}}}),
        "A piece of the body: a block, a cylinder, a cone, a dome or a ball, between two heights"};
    kind.begin = bodyCorners();
    kind.acts.lay = lay;
    return kind;
}

}  // namespace punch
