// Pieces of the body: blocks, cylinders, cones, domes, balls and turned profiles that stand over the board, held on
// what was measured; and how those move that do.

#include <cmath>

#include "core/geometry/sweep.h"
#include "core/marks/fields.h"
#include "core/part/turned_profile.h"
#include "core/shape/mark_laying.h"

namespace punch {
namespace {

using V = MarkValue;

bool moves(const Mark& mark) { return valueOf(mark, "is") == "moving part" && valueOf(mark, "motion") != "not at all"; }

/// An upright slab around what turns about a level axis: across the axis as far as its farthest corner comes.
Polygons tilted(const Polygons& area, const LaidMark& laid, bool alongX) {
    const Rect box = boundsOf(area);
    const Point axis = *laid.axis;
    const Length low = alongX ? box.bottom : box.left, high = alongX ? box.top : box.right,
                 at = alongX ? axis.y : axis.x;
    const double z0 = laid.length("low").mm() - laid.length("axisHigh").mm(),
                 z1 = laid.length("high").mm() - laid.length("axisHigh").mm();
    // Seen along the axis. Turning about +x takes y to z, about +y z to x.
    double least = 1e9, most = -1e9;
    for (const double y : {(low - at).mm(), (high - at).mm()})
        for (const double z : {z0, z1}) {
            const double r = std::hypot(y, z), from = alongX ? std::atan2(z, y) : std::atan2(-z, y),
                         to = from + laid.angle("turn") * M_PI / 180;
            const auto add = [&](double angle) {
                least = std::min(least, r * std::cos(angle));
                most = std::max(most, r * std::cos(angle));
            };
            add(from);
            add(to);
            // And where it is farthest out on the way.
            for (double k = std::ceil(std::min(from, to) / M_PI) * M_PI; k <= std::max(from, to); k += M_PI) add(k);
        }
    const Length a = at + Length::fromMm(least), b = at + Length::fromMm(most);
    Rect swept;
    swept.add(alongX ? Point{box.left, a} : Point{a, box.bottom});
    swept.add(alongX ? Point{box.right, b} : Point{b, box.top});
    return polygonsOf(rectangleRing(swept));
}

void layMotion(MarkLaying& laying) {
    LaidMark& out = laying.out;
    const Polygons shape = polygonsOf(*out.area, Chords::Outside);
    const std::string motion = valueOf(laying.mark, "motion");
    if (motion == "turns") {
        if (out.angles["turn"] == 0) return laying.wrong("it turns by nothing");
        const auto axis = laying.anchors.middle(valueOf(laying.mark, "axis"));
        if (!axis) return laying.wrong("axis: " + axis.error().what);
        laying.note(axis->firm, axis->doubt);
        out.axis = Point{axis->at.x + out.lengths["axisX"], axis->at.y + out.lengths["axisY"]};
        const std::string lies = valueOf(laying.mark, "axisLies");
        out.swept = lies == "upright" ? swung(shape, *out.axis, out.angles["turn"])
                                      : tilted(shape, out, lies == "left to right");
        return;
    }
    if (out.lengths["by"] <= Length()) return laying.wrong("it moves by nothing");
    const double a = out.angles["towards"] * M_PI / 180;
    const Length by = out.lengths["by"];
    out.swept = motion == "slides" ? slid(shape, {by * std::cos(a), by * std::sin(a)}) : united(shape);
}

void layPiece(MarkLaying& laying) {
    const std::string shape = valueOf(laying.mark, "shape");
    const bool circle = valueOf(laying.mark, "form") == "circle";
    const LaidMark& out = laying.out;
    if (shape != "straight" && !circle) return laying.wrong("a " + shape + " stands on a circle");
    if (shape == "turned profile") {
        const auto profile = turnedProfile(valueOf(laying.mark, "profile"));
        if (!profile) return laying.wrong(profile.error().what);
        double widest = 0;
        for (const auto& [r, z] : *profile) widest = std::max(widest, r);
        if (std::abs(widest - out.length("diameter").mm() / 2) > 0.001)
            return laying.wrong("its widest place is not half of its diameter");
    } else if (shape != "ball" && out.length("high") <= out.length("low")) {
        return laying.wrong("its upper end lies below its lower end");
    }
    if (shape == "cone" && out.length("top") < Length())
        return laying.wrong("its diameter at the top is less than nothing");
    if (shape == "dome" && out.length("high") - out.length("low") < out.length("diameter") / 1000)
        return laying.wrong("its dome has no height");
    if (circle && out.length("hole") >= out.length("diameter") && out.length("hole") > Length())
        return laying.wrong("its hole is as wide as it");
    // Details that nobody needs to see.
    if (const Length detail = out.length("detail"); detail > Length() && !circle) {
        const auto areas = areasOf(simplified(polygonsOf(*out.area), detail));
        if (areas.empty()) return laying.wrong("nothing of it is left without its details");
        laying.out.area = areas.front();
    }
    if (moves(laying.mark)) layMotion(laying);
}

/// Where it stands, and where it comes when it moves, nobody else does.
void keepForPiece(const Mark& mark, const LaidMark& laid, Shape& room) {
    const std::string is = valueOf(mark, "is");
    if (is == "lead" || is == "peg") return;
    room.keeps.piece = true;
    room.keeps.travel = moves(mark);
    room.form = room.keeps.travel ? laid.swept : polygonsOf(*laid.area, Chords::Outside);
    room.keeps.maxHeight = max(laid.length("low"), Length());
    room.keeps.reaches = laid.length("high");
}

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::Piece>() {
    using namespace marks;
    MarkKindInfo kind = {
        MarkKind::Piece,
        MarkGroup::Room,
        {1, kMostMarkPoints, true},
        with(with(outlineFields("rectangle"),
                  {{"is", "It is", V::Choice, "body", "What of the part it is", {"body", "lead", "peg", "moving part"}},
                   {"shape",
                    "Shape",
                    V::Choice,
                    "straight",
                    "Over its outline: straight up; over a circle also a cone, a dome, a ball or any turned profile",
                    {"straight", "cone", "dome", "ball", "turned profile"}},
                   {"low", "Its lower end", V::Length, "0",
                    "Height above the seating plane; below 0 it goes into the board"},
                   {"high", "Its upper end", V::Length, "5", "Height above the seating plane", {}, "shape!=ball"},
                   {"top", "Diameter at the top", V::Length, "1", "Of a cone; 0 for a point", {}, "shape=cone"},
                   {"profile",
                    "Profile",
                    V::Text,
                    "2 0, 2 3, 1 4",
                    "Radius and height over its lower end, mm, from below upwards: 3 0, 3 2.5, 1.5 4",
                    {},
                    "shape=turned profile"},
                   {"hole",
                    "Hole through it",
                    V::Length,
                    "0",
                    "Diameter, in its middle; 0: there is none",
                    {},
                    "form=circle"},
                   {"detail",
                    "Leave out below",
                    V::Length,
                    "0",
                    "Steps and notches of its outline that are smaller",
                    {},
                    "form!=circle"},
                   {"motion",
                    "Moves",
                    V::Choice,
                    "not at all",
                    "How it moves",
                    {"not at all", "slides", "rises", "turns"},
                    "is=moving part"}}),
             with(motionFields("2", "How far it slides or rises", "motion=slides|rises"),
                  {{"axisLies",
                    "Axis lies",
                    V::Choice,
                    "upright",
                    "A knob's stands upright, a lever's often lies level",
                    {"upright", "left to right", "front to rear"},
                    "motion=turns"},
                   {"axisHigh",
                    "Axis, height",
                    V::Length,
                    "0",
                    "Of a level axis, above the seating plane",
                    {},
                    "motion=turns"},
                   {"look", "Looks like", V::Choice, "plastic", "What it is made of", {"plastic", "metal", "clear"}},
                   {"colour",
                    "Colour",
                    V::Choice,
                    "slate",
                    "In space, and in STEP",
                    {"slate", "black", "white", "grey", "green", "blue", "red", "yellow", "brown"}}})),
        "A piece of the body, still or moving: a block, a cylinder, a cone, a dome, a ball or a turned profile"};
    kind.begin = bodyCorners();
    kind.acts.lay = layPiece;
    kind.acts.keep = keepForPiece;
    return kind;
}

}  // namespace punch
