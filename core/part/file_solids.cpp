// Solids in a part's file.

#include <cmath>

#include "core/part/file_sections.h"

namespace punch {
namespace {

/// To a millionth of a millimetre: below it nothing is meant.
double kept(double v) { return std::round(v * 1e6) / 1e6 + 0.0; }

constexpr double kFarthest = 1e5;    // mm
constexpr std::size_t kMost = 5000;  // leads, corners of an outline

double within(Fields& f, const char* key, double fallback) {
    const double v = f.number(key, fallback);
    if (std::abs(v) <= kFarthest) return v;
    f.fail(f.at(key), "a solid lies within 100 m");
    return fallback;
}

std::vector<double> numbers(Fields& f, const char* key, std::size_t count) {
    std::vector<double> all;
    for (const auto& [path, j] : f.list(key)) all.push_back(f.finite(j, path));
    if (!all.empty() && all.size() != count) f.fail(f.at(key), std::to_string(count) + " numbers stand here");
    all.resize(count);
    return all;
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
        s.leads.push_back(l);
    }
    for (const auto& [path, j] : f.list("outline")) {
        if (!j.is_array() || j.size() != 2 || s.outline.size() >= kMost) {
            f.fail(path, "a corner is two numbers");
            break;
        }
        s.outline.push_back({f.finite(j[0], path), f.finite(j[1], path)});
    }
    s.height = within(f, "height", 0);
    s.unknown = f.rest();
    return s;
}

}  // namespace punch
