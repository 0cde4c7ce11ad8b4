#include "core/release/derive_json.h"

#include <nlohmann/json.hpp>
#include <set>
#include "core/approval/approval.h"
#include "core/clear/room.h"
#include "core/geometry/shapes.h"
#include "core/model/contacts.h"
#include "core/part/names.h"
#include "core/part/numbering.h"
#include "core/pins/pin_checks.h"
#include "core/release/makes_json.h"
#include "core/release/zero_orientation.h"
#include "core/size/pad_rules.h"
#include "core/verdicts/gauges.h"

namespace punch {
namespace {

using Json = nlohmann::ordered_json;

Json optional(const std::optional<double>& v) { return v ? Json(*v) : Json(nullptr); }
Json optional(const std::optional<Length>& v) { return v ? Json(v->mm()) : Json(nullptr); }
Json doubtOf(const PlaceDoubt& d) {
    Json j = {{"x", optional(d.x)}, {"y", optional(d.y)}, {"fitted", optional(d.fitted)}, {"span", d.span.mm()}};
    if (d.fittedRead && d.fittedRead != d.fitted) j["fittedWithoutDrawings"] = d.fittedRead->mm();
    if (d.fromDatum)
        j["ellipse"] = {{"major", d.fromDatum->major.mm()},
                        {"minor", d.fromDatum->minor.mm()},
                        {"turn", d.fromDatum->turn.degrees()}};
    return j;
}

Json holeOf(const Pad& p) {
    if (p.hole <= Length()) return nullptr;
    if (p.slotLength <= Length()) return {{"shape", "round"}, {"width", p.hole.mm()}, {"height", p.hole.mm()}};
    return {
        {"shape", "slot"}, {"width", p.slotLength.mm()}, {"height", p.hole.mm()}, {"rotation", p.slotTurn.degrees()}};
}

Json landOf(const Part& part, const Pad& p, const Land& land) {
    Json j = {{"shape", nameOf(land.shape)}, {"width", land.width.mm()}, {"height", land.length.mm()}};
    if (land.turn != Angle()) j["rotation"] = land.turn.degrees();
    if (land.at != p.at) j["offset"] = {(land.at.x - p.at.x).mm(), (land.at.y - p.at.y).mm()};
    if (land.shape == LandShape::RoundedRectangle) j["corner"] = land.corner.mm();
    for (const auto& [name, other] : {std::pair{"inner", &p.inner}, {"bottom", &p.bottom}})
        if (other->there() && *other != land) j[name] = {{"width", other->width.mm()}, {"height", other->length.mm()}};
    if (p.layers != PadLayers::Through) j["layer"] = nameOf(p.layers);
    if (p.overridden) j["overridden"] = true;
    if (p.layers == PadLayers::Through) {
        const PlaneAdvice advice = planeAdvice(part.rules, p);
        j["plane"] = {
            {"clearance", advice.clearance.mm()}, {"spokes", advice.spokes}, {"spokeWidth", advice.spokeWidth.mm()}};
    }
    return j;
}

Json roomJson(const Part& part, const Footprint& f) {
    Json all = Json::array();
    for (const Room& r : f.rooms) {
        Json about = Json::array();
        for (const FeatureId& id : r.about) about.push_back(featureWords(part, id));
        const bool none = r.most < r.least;
        all.push_back({{"pad", featureWords(part, r.pad)},
                       {"axis", r.across ? "length" : "width"},
                       {"now", r.now.mm()},
                       {"least", r.least <= mostLand() ? Json(r.least.mm()) : Json(nullptr)},
                       {"leastBy", r.leastBy},
                       {"most", none                  ? Json(nullptr)
                                : r.most < mostLand() ? Json(r.most.mm())
                                                      : Json("not limited")},
                       {"mostBy", r.mostBy},
                       {"about", about},
                       {"best", r.best > Length() ? Json(r.best.mm()) : Json(nullptr)}});
    }
    return all;
}

/// A distance; null where nothing leads from one to the other.
Json wayOf(Length l) { return l < noWay() ? Json(l.mm()) : Json(nullptr); }

Json voltageJson(const Part& part, const Footprint& f) {
    Json pairs = Json::array();
    for (const VoltagePair& v : f.voltages) {
        Json j = {{"a", featureWords(part, v.a)}, {"b", featureWords(part, v.b)},  {"gap", wayOf(v.gap)},
                  {"way", wayOf(v.way)},          {"aroundCuts", !v.path.empty()}, {"otherFaces", v.otherFaces},
                  {"peak", v.peak.volts()},       {"rms", v.rms.volts()},          {"needed", v.needed.mm()}};
        if (v.column) j["column"] = nameOf(*v.column);
        if (v.clearance) j["clearance"] = v.clearance->mm();
        if (v.creepage) j["creepage"] = v.creepage->mm();
        if (v.clearance) j["impulse"] = v.impulse.volts();
        if (!v.refused.empty()) {
            j["needed"] = nullptr;
            j["refused"] = v.refused;
        }
        pairs.push_back(j);
    }
    Json around = Json::array();
    for (const Surrounding& s : f.around) {
        static constexpr const char* kinds[] = {"keepout", "board edge", "cut-out", "metal"};
        around.push_back({{"what", s.name},
                          {"kind", kinds[static_cast<int>(s.kind)]},
                          {"pad", featureWords(part, s.pin)},
                          {"gap", wayOf(s.gap)},
                          {"way", wayOf(s.way)},
                          {"asksAtZeroVolts", s.asks.mm()}});
    }
    return {{"standard", nameOf(part.rules.standard)}, {"pairs", pairs}, {"around", around}};
}

Json extentJson(const Extent& e) {
    Json j = {{"mean", e.mean.mm()}, {"least", e.least.mm()}, {"most", e.most.mm()}};
    j["by"] = !e.firm ? "not measured" : e.drawn ? "drawing" : "doubt";
    return j;
}

/// What of each formation's lead goes through the board, and the hole that its rule asks for.
Json leadsJson(const Part& part, const Footprint& f) {
    Json all = Json::array();
    for (std::size_t i = 0; i < f.leads.size(); ++i) {
        const LeadFit& lead = f.leads[i];
        Json pins = Json::array();
        for (const FeatureId& id : part.formations[i].pins) pins.push_back(pinNumber(part, id));
        Json j = {{"pins", pins},
                  {"wide", extentJson(lead.section.wide)},
                  {"thick", extentJson(lead.section.thick)},
                  {"across", extentJson(lead.section.across)},
                  {"leastHole", lead.leastHole.mm()},
                  {"hole", lead.hole.mm()},
                  {"bit", lead.bit.mm()}};
        if (lead.slotLength > Length()) j["slotLength"] = lead.slotLength.mm();
        if (lead.section.end) j["end"] = extentJson(*lead.section.end);
        if (lead.end != LeadEnd::Plain) j["endKind"] = nameOf(lead.end);
        all.push_back(j);
    }
    return all;
}

Json shareJson(const DropInShare& s) {
    if (!s.known) return {{"share", nullptr}, {"why", s.why}};
    return {{"trials", s.trials},
            {"in", s.in},
            {"share", s.share},
            {"interval", {s.low, s.high}},
            {"spreadKnown", s.spreadKnown}};
}

Json dropInJson(const Part& part, const DropInReport& r) {
    Json j = shareJson(r.share);
    j["seed"] = r.seed;
    if (!r.share.known) return j;
    j["band"] = {r.bandLow, r.bandHigh};
    j["spareRoom"] = {{"least", r.least},
                      {"middle", r.middle},
                      {"most", r.most},
                      {"histogram", {{"from", r.histogramFrom}, {"step", r.histogramStep}, {"counts", r.histogram}}}};
    Json costs = Json::array();
    for (const ToleranceCost& c : r.costs)
        costs.push_back({{"tolerance", c.name}, {"shareWithout", c.share}, {"cost", c.cost}});
    j["costs"] = costs;
    Json holes = Json::array();
    for (const LeastHole& h : r.holes)
        holes.push_back({{"holes", h.about.empty() ? "all plated, by one step"
                                   : formationById(part, h.about) != nullptr
                                       ? "of " + featureWords(part, formationById(part, h.about)->pins.front()) +
                                             " and its formation"
                                       : "of " + featureWords(part, h.about)},
                         {"now", h.now.mm()},
                         {"least", h.least > Length() ? Json(h.least.mm()) : Json(nullptr)}});
    j["leastHoles"] = holes;
    if (!r.tightest.empty()) j["tightest"] = featureWords(part, r.tightest);
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
            {"span", a.span},
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

Json padsJson(const Part& part, const Footprint& f) {
    Json pads = Json::array();
    for (const Pad& p : f.pads)
        pads.push_back({{"number", p.number},
                        {"x", p.at.x.mm()},
                        {"y", p.at.y.mm()},
                        {"rotation", 0},
                        {"plated", p.layers == PadLayers::Through},
                        {"hole", holeOf(p)},
                        {"land", landOf(part, p, shownLand(p))},
                        {"doubt", doubtOf(p.doubt)},
                        {"firm", p.firm}});
    // Lands of marks: they stand where their mark was put, and what is not known of that is the mark's doubt.
    for (const Conductor& c : f.attached.lands) {
        if (!isSurfaceLand(c)) continue;
        const Land& land = shownLand(c);
        Json copper = {{"shape", nameOf(land.shape)},
                       {"width", land.width.mm()},
                       {"height", land.length.mm()},
                       {"layer", nameOf(c.layers)}};
        if (land.turn != Angle()) copper["rotation"] = land.turn.degrees();
        pads.push_back({{"number", c.number},
                        {"x", c.at.x.mm()},
                        {"y", c.at.y.mm()},
                        {"rotation", 0},
                        {"plated", false},
                        {"hole", nullptr},
                        {"land", std::move(copper)},
                        {"of", c.id.substr(0, c.id.find('/'))},
                        {"firm", c.firm}});
    }
    return pads;
}

Json bareHolesJson(const Footprint& f) {
    Json holes = Json::array();
    for (const BareHole& h : f.bareHoles)
        holes.push_back({{"name", h.name},
                         {"x", h.at.x.mm()},
                         {"y", h.at.y.mm()},
                         {"plated", h.plated},
                         {"width", h.slotLength > Length() ? h.slotLength.mm() : h.size.mm()},
                         {"height", h.size.mm()},
                         {"rotation", h.slotTurn.degrees()},
                         {"land", h.plated ? Json{{"shape", nameOf(h.land.shape)},
                                                  {"width", h.land.width.mm()},
                                                  {"height", h.land.length.mm()}}
                                           : Json(nullptr)},
                         {"doubt", doubtOf(h.doubt)},
                         {"firm", h.firm}});
    return holes;
}

Json parametersJson(const Footprint& f) {
    Json parameters = Json::array();
    for (const ParameterValue& p : f.parameters) {
        Json j = {{"name", p.name}};
        if (p.angle) {
            j["degrees"] = p.angle->degrees();
            j["doubt"] = p.angleDoubt ? Json(p.angleDoubt->degrees()) : Json(nullptr);
        } else {
            j["value"] = p.value.mm();
            j["doubt"] = optional(p.doubt);
            j["span"] = p.span.mm();
        }
        j["taken"] = p.taken;
        j["state"] = stateOf(p.state);
        if (!p.typed.empty()) j["typed"] = p.typed;
        parameters.push_back(j);
    }
    return parameters;
}

Json marksJson(const Footprint& f) {
    Json marks = Json::array();
    for (const MarkPoint& m : f.marks)
        marks.push_back(
            {{"name", m.name}, {"x", m.at.x.mm()}, {"y", m.at.y.mm()}, {"doubt", doubtOf(m.doubt)}, {"firm", m.firm}});
    return marks;
}

Json facesJson(const Footprint& f) {
    Json faces = Json::array();
    for (const FaceLine& face : f.faces)
        faces.push_back(
            {{"name", face.name}, {"axis", nameOf(face.axis)}, {"at", face.at.mm()}, {"doubt", optional(face.doubt)}});
    return faces;
}

Json readingsJson(const Part& part, const Footprint& f) {
    Json readings = Json::array();
    for (std::size_t i = 0; i < part.readings.size(); ++i) {
        const ReadingResult& r = f.readings[i];
        readings.push_back({{"id", part.readings[i].id},
                            {"what", readingWords(part, part.readings[i])},
                            {"name", part.readings[i].name},
                            {"mean", r.stats.usable ? Json(r.stats.mean) : Json(nullptr)},
                            {"doubt", r.stats.usable ? Json(kNinetyFive * r.stats.u) : Json(nullptr)},
                            {"expected", r.stats.usable ? Json(r.expected) : Json(nullptr)},
                            {"w", r.w},
                            {"redundancy", r.redundancy},
                            {"state", nameOf(r.state)},
                            {"words", r.words}});
    }
    return readings;
}

Json gaugesJson(const Part& part, const Footprint& f) {
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
            about.push_back(readingById(part, id) != nullptr ? "reading " + id : featureWords(part, id));
        j["about"] = about;
        j["words"] = fill(g.words, g.of, Unit::Mm, 2);
        gauges.push_back(j);
    }
    return gauges;
}

Json bodyJson(const Footprint& f) {
    Json body = nullptr;
    if (f.body)
        body = {{"left", f.body->rect.left.mm()},    {"right", f.body->rect.right.mm()},
                {"front", f.body->rect.bottom.mm()}, {"rear", f.body->rect.top.mm()},
                {"height", f.body->height.mm()},     {"firm", f.body->allFirm()}};
    if (f.body && f.body->traced()) {
        Json outline = Json::array();
        for (const Point& p : f.body->ring()) outline.push_back({p.x.mm(), p.y.mm()});
        body["outline"] = outline;
    }
    return body;
}

/// The features that its places hold on, each once.
Json heldOn(const Shape& shape) {
    std::set<FeatureId> all;
    for (const Anchored& at : shape.places)
        for (const Hold& hold : {at.x, at.y})
            for (const FeatureId& id : {hold.of, hold.with})
                if (!id.empty()) all.insert(id);
    return all;
}

Json cutOutsJson(const Footprint& f) {
    Json cuts = Json::array();
    for (const Shape& c : f.cutOuts) {
        const RoundedPolygon* one = c.rounded();
        if (one == nullptr) continue;
        Json corners = Json::array();
        for (const Point& p : one->corners) corners.push_back({p.x.mm(), p.y.mm()});
        cuts.push_back({{"name", c.name},
                        {"kind", nameOf(c.milled.kind)},
                        {"corners", corners},
                        {"radius", one->radius.mm()},
                        {"width", c.milled.width.mm()},
                        {"heldOn", heldOn(c)},
                        {"doubt", c.doubt.mm()}});
    }
    return cuts;
}

/// Marks as they lie, and what is wrong with them.
Json attachedJson(const Footprint& f) {
    Json marks = Json::array();
    for (const LaidMark& m : f.laid) {
        Json points = Json::array();
        for (const Point& p : m.points) points.push_back({p.x.mm(), p.y.mm()});
        Json one = {{"id", m.id},       {"name", m.name}, {"kind", nameOf(m.kind)},
                    {"points", points}, {"firm", m.firm}, {"doubt", m.doubt.mm()}};
        if (!m.wrong.empty()) one["wrong"] = m.wrong;
        if (const auto it = f.inkWords.find(m.id); it != f.inkWords.end()) one["words"] = it->second;
        if (const auto it = f.attached.notes.find(m.id); it != f.attached.notes.end()) one["note"] = it->second;
        marks.push_back(std::move(one));
    }
    return marks;
}

Json keepoutsJson(const Footprint& f) {
    Json keepouts = Json::array();
    for (const Shape& k : f.keepouts) {
        Json outline = Json::array();
        for (const auto& ring : k.area()) {
            Json points = Json::array();
            for (const Point& p : ring) points.push_back({p.x.mm(), p.y.mm()});
            outline.push_back(std::move(points));
        }
        keepouts.push_back({{"id", k.id},
                            {"name", k.name},
                            {"travel", k.keeps.travel},
                            {"piece", k.keeps.piece},
                            {"parts", k.keeps.parts},
                            {"copper", k.keeps.copper},
                            {"vias", k.keeps.vias},
                            {"drilling", k.keeps.drilling},
                            {"partSide", k.keeps.top},
                            {"solderSide", k.keeps.bottom},
                            {"innerLayers", k.keeps.inner},
                            {"maxHeight", k.keeps.maxHeight.mm()},
                            {"heldOn", heldOn(k)},
                            {"doubt", k.doubt.mm()},
                            {"outline", outline}});
    }
    return keepouts;
}

/// Copper that marks ask for, by number: mm² on each side.
Json copperJson(const Footprint& f) {
    Json copper = Json::array();
    for (const auto& [number, area] : f.attached.areas)
        copper.push_back({{"number", number}, {"top", area.first}, {"bottom", area.second}});
    return copper;
}

/// What pins do, and the pads that they are joined to.
Json pinsJson(const Part& part, const Footprint& f) {
    const Joints joints = jointsOf(part.pins, f.pads);
    Json all = Json::array();
    for (std::size_t i = 0; i < part.pins.size(); ++i) {
        const Pin& p = part.pins[i];
        all.push_back({{"number", p.number}, {"names", p.names}, {"kind", nameOf(p.kind)}, {"joined", joints.pads[i]}});
    }
    return all;
}

/// How far the part has come.
Json approvalJson(const ApprovalState& s) {
    Json passes = Json::array();
    for (const LetPass& p : s.passes) passes.push_back({{"gauge", p.gauge}, {"reason", p.reason}, {"by", p.by}});
    Json blocking = Json::array();
    for (const Blocking& b : s.blocking) blocking.push_back(b.gauge);
    return {{"standing", standingWords(s)}, {"version", s.version}, {"changed", s.changed},
            {"digest", s.digest},           {"letPass", passes},    {"blocking", blocking}};
}

/// A list, each element by itself.
template <class T, class One>
Json listOf(const std::vector<T>& all, One one) {
    Json list = Json::array();
    for (const T& each : all) list.push_back(one(each));
    return list;
}

}  // namespace

std::string deriveJson(const Part& part, const Footprint& f, const DropInReport* report,
                       const std::optional<ApprovalState>& standing) {
    Json out = {
        {"part", part.name},
        {"units", "mm"},
        {"kind", nameOf(part.kind)},
        {"billOfMaterial", isBought(part.kind)},
        {"placementFile", isPlaced(part.kind)},
        {"pads", padsJson(part, f)},
        {"pickPoint", {pickPoint(f).x.mm(), pickPoint(f).y.mm()}},
        {"bareHoles", bareHolesJson(f)},
        {"makes", makesJson(part, f)},
        {"parameters", parametersJson(f)},
        {"asRead", listOf(f.sizes, sizeJson)},
        {"body", bodyJson(f)},
        {"readings", readingsJson(part, f)},
        {"ways", listOf(f.ways,
                        [](const Explanation& e) {
                            return Json{{"wrong", e.readings}, {"chi2", e.chi2}};
                        })},
        {"next", f.next.words},
        {"gauges", gaugesJson(part, f)},
        {"loose", listOf(f.loose, [&](const LooseMovement& m) { return looseJson(part, m); })},
        {"marks", marksJson(f)},
        {"faces", facesJson(f)},
        {"slips", listOf(f.slips,
                         [](const Slip& s) {
                             return Json{{"reading", s.reading}, {"words", s.words}, {"todo", s.todo}};
                         })},
        {"spreads", listOf(f.spreads,
                           [](const Spread& s) {
                               return Json{{"reading", s.reading}, {"sigma", s.sigma.mm()}, {"specimens", s.specimens}};
                           })},
        {"complaints", listOf(f.complaints,
                              [](const Complaint& c) {
                                  return Json{{"about", c.parameter}, {"words", c.words}};
                              })},
        {"leads", leadsJson(part, f)},
        {"voltage", voltageJson(part, f)},
        {"cutOuts", cutOutsJson(f)},
        {"attached", attachedJson(f)},
        {"keepouts", keepoutsJson(f)},
        {"pins", pinsJson(part, f)},
        {"approval", approvalJson(standing ? *standing : standingOf(part, f))},
        {"attachedCopper", copperJson(f)},
        {"room", roomJson(part, f)}};
    out["dropIn"] = report == nullptr ? shareJson(f.dropIn) : dropInJson(part, *report);
    return out.dump(2, ' ', false, Json::error_handler_t::replace) + "\n";
}

}  // namespace punch
