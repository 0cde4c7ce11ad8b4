// Pins, bench notes, variants and the history of boards in a part's file.

#include <algorithm>
#include <cmath>

#include "core/part/file_sections.h"

namespace punch {

Json toJson(const Pin& p) {
    Json j = {{"number", p.number}};
    if (!p.names.empty()) j["names"] = p.names;
    if (p.kind != PinKind::NotSaid) j["kind"] = nameOf(p.kind);
    if (p.side != PinSide::ByKind) j["side"] = nameOf(p.side);
    putText(j, "group", p.group);
    putText(j, "element", p.element);
    putText(j, "note", p.note);
    if (p.gap > 0) j["gap"] = p.gap;
    if (!p.pads.empty()) j["pads"] = p.pads;
    return withUnknown(j, p.unknown);
}

Pin pinFrom(Fields f) {
    Pin p;
    p.number = f.text("number", "");
    if (p.number.empty()) f.fail(f.at("number"), "a pin has a number");
    p.names = f.texts("names");
    p.kind = f.choice<PinKind>("kind", PinKind::NotSaid);
    p.side = f.choice<PinSide>("side", PinSide::ByKind);
    p.group = f.text("group", "");
    p.element = f.text("element", "");
    p.note = f.text("note", "");
    p.gap = std::clamp(f.whole("gap", 0), 0, 50);
    p.pads = f.texts("pads");
    p.unknown = f.rest();
    return p;
}

Json toJson(const BenchNote& n) {
    Json j = {{"pins", {n.a, n.b}}};
    putText(j, "position", n.position);
    if (n.ohms)
        j["ohms"] = *n.ohms;
    else
        j["open"] = true;
    return withUnknown(j, n.unknown);
}

BenchNote benchNoteFrom(Fields f) {
    BenchNote n;
    const auto pins = f.texts("pins");
    if (pins.size() == 2) {
        n.a = pins[0];
        n.b = pins[1];
    } else
        f.fail(f.at("pins"), "a note is between two pins");
    n.position = f.text("position", "");
    if (f.json("ohms")) {
        n.ohms = f.number("ohms", 0);
        if (!(*n.ohms >= 0 && *n.ohms <= 1e12)) {
            f.fail(f.at("ohms"), "a resistance is 0 to 1e12 ohms");
            n.ohms.reset();
        }
    }
    f.skip("open");
    n.unknown = f.rest();
    return n;
}

Json toJson(const BoardNote& n) {
    Json j = Json::object();
    putText(j, "date", n.date);
    putText(j, "board", n.board);
    putText(j, "words", n.words);
    return withUnknown(j, n.unknown);
}

BoardNote boardNoteFrom(Fields f) {
    BoardNote n;
    n.date = f.text("date", "");
    n.board = f.text("board", "");
    n.words = f.text("words", "");
    n.unknown = f.rest();
    return n;
}

Json toJson(const SymbolShape& s) {
    Json places = Json::array();
    for (const SymbolPlace& p : s.places) places.push_back({p.x, p.y});
    Json j = {{"form", nameOf(s.form)}, {"places", places}};
    putText(j, "text", s.text);
    putText(j, "element", s.element);
    if (s.filled) j["filled"] = true;
    return withUnknown(j, s.unknown);
}

SymbolShape symbolShapeFrom(Fields f) {
    SymbolShape s;
    s.form = f.choice<SymbolForm>("form", SymbolForm::Line);
    for (const auto& [path, j] : f.list("places")) {
        if (!j.is_array() || j.size() != 2) {
            f.fail(path, "a place on the symbol is [x, y] in mm");
            continue;
        }
        const double x = f.finite(j[0], path), y = f.finite(j[1], path);
        if (std::abs(x) > 1000 || std::abs(y) > 1000) f.fail(path, "a symbol is at most 2 m wide");
        s.places.push_back({x, y});
    }
    s.text = f.text("text", "");
    s.element = f.text("element", "");
    s.filled = f.flag("filled", false);
    s.unknown = f.rest();
    return s;
}

Json toJson(const SymbolAttribute& a) {
    Json j = {{"name", a.name}, {"value", a.value}};
    if (a.shown) j["shown"] = true;
    return withUnknown(j, a.unknown);
}

Json toJson(const SymbolDrawing& s) {
    Json j = Json::object();
    if (!s.shapes.empty()) j["shapes"] = listToJson(s.shapes);
    if (!s.attributes.empty()) j["attributes"] = listToJson(s.attributes);
    if (!s.block) j["block"] = false;
    if (!s.referenceShown) j["referenceShown"] = false;
    if (!s.valueShown) j["valueShown"] = false;
    return withUnknown(j, s.unknown);
}

SymbolDrawing symbolFrom(Fields f) {
    SymbolDrawing s;
    for (const auto& [path, j] : f.list("shapes")) s.shapes.push_back(symbolShapeFrom(f.sub(j, path)));
    for (const auto& [path, j] : f.list("attributes")) {
        Fields of = f.sub(j, path);
        SymbolAttribute a;
        a.name = of.text("name", "");
        if (a.name.empty()) of.fail(of.at("name"), "an attribute has a name");
        a.value = of.text("value", "");
        a.shown = of.flag("shown", false);
        a.unknown = of.rest();
        s.attributes.push_back(std::move(a));
    }
    s.block = f.flag("block", true);
    s.referenceShown = f.flag("referenceShown", true);
    s.valueShown = f.flag("valueShown", true);
    s.unknown = f.rest();
    return s;
}

Json toJson(const Variant& v) {
    Json j = {{"name", v.name}};
    putText(j, "description", v.description);
    putText(j, "value", v.value);
    if (!v.pins.empty()) j["pins"] = listToJson(v.pins);
    if (!v.without.empty()) j["without"] = v.without;
    if (!v.with.empty()) j["with"] = listToJson(v.with);
    return withUnknown(j, v.unknown);
}

Variant variantFrom(Fields f) {
    Variant v;
    v.name = f.text("name", "");
    if (v.name.empty()) f.fail(f.at("name"), "a variant has a name");
    v.description = f.text("description", "");
    v.value = f.text("value", "");
    for (const auto& [path, j] : f.list("pins")) v.pins.push_back(pinFrom(f.sub(j, path)));
    v.without = f.texts("without");
    for (const auto& [path, j] : f.list("with")) v.with.push_back(markFrom(f.sub(j, path)));
    v.unknown = f.rest();
    return v;
}

}  // namespace punch
