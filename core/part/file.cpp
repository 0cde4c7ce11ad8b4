#include "core/part/file.h"

#include <fmt/format.h>

#include "core/base/atomic_file.h"
#include "core/part/edit.h"
#include "core/part/json_fields.h"
#include "core/part/names.h"

namespace punch {
namespace {

using Json = nlohmann::ordered_json;

// ------------------------------------------------------------------ raw values

Json rawToJson(const RawValue& raw) {
    if (raw.unit == Unit::Mm && !raw.meant && raw.unknown.empty()) {
        if (fmt::format("{}", raw.value.mm()) == raw.typed) return raw.value.mm();
        return raw.typed;
    }
    Json j = {{"typed", raw.typed}, {"unit", std::string(unitName(raw.unit))}};
    if (raw.meant) j["meant"] = true;
    return withUnknown(j, raw.unknown);
}

RawValue rawFrom(Fields& in, const Json& j, const std::string& path) {
    RawValue raw;
    if (j.is_number()) {
        raw.value = Length::fromMm(in.finite(j, path));
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
    if (const auto value = parseLength(raw.typed, raw.unit))
        raw.value = *value;
    else
        in.fail(path, value.error().text());
    return raw;
}

// ------------------------------------------------------------------ readings and features

Json toJson(const Reading& r) {
    Json raw = Json::array();
    for (const RawValue& v : r.raw) raw.push_back(rawToJson(v));
    Json of = Json::array({r.a});
    if (!r.b.empty()) of.push_back(r.b);
    Json j = {{"id", r.id},
              {"of", of},
              {"contact", nameOf(r.contact)},
              {"axis", nameOf(r.axis)},
              {"raw", raw},
              {"instrument", r.instrument}};
    putText(j, "source", r.source);
    putText(j, "note", r.note);
    return withUnknown(j, r.unknown);
}

Reading readingFrom(Fields f) {
    Reading r;
    r.id = f.text("id", "");
    const auto of = f.texts("of");
    if (of.empty() || of.size() > 2) f.fail(f.at("of"), "a reading is of one or two features");
    if (!of.empty()) r.a = of[0];
    if (of.size() > 1) r.b = of[1];
    r.contact = f.choice<Contact>("contact", Contact::Outside);
    r.axis = f.choice<Axis>("axis", Axis::Along);
    if ((r.contact == Contact::Size) != r.b.empty())
        f.fail(f.at("of"), "“size” is of one feature, the other contacts are of two");
    for (const auto& [path, j] : f.list("raw")) r.raw.push_back(rawFrom(f, j, path));
    r.instrument = f.text("instrument", r.instrument);
    r.source = f.text("source", "");
    r.note = f.text("note", "");
    r.unknown = f.rest();
    return r;
}

Json toJson(const Formation& v) {
    Json j = {{"id", v.id},
              {"kind", nameOf(v.kind)},
              {"pins", v.pins},
              {"lead", nameOf(v.lead)},
              {"numbers", withUnknown({{"start", v.numbers.start},
                                       {"step", v.numbers.step},
                                       {"from", v.numbers.fromLeft ? "left" : "right"}},
                                      v.numbers.unknown)}};
    return withUnknown(j, v.unknown);
}

Formation formationFrom(Fields f) {
    Formation v;
    v.id = f.text("id", "");
    v.kind = f.choice<FormationKind>("kind", FormationKind::Row);
    v.pins = f.texts("pins");
    if (v.pins.empty()) f.fail(f.at("pins"), "a formation has at least one pin");
    if (v.pins.size() > static_cast<std::size_t>(kMostPins))
        f.fail(f.at("pins"), fmt::format("more than {} pins", kMostPins));
    v.lead = f.choice<LeadShape>("lead", LeadShape::Rectangular);
    Fields n = f.object("numbers");
    v.numbers.start = n.whole("start", 1);
    v.numbers.step = n.whole("step", 1);
    if (v.numbers.step == 0) n.fail(n.at("step"), "a step of 0 gives every pin the same number");
    const std::string from = n.text("from", "left");
    if (from != "left" && from != "right") n.fail(n.at("from"), "either left or right");
    v.numbers.fromLeft = from != "right";
    v.numbers.unknown = n.rest();
    v.unknown = f.rest();
    return v;
}

Json toJson(const Peg& v) { return withUnknown({{"id", v.id}, {"name", v.name}}, v.unknown); }

Peg pegFrom(Fields f) {
    Peg v;
    v.id = f.text("id", "");
    v.name = f.text("name", "peg");
    v.unknown = f.rest();
    return v;
}

// ------------------------------------------------------------------ rules, dress, evidence

Json toJson(const Rules& r) {
    Json j = {{"level", nameOf(r.level)},
              {"hole", nameOf(r.hole)},
              {"holeFactor", r.holeFactor},
              {"leadAtMean", r.leadAtMean},
              {"drills", nameOf(r.drills)},
              {"ownDrills", lengthsToJson(r.ownDrills)},
              {"land", nameOf(r.land)},
              {"ring", r.ring.mm()},
              {"pegClearance", r.pegClearance.mm()},
              {"platedTolerance", r.platedTolerance.mm()},
              {"bareTolerance", r.bareTolerance.mm()},
              {"boardThickness", r.boardThickness.mm()},
              {"voltageColumn", nameOf(r.column)}};
    return withUnknown(j, r.unknown);
}

Rules rulesFrom(Fields f) {
    Rules r;
    r.level = f.choice<Level>("level", r.level);
    r.hole = f.choice<HoleRule>("hole", r.hole);
    r.holeFactor = f.number("holeFactor", r.holeFactor);
    if (r.holeFactor < 1 || r.holeFactor > 10) f.fail(f.at("holeFactor"), "a factor from 1 to 10");
    r.leadAtMean = f.flag("leadAtMean", r.leadAtMean);
    r.drills = f.choice<DrillList>("drills", r.drills);
    for (const auto& [path, j] : f.list("ownDrills")) r.ownDrills.push_back(f.lengthOf(j, path));
    r.land = f.choice<LandRule>("land", r.land);
    r.ring = f.positiveLength("ring", r.ring);
    r.pegClearance = f.positiveLength("pegClearance", r.pegClearance);
    r.platedTolerance = f.positiveLength("platedTolerance", r.platedTolerance);
    r.bareTolerance = f.positiveLength("bareTolerance", r.bareTolerance);
    r.boardThickness = f.positiveLength("boardThickness", r.boardThickness);
    r.column = f.choice<VoltageColumn>("voltageColumn", r.column);
    r.unknown = f.rest();
    return r;
}

Json toJson(const Potential& p) {
    Json j = {
        {"name", p.name}, {"kind", nameOf(p.kind)}, {"volts", p.volts.volts()}, {"source", p.source}, {"pins", p.pins}};
    return withUnknown(j, p.unknown);
}

Potential potentialFrom(Fields f) {
    Potential p;
    p.name = f.text("name", "");
    p.kind = f.choice<PotentialKind>("kind", p.kind);
    p.volts = Voltage::fromVolts(f.number("volts", 0));
    if (p.kind == PotentialKind::Ac && p.volts < Voltage()) f.fail(f.at("volts"), "r.m.s. volts are not negative");
    if (abs(p.volts) > Voltage::fromVolts(100000)) f.fail(f.at("volts"), "more than 100 kV");
    p.source = f.text("source", p.source);
    p.pins = f.texts("pins");
    p.unknown = f.rest();
    return p;
}

Json toJson(const Keepout& k) {
    Json j = {{"id", k.id},
              {"name", k.name},
              {"side", nameOf(k.side)},
              {"depth", k.depth.mm()},
              {"maxHeight", k.maxHeight.mm()}};
    return withUnknown(j, k.unknown);
}

Keepout keepoutFrom(Fields f) {
    Keepout k;
    k.id = f.text("id", "");
    k.name = f.text("name", "");
    k.side = f.choice<Side>("side", k.side);
    k.depth = f.positiveLength("depth", k.depth);
    k.maxHeight = f.positiveLength("maxHeight", k.maxHeight);
    k.unknown = f.rest();
    return k;
}

Json toJson(const Dress& d) {
    Json keepouts = Json::array();
    for (const Keepout& k : d.keepouts) keepouts.push_back(toJson(k));
    Json j = {{"outline", d.outline},
              {"outlineAllowance", d.outlineAllowance.mm()},
              {"line", d.line.mm()},
              {"mark", nameOf(d.mark)},
              {"referenceText", d.referenceText},
              {"valueText", d.valueText},
              {"textHeight", d.textHeight.mm()},
              {"density", nameOf(d.density)},
              {"courtyardExcess", d.courtyardExcess ? Json(d.courtyardExcess->mm()) : Json(nullptr)},
              {"keepouts", keepouts}};
    return withUnknown(j, d.unknown);
}

Dress dressFrom(Fields f) {
    Dress d;
    d.outline = f.flag("outline", d.outline);
    d.outlineAllowance = f.positiveLength("outlineAllowance", d.outlineAllowance);
    d.line = f.positiveLength("line", d.line);
    if (d.line < Length::fromMm(0.01)) f.fail(f.at("line"), "a line is at least 0.01 mm wide");
    d.mark = f.choice<PinOneMark>("mark", d.mark);
    d.referenceText = f.flag("referenceText", d.referenceText);
    d.valueText = f.flag("valueText", d.valueText);
    d.textHeight = f.positiveLength("textHeight", d.textHeight);
    d.density = f.choice<Density>("density", d.density);
    d.courtyardExcess = f.optionalLength("courtyardExcess");
    for (const auto& [path, j] : f.list("keepouts")) d.keepouts.push_back(keepoutFrom(f.sub(j, path)));
    d.unknown = f.rest();
    return d;
}

Json toJson(const Source& s) {
    Json j = {{"id", s.id}, {"title", s.title}};
    putText(j, "link", s.link);
    putText(j, "picture", s.picture);
    putText(j, "note", s.note);
    return withUnknown(j, s.unknown);
}

Source sourceFrom(Fields f) {
    Source s;
    s.id = f.text("id", "");
    s.title = f.text("title", "");
    s.link = f.text("link", "");
    s.picture = f.text("picture", "");
    s.note = f.text("note", "");
    s.unknown = f.rest();
    return s;
}

std::map<std::string, Length> lengthMap(Fields f) {
    std::map<std::string, Length> values;
    for (const auto& [key, j] : f.all()) values[key] = f.lengthOf(j, f.at(key));
    return values;
}

template <class T>
Json listToJson(const std::vector<T>& values) {
    Json j = Json::array();
    for (const T& v : values) j.push_back(toJson(v));
    return j;
}

Part partFrom(Fields f) {
    Part p;
    p.name = f.text("name", p.name);
    p.description = f.text("description", "");
    p.reference = f.text("reference", p.reference);
    p.notes = f.text("notes", "");
    for (const auto& [path, j] : f.list("sources")) p.sources.push_back(sourceFrom(f.sub(j, path)));
    for (const auto& [path, j] : f.list("formations")) p.formations.push_back(formationFrom(f.sub(j, path)));
    if (p.formations.empty()) f.fail(f.at("formations"), "a part has at least one formation");
    for (const auto& [path, j] : f.list("pegs")) p.pegs.push_back(pegFrom(f.sub(j, path)));
    Fields body = f.object("body");
    p.body.present = body.flag("present", true);
    p.body.standoff = body.lengthAt("standoff", Length());
    p.body.unknown = body.rest();
    for (const auto& [path, j] : f.list("readings")) p.readings.push_back(readingFrom(f.sub(j, path)));
    p.assumed = lengthMap(f.object("assumed"));
    p.taken = lengthMap(f.object("taken"));
    Fields datum = f.object("datum");
    p.datum.kind = datum.choice<DatumKind>("at", p.datum.kind);
    p.datum.feature = datum.text("feature", "");
    p.datum.unknown = datum.rest();
    p.rules = rulesFrom(f.object("rules"));
    for (const auto& [path, j] : f.list("potentials")) p.potentials.push_back(potentialFrom(f.sub(j, path)));
    p.dress = dressFrom(f.object("dress"));
    p.nextId = std::max(f.whole("nextId", 1), 1);
    p.unknown = f.rest();
    repairIdentifiers(p, f);
    return p;
}

}  // namespace

std::string toText(const Part& p) {
    Json datum = {{"at", nameOf(p.datum.kind)}};
    putText(datum, "feature", p.datum.feature);
    Json j = {{"punchbit", kFileVersion},
              {"name", p.name},
              {"description", p.description},
              {"reference", p.reference},
              {"notes", p.notes},
              {"sources", listToJson(p.sources)},
              {"formations", listToJson(p.formations)},
              {"pegs", listToJson(p.pegs)},
              {"body", withUnknown({{"present", p.body.present}, {"standoff", p.body.standoff.mm()}}, p.body.unknown)},
              {"readings", listToJson(p.readings)},
              {"assumed", lengthsToJson(p.assumed)},
              {"taken", lengthsToJson(p.taken)},
              {"datum", withUnknown(datum, p.datum.unknown)},
              {"rules", toJson(p.rules)},
              {"potentials", listToJson(p.potentials)},
              {"dress", toJson(p.dress)},
              {"nextId", p.nextId}};
    return withUnknown(j, p.unknown).dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

Result<Part> fromText(std::string_view text, const std::string& where) {
    Json j;
    try {
        j = Json::parse(text);
    } catch (const Json::parse_error& e) {
        return problem(fmt::format("the file is not complete JSON (at byte {})", e.byte), where,
                       "It may be cut off: take an older copy from version control");
    }
    if (!j.is_object() || !j.contains("punchbit"))
        return problem("this is no Punchbit part", where, "Open a file with the field “punchbit”");
    const Json& version = j["punchbit"];
    if (!version.is_number_integer() || version.get<int>() < 1)
        return problem("the file's version is not a number", where, "Open a file that Punchbit wrote");
    if (version.get<int>() > kFileVersion)
        return problem(
            fmt::format("the file has version {}, this program reads up to {}", version.get<int>(), kFileVersion),
            where, "Use a newer Punchbit");
    std::vector<std::string> errors;
    Fields fields(j, "", errors);
    fields.skip("punchbit");
    Part part = partFrom(fields);
    if (!errors.empty()) {
        const std::string more = errors.size() > 1 ? fmt::format(" (and {} more)", errors.size() - 1) : "";
        return problem(errors.front() + more, where, "Mend the field in a text editor");
    }
    return part;
}

Result<Part> loadPart(const std::filesystem::path& file) {
    const auto text = readWhole(file);
    if (!text) return tl::make_unexpected(text.error());
    return fromText(*text, file.string());
}

Result<void> savePart(const Part& part, const std::filesystem::path& file) {
    return writeAtomically(file, toText(part));
}

}  // namespace punch
