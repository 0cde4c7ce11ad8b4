// Readings, letters and instruments in a part's file.

#include <fmt/format.h>

#include <cmath>

#include "core/part/drawing_value.h"
#include "core/part/file_sections.h"

namespace punch {
namespace {

// ------------------------------------------------------------------ raw values

Json rawToJson(const RawValue& raw, bool angle) {
    if (angle && !raw.meant && raw.unknown.empty()) {
        if (fmt::format("{}", raw.angle.degrees()) == raw.typed) return raw.angle.degrees();
        return raw.typed;
    }
    if (raw.unit == Unit::Mm && !raw.meant && raw.unknown.empty()) {
        if (fmt::format("{}", raw.value.mm()) == raw.typed) return raw.value.mm();
        return raw.typed;
    }
    Json j = {{"typed", raw.typed}, {"unit", std::string(unitName(raw.unit))}};
    if (raw.meant) j["meant"] = true;
    return withUnknown(j, raw.unknown);
}

RawValue rawFrom(Fields& in, const Json& j, const std::string& path, bool angle) {
    RawValue raw;
    if (j.is_number() && angle) {
        raw.angle = Angle::fromDegrees(in.finite(j, path));
        if (std::abs(raw.angle.degrees()) > 3600) in.fail(path, "more than ten turns");
        raw.typed = fmt::format("{}", raw.angle.degrees());
        return raw;
    }
    if (j.is_number()) {
        raw.value = in.lengthOf(j, path);
        raw.typed = fmt::format("{}", raw.value.mm());
        return raw;
    }
    if (j.is_object()) {
        Fields f = in.sub(j, path);
        raw.typed = f.text("typed", "");
        if (const auto unit = unitFromName(f.text("unit", "mm")))
            raw.unit = *unit;
        else
            f.fail(path + ".unit", unit.error().text());
        raw.meant = f.flag("meant", false);
        raw.unknown = f.rest();
    } else if (j.is_string()) {
        raw.typed = j.get<std::string>();
    } else {
        in.fail(path, "a raw value is a number in mm or a text such as “0.1in”");
        return raw;
    }
    if (angle) {
        if (const auto value = parseAngle(raw.typed))
            raw.angle = *value;
        else
            in.fail(path, value.error().text());
    } else if (const auto value = parseLength(raw.typed, raw.unit)) {
        raw.value = *value;
    } else {
        in.fail(path, value.error().text());
    }
    return raw;
}

// ------------------------------------------------------------------ drawing values

Json drawingToJson(const DrawingValue& v) {
    if (v.unit == Unit::Mm) return v.typed;
    return {{"typed", v.typed}, {"unit", std::string(unitName(v.unit))}};
}

/// A text, or a number in mm, or a text with the unit of its bare numbers. Null and "" are an empty cell.
DrawingValue drawingFrom(Fields& in, const Json& j, const std::string& path) {
    std::string typed;
    Unit unit = Unit::Mm;
    if (j.is_number())
        typed = fmt::format("{}", in.finite(j, path));
    else if (j.is_string())
        typed = j.get<std::string>();
    else if (j.is_object()) {
        Fields f = in.sub(j, path);
        typed = f.text("typed", "");
        if (const auto named = unitFromName(f.text("unit", "mm")))
            unit = *named;
        else
            f.fail(path + ".unit", named.error().text());
    } else if (!j.is_null()) {
        in.fail(path, "a drawing's value is a number in mm or a text such as “20.3 ±0.2”");
    }
    if (typed.empty()) return {};
    const auto value = parseDrawingValue(typed, unit);
    if (value) return *value;
    in.fail(path, value.error().text());
    return {};
}

bool hasTwoEnds(Contact c) { return c == Contact::PictureLength || c == Contact::PictureLevel; }
bool isOfNothing(Contact c) { return c == Contact::Quantity || hasTwoEnds(c); }

Pick pickFrom(Fields f) {
    Pick p;
    p.a = {f.number("x", 0), f.number("y", 0)};
    if (const auto to = f.list("to"); to.size() == 2)
        p.b = {f.finite(to[0].second, to[0].first), f.finite(to[1].second, to[1].first)};
    p.size = f.number("size", 0);
    p.u = f.number("u", p.u);
    p.rim = f.number("rim", 0);
    if (!(std::abs(p.rim) < 1e4)) {
        f.fail(f.at("rim"), "a rim is off by less than 10000 pixels");
        p.rim = 0;
    }
    if (!(p.u > 0 && p.u < 1e5)) {
        f.fail(f.at("u"), "the doubt of a place in a picture is above 0 pixels");
        p.u = 0.5;
    }
    p.unknown = f.rest();
    return p;
}

}  // namespace

// ------------------------------------------------------------------ readings

Json toJson(const Reading& r) {
    const bool angle = r.contact == Contact::Angle;
    Json raw = Json::array();
    for (const RawValue& v : r.raw) raw.push_back(rawToJson(v, angle));
    Json of = Json::array();
    for (const FeatureId& id : {r.a, r.b, r.c})
        if (!id.empty()) of.push_back(id);
    Json j = {{"id", r.id}, {"of", of}, {"contact", nameOf(r.contact)}, {"axis", nameOf(r.axis)}};
    putText(j, "name", r.name);
    if (r.drawing)
        j["drawing"] = drawingToJson(*r.drawing);
    else
        j["raw"] = raw;
    j["instrument"] = r.instrument;
    if (r.fromBelow) j["fromBelow"] = true;
    if (r.isSigned) j["signed"] = true;
    if (r.atEnd) j["atEnd"] = true;
    if (r.specimen != 0) j["specimen"] = r.specimen;
    putText(j, "sameAs", r.sameAs);
    putText(j, "source", r.source);
    if (r.pick) {
        Json pick = {{"x", r.pick->a.x}, {"y", r.pick->a.y}};
        if (hasTwoEnds(r.contact)) pick["to"] = {r.pick->b.x, r.pick->b.y};
        if (r.contact == Contact::Size) pick["size"] = r.pick->size;
        pick["u"] = r.pick->u;
        if (r.pick->rim != 0) pick["rim"] = r.pick->rim;
        j["pick"] = withUnknown(pick, r.pick->unknown);
    }
    if (r.place) j["place"] = {r.place->x, r.place->y};
    putText(j, "note", r.note);
    return withUnknown(j, r.unknown);
}

Reading readingFrom(Fields f) {
    Reading r;
    r.id = f.text("id", "");
    r.contact = f.choice<Contact>("contact", Contact::Outside);
    r.axis = f.choice<Axis>("axis", Axis::Along);
    const auto of = f.texts("of");
    const bool one = r.contact == Contact::Size || r.contact == Contact::Rim || r.contact == Contact::Picture;
    const std::size_t least = isOfNothing(r.contact) ? 0 : one ? 1 : 2;
    const std::size_t most = r.contact == Contact::Angle ? 3 : least;
    if (of.size() < least || of.size() > most)
        f.fail(f.at("of"), fmt::format("“{}” is of {}{} features, not {}", nameOf(r.contact), least,
                                       most > least ? " or 3" : "", of.size()));
    if (!of.empty()) r.a = of[0];
    if (of.size() > 1) r.b = of[1];
    if (of.size() > 2) r.c = of[2];
    r.name = f.text("name", "");
    for (const auto& [path, j] : f.list("raw")) r.raw.push_back(rawFrom(f, j, path, r.contact == Contact::Angle));
    if (const auto drawing = f.json("drawing"); drawing && !drawing->is_null())
        r.drawing = drawingFrom(f, *drawing, f.at("drawing"));
    if (r.drawing && r.drawing->typed.empty()) r.drawing.reset();
    r.instrument = f.text("instrument", r.instrument);
    r.fromBelow = f.flag("fromBelow", false);
    r.isSigned = f.flag("signed", false);
    r.atEnd = f.flag("atEnd", false);
    if (r.atEnd && r.contact != Contact::Size) f.fail(f.at("atEnd"), "only a size is read across a lead's formed end");
    r.specimen = f.whole("specimen", 0);
    if (r.specimen < 0) f.fail(f.at("specimen"), "specimens are counted from 1");
    r.sameAs = f.text("sameAs", "");
    r.source = f.text("source", "");
    if (const auto pick = f.json("pick"); pick && pick->is_object()) r.pick = pickFrom(f.sub(*pick, f.at("pick")));
    if (!r.pick && (r.contact == Contact::Picture || hasTwoEnds(r.contact)))
        f.fail(f.at("pick"), "a reading in a picture has its place there");
    if (const auto place = f.list("place"); place.size() == 2)
        r.place = PixelPoint{f.finite(place[0].second, place[0].first), f.finite(place[1].second, place[1].first)};
    r.note = f.text("note", "");
    r.unknown = f.rest();
    return r;
}

Json toJson(const LetterTable& t) {
    Json letters = Json::array();
    for (const Letter& l : t.letters) {
        Json cells = Json::array();
        for (const DrawingValue& v : l.byVariant) cells.push_back(drawingToJson(v));
        letters.push_back(withUnknown({{"name", l.name}, {"values", cells}}, l.unknown));
    }
    return withUnknown({{"variants", t.variants}, {"variant", t.variant}, {"letters", letters}}, t.unknown);
}

LetterTable letterTableFrom(Fields f) {
    LetterTable t;
    t.variants = f.texts("variants");
    t.variant = f.text("variant", t.variants.empty() ? "" : t.variants.front());
    for (const auto& [path, j] : f.list("letters")) {
        Fields of = f.sub(j, path);
        Letter l;
        l.name = of.text("name", "");
        for (const auto& [cell, value] : of.list("values")) l.byVariant.push_back(drawingFrom(of, value, cell));
        l.unknown = of.rest();
        t.letters.push_back(std::move(l));
    }
    t.unknown = f.rest();
    return t;
}

Json toJson(const Instrument& i) {
    return {{"name", i.name},           {"words", i.words}, {"step", i.step},         {"limit", i.limit},
            {"limitLong", i.limitLong}, {"edge", i.edge},   {"sameEdge", i.sameEdge}, {"byEye", i.byEye}};
}

Instrument instrumentFrom(Fields f) {
    Instrument i;
    i.name = f.text("name", "");
    if (i.name.empty()) f.fail(f.at("name"), "an instrument has a name");
    i.words = f.text("words", i.name);
    i.step = f.share("step", 0);
    i.limit = f.share("limit", 0.02);
    i.limitLong = f.share("limitLong", i.limit);
    i.edge = f.share("edge", 0.01);
    i.sameEdge = f.share("sameEdge", 3 * i.edge);
    i.byEye = f.share("byEye", 0.10);
    return i;
}

}  // namespace punch
