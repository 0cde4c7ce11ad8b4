#include "core/board/trial_board.h"

#include <fmt/format.h>

#include <algorithm>

#include "core/base/atomic_file.h"
#include "core/base/find_in.h"
#include "core/base/json_text.h"
#include "core/geometry/shapes.h"
#include "core/part/json_fields.h"
#include "core/part/names.h"

namespace punch {

PUNCH_VALUE_IS_HERE(TrialBoard)

bool operator==(const TrialBoard&, const TrialBoard&) = default;
namespace {

using Json = nlohmann::ordered_json;

constexpr int kBoardVersion = 1;

Json toJson(Point p) { return {p.x.mm(), p.y.mm()}; }

std::optional<Point> pointFrom(Fields& f, const Json& j, const std::string& path) {
    if (!j.is_array() || j.size() != 2) {
        f.fail(path, "a place is [x, y]");
        return {};
    }
    return Point{f.lengthOf(j[0], path + ".x"), f.lengthOf(j[1], path + ".y")};
}

Point pointAt(Fields& f, const std::string& key) {
    const auto j = f.json(key);
    if (!j) {
        f.fail(f.at(key), "it stands somewhere: [x, y]");
        return {};
    }
    return pointFrom(f, *j, f.at(key)).value_or(Point{});
}

Json toJson(const BoardOutline& o) {
    Json j = Json::object();
    if (!o.own()) {
        j["width"] = o.width.mm();
        j["height"] = o.height.mm();
        if (o.corner > Length()) j["corner"] = o.corner.mm();
    } else {
        Json rings = Json::array();
        for (const auto& ring : o.rings) {
            Json points = Json::array();
            for (const Point& p : ring) points.push_back(toJson(p));
            rings.push_back(points);
        }
        j["rings"] = rings;
    }
    return withUnknown(j, o.unknown);
}

BoardOutline outlineFrom(Fields f) {
    BoardOutline o;
    o.width = f.lengthAt("width", o.width);
    o.height = f.lengthAt("height", o.height);
    o.corner = f.lengthAt("corner", o.corner);
    if (!(o.width > Length()) || !(o.height > Length())) f.fail(f.at("width"), "a board is larger than nothing");
    for (const auto& [path, j] : f.list("rings")) {
        std::vector<Point> ring;
        for (const Json& p : j)
            if (const auto point = pointFrom(f, p, path)) ring.push_back(*point);
        if (ring.size() < 3)
            f.fail(path, "an outline has three corners or more");
        else
            o.rings.push_back(std::move(ring));
    }
    o.unknown = f.rest();
    return o;
}

Json toJson(const Placing& p) {
    Json j = {{"id", p.id}, {"designator", p.designator}, {"part", p.file}, {"at", toJson(p.at)}};
    if (p.turn != Angle()) j["turn"] = p.turn.degrees();
    if (p.bottom) j["side"] = "bottom";
    return withUnknown(j, p.unknown);
}

Placing placingFrom(Fields f) {
    Placing p;
    p.id = f.text("id", "");
    p.designator = f.text("designator", "");
    p.file = f.text("part", "");
    p.at = pointAt(f, "at");
    p.turn = Angle::fromDegrees(f.number("turn", 0));
    p.bottom = !f.oneOf("side", "top", "bottom");
    p.unknown = f.rest();
    return p;
}

Json toJson(const BoardHole& h) {
    Json j = {{"id", h.id}, {"at", toJson(h.at)}, {"diameter", h.diameter.mm()}, {"clear", h.clear.mm()}};
    return withUnknown(j, h.unknown);
}

BoardHole holeFrom(Fields f) {
    BoardHole h;
    h.id = f.text("id", "");
    h.at = pointAt(f, "at");
    h.diameter = f.positiveLength("diameter", h.diameter);
    h.clear = f.positiveLength("clear", h.clear);
    h.unknown = f.rest();
    return h;
}

Json toJson(const BoardText& t) {
    Json j = {{"text", t.text}, {"at", toJson(t.at)}, {"height", t.height.mm()}};
    if (t.bottom) j["side"] = "bottom";
    return withUnknown(j, t.unknown);
}

BoardText textFrom(Fields f) {
    BoardText t;
    t.text = f.text("text", "");
    t.at = pointAt(f, "at");
    t.height = f.positiveLength("height", t.height);
    t.bottom = !f.oneOf("side", "top", "bottom");
    t.unknown = f.rest();
    return t;
}

template <class T>
Json listOf(const std::vector<T>& all) {
    Json j = Json::array();
    for (const T& one : all) j.push_back(toJson(one));
    return j;
}

/// Identifiers that are missing or stand twice get new ones.
void repair(TrialBoard& b) {
    std::vector<std::string> seen;
    const auto look = [&](std::string& id) {
        if (id.empty() || std::find(seen.begin(), seen.end(), id) != seen.end()) id.clear();
        if (id.size() > 1 && id.find_first_not_of("0123456789", 1) == std::string::npos && id.size() < 9)
            b.nextId = std::max(b.nextId, std::stoi(id.substr(1)) + 1);
        if (!id.empty()) seen.push_back(id);
    };
    for (Placing& p : b.placings) look(p.id);
    for (BoardHole& h : b.holes) look(h.id);
    for (Placing& p : b.placings)
        if (p.id.empty()) p.id = "p" + std::to_string(b.nextId++);
    for (BoardHole& h : b.holes)
        if (h.id.empty()) h.id = "h" + std::to_string(b.nextId++);
}

}  // namespace

Polygons ringsOf(const BoardOutline& o) {
    if (o.own()) return o.rings;
    const Rect r{Length(), o.width, Length(), o.height, false};
    const Length most = min(o.width, o.height) / 2;
    const Length corner = min(o.corner, most);
    if (!(corner > Length())) return {RoundedPolygon::rectangle(r).corners};
    RoundedPolygon shape = RoundedPolygon::rectangle(r.grown(-corner));
    shape.radius = corner;
    return {outlineOf(shape, Length::fromUm(1))};
}

const Placing* placingById(const TrialBoard& board, const std::string& id) {
    return findIn(board.placings, [&](const Placing& p) { return p.id == id; });
}

std::string boardText(const TrialBoard& b) {
    Json j = {{"punchbitBoard", kBoardVersion},
              {"name", b.name},
              {"thickness", b.thickness.mm()},
              {"outline", toJson(b.outline)},
              {"parts", listOf(b.placings)},
              {"holes", listOf(b.holes)},
              {"fiducials", listOf(b.fiducials)},
              {"texts", listOf(b.texts)},
              {"nextId", b.nextId}};
    return withUnknown(j, b.unknown).dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

Result<TrialBoard> boardFromText(std::string_view text, const std::string& where) {
    auto parsed = parseJson(text, where);
    if (!parsed) return tl::make_unexpected(parsed.error());
    if (!parsed->is_object() || !parsed->contains("punchbitBoard"))
        return problem("this is no trial board", where, "Open a file with the field “punchbitBoard”");
    const Json& version = (*parsed)["punchbitBoard"];
    if (!version.is_number_integer() || version.get<int>() < 1 || version.get<int>() > kBoardVersion)
        return problem("the board's version is none that this program reads", where, "Use a newer Punchbit");
    std::vector<std::string> errors;
    Fields f(*parsed, "", errors);
    f.skip("punchbitBoard");
    TrialBoard b;
    b.name = f.text("name", b.name);
    b.thickness = f.positiveLength("thickness", b.thickness);
    b.outline = outlineFrom(f.object("outline"));
    for (const auto& [path, j] : f.list("parts")) b.placings.push_back(placingFrom(f.sub(j, path)));
    for (const auto& [path, j] : f.list("holes")) b.holes.push_back(holeFrom(f.sub(j, path)));
    for (const auto& [path, j] : f.list("fiducials"))
        if (const auto p = pointFrom(f, j, path)) b.fiducials.push_back(*p);
    for (const auto& [path, j] : f.list("texts")) b.texts.push_back(textFrom(f.sub(j, path)));
    b.nextId = std::max(f.whole("nextId", 1), 1);
    b.unknown = f.rest();
    repair(b);
    if (errors.empty()) return b;
    const std::string more = errors.size() > 1 ? fmt::format(" (and {} more)", errors.size() - 1) : "";
    return problem(errors.front() + more, where, "Mend the field in a text editor");
}

Result<TrialBoard> loadBoard(const std::filesystem::path& file) {
    const auto text = readWhole(file);
    if (!text) return tl::make_unexpected(text.error());
    return boardFromText(*text, file.string());
}

Result<void> saveBoard(const TrialBoard& board, const std::filesystem::path& file) {
    return writeAtomically(file, boardText(board));
}

TrialBoard withPart(TrialBoard b, const std::string& file, const std::string& letter, Point at) {
    const std::string stem = letter.empty() ? "X" : letter;
    int number = 1;
    const auto taken = [&] {
        return findIn(b.placings, [&](const Placing& p) { return p.designator == stem + std::to_string(number); });
    };
    while (taken() != nullptr) ++number;
    b.placings.push_back({"p" + std::to_string(b.nextId++), stem + std::to_string(number), file, at, {}, false});
    return b;
}

TrialBoard withoutThing(TrialBoard b, const std::string& id) {
    std::erase_if(b.placings, [&](const Placing& p) { return p.id == id; });
    std::erase_if(b.holes, [&](const BoardHole& h) { return h.id == id; });
    return b;
}

}  // namespace punch
