// Overrides of pads, cut-outs and the fab profile in a part's file.

#include "core/part/file_sections.h"

namespace punch {
namespace {

void putLength(Json& j, const char* key, const std::optional<Length>& l) {
    if (l) j[key] = l->mm();
}

/// A length that a board can have, or none.
std::optional<Length> sizeAt(Fields& f, const char* key) {
    const auto l = f.optionalLength(key);
    if (l && (*l <= Length() || *l > Length::fromMm(1000))) {
        f.fail(f.at(key), "a size above 0 and up to 1 m");
        return {};
    }
    return l;
}

std::optional<bool> flagAt(Fields& f, const char* key) {
    const auto j = f.json(key);
    if (!j || j->is_null()) return {};
    if (!j->is_boolean()) {
        f.fail(f.at(key), "true or false");
        return {};
    }
    return j->get<bool>();
}

Json pointJson(Point p) { return {p.x.mm(), p.y.mm()}; }

Point pointAt(Fields& f, const char* key) {
    const auto j = f.json(key);
    if (!j || !j->is_array() || j->size() != 2) {
        f.fail(f.at(key), "a place is [x, y]");
        return {};
    }
    const Point p{f.lengthOf((*j)[0], f.at(key)), f.lengthOf((*j)[1], f.at(key))};
    if (abs(p.x) > Length::fromMm(2000) || abs(p.y) > Length::fromMm(2000)) f.fail(f.at(key), "more than 2 m away");
    return p;
}

}  // namespace

Json toJson(const PadOverride& o) {
    Json j = Json::object();
    if (o.shape) j["shape"] = nameOf(*o.shape);
    putLength(j, "land", o.land);
    putLength(j, "landLength", o.landLength);
    putLength(j, "corner", o.corner);
    if (o.turn) j["turn"] = o.turn->degrees();
    putLength(j, "offsetX", o.offsetX);
    putLength(j, "offsetY", o.offsetY);
    putLength(j, "inner", o.inner);
    putLength(j, "bottom", o.bottom);
    putLength(j, "hole", o.hole);
    putLength(j, "holeLength", o.holeLength);
    if (o.slot) j["slot"] = *o.slot;
    if (o.plated) j["plated"] = *o.plated;
    if (o.layers) j["layers"] = nameOf(*o.layers);
    putLength(j, "maskMargin", o.maskMargin);
    if (o.tented) j["tented"] = *o.tented;
    if (o.paste) j["paste"] = *o.paste;
    putText(j, "reason", o.reason);
    return withUnknown(j, o.unknown);
}

PadOverride padOverrideFrom(Fields f) {
    PadOverride o;
    if (f.json("shape")) o.shape = f.choice<LandShape>("shape", LandShape::Round);
    o.land = sizeAt(f, "land");
    o.landLength = sizeAt(f, "landLength");
    o.corner = sizeAt(f, "corner");
    if (f.json("turn")) o.turn = Angle::fromDegrees(f.number("turn", 0));
    if (f.json("offsetX")) o.offsetX = f.lengthAt("offsetX", {});
    if (f.json("offsetY")) o.offsetY = f.lengthAt("offsetY", {});
    o.inner = sizeAt(f, "inner");
    o.bottom = sizeAt(f, "bottom");
    o.hole = sizeAt(f, "hole");
    o.holeLength = sizeAt(f, "holeLength");
    o.slot = flagAt(f, "slot");
    o.plated = flagAt(f, "plated");
    if (f.json("layers")) o.layers = f.choice<PadLayers>("layers", PadLayers::Through);
    o.maskMargin = f.optionalLength("maskMargin");
    o.tented = flagAt(f, "tented");
    o.paste = flagAt(f, "paste");
    o.reason = f.text("reason", "");
    o.unknown = f.rest();
    return o;
}

Json toJson(const CutOut& c) {
    Json j = {{"id", c.id},
              {"name", c.name},
              {"kind", nameOf(c.kind)},
              {"from", pointJson(c.from)},
              {"to", pointJson(c.to)},
              {"width", c.width.mm()}};
    return withUnknown(j, c.unknown);
}

CutOut cutOutFrom(Fields f) {
    CutOut c;
    c.id = f.text("id", "");
    c.name = f.text("name", c.name);
    c.kind = f.choice<CutOutKind>("kind", c.kind);
    c.from = pointAt(f, "from");
    c.to = pointAt(f, "to");
    c.width = f.positiveLength("width", Length());
    if (c.width <= Length()) f.fail(f.at("width"), "a width above 0");
    c.unknown = f.rest();
    return c;
}

Json toJson(const FabProfile& p) {
    Json j = {{"name", p.name},
              {"leastDrill", p.leastDrill.mm()},
              {"leastRing", p.leastRing.mm()},
              {"leastSlot", p.leastSlot.mm()},
              {"leastWeb", p.leastWeb.mm()},
              {"leastGap", p.leastGap.mm()},
              {"copperToEdge", p.copperToEdge.mm()},
              {"leastMaskWeb", p.leastMaskWeb.mm()},
              {"maskMargin", p.maskMargin.mm()},
              {"plating", p.plating.mm()},
              {"slotTolerance", p.slotTolerance.mm()},
              {"wander", p.wander.mm()},
              {"passes", p.passes.mm()},
              {"aspect", p.aspect},
              {"mills", lengthsToJson(p.mills)}};
    return withUnknown(j, p.unknown);
}

FabProfile fabProfileFrom(Fields f) {
    FabProfile p;
    p.name = f.text("name", p.name);
    p.leastDrill = f.positiveLength("leastDrill", p.leastDrill);
    p.leastRing = f.positiveLength("leastRing", p.leastRing);
    p.leastSlot = f.positiveLength("leastSlot", p.leastSlot);
    p.leastWeb = f.positiveLength("leastWeb", p.leastWeb);
    p.leastGap = f.positiveLength("leastGap", p.leastGap);
    p.copperToEdge = f.positiveLength("copperToEdge", p.copperToEdge);
    p.leastMaskWeb = f.positiveLength("leastMaskWeb", p.leastMaskWeb);
    p.maskMargin = f.positiveLength("maskMargin", p.maskMargin);
    p.plating = f.positiveLength("plating", p.plating);
    p.slotTolerance = f.positiveLength("slotTolerance", p.slotTolerance);
    p.wander = f.positiveLength("wander", p.wander);
    p.passes = f.positiveLength("passes", p.passes);
    p.aspect = f.number("aspect", p.aspect);
    if (!(p.aspect >= 1 && p.aspect <= 100)) f.fail(f.at("aspect"), "a ratio from 1 to 100");
    if (f.json("mills")) {
        p.mills.clear();
        for (const auto& [path, j] : f.list("mills")) {
            p.mills.push_back(f.lengthOf(j, path));
            if (p.mills.back() <= Length()) f.fail(path, "a bit has a diameter above 0");
        }
    }
    p.unknown = f.rest();
    return p;
}

}  // namespace punch
