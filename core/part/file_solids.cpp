// Solids in a part's file.

#include <fmt/format.h>

#include <charconv>
#include <cmath>

#include "core/part/file_sections.h"

namespace punch {
namespace {

/// To a millionth of a millimetre: below it nothing is meant.
double kept(double v) { return std::round(v * 1e6) / 1e6 + 0.0; }

constexpr double kFarthest = 1e5;    // mm
constexpr std::size_t kMost = 5000;  // leads, corners of an outline
constexpr std::size_t kMostCorners = 40000, kMostShadows = 64;

double within(Fields& f, const char* key, double fallback) {
    const double v = f.number(key, fallback);
    if (std::abs(v) <= kFarthest) return v;
    f.fail(f.at(key), "a solid lies within 100 m");
    return fallback;
}

std::vector<double> numbers(Fields& f, const char* key, std::size_t count) {
    std::vector<double> all;
    for (const auto& [path, j] : f.list(key)) {
        all.push_back(f.finite(j, path));
        if (std::abs(all.back()) <= kFarthest) continue;
        f.fail(path, "a solid lies within 100 m");
        all.back() = 0;
    }
    if (!all.empty() && all.size() != count) f.fail(f.at(key), std::to_string(count) + " numbers stand here");
    all.resize(count);
    return all;
}

using Rings = std::vector<std::vector<std::array<double, 2>>>;

/// A ring is a line of a file: "x,y x,y …", to a micrometre. Areas have hundreds of corners.
Json ringsToJson(const Rings& rings, double perMm = 1e3) {
    Json all = Json::array();
    for (const auto& ring : rings) {
        std::string line;
        for (const auto& p : ring)
            line += fmt::format("{}{:.11g},{:.11g}", line.empty() ? "" : " ", std::round(p[0] * perMm) / perMm + 0.0,
                                std::round(p[1] * perMm) / perMm + 0.0);
        all.push_back(line);
    }
    return all;
}

Rings ringsFrom(Fields& f, const char* key) {
    Rings rings;
    std::size_t corners = 0;
    for (const auto& [path, j] : f.list(key)) {
        if (!j.is_string()) {
            f.fail(path, "a ring is a text of places: 1,2 3,2 3,4");
            break;
        }
        const std::string line = j.get<std::string>();
        auto& ring = rings.emplace_back();
        const char *at = line.data(), *const end = at + line.size();
        bool good = true;
        while (good && at != end) {
            std::array<double, 2> p{};
            const auto x = std::from_chars(at, end, p[0]);
            good = x.ec == std::errc() && x.ptr != end && *x.ptr == ',';
            const auto y = good ? std::from_chars(x.ptr + 1, end, p[1]) : x;
            good = good && y.ec == std::errc() && (y.ptr == end || *y.ptr == ' ') && std::abs(p[0]) <= kFarthest &&
                   std::abs(p[1]) <= kFarthest && ++corners <= kMostCorners;
            at = good && y.ptr != end ? y.ptr + 1 : end;
            if (good) ring.push_back(p);
        }
        if (!good) {
            f.fail(path, "a ring is a text of places: 1,2 3,2 3,4");
            rings.pop_back();
            break;
        }
    }
    return rings;
}

Json motionToJson(const SolidMotion& m) {
    const Motion& how = m.motion;
    Json j = {{"name", m.name},
              {"body", m.body},
              {"motion", how.turns ? "turns" : "slides"},
              {"at", {how.at.x, how.at.y, how.at.z}},
              {"axis", {how.axis.x, how.axis.y, how.axis.z}},
              {"from", how.from},
              {"to", how.to},
              {"low", kept(m.low)},
              {"high", kept(m.high)},
              {"swept", ringsToJson(m.swept)}};
    if (m.touches) j["touches"] = *m.touches;
    return j;
}

SolidMotion motionFrom(Fields f) {
    SolidMotion m;
    m.name = f.text("name", "");
    m.body = f.whole("body", 0);
    m.motion.turns = f.text("motion", "turns") != "slides";
    const auto vec = [&](const char* key, Vec3 fallback) {
        if (!f.json(key)) return fallback;
        const auto v = numbers(f, key, 3);
        return Vec3{v[0], v[1], v[2]};
    };
    m.motion.at = vec("at", {});
    m.motion.axis = vec("axis", {0, 0, 1});
    if (!(norm(m.motion.axis) > 1e-6 && norm(m.motion.axis) < 1e6)) {
        f.fail(f.at("axis"), "a direction is no zero");
        m.motion.axis = {0, 0, 1};
    }
    m.motion.from = within(f, "from", 0);
    m.motion.to = within(f, "to", 0);
    m.low = within(f, "low", 0);
    m.high = within(f, "high", 0);
    if (f.json("touches")) m.touches = within(f, "touches", 0);
    m.swept = ringsFrom(f, "swept");
    return m;
}

}  // namespace

Json toJson(const SolidFile& s) {
    Json leads = Json::array(), outline = Json::array();
    for (const SolidLeadFound& l : s.leads) {
        Json j = {{"at", {kept(l.x), kept(l.y)}}, {"section", {kept(l.along), kept(l.across)}}};
        if (l.round)
            j["round"] = true;
        else
            j["turn"] = kept(l.turn);
        j["length"] = kept(l.length);
        if (std::hypot(l.leanX, l.leanY) > 1e-6) j["lean"] = {kept(l.leanX), kept(l.leanY)};
        putText(j, "of", l.of);
        if (!l.slices.empty()) {
            Json sections = Json::array();
            for (const LeadSlice& slice : l.slices) {
                Json one = {{"depth", kept(slice.depth)}, {"around", ringsToJson({slice.corners}, 1e6)}};
                if (slice.radius > 0) one["radius"] = kept(slice.radius);
                sections.push_back(std::move(one));
            }
            j["slices"] = std::move(sections);
        }
        leads.push_back(j);
    }
    for (const auto& p : s.outline) outline.push_back({kept(p[0]), kept(p[1])});
    // Where it looks down is kept as it is: its digits decide where the far end comes to lie.
    Json j = {{"id", s.id},
              {"name", s.name},
              {"file", s.file},
              {"digest", s.digest},
              {"down", {s.down.x, s.down.y, s.down.z}},
              {"seat", s.seat},
              {"turn", s.turn},
              {"at", {s.x, s.y}}};
    if (!s.byLeads) j["byLeads"] = false;
    if (s.lift != 0) j["lift"] = s.lift;
    j["leads"] = leads;
    j["outline"] = outline;
    j["height"] = kept(s.height);
    if (s.seatSet) j["seatSet"] = true;
    if (!s.shadows.empty()) {
        Json shadows = Json::array();
        for (const SolidShadow& shadow : s.shadows)
            shadows.push_back(
                {{"low", kept(shadow.low)}, {"high", kept(shadow.high)}, {"rings", ringsToJson(shadow.rings)}});
        j["shadows"] = shadows;
    }
    if (!s.motions.empty()) {
        Json motions = Json::array();
        for (const SolidMotion& m : s.motions) motions.push_back(motionToJson(m));
        j["motions"] = motions;
    }
    return withUnknown(j, s.unknown);
}

SolidFile solidFrom(Fields f) {
    SolidFile s;
    s.id = f.text("id", "");
    s.name = f.text("name", "");
    s.file = f.text("file", "");
    s.digest = f.text("digest", "");
    if (f.json("down")) {
        const auto down = numbers(f, "down", 3);
        s.down = {down[0], down[1], down[2]};
        if (!(norm(s.down) > 1e-6 && norm(s.down) < 1e6)) {
            f.fail(f.at("down"), "a direction is no zero");
            s.down = {0, 0, -1};
        }
    }
    s.seat = within(f, "seat", 0);
    s.byLeads = f.flag("byLeads", true);
    s.turn = within(f, "turn", 0);
    const auto at = numbers(f, "at", 2);
    s.x = at[0];
    s.y = at[1];
    s.lift = within(f, "lift", 0);
    for (const auto& [path, j] : f.list("leads")) {
        if (s.leads.size() >= kMost) break;
        Fields lead = f.sub(j, path);
        SolidLeadFound l;
        const auto place = numbers(lead, "at", 2), section = numbers(lead, "section", 2),
                   lean = numbers(lead, "lean", 2);
        l.x = place[0];
        l.y = place[1];
        l.along = std::abs(section[0]);
        l.across = std::abs(section[1]);
        l.round = lead.flag("round", false);
        l.turn = lead.number("turn", 0);
        l.length = within(lead, "length", 0);
        l.leanX = lean[0];
        l.leanY = lean[1];
        l.of = lead.text("of", "");
        for (const auto& [under, one] : lead.list("slices")) {
            if (l.slices.size() >= kMostShadows) break;
            Fields passing = lead.sub(one, under);
            LeadSlice slice{within(passing, "depth", 0), {}, std::abs(within(passing, "radius", 0))};
            if (const Rings rings = ringsFrom(passing, "around"); !rings.empty()) slice.corners = rings.front();
            // Downwards, or nothing between them can be said.
            if (!slice.corners.empty() && (l.slices.empty() || slice.depth >= l.slices.back().depth))
                l.slices.push_back(std::move(slice));
        }
        s.leads.push_back(l);
    }
    for (const auto& [path, j] : f.list("outline")) {
        if (!j.is_array() || j.size() != 2 || s.outline.size() >= kMost) {
            f.fail(path, "a corner is two numbers");
            break;
        }
        const double x = f.finite(j[0], path), y = f.finite(j[1], path);
        if (std::abs(x) > kFarthest || std::abs(y) > kFarthest) {
            f.fail(path, "a solid lies within 100 m");
            break;
        }
        s.outline.push_back({x, y});
    }
    s.height = within(f, "height", 0);
    s.seatSet = f.flag("seatSet", false);
    for (const auto& [path, j] : f.list("shadows")) {
        if (s.shadows.size() >= kMostShadows) break;
        Fields shadow = f.sub(j, path);
        s.shadows.push_back({within(shadow, "low", 0), within(shadow, "high", 0), ringsFrom(shadow, "rings")});
    }
    for (const auto& [path, j] : f.list("motions"))
        if (s.motions.size() < kMostShadows) s.motions.push_back(motionFrom(f.sub(j, path)));
    s.unknown = f.rest();
    return s;
}

}  // namespace punch
