#include "core/release/derive_json.h"

#include <nlohmann/json.hpp>

#include "core/measure/contacts.h"
#include "core/part/names.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

using Json = nlohmann::ordered_json;

Json optional(const std::optional<double>& v) { return v ? Json(*v) : Json(nullptr); }
Json optional(const std::optional<Length>& v) { return v ? Json(v->mm()) : Json(nullptr); }
Json doubtOf(const PlaceDoubt& d) {
    Json j = {{"x", optional(d.x)}, {"y", optional(d.y)}, {"fitted", optional(d.fitted)}};
    if (d.fromDatum)
        j["ellipse"] = {{"major", d.fromDatum->major.mm()},
                        {"minor", d.fromDatum->minor.mm()},
                        {"turn", d.fromDatum->turn.degrees()}};
    return j;
}

const char* stateOf(Parameter::State state) {
    switch (state) {
        case Parameter::State::Taken: return "taken";
        case Parameter::State::Given: return "given";
        case Parameter::State::Formula: return "formula";
        case Parameter::State::Free: break;
    }
    return "free";
}

Json sizeJson(const SizeAdvice& a) {
    Json nearest = Json::array();
    for (const StandardJudgement& s : a.nearest) {
        static constexpr const char* fits[] = {"fits", "unlikely", "excluded"};
        nearest.push_back({{"standard", s.standard.mm()}, {"sigma", s.k}, {"fit", fits[static_cast<int>(s.fit)]}});
    }
    return {{"name", a.parameter},
            {"value", a.firm ? Json(a.asRead) : Json(nullptr)},
            {"doubt", a.firm ? Json(kNinetyFive * a.u) : Json(nullptr)},
            {"nearest", nearest},
            {"speaksAgainst", a.speaksAgainst()},
            {"words", a.words}};
}

Json looseJson(const Part& part, const LooseMovement& m) {
    static constexpr const char* kinds[] = {"along",  "across", "along and across", "turn",
                                            "spread", "size",   "height",           "value"};
    Json features = Json::array();
    for (const FeatureId& id : m.features) features.push_back(featureWords(part, id));
    return {{"features", features},
            {"movement", kinds[static_cast<int>(m.kind)]},
            {"parameters", m.parameters},
            {"words", m.words}};
}

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
    for (const ParameterValue& p : f.parameters) {
        Json j = {{"name", p.name}};
        if (p.angle) {
            j["degrees"] = p.angle->degrees();
            j["doubt"] = p.angleDoubt ? Json(p.angleDoubt->degrees()) : Json(nullptr);
        } else {
            j["value"] = p.value.mm();
            j["doubt"] = optional(p.doubt);
        }
        j["taken"] = p.taken;
        j["state"] = stateOf(p.state);
        if (!p.typed.empty()) j["typed"] = p.typed;
        parameters.push_back(j);
    }
    Json asRead = Json::array();
    for (const SizeAdvice& a : f.sizes) asRead.push_back(sizeJson(a));
    Json loose = Json::array();
    for (const LooseMovement& m : f.loose) loose.push_back(looseJson(part, m));
    Json marks = Json::array();
    for (const MarkPoint& m : f.marks)
        marks.push_back(
            {{"name", m.name}, {"x", m.at.x.mm()}, {"y", m.at.y.mm()}, {"doubt", doubtOf(m.doubt)}, {"firm", m.firm}});
    Json faces = Json::array();
    for (const FaceLine& face : f.faces)
        faces.push_back(
            {{"name", face.name}, {"axis", nameOf(face.axis)}, {"at", face.at.mm()}, {"doubt", optional(face.doubt)}});
    Json slips = Json::array();
    for (const Slip& s : f.slips) slips.push_back({{"reading", s.reading}, {"words", s.words}, {"todo", s.todo}});
    Json spreads = Json::array();
    for (const Spread& s : f.spreads)
        spreads.push_back({{"reading", s.reading}, {"sigma", s.sigma.mm()}, {"specimens", s.specimens}});
    Json complaints = Json::array();
    for (const Model::Complaint& c : f.complaints) complaints.push_back({{"about", c.parameter}, {"words", c.words}});
    Json readings = Json::array();
    for (std::size_t i = 0; i < part.readings.size(); ++i) {
        const ReadingResult& r = f.readings[i];
        static constexpr const char* states[] = {"agrees", "unchecked", "in doubt", "one of", "unused", "orphan"};
        readings.push_back({{"id", part.readings[i].id},
                            {"what", readingWords(part, part.readings[i])},
                            {"name", part.readings[i].name},
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
    if (f.body && !f.body->outline.empty()) {
        Json outline = Json::array();
        for (const Point& p : f.body->outline) outline.push_back({p.x.mm(), p.y.mm()});
        body["outline"] = outline;
    }
    Json pairs = Json::array();
    for (const VoltagePair& v : f.voltages) {
        Json j = {{"a", featureWords(part, v.a)}, {"b", featureWords(part, v.b)}, {"gap", v.gap.mm()},
                  {"peak", v.peak.volts()},       {"rms", v.rms.volts()},         {"needed", v.needed.mm()}};
        if (v.clearance) j["clearance"] = v.clearance->mm();
        if (v.creepage) j["creepage"] = v.creepage->mm();
        if (v.clearance) j["impulse"] = v.impulse.volts();
        if (!v.refused.empty()) {
            j["needed"] = nullptr;
            j["refused"] = v.refused;
        }
        pairs.push_back(j);
    }
    const Json voltage = {{"standard", nameOf(part.rules.standard)}, {"pairs", pairs}};
    const Json out = {{"part", part.name},        {"units", "mm"},    {"pads", pads},       {"bareHoles", holes},
                      {"parameters", parameters}, {"asRead", asRead}, {"body", body},       {"readings", readings},
                      {"next", f.next.words},     {"gauges", gauges}, {"loose", loose},     {"marks", marks},
                      {"faces", faces},           {"slips", slips},   {"spreads", spreads}, {"complaints", complaints},
                      {"voltage", voltage}};
    return out.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

}  // namespace punch
