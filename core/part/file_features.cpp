// Formations, single features and faces in a part's file.

#include <fmt/format.h>

#include <algorithm>
#include <cmath>

#include "core/part/edit.h"
#include "core/part/file_sections.h"
#include "core/part/formation_kinds.h"
#include "core/part/slots.h"

namespace punch {
namespace {

std::vector<int> wholes(Fields& f, const std::string& key, int most) {
    std::vector<int> values;
    for (const auto& [path, j] : f.list(key)) {
        const double v = f.finite(j, path);
        if (v != std::floor(v) || v < 0 || v > most) f.fail(path, fmt::format("a whole number from 0 to {}", most));
        values.push_back(static_cast<int>(std::clamp(v, 0.0, static_cast<double>(most))));
    }
    return values;
}

Json numbersToJson(const Numbering& n) {
    Json j = {{"start", n.start}, {"step", n.step}, {"from", n.fromLeft ? "left" : "right"}};
    if (n.order != NumberOrder::RowByRow) j["order"] = nameOf(n.order);
    if (!n.fromFront) j["firstRow"] = "rear";
    if (n.rowLetters) j["rowLetters"] = true;
    if (n.shared) j["shared"] = true;
    putText(j, "prefix", n.prefix);
    if (!n.clicked.empty()) j["clicked"] = n.clicked;
    if (!n.own.empty()) j["own"] = n.own;
    return withUnknown(j, n.unknown);
}

Numbering numbersFrom(Fields f) {
    Numbering n;
    n.start = f.whole("start", 1);
    n.step = f.whole("step", 1);
    if (n.step == 0) f.fail(f.at("step"), "a step of 0 gives every pin the same number");
    n.fromLeft = f.oneOf("from", "left", "right");
    n.order = f.choice<NumberOrder>("order", NumberOrder::RowByRow);
    n.fromFront = f.oneOf("firstRow", "front", "rear");
    n.rowLetters = f.flag("rowLetters", false);
    n.shared = f.flag("shared", false);
    n.prefix = f.text("prefix", "");
    n.clicked = f.texts("clicked");
    for (const auto& [pin, j] : f.object("own").all()) {
        if (j.is_string())
            n.own[pin] = j.get<std::string>();
        else
            f.fail(f.at("own"), "a number is a text in quotes");
    }
    n.unknown = f.rest();
    return n;
}

}  // namespace

Json toJson(const Formation& v) {
    Json j = {{"id", v.id}, {"kind", nameOf(v.kind)}, {"pins", v.pins}};
    if (!v.rows.empty()) j["rows"] = v.rows;
    if (!v.leftOut.empty()) j["leftOut"] = v.leftOut;
    if (v.ownPitch) j["ownPitch"] = true;
    if (v.middle) j["middle"] = true;
    if (v.arc) j["arc"] = true;
    if (v.clockwise) j["clockwise"] = true;
    if (traitsOf(v).mirrors) {
        j["twinOf"] = v.twinOf;
        j["mirror"] = nameOf(v.mirror);
    }
    j["lead"] = nameOf(v.lead);
    if (v.end != LeadEnd::Plain) j["end"] = nameOf(v.end);
    if (!v.moved.empty()) j["moved"] = v.moved;
    j["numbers"] = numbersToJson(v.numbers);
    return withUnknown(j, v.unknown);
}

Formation formationFrom(Fields f) {
    Formation v;
    v.id = f.text("id", "");
    v.kind = f.choice<FormationKind>("kind", FormationKind::Row);
    v.pins = f.texts("pins");
    if (v.pins.empty()) f.fail(f.at("pins"), "a formation has at least one pin");
    if (v.pins.size() > static_cast<std::size_t>(kMostPins))
        f.fail(f.at("pins"), fmt::format("{} pins are more than Punchbit places ({})", v.pins.size(), kMostPins));
    v.rows = wholes(f, "rows", kMostPins);
    v.leftOut = wholes(f, "leftOut", kMostPins * kMostPins);
    v.ownPitch = f.flag("ownPitch", false);
    v.middle = f.flag("middle", false);
    v.arc = f.flag("arc", false);
    v.clockwise = f.flag("clockwise", false);
    v.twinOf = f.text("twinOf", "");
    v.mirror = f.choice<Axis>("mirror", Axis::Along);
    if (v.mirror != Axis::Along && v.mirror != Axis::Across)
        f.fail(f.at("mirror"), "a mirror exchanges left and right (“along”) or front and rear (“across”)");
    v.lead = f.choice<LeadShape>("lead", LeadShape::Rectangular);
    v.end = f.choice<LeadEnd>("end", LeadEnd::Plain);
    v.moved = f.texts("moved");
    v.numbers = numbersFrom(f.object("numbers"));
    v.unknown = f.rest();
    if (traitsOf(v).rows && slotCount(Part{}, v) != v.pins.size())
        f.fail(f.at("rows"),
               fmt::format("the rows hold {} pins, but {} are named", slotCount(Part{}, v), v.pins.size()));
    return v;
}

Json toJson(const Spot& v) {
    Json j = {{"id", v.id}, {"name", v.name}, {"kind", nameOf(v.kind)}};
    if (v.flat) j["flat"] = true;
    if (!v.twinOf.empty()) {
        j["twinOf"] = v.twinOf;
        j["mirror"] = nameOf(v.mirror);
    }
    if (v.head > Length()) j["head"] = v.head.mm();
    return withUnknown(j, v.unknown);
}

Spot spotFrom(Fields f) {
    Spot v;
    v.id = f.text("id", "");
    v.kind = f.choice<SpotKind>("kind", SpotKind::Peg);
    v.name = f.text("name", nameOf(v.kind));
    v.flat = f.flag("flat", false);
    v.twinOf = f.text("twinOf", "");
    v.mirror = f.choice<Axis>("mirror", Axis::Along);
    v.head = f.positiveLength("head", Length());
    v.unknown = f.rest();
    return v;
}

Json toJson(const Face& v) {
    return withUnknown({{"id", v.id},
                        {"name", v.name},
                        {"kind", nameOf(v.kind)},
                        {"axis", nameOf(v.axis)},
                        {"outside", v.positive ? "positive" : "negative"}},
                       v.unknown);
}

Face faceFrom(Fields f) {
    Face v;
    v.id = f.text("id", "");
    v.kind = f.choice<FaceKind>("kind", FaceKind::Panel);
    v.name = f.text("name", nameOf(v.kind));
    v.axis = f.choice<Axis>("axis", Axis::Across);
    if (v.axis == Axis::Direct) f.fail(f.at("axis"), "a face stands across one axis: along, across or height");
    v.positive = f.oneOf("outside", "positive", "negative");
    v.unknown = f.rest();
    return v;
}

}  // namespace punch
