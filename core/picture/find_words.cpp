#include <fmt/format.h>

#include <cmath>
#include <nlohmann/json.hpp>

#include "core/measure/reading_result.h"
#include "core/part/names.h"
#include "core/picture/find.h"

namespace punch {

namespace {

using Json = nlohmann::ordered_json;

double rounded(double v, double perUnit) { return std::round(v * perUnit) / perUnit + 0.0; }
Json mm(double v) { return rounded(v, 1e5); }
Json degrees(double v) { return rounded(v, 1e5); }

Json fitted(const Found& found, const std::optional<FittedValue>& f) {
    if (!f) return nullptr;
    return {{"value", mm(f->value)}, {"doubt", mm(kNinetyFive * withScaleU(found, *f))}};
}
Json fittedAngle(const std::optional<FittedValue>& f) {
    if (!f) return nullptr;
    return {{"value", degrees(f->value)}, {"doubt", degrees(kNinetyFive * f->u)}};
}

Json formationJson(const Found& found) {
    if (!found.formation) return nullptr;
    const RecognisedFormation& f = *found.formation;
    Json out = {{"kind", nameOf(f.kind)},
                {"sure", rounded(found.sure, 1e3)},
                {"pins", f.positions.size()},
                {"words", formationWords(f)}};
    if (f.kind == FormationKind::Ring) {
        out["circle"] = fitted(found, f.circle);
        out["start"] = fittedAngle(f.start);
        out["step"] = fittedAngle(f.step);
        out["arc"] = f.arc;
        out["middle"] = f.middle;
    } else {
        out["rows"] = f.rows;
        out["direction"] = found.direction;
    }
    if (f.rearPitch) out["rearPitch"] = fitted(found, f.rearPitch);
    if (f.rowGap) out["rowGap"] = fitted(found, f.rowGap);
    if (f.rowShift) out["rowShift"] = fitted(found, f.rowShift);
    out["leftOut"] = f.leftOut;
    out["scatter"] = mm(f.scatter);
    if (f.pitch) {
        const double u = withScaleU(found, *f.pitch);
        const auto standard = standardPitch(f, u);
        out["pitch"] = {{"value", mm(f.pitch->value)},
                        {"doubt", mm(kNinetyFive * u)},
                        {"standard", standard ? Json(*standard) : Json(nullptr)}};
    } else {
        out["pitch"] = nullptr;
    }
    return out;
}

std::string number(double v) {
    std::string s = fmt::format("{:.3f}", v);
    while (s.ends_with('0') && s.substr(s.find('.')).size() > 3) s.pop_back();
    return s;
}

}  // namespace

std::string foundKindName(FoundKind kind) {
    switch (kind) {
        case FoundKind::Pin: return "pin";
        case FoundKind::Pad: return "pad";
        case FoundKind::Hole: return "hole";
        case FoundKind::Peg: return "peg";
        case FoundKind::Lug: break;
    }
    return "lug";
}

std::string foundShapeName(const FoundFeature& f) {
    if (f.seen.rim.shape == RimShape::Round) return "round";
    if (f.seen.rim.shape == RimShape::Oval) return "oval";
    return f.height > 0.9 * f.width ? "square" : "rectangular";
}

std::string formationWords(const RecognisedFormation& f) {
    const std::size_t pins = f.positions.size();
    const std::string gaps = f.leftOut.empty() ? "" : fmt::format(", {} left out", f.leftOut.size());
    const std::string pitch = f.pitch ? ", pitch " + number(f.pitch->value) + " mm" : "";
    switch (f.kind) {
        case FormationKind::Row: return fmt::format("A row of {}{}{}", pins, pitch, gaps);
        case FormationKind::TwoRows:
            return fmt::format("Two rows of {} and {}{}{}, {} mm apart{}", f.rows[0], f.rows[1], pitch,
                               f.rearPitch ? " and " + number(f.rearPitch->value) + " mm" : "", number(f.rowGap->value),
                               gaps);
        case FormationKind::Staggered:
            return fmt::format("{} staggered rows, {} pins{}, rows {} mm apart", f.rows.size(), pins, pitch,
                               number(f.rowGap->value));
        case FormationKind::Grid:
            return fmt::format("A grid of {} x {}{}, rows {} mm apart{}", f.rows[0], f.rows.size(), pitch,
                               number(f.rowGap->value), gaps);
        case FormationKind::Ring:
            return fmt::format("{} of {}{}, circle {} mm, {:.1f}° apart{}", f.arc ? "An arc" : "A ring",
                               pins - (f.middle ? 1 : 0), f.middle ? " and one in the middle" : "",
                               number(f.circle->value), f.step->value, gaps);
        default: break;
    }
    return "A single pin";
}

std::string findJson(const Found& found, bool fromBelow) {
    Json features = Json::array();
    for (const FoundFeature& f : found.features) {
        Json j = {{"kind", foundKindName(f.kind)},
                  {"shape", foundShapeName(f)},
                  {"x", mm(f.x)},
                  {"y", mm(f.y)},
                  {"width", mm(f.width)},
                  {"height", mm(f.height)},
                  {"rotation", degrees(f.rotation)},
                  {"doubt", mm(kNinetyFive * f.u)},
                  {"sizeDoubt", mm(kNinetyFive * f.uSize)},
                  {"confidence", rounded(f.seen.confidence, 1e3)},
                  {"inFormation", f.slot >= 0},
                  {"px", {{"x", rounded(f.seen.rim.centre.x, 1e4)}, {"y", rounded(f.seen.rim.centre.y, 1e4)}}}};
        if (f.seen.inner) j["hole"] = mm(*f.seen.inner * (found.scale.x + found.scale.y) / 2);
        features.push_back(std::move(j));
    }
    Json rulers = Json::array();
    for (const Ruler& r : found.rulers)
        rulers.push_back({{"believed", r.believed},
                          {"order", r.order},
                          {"steps", r.steps},
                          {"step", mm(r.step)},
                          {"bodySeen", r.bodySeen},
                          {"from", {{"x", rounded(r.first.x, 1e3)}, {"y", rounded(r.first.y, 1e3)}}},
                          {"to", {{"x", rounded(r.last.x, 1e3)}, {"y", rounded(r.last.y, 1e3)}}},
                          {"length", mm(r.length())}});
    Json scale = {{"x", found.scale.x},
                  {"y", found.scale.y},
                  {"doubt", found.scale.doubt()},
                  {"from", scaleFromWords(found.scale.from)}};
    if (!found.scale.residuals.empty()) {
        scale["residuals"] = Json::array();
        for (const double r : found.scale.residuals) scale["residuals"].push_back(mm(r));
    }
    Json witnesses = Json::array();
    for (const ScaleWitness& w : found.witnesses)
        witnesses.push_back({{"by", scaleFromWords(w.scale.from)},
                             {"words", w.words},
                             {"x", w.scale.x},
                             {"y", w.scale.y},
                             {"doubt", w.scale.doubt()},
                             {"rules", w.rules},
                             {"differs", w.differs}});
    scale["witnesses"] = std::move(witnesses);
    Json leftOut = Json::array();
    for (const LeftOut& l : found.leftOut)
        leftOut.push_back({{"px", {{"x", rounded(l.seen.rim.centre.x, 1e3)}, {"y", rounded(l.seen.rim.centre.y, 1e3)}}},
                           {"width", mm(l.seen.rim.width * (found.scale.x + found.scale.y) / 2)},
                           {"height", mm(l.seen.rim.height * (found.scale.x + found.scale.y) / 2)},
                           {"why", l.why}});
    Json others = Json::array();
    for (const OtherFormation& o : found.others)
        others.push_back(
            {{"words", formationWords(o.formation)}, {"kind", nameOf(o.formation.kind)}, {"features", o.members}});
    Json notes = Json::array(), noted = Json::array();
    for (const FindNote& n : found.notes) {
        notes.push_back(n.text);
        noted.push_back({{"about", noteAboutName(n.about)}, {"text", n.text}});
    }
    const Json slant = !found.slant ? Json(nullptr)
                                    : Json({{"x", found.slant->x},
                                            {"y", found.slant->y},
                                            {"doubt", kNinetyFive * std::max(found.slant->ux, found.slant->uy)}});
    const Json out = {{"units", "mm"},
                      {"face", fromBelow ? "solder" : "part"},
                      {"scale", scale},
                      {"angle", degrees(found.angle)},
                      {"angleDoubt", degrees(kNinetyFive * found.uAngle)},
                      {"features", features},
                      {"formation", formationJson(found)},
                      {"otherParts", others},
                      {"slant", slant},
                      {"leftOut", leftOut},
                      {"rulers", rulers},
                      {"notes", notes},
                      {"noted", noted}};
    return out.dump(2) + "\n";
}

}  // namespace punch
