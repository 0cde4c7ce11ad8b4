// Fields and first places that several kinds of marks share.

#include "core/marks/fields.h"

#include "core/part/names.h"

namespace punch {
namespace marks {
namespace {

using V = MarkValue;

const std::vector<const char*> kInkLayers = {"top silkscreen", "assembly", "both", "bottom silkscreen"};
const std::vector<const char*> kForms = {"rectangle", "polygon", "circle", "around the body"};

}  // namespace

std::vector<MarkField> with(std::vector<MarkField> a, const std::vector<MarkField>& b) {
    a.insert(a.end(), b.begin(), b.end());
    return a;
}

std::vector<MarkField> motionFields(const char* by, const char* byHelp, const char* byWhen) {
    return {
        {"towards", "Towards", V::Angle, "270", "Direction of the slide: 0 right, 90 to the rear", {}, "motion=slides"},
        {"by", "By", V::Length, by, byHelp, {}, byWhen},
        {"turn", "Through", V::Angle, "90", "How far it turns, counter-clockwise above 0", {}, "motion=turns"},
        {"axis", "About", V::Feature, kDatumFeature, "The feature whose middle it turns about", {}, "motion=turns"},
        {"axisX", "Axis, x off", V::Length, "0", "The axis lies this far right of that feature", {}, "motion=turns"},
        {"axisY", "Axis, y off", V::Length, "0", "And this far behind it", {}, "motion=turns"}};
}

std::vector<MarkField> outlineFields(const char* form, const char* further) {
    std::vector<const char*> forms = kForms;
    if (further != nullptr) forms.push_back(further);
    return {
        {"form", "Form", V::Choice, form, "Two opposite corners, a row of corners, a middle, or the body's own outline",
         forms},
        {"diameter", "Diameter", V::Length, "2", "Of the circle", {}, "form=circle"},
        {"grow",
         "Larger by",
         V::Length,
         "0",
         "Beyond the body on every side; less than 0 is smaller",
         {},
         "form=around the body"},
        {"corner", "Corners", V::Length, "0", "Radius of a rectangle's corners", {}, "form=rectangle"},
        {"half",
         "Half, mirrored",
         V::Flag,
         "no",
         "The other half is the mirror image about the upright line through the first and the last corner",
         {},
         "form=polygon"},
    };
}

MarkField layerField(const char* usual) {
    return {"layer", "Layer", V::Choice, usual, "Where it is printed", kInkLayers};
}
MarkField lineField() { return {"line", "Line", V::Length, "0.15", "Width of the line", {}, nullptr, true}; }
MarkField sizeField(const char* usual, const char* help) {
    return {"size", "Size", V::Length, usual, help, {}, nullptr, true};
}
MarkField heightField(const char* usual) {
    return {"height", "Height", V::Length, usual, "Of capital letters", {}, nullptr, true};
}
MarkField padField(const char* onlyWhen) {
    return {"pad", "Joined to", V::Feature, "", "The pad whose number it shares", {}, onlyWhen};
}
MarkField sideField(bool both) {
    MarkField field{"side", "On", V::Choice, "part side", "Which side of the board", {"part side", "solder side"}};
    if (both) field.choices.push_back("both sides");
    return field;
}

std::vector<Anchored> bodyCorners() {
    return {{{kBody, HoldAt::Low}, {kBody, HoldAt::Low}}, {{kBody, HoldAt::High}, {kBody, HoldAt::High}}};
}
std::vector<Anchored> bodyMiddle() { return {{{kBody}, {kBody}}}; }
std::vector<Anchored> bodyMiddleLine() { return {{{kBody, HoldAt::Low}, {kBody}}, {{kBody, HoldAt::High}, {kBody}}}; }

}  // namespace marks

}  // namespace punch
