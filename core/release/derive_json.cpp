#include "core/release/derive_json.h"

#include <nlohmann/json.hpp>

#include "core/measure/contacts.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

using Json = nlohmann::ordered_json;

Json optional(const std::optional<double>& v) { return v ? Json(*v) : Json(nullptr); }
Json optional(const std::optional<Length>& v) { return v ? Json(v->mm()) : Json(nullptr); }
Json doubtOf(const PlaceDoubt& d) { return {{"x", optional(d.x)}, {"y", optional(d.y)}}; }

}  // namespace

std::string deriveJson(const Part& part, const Footprint& f) {
    Json pads = Json::array();
    for (const Pad& p : f.pads)
        pads.push_back({{"number", p.number},
                        {"x", p.at.x.mm()},
                        {"y", p.at.y.mm()},
                        {"rotation", 0},
                        {"plated", true},
                        {"hole", {{"shape", "round"}, {"width", p.hole.mm()}, {"height", p.hole.mm()}}},
                        {"land",
                         {{"shape", p.shape == PadShape::Rectangle ? "square" : "round"},
                          {"width", p.land.mm()},
                          {"height", p.land.mm()}}},
                        {"doubt", doubtOf(p.doubt)},
                        {"firm", p.firm}});
    Json holes = Json::array();
    for (const BareHole& h : f.bareHoles)
        holes.push_back({{"name", h.name},
                         {"x", h.at.x.mm()},
                         {"y", h.at.y.mm()},
                         {"width", h.size.mm()},
                         {"height", h.size.mm()},
                         {"doubt", doubtOf(h.doubt)},
                         {"firm", h.firm}});
    Json parameters = Json::array();
    for (const ParameterValue& p : f.parameters)
        parameters.push_back(
            {{"name", p.name}, {"value", p.value.mm()}, {"doubt", optional(p.doubt)}, {"taken", p.taken}});
    Json asRead = Json::array();
    for (const SizeAdvice& a : f.pitches)
        asRead.push_back({{"name", a.parameter},
                          {"value", a.firm ? Json(a.asRead) : Json(nullptr)},
                          {"doubt", a.firm ? Json(kNinetyFive * a.u) : Json(nullptr)},
                          {"words", a.words}});
    Json readings = Json::array();
    for (std::size_t i = 0; i < part.readings.size(); ++i) {
        const ReadingResult& r = f.readings[i];
        static constexpr const char* states[] = {"agrees", "unchecked", "in doubt", "one of", "unused", "orphan"};
        readings.push_back({{"id", part.readings[i].id},
                            {"what", readingWords(part, part.readings[i])},
                            {"mean", r.stats.usable ? Json(r.stats.mean) : Json(nullptr)},
                            {"doubt", r.stats.usable ? Json(kNinetyFive * r.stats.u) : Json(nullptr)},
                            {"expected", r.stats.usable ? Json(r.expected) : Json(nullptr)},
                            {"w", r.w},
                            {"redundancy", r.redundancy},
                            {"state", states[static_cast<int>(r.state)]},
                            {"words", r.words}});
    }
    Json gauges = Json::array();
    for (const Gauge& g : f.gauges) {
        Json j = {{"name", g.name},
                  {"state", stateName(g.state)},
                  {"value", optional(g.value)},
                  {"limit", optional(g.limit)},
                  {"margin", optional(g.margin)},
                  {"unit", g.unit}};
        if (g.upper) j["upperLimit"] = *g.upper;
        Json about = Json::array();
        for (const std::string& id : g.about)
            about.push_back(featureExists(part, id) ? featureWords(part, id) : "reading " + id);
        j["about"] = about;
        j["words"] = fill(g.words, g.of, Unit::Mm, 2);
        gauges.push_back(j);
    }
    Json body = nullptr;
    if (f.body)
        body = {{"left", f.body->rect.left.mm()},    {"right", f.body->rect.right.mm()},
                {"front", f.body->rect.bottom.mm()}, {"rear", f.body->rect.top.mm()},
                {"height", f.body->height.mm()},     {"firm", f.body->allFirm()}};
    const Json out = {{"part", part.name},        {"units", "mm"},    {"pads", pads}, {"bareHoles", holes},
                      {"parameters", parameters}, {"asRead", asRead}, {"body", body}, {"readings", readings},
                      {"next", f.next.words},     {"gauges", gauges}};
    return out.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

}  // namespace punch
