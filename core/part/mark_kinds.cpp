#include "core/part/mark_kinds.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <stdexcept>

#include "core/base/quantity.h"
#include "core/part/drawing_value.h"
#include "core/part/figure.h"

namespace punch {
namespace {

using V = MarkValue;
using Fields = std::vector<MarkField>;

constexpr int kMany = kMostMarkPoints;

const std::vector<const char*> kInkLayers = {"top silkscreen", "assembly", "both", "bottom silkscreen"};
const std::vector<const char*> kForms = {"rectangle", "polygon", "circle", "around the body"};

Fields with(Fields a, const Fields& b) {
    a.insert(a.end(), b.begin(), b.end());
    return a;
}

/// What an outline is made of. Further: a line that encloses nothing, or a slot around one.
Fields outlineFields(const char* form, const char* further = nullptr) {
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
MarkField lineField() { return {"line", "Line", V::Length, "0.15", "Width of the line"}; }
MarkField sizeField(const char* usual, const char* help) { return {"size", "Size", V::Length, usual, help}; }

std::vector<MarkKindInfo> table() {
    std::vector<MarkKindInfo> all;
    all.push_back({MarkKind::FirstPin,
                   MarkGroup::WayRound,
                   {0, 1, false},
                   {{"style",
                     "Looks like",
                     V::Choice,
                     "triangle",
                     "How the first pin is marked",
                     {"triangle", "dot", "bar", "bevelled corner", "number"}},
                    sizeField("0.8", "How large it is"),
                    lineField(),
                    layerField("top silkscreen")},
                   "Points at the first pin, beside the body where there is room; a place of its own puts it there"});
    all.push_back({MarkKind::Notch,
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
                   "Taken out of the body's outline at the end of the first pin"});
    all.push_back(
        {MarkKind::Landmark,
         MarkGroup::WayRound,
         {1, kMany, true},
         with(outlineFields("rectangle"), {{"label", "Name in it", V::Flag, "yes", "Its name is written into it"},
                                           {"filled", "Filled", V::Flag, "no", "Inked all over"},
                                           lineField(),
                                           layerField("both")}),
         "Something on the part that tells its ends apart: a coil, a window, a lever"});
    all.push_back({MarkKind::Sign,
                   MarkGroup::WayRound,
                   {0, 1, false},
                   {{"sign", "Sign", V::Choice, "+", "Polarity", {"+", "-", "~"}},
                    {"pin", "Beside", V::Feature, "", "The pin that has the polarity"},
                    sizeField("1", "How wide it is"),
                    lineField(),
                    layerField("both")},
                   "The polarity of a pin, beside it and off its land"});
    all.push_back({MarkKind::PinText,
                   MarkGroup::WayRound,
                   {0, 0, false},
                   {{"pins", "Pins", V::Pins, "all", "Which pins: numbers, ranges, or all"},
                    {"height", "Height", V::Length, "0.8", "Of capital letters"},
                    lineField(),
                    layerField("top silkscreen")},
                   "Numbers beside pins, outside the body where there is room"});
    const Fields room = {
        {"parts", "For parts", V::Flag, "yes", "No other part stands here, or only low ones"},
        {"height", "Nothing taller than", V::Length, "0", "Parts up to this height may stand here", {}, "parts=yes"},
        {"copper", "For copper", V::Flag, "no", "No copper of the board's own"},
        {"vias", "For vias", V::Flag, "no", "No vias"},
        {"drilling", "For drilling", V::Flag, "no", "No holes at all"},
        {"side",
         "On",
         V::Choice,
         "part side",
         "Which layers of the board it holds on",
         {"part side", "solder side", "both sides", "all layers"}},
        {"band", "Only a band", V::Length, "0", "This wide, inside the edge of its outline; 0: all of it"}};
    all.push_back({MarkKind::Keepout,
                   MarkGroup::Room,
                   {1, kMany, true},
                   with(outlineFields("rectangle"), room),
                   "An area that is kept clear, also past the board's edge"});
    all.push_back({MarkKind::Travel,
                   MarkGroup::Room,
                   {1, kMany, true},
                   with(with(outlineFields("rectangle"),
                             {{"motion", "Moves", V::Choice, "slides", "How it moves", {"slides", "turns"}},
                              {"towards",
                               "Towards",
                               V::Angle,
                               "270",
                               "Direction of the slide: 0 right, 90 to the rear",
                               {},
                               "motion=slides"},
                              {"by", "By", V::Length, "5", "How far it slides", {}, "motion=slides"},
                              {"turn",
                               "Through",
                               V::Angle,
                               "90",
                               "How far it turns, counter-clockwise above 0",
                               {},
                               "motion=turns"},
                              {"axis",
                               "About",
                               V::Feature,
                               kDatumFeature,
                               "The feature whose middle it turns about",
                               {},
                               "motion=turns"},
                              {"axisX",
                               "Axis, x off",
                               V::Length,
                               "0",
                               "The axis lies this far right of that feature",
                               {},
                               "motion=turns"},
                              {"axisY", "Axis, y off", V::Length, "0", "And this far behind it", {}, "motion=turns"}}),
                        {{"low", "Its lower end", V::Length, "0", "Height above the board under which parts may stand"},
                         {"high", "Its upper end", V::Length, "10", "Height above the board that it reaches"}}),
                   "The room that a plug, a screwdriver, a latch or a lever sweeps, also past the board's edge"});
    all.push_back(
        {MarkKind::CutOut,
         MarkGroup::Board,
         {1, kMany, true},
         with(outlineFields("rectangle", "slot"),
              {{"width", "Width", V::Length, "1", "Of the slot, around its two ends", {}, "form=slot"},
               {"bit",
                "Mill bit",
                V::Length,
                "1",
                "Diameter of the bit; inner corners are never sharper",
                {},
                "form!=slot"},
               {"relief",
                "Corner relief",
                V::Flag,
                "no",
                "Inner corners are milled out, so that a square body goes in",
                {},
                "form!=slot"},
               {"plated", "Plated edge", V::Flag, "no",
                "Copper on the wall of the cut, joined to lands around it on both sides"},
               {"rim", "Land around it", V::Length, "0.5", "Width of copper beside the edge", {}, "plated=yes"},
               {"pad", "Joined to", V::Feature, "", "The pad whose number it shares", {}, "plated=yes"}}),
         "What is cut out of the board, for a body that sinks into it"});
    const MarkField pad{"pad", "Joined to", V::Feature, "", "The pad whose number it shares"};
    const MarkField side{
        "side", "On", V::Choice, "part side", "Which side of the board", {"part side", "solder side", "both sides"}};
    all.push_back({MarkKind::CopperArea,
                   MarkGroup::Copper,
                   {1, kMany, true},
                   with(outlineFields("rectangle"), {pad,
                                                     side,
                                                     {"open", "Free of mask", V::Flag, "no",
                                                      "All of it is open; else openings are marks of their own"}}),
                   "Copper larger than its pad: for heat, or for a large current"});
    all.push_back(
        {MarkKind::Opening,
         MarkGroup::Copper,
         {1, kMany, true},
         with(outlineFields("rectangle"),
              {side,
               {"paste", "Paste", V::Choice, "none", "Printed all over it, or in windows", {"none", "all", "windows"}},
               {"across", "Windows across", V::Count, "2", "From left to right", {}, "paste=windows"},
               {"down", "Windows down", V::Count, "2", "From front to rear", {}, "paste=windows"},
               {"web", "Web between", V::Length, "0.3", "Between two windows", {}, "paste=windows"},
               {"share",
                "Share at most, %",
                V::Count,
                "60",
                "Of the opening that paste covers; 0 for any",
                {},
                "paste=windows"}}),
         "An opening of the solder mask over copper; several may lie in one area"});
    all.push_back(
        {MarkKind::ThermalVias,
         MarkGroup::Copper,
         {1, kMany, true},
         with(outlineFields("rectangle"),
              {pad,
               {"hole", "Hole", V::Length, "0.3", "Finished"},
               {"land", "Land", V::Length, "0.7", "Diameter"},
               {"pitch", "Pitch", V::Length, "1.2", "Both ways"},
               {"edge", "From the edge", V::Length, "0.1", "Between a land and the edge of the area"},
               {"offPaste", "Off paste", V::Flag, "yes", "None where paste is printed: it would run into the hole"},
               {"top", "On the part side", V::Choice, "open", "Mask over it", {"open", "tented"}},
               {"bottom", "On the solder side", V::Choice, "tented", "Mask over it", {"open", "tented"}}}),
         "Small plated holes in an area that lead heat through the board, joined to a pad"});
    all.push_back(
        {MarkKind::SurfaceLands,
         MarkGroup::Copper,
         {1, 1, false},
         {{"package",
           "Lead form",
           V::Choice,
           "chip",
           "How its terminals are formed",
           {"chip", "gull wing, two sides", "gull wing, four sides", "J lead, two sides", "J lead, four sides",
            "flat lead, two sides", "no-lead, two sides", "no-lead, four sides", "half holes, two sides",
            "half holes, four sides"}},
          {"overall", "Over the terminals", V::Drawn, "3.0..3.4",
           "As the drawing states it: limits, or with a tolerance"},
          {"overall2", "The other way", V::Drawn, "", "Of four sides: from front to rear; empty: the same"},
          {"terminal", "Terminal length", V::Drawn, "0.3..0.7", "What stands on the board"},
          {"width", "Terminal width", V::Drawn, "1.5..1.7", "Across the terminal"},
          {"pitch", "Pitch", V::Length, "1.27", "Of neighbours on a side"},
          {"count", "On each side", V::Count, "4", "Terminals"},
          {"density", "IPC-7351 density", V::Choice, "B", "A most copper, B nominal, C least", {"A", "B", "C"}},
          {"fabrication", "Fabrication ±", V::Length, "0.10", "Tolerance of the board, F"},
          {"placement", "Placement ±", V::Length, "0.10", "Tolerance of placing, P"},
          {"tabWidth", "Heat tab, width", V::Length, "0", "Its land is as large as it; 0: there is none"},
          {"tabLength", "Heat tab, length", V::Length, "0", "From front to rear"},
          {"start", "First number", V::Count, "1", "Counted counter-clockwise from the left side's rear end"},
          {"turn", "Turned by", V::Angle, "0", "Counter-clockwise"},
          {"lands",
           "Lands",
           V::Choice,
           "by IPC-7351",
           "As computed, or as the drawing recommends them",
           {"by IPC-7351", "the drawing's"}},
          {"drawnOver", "Drawing's, over both", V::Drawn, "", "Outside over both lands, to compare with"},
          {"drawnBetween", "Drawing's, between", V::Drawn, "", "Between both lands, to compare with"},
          {"drawnWidth", "Drawing's, width", V::Drawn, "", "Of a land, to compare with"},
          {"side", "On", V::Choice, "part side", "Which side of the board", {"part side", "solder side"}}},
         "Lands without holes, from package dimensions with limits, by IPC-7351"});
    all.push_back(
        {MarkKind::Fiducial,
         MarkGroup::Copper,
         {1, 1, false},
         {{"reach",
           "Found for",
           V::Choice,
           "the board",
           "Global ones stand in three corners of the board, local ones on a diagonal of a fine-pitch part",
           {"the board", "this part"}},
          {"diameter", "Diameter", V::Length, "1", "Of the bare copper: 1.0 to 3.0, local ones down to 0.5"},
          {"ring", "Clear ring", V::Length, "3", "Diameter that is free of mask, copper and ink: twice to three times"},
          {"side", "On", V::Choice, "part side", "Which side of the board", {"part side", "solder side"}}},
         "A mark that the placement machine looks for: no paste, nothing to buy"});
    all.push_back({MarkKind::Text,
                   MarkGroup::Print,
                   {1, 1, false},
                   {{"text", "Text", V::Text, "{name}", "Fields: {reference}, {name}, {description}"},
                    {"height", "Height", V::Length, "1", "Of capital letters"},
                    lineField(),
                    {"turn", "Turned by", V::Angle, "0", "Counter-clockwise"},
                    {"hold",
                     "Held at",
                     V::Choice,
                     "middle",
                     "Which end of the text stands at its place",
                     {"middle", "left end", "right end"}},
                    layerField("assembly")},
                   "Words, held at a place"});
    all.push_back({MarkKind::Drawing,
                   MarkGroup::Print,
                   {1, kMany, true},
                   with(outlineFields("line", "line"),
                        {{"filled", "Filled", V::Flag, "no", "Inked all over"}, lineField(), layerField("assembly")}),
                   "Lines and areas that are printed"});
    all.push_back({MarkKind::Logo,
                   MarkGroup::Print,
                   {1, 1, false},
                   {{"figure", "Figure", V::Figure, "", "From an SVG or a picture: what is dark in it"},
                    {"file", "From", V::Text, "", "The file that it was brought in from"},
                    {"width", "Width", V::Length, "10", "From its left to its right end"},
                    {"turn", "Turned by", V::Angle, "0", "Counter-clockwise"},
                    {"least", "Thinnest line", V::Length, "0.15",
                     "What is thinner is left out, gaps that are narrower are closed"},
                    {"layer",
                     "Layer",
                     V::Choice,
                     "top silkscreen",
                     "Where it is printed, etched or kept open",
                     {"top silkscreen", "assembly", "both", "bottom silkscreen", "top copper", "bottom copper",
                      "top mask", "bottom mask"}}},
                   "A logo or a sign, made as simple as the board maker can print it"});
    return all;
}

}  // namespace

const std::vector<MarkKindInfo>& markKinds() {
    static const std::vector<MarkKindInfo> all = table();
    return all;
}

const MarkKindInfo& markKind(MarkKind kind) {
    // In the order of the identifiers; a test holds it so.
    return markKinds()[static_cast<std::size_t>(kind)];
}

const MarkField* markField(MarkKind kind, std::string_view key) {
    const auto& fields = markKind(kind).fields;
    const auto it = std::find_if(fields.begin(), fields.end(), [&](const MarkField& f) { return key == f.key; });
    return it == fields.end() ? nullptr : &*it;
}

const char* groupWords(MarkGroup group) {
    switch (group) {
        case MarkGroup::WayRound: return "Which way round";
        case MarkGroup::Room: return "Room";
        case MarkGroup::Board: return "Board";
        case MarkGroup::Copper: return "Copper";
        case MarkGroup::Print: break;
    }
    return "Print";
}

std::string valueOf(const Mark& mark, std::string_view key) {
    if (const auto it = mark.set.find(std::string(key)); it != mark.set.end()) return it->second;
    const MarkField* field = markField(mark.kind, key);
    if (field == nullptr) throw std::logic_error("no field of the mark is named " + std::string(key));
    return field->usual;
}

bool flagOf(const Mark& mark, std::string_view key) { return valueOf(mark, key) == "yes"; }

bool applies(const Mark& mark, const MarkField& field) {
    if (field.onlyWhen == nullptr) return true;
    const std::string_view when = field.onlyWhen;
    const std::size_t at = when.find('=');
    const bool otherwise = at > 0 && when[at - 1] == '!';
    return (valueOf(mark, when.substr(0, otherwise ? at - 1 : at)) == when.substr(at + 1)) != otherwise;
}

Result<std::string> checkedMarkValue(const MarkField& field, const std::string& typed) {
    const std::string what = field.label;
    switch (field.value) {
        case V::Length:
        case V::Angle: {
            const auto wanted = field.value == V::Length ? Formula::Kind::Length : Formula::Kind::Angle;
            const auto formula = Formula::parse(typed, Unit::Mm, wanted, [&](const std::string&) { return wanted; });
            if (!formula) return problem(formula.error().what, what, formula.error().todo);
            return typed;
        }
        case V::Choice: {
            std::string known;
            for (const char* c : field.choices) {
                if (typed == c) return typed;
                known += (known.empty() ? "" : ", ") + std::string(c);
            }
            return problem("“" + typed + "” is none of " + known, what);
        }
        case V::Flag:
            if (typed == "yes" || typed == "no") return typed;
            return problem("“" + typed + "” is neither yes nor no", what);
        case V::Text:
            if (typed.size() > 200) return problem("more than 200 letters", what, "Use several texts");
            return typed;
        case V::Count: {
            const auto number = parseNumber(typed);
            if (!number || *number < 0 || *number > 1e6 || *number != std::floor(*number))
                return problem("“" + typed + "” is no whole number", what, "Type one from 0");
            return fmt::format("{:g}", *number);
        }
        case V::Figure: {
            const auto rings = figureFromText(typed);
            if (!rings) return problem(rings.error().what, what, rings.error().todo);
            return typed;
        }
        case V::Drawn: {
            if (typed.empty()) return typed;
            const auto value = parseDrawingValue(typed, Unit::Mm);
            if (!value) return problem(value.error().what, what, value.error().todo);
            return typed;
        }
        case V::Pins:
        case V::Feature: break;
    }
    return typed;
}

}  // namespace punch
