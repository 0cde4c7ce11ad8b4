// Travel: the room that something sweeps as it moves.

#include <cmath>

#include "core/geometry/sweep.h"
#include "core/marks/fields.h"
#include "core/shape/mark_laying.h"

namespace punch {
namespace {

using V = MarkValue;

void layTravel(MarkLaying& laying) {
    const Polygons shape = polygonsOf(*laying.out.area, Chords::Outside);
    if (valueOf(laying.mark, "motion") == "slides") {
        const Length by = laying.out.lengths["by"];
        if (by <= Length()) return laying.wrong("it slides by nothing");
        const double a = laying.out.angles["towards"] * M_PI / 180;
        laying.out.swept = slid(shape, {by * std::cos(a), by * std::sin(a)});
    } else {
        const double turn = laying.out.angles["turn"];
        if (turn == 0) return laying.wrong("it turns by nothing");
        const auto axis = laying.anchors.middle(valueOf(laying.mark, "axis"));
        if (!axis) return laying.wrong("axis: " + axis.error().what);
        laying.note(axis->firm, axis->doubt);
        laying.out.axis = Point{axis->at.x + laying.out.lengths["axisX"], axis->at.y + laying.out.lengths["axisY"]};
        laying.out.swept = swung(shape, *laying.out.axis, turn);
    }
    if (laying.out.lengths["high"] < laying.out.lengths["low"]) laying.wrong("its upper end lies below its lower end");
}

void keepForTravel(const Mark&, const LaidMark& laid, Shape& room) {
    room.keeps.travel = true;
    room.form = laid.swept;
    room.keeps.maxHeight = laid.length("low");
    room.keeps.reaches = laid.length("high");
}

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::Travel>() {
    using namespace marks;
    MarkKindInfo kind = {
        MarkKind::Travel,
        MarkGroup::Room,
        {1, kMostMarkPoints, true},
        with(with(outlineFields("rectangle"),
                  {{"motion", "Moves", V::Choice, "slides", "How it moves", {"slides", "turns"}}}),
             with(motionFields("5", "How far it slides", "motion=slides"),
                  {{"low", "Its lower end", V::Length, "0", "Height above the board under which parts may stand"},
                   {"high", "Its upper end", V::Length, "10", "Height above the board that it reaches"}})),
        "The room that a plug, a screwdriver, a latch or a lever sweeps, also past the board's edge"};
    kind.begin = {{{kLeftFace}, {kFrontFace, HoldAt::Middle, "-5"}}, {{kRightFace}, {kFrontFace}}};
    kind.acts.lay = layTravel;
    kind.acts.keep = keepForTravel;
    kind.hasPotential = true;
    return kind;
}

}  // namespace punch
