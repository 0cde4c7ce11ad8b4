// Pins, bench notes, variants and the history of boards in a part's file.

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

Json toJson(const Variant& v) {
    Json j = {{"name", v.name}};
    putText(j, "description", v.description);
    putText(j, "value", v.value);
    if (!v.pins.empty()) j["pins"] = listToJson(v.pins);
    if (!v.without.empty()) j["without"] = v.without;
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
    v.unknown = f.rest();
    return v;
}

}  // namespace punch
