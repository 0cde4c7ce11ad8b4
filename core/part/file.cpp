#include "core/part/file.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/base/atomic_file.h"
#include "core/base/json_text.h"
#include "core/part/file_sections.h"
#include "core/part/names.h"

namespace punch {
Json toJson(const Source& s) {
    Json j = {{"id", s.id}, {"title", s.title}};
    putText(j, "link", s.link);
    putText(j, "picture", s.picture);
    putText(j, "note", s.note);
    putText(j, "seen", s.seen);
    if (s.state != SourceState::NotSaid) j["state"] = nameOf(s.state);
    if (s.face != PictureFace::NotSaid) j["face"] = nameOf(s.face);
    if (s.page != 0) j["page"] = s.page;
    if (s.left != 0 || s.top != 0) j["corner"] = {s.left, s.top};
    if (s.width > 0) j["pixels"] = {s.width, s.height};
    if (s.dpi > 0) j["dpi"] = s.dpi;
    if (s.dpi > 0 && !s.dpiStated) j["dpiStated"] = false;
    if (s.exactScale) j["exactScale"] = true;
    if (s.mmPerUnit > 0) j["mmPerUnit"] = s.mmPerUnit;
    if (s.above.nm() != 0) j["above"] = s.above.mm();
    return withUnknown(j, s.unknown);
}

Source sourceFrom(Fields f) {
    Source s;
    s.id = f.text("id", "");
    s.title = f.text("title", "");
    s.link = f.text("link", "");
    s.picture = f.text("picture", "");
    s.note = f.text("note", "");
    s.seen = f.text("seen", "");
    s.state = f.choice<SourceState>("state", SourceState::NotSaid);
    s.face = f.choice<PictureFace>("face", PictureFace::NotSaid);
    s.page = std::max(0, f.whole("page", 0));
    if (const auto pixels = f.list("pixels"); pixels.size() == 2) {
        s.width = static_cast<int>(std::clamp(f.finite(pixels[0].second, pixels[0].first), 0.0, 1e6));
        s.height = static_cast<int>(std::clamp(f.finite(pixels[1].second, pixels[1].first), 0.0, 1e6));
    }
    if (const auto corner = f.list("corner"); corner.size() == 2) {
        s.left = static_cast<int>(std::clamp(f.finite(corner[0].second, corner[0].first), 0.0, 1e6));
        s.top = static_cast<int>(std::clamp(f.finite(corner[1].second, corner[1].first), 0.0, 1e6));
    }
    s.dpi = f.number("dpi", 0);
    if (s.dpi != 0 && !(s.dpi >= 1 && s.dpi <= 100000)) {
        f.fail(f.at("dpi"), "a picture has 1 to 100000 dots per inch");
        s.dpi = 0;
    }
    s.dpiStated = f.flag("dpiStated", s.dpi > 0);
    s.exactScale = f.flag("exactScale", false);
    s.mmPerUnit = f.number("mmPerUnit", 0);
    if (!(s.mmPerUnit >= 0 && s.mmPerUnit < 1e6)) {
        f.fail(f.at("mmPerUnit"), "a drawing's unit is a length in mm");
        s.mmPerUnit = 0;
    }
    s.above = f.lengthAt("above", {});
    s.unknown = f.rest();
    return s;
}

namespace {

Json toJson(const Trace& t) {
    Json points = Json::array();
    for (const PixelPoint& p : t.points) points.push_back({p.x, p.y});
    Json j = {{"source", t.source}, {"points", points}};
    if (t.half) j["half"] = true;
    if (t.leaveOut.nm() != 0) j["leaveOut"] = t.leaveOut.mm();
    return withUnknown(j, t.unknown);
}

Trace traceFrom(Fields f) {
    Trace t;
    t.source = f.text("source", "");
    for (const auto& [path, j] : f.list("points")) {
        if (!j.is_array() || j.size() != 2) {
            f.fail(path, "a place in a picture is [x, y]");
            continue;
        }
        t.points.push_back({f.finite(j[0], path), f.finite(j[1], path)});
    }
    t.half = f.flag("half", false);
    t.leaveOut = f.lengthAt("leaveOut", {});
    t.unknown = f.rest();
    return t;
}

std::map<std::string, Length> lengthMap(Fields f) {
    std::map<std::string, Length> values;
    for (const auto& [key, j] : f.all()) values[key] = f.lengthOf(j, f.at(key));
    return values;
}

Json givenToJson(const std::map<std::string, Given>& given) {
    Json j = Json::object();
    for (const auto& [name, g] : given) {
        if (g.unit == Unit::Mm)
            j[name] = g.typed;
        else
            j[name] = {{"typed", g.typed}, {"unit", std::string(unitName(g.unit))}};
    }
    return j;
}

std::map<std::string, Given> givenFrom(Fields f) {
    std::map<std::string, Given> given;
    for (const auto& [name, j] : f.all()) {
        Given g;
        if (j.is_number()) {
            g.typed = fmt::format("{}", f.finite(j, f.at(name)));
        } else if (j.is_string()) {
            g.typed = j.get<std::string>();
        } else {
            Fields of = f.sub(j, f.at(name));
            g.typed = of.text("typed", "");
            if (const auto unit = unitFromName(of.text("unit", "mm")))
                g.unit = *unit;
            else
                f.fail(f.at(name) + ".unit", unit.error().text());
        }
        given[name] = g;
    }
    return given;
}

std::map<std::string, Angle> angleMap(Fields f) {
    std::map<std::string, Angle> values;
    for (const auto& [key, j] : f.all()) values[key] = Angle::fromDegrees(f.finite(j, f.at(key)));
    return values;
}

/// Makes stand whole in the part, and could in turn; one has no makes of its own.
constexpr int kMostMakes = 24;

/// A part that stands in another one holds no makes and no versions.
Part partFrom(Fields f, bool inAnother = false);
Json partToJson(const Part& p);

}  // namespace

Json toJson(const Make& m) {
    Json j = {{"name", m.name}};
    putText(j, "file", m.file);
    if (m.by != JoinBy::Leads) j["by"] = nameOf(m.by);
    if (!m.part.empty()) j["part"] = partToJson(m.part.front());
    return withUnknown(j, m.unknown);
}

namespace {

Json toJson(const Signed& s) {
    Json j = Json::object();
    putText(j, "by", s.by);
    putText(j, "date", s.date);
    putText(j, "digest", s.digest);
    return withUnknown(j, s.unknown);
}

Signed signedFrom(Fields f) {
    Signed s;
    s.by = f.text("by", "");
    s.date = f.text("date", "");
    s.digest = f.text("digest", "");
    s.unknown = f.rest();
    return s;
}

Json toJson(const LetPass& p) {
    Json j = {{"gauge", p.gauge}, {"says", p.says}, {"reason", p.reason}};
    if (p.value) j["value"] = *p.value;
    putText(j, "by", p.by);
    putText(j, "date", p.date);
    return withUnknown(j, p.unknown);
}

std::vector<LetPass> passesFrom(Fields& f, const std::string& key) {
    std::vector<LetPass> all;
    for (const auto& [path, j] : f.list(key)) {
        Fields of = f.sub(j, path);
        LetPass p;
        p.gauge = of.text("gauge", "");
        p.says = of.text("says", "");
        if (of.json("value")) p.value = of.number("value", 0);
        p.reason = of.text("reason", "");
        p.by = of.text("by", "");
        p.date = of.text("date", "");
        p.unknown = of.rest();
        all.push_back(std::move(p));
    }
    return all;
}

Json passesToJson(const std::vector<LetPass>& passes) {
    Json j = Json::array();
    for (const LetPass& p : passes) j.push_back(toJson(p));
    return j;
}

Json toJson(const Version& v) {
    Json j = {{"number", v.number}};
    putText(j, "note", v.note);
    putText(j, "program", v.program);
    j["released"] = toJson(v.released);
    if (!v.passed.empty()) j["passed"] = passesToJson(v.passed);
    if (!v.frozen.empty()) j["part"] = partToJson(v.frozen.front());
    return withUnknown(j, v.unknown);
}

Version versionFrom(Fields f) {
    Version v;
    v.number = f.whole("number", 1);
    if (v.number < 1) f.fail(f.at("number"), "versions are counted from 1");
    v.note = f.text("note", "");
    v.program = f.text("program", "");
    v.released = signedFrom(f.object("released"));
    v.passed = passesFrom(f, "passed");
    if (const auto part = f.json("part")) {
        if (part->is_object())
            v.frozen.push_back(partFrom(f.sub(*part, f.at("part")), true));
        else
            f.fail(f.at("part"), "a version holds a part");
    }
    v.unknown = f.rest();
    return v;
}

Json toJson(const Approval& a) {
    Json j = Json::object();
    if (a.checked != Signed{}) j["checked"] = toJson(a.checked);
    if (!a.passes.empty()) j["passes"] = passesToJson(a.passes);
    Json versions = Json::array();
    for (const Version& v : a.versions) versions.push_back(toJson(v));
    if (!versions.empty()) j["versions"] = versions;
    return withUnknown(j, a.unknown);
}

Approval approvalFrom(Fields f) {
    Approval a;
    a.checked = signedFrom(f.object("checked"));
    a.passes = passesFrom(f, "passes");
    for (const auto& [path, j] : f.list("versions")) a.versions.push_back(versionFrom(f.sub(j, path)));
    a.unknown = f.rest();
    return a;
}

Make makeFrom(Fields f) {
    Make m;
    m.name = f.text("name", "");
    m.file = f.text("file", "");
    m.by = f.choice<JoinBy>("by", JoinBy::Leads);
    if (const auto part = f.json("part")) {
        if (part->is_object())
            m.part.push_back(partFrom(f.sub(*part, f.at("part")), true));
        else
            f.fail(f.at("part"), "a make is a part");
    }
    m.unknown = f.rest();
    return m;
}

Part partFrom(Fields f, bool inAnother) {
    Part p;
    p.name = f.text("name", p.name);
    p.description = f.text("description", "");
    p.reference = f.text("reference", p.reference);
    p.value = f.text("value", "");
    p.notes = f.text("notes", "");
    p.kind = f.choice<PartKind>("kind", p.kind);
    for (const auto& [path, j] : f.list("sources")) p.sources.push_back(sourceFrom(f.sub(j, path)));
    for (const auto& [path, j] : f.list("formations")) p.formations.push_back(formationFrom(f.sub(j, path)));
    if (!f.json("formations"))
        f.fail(f.at("formations"), "a part says its formations, if only that there are none: []");
    for (const auto& [path, j] : f.list("pegs")) p.spots.push_back(spotFrom(f.sub(j, path)));
    for (const auto& [path, j] : f.list("features")) p.spots.push_back(spotFrom(f.sub(j, path)));
    for (const auto& [path, j] : f.list("faces")) p.faces.push_back(faceFrom(f.sub(j, path)));
    Fields body = f.object("body");
    p.body.present = body.flag("present", true);
    p.body.standoff = body.lengthAt("standoff", Length());
    if (const auto trace = body.json("trace"); trace && trace->is_object())
        p.body.trace = traceFrom(body.sub(*trace, body.at("trace")));
    p.body.unknown = body.rest();
    for (const auto& [path, j] : f.list("readings")) p.readings.push_back(readingFrom(f.sub(j, path)));
    p.assumed = lengthMap(f.object("assumed"));
    p.taken = lengthMap(f.object("taken"));
    p.given = givenFrom(f.object("given"));
    p.turned = angleMap(f.object("turned"));
    p.letters = letterTableFrom(f.object("letters"));
    for (const auto& [path, j] : f.list("instruments")) p.instruments.push_back(instrumentFrom(f.sub(j, path)));
    p.zeros = f.texts("zeros");
    Fields datum = f.object("datum");
    p.datum.kind = datum.choice<DatumKind>("at", p.datum.kind);
    p.datum.feature = datum.text("feature", "");
    p.datum.second = datum.text("second", "");
    p.datum.unknown = datum.rest();
    p.rules = rulesFrom(f.object("rules"));
    for (const auto& [path, j] : f.list("potentials")) p.potentials.push_back(potentialFrom(f.sub(j, path)));
    for (const auto& [path, j] : f.list("cutOuts")) p.marks.push_back(cutOutBeforeMarks(f.sub(j, path)));
    Fields overrides = f.object("overrides");
    for (const auto& [key, j] : overrides.all())
        p.overrides[key] = padOverrideFrom(overrides.sub(j, overrides.at(key)));
    Fields dress = f.object("dress");
    for (const auto& [path, j] : dress.list("keepouts")) p.marks.push_back(keepoutFromVersion1(f.sub(j, path)));
    p.dress = dressFrom(f.object("dress"));
    for (const auto& [path, j] : f.list("marks")) p.marks.push_back(markFrom(f.sub(j, path)));
    for (const auto& [path, j] : f.list("solids")) p.solids.push_back(solidFrom(f.sub(j, path)));
    for (const auto& [path, j] : f.list("pins")) p.pins.push_back(pinFrom(f.sub(j, path)));
    for (const auto& [path, j] : f.list("benchNotes")) p.benchNotes.push_back(benchNoteFrom(f.sub(j, path)));
    for (const auto& [path, j] : f.list("history")) p.history.push_back(boardNoteFrom(f.sub(j, path)));
    for (const auto& [path, j] : f.list("variants")) p.variants.push_back(variantFrom(f.sub(j, path)));
    p.symbol = symbolFrom(f.object("symbol"));
    p.family = familyFrom(f.object("family"));
    p.sample = sampleFrom(f.object("sample"));
    p.copiedFrom = f.text("copiedFrom", "");
    if (!inAnother) {
        for (const auto& [path, j] : f.list("makes")) p.makes.push_back(makeFrom(f.sub(j, path)));
        if (p.makes.size() > kMostMakes)
            f.fail(f.at("makes"), fmt::format("{} makes are more than one footprint takes ({})", p.makes.size(), kMostMakes));
    }
    if (!inAnother) p.approval = approvalFrom(f.object("approval"));
    p.nextId = std::max(f.whole("nextId", 1), 1);
    p.unknown = f.rest();
    repairIdentifiers(p, f);
    return p;
}

Json partToJson(const Part& p) {
    Json datum = {{"at", nameOf(p.datum.kind)}};
    putText(datum, "feature", p.datum.feature);
    putText(datum, "second", p.datum.second);
    Json body = {{"present", p.body.present}, {"standoff", p.body.standoff.mm()}};
    if (p.body.trace) body["trace"] = toJson(*p.body.trace);
    Json j = {{"name", p.name},
              {"description", p.description},
              {"reference", p.reference},
              {"notes", p.notes},
              {"sources", listToJson(p.sources)},
              {"formations", listToJson(p.formations)},
              {"features", listToJson(p.spots)},
              {"body", withUnknown(body, p.body.unknown)},
              {"readings", listToJson(p.readings)},
              {"assumed", lengthsToJson(p.assumed)},
              {"taken", lengthsToJson(p.taken)},
              {"datum", withUnknown(datum, p.datum.unknown)},
              {"rules", toJson(p.rules)},
              {"potentials", listToJson(p.potentials)},
              {"dress", toJson(p.dress)},
              {"nextId", p.nextId}};
    putText(j, "value", p.value);
    if (p.kind != PartKind::Placed) j["kind"] = nameOf(p.kind);
    if (!p.given.empty()) j["given"] = givenToJson(p.given);
    if (!p.faces.empty()) j["faces"] = listToJson(p.faces);
    if (!p.turned.empty()) {
        Json turned = Json::object();
        for (const auto& [name, angle] : p.turned) turned[name] = angle.degrees();
        j["turned"] = turned;
    }
    if (p.letters != LetterTable{}) j["letters"] = toJson(p.letters);
    if (!p.marks.empty()) j["marks"] = listToJson(p.marks);
    if (!p.pins.empty()) j["pins"] = listToJson(p.pins);
    if (!p.benchNotes.empty()) j["benchNotes"] = listToJson(p.benchNotes);
    if (!p.history.empty()) j["history"] = listToJson(p.history);
    if (!p.variants.empty()) j["variants"] = listToJson(p.variants);
    if (p.symbol != SymbolDrawing{}) j["symbol"] = toJson(p.symbol);
    if (p.family != Family{}) j["family"] = toJson(p.family);
    if (p.sample != Sample{}) j["sample"] = toJson(p.sample);
    if (!p.makes.empty()) j["makes"] = listToJson(p.makes);
    putText(j, "copiedFrom", p.copiedFrom);
    if (p.approval != Approval{}) j["approval"] = toJson(p.approval);
    if (!p.solids.empty()) j["solids"] = listToJson(p.solids);
    if (!p.overrides.empty()) {
        Json overrides = Json::object();
        for (const auto& [key, o] : p.overrides) overrides[key] = toJson(o);
        j["overrides"] = overrides;
    }
    if (!p.instruments.empty()) j["instruments"] = listToJson(p.instruments);
    if (!p.zeros.empty()) j["zeros"] = p.zeros;
    return withUnknown(j, p.unknown);
}

}  // namespace

std::string toText(const Part& p) {
    Json j = {{"punchbit", kFileVersion}};
    j.update(partToJson(p));
    return j.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

Result<Part> fromText(std::string_view text, const std::string& where) {
    auto parsed = parseJson(text, where);
    if (!parsed) return tl::make_unexpected(parsed.error());
    const Json& j = *parsed;
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
