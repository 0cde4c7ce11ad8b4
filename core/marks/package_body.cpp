// Package bodies: a housing of a usual form over its pins, from package dimensions, with real leads (core/body).

#include <algorithm>

#include "core/marks/fields.h"
#include "core/part/carriers.h"
#include "core/shape/mark_laying.h"

namespace punch {
namespace {

using V = MarkValue;
using marks::bodyMiddle;

void layPackageBody(MarkLaying& laying, const std::vector<FeatureId>& pins) {
    LaidMark& out = laying.out;
    if (pins.empty()) return laying.wrong("it has no pins to stand on");
    Rect around;
    for (const FeatureId& pin : pins) {
        const auto at = laying.anchors.middle(pin);
        if (!at) return laying.wrong(at.error().what);
        laying.note(at->firm, at->doubt);
        around.add(at->at);
    }
    if (out.points.empty()) out.points = {around.middle()};
    const Point middle = out.points.front();
    if (out.length("height") <= Length()) return laying.wrong("it has no height");
    for (const char* field : {"leadWidth", "leadThick", "leadLength"})
        if (out.length(field) < Length()) return laying.wrong("its leads have no section");
    if (out.length("length") <= Length() || out.length("width") <= Length()) return laying.wrong("it has no size");
    const std::string form = valueOf(laying.mark, "package");
    if (form == "axial leads" && pins.size() != 2) return laying.wrong("axial leads are two");
    if (form == "round can" || (form == "radial leads" && flagOf(laying.mark, "round"))) {
        out.area = Area{circle(middle, out.length("length")), {}};
        return;
    }
    const Rect box = Rect::around(middle, out.length("length"), out.length("width"));
    out.area = Area{turned(rectangleRing(box), middle, out.angle("turn")), {}};
}

void layOnPins(MarkLaying& laying) {
    const std::string typed = valueOf(laying.mark, "pins");
    if (typed == "all") return layPackageBody(laying, allPins(laying.part()));
    const auto named = carriersByWords(laying.part(), typed);
    if (!named) return laying.wrong(named.error().what);
    layPackageBody(laying, *named);
}

/// As large as the body was read, and where it stands.
void beginPackageBody(Mark& mark, const Part& part) {
    if (!part.body.present) return;
    mark.points = bodyMiddle();
    mark.set["length"] = "body.right - body.left";
    mark.set["width"] = "body.rear - body.front";
    mark.set["height"] = "body.height";
}

void keepForPackageBody(const Mark&, const LaidMark& laid, Shape& room) {
    room.keeps.piece = true;
    room.form = polygonsOf(*laid.area, Chords::Outside);
    room.keeps.reaches = laid.length("standoff") + laid.length("height");
}

}  // namespace

template <>
MarkKindInfo kindInfo<MarkKind::PackageBody>() {
    using namespace marks;
    MarkKindInfo kind = {
        MarkKind::PackageBody,
        MarkGroup::Room,
        {0, 1, false},
        {{"package",
          "Package",
          V::Choice,
          "dual in-line",
          "What it is",
          {"dual in-line", "single in-line", "radial leads", "axial leads", "pin header", "socket strip",
           "terminal block", "round can"}},
         {"pins", "Its pins", V::Pins, "all", "Which pins are its leads: numbers, ranges, or all"},
         {"length",
          "Length",
          V::Length,
          "10",
          "Of its body along the first row; of a round one its diameter",
          {},
          nullptr,
          true},
         {"width", "Width", V::Length, "6.4", "Of its body across", {}, nullptr, true},
         {"height", "Height", V::Length, "4", "Of its body, without the standoff", {}, nullptr, true},
         {"standoff", "Standoff", V::Length, "0", "From the board to the underside of its body"},
         {"leadWidth", "Lead width", V::Length, "0", "Across a lead; of a round one its diameter; 0: as it was read"},
         {"leadThick", "Lead thickness", V::Length, "0", "The other way; 0: as it was read"},
         {"leadLength", "Leads below", V::Length, "0", "From the board's upper face to their ends; 0: as it was read"},
         {"pinHeight",
          "Pins above",
          V::Length,
          "6",
          "Of a pin header: from the top of its body to the ends of its pins",
          {},
          "package=pin header"},
         {"round", "Round body", V::Flag, "yes", "A drop or a can; else a box", {}, "package=radial leads"},
         {"tips",
          "Ends of leads",
          V::Choice,
          "straight",
          "How their lower ends are formed",
          {"straight", "bevelled", "pointed"}},
         {"bend", "Bend radius", V::Length, "0.4", "Of formed leads, in their middle"},
         {"turn", "Turned by", V::Angle, "0", "Of its length from the direction to the right, counter-clockwise"},
         {"marked", "Pin 1 marked", V::Flag, "yes", "A notch, a dot or a bevel at its first pin"},
         {"look", "Looks like", V::Choice, "plastic", "What its body is made of", {"plastic", "metal", "clear"}},
         {"colour",
          "Colour",
          V::Choice,
          "black",
          "In space, and in STEP",
          {"slate", "black", "white", "grey", "green", "blue", "red", "yellow", "brown"}}},
        "A housing of a usual form, with its leads, over the part's pins"};
    kind.acts.begin = beginPackageBody;
    kind.acts.lay = layOnPins;
    kind.acts.keep = keepForPackageBody;
    return kind;
}

}  // namespace punch
