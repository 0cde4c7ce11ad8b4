// Rules, potentials and dress in a part's file.

#include "core/part/file_sections.h"

namespace punch {

Json toJson(const Insulating& i) {
    Json j = {{"category", nameOf(i.category)},
              {"pollution", nameOf(i.pollution)},
              {"group", nameOf(i.group)},
              {"insulation", nameOf(i.insulation)},
              {"altitude", i.altitude}};
    if (i.printedWiring) j["printedWiring"] = true;
    if (i.qualifiedCoating) j["qualifiedCoating"] = true;
    if (i.narrowSlots) j["narrowSlots"] = true;
    return withUnknown(j, i.unknown);
}

Insulating insulatingFrom(Fields f) {
    Insulating i;
    i.category = f.choice<OvervoltageCategory>("category", i.category);
    i.pollution = f.choice<PollutionDegree>("pollution", i.pollution);
    i.group = f.choice<MaterialGroup>("group", i.group);
    i.insulation = f.choice<Insulation>("insulation", i.insulation);
    i.altitude = f.number("altitude", i.altitude);
    if (!(i.altitude >= -500 && i.altitude <= 100000)) {
        f.fail(f.at("altitude"), "metres above the sea, -500 to 100000");
        i.altitude = 2000;
    }
    i.printedWiring = f.flag("printedWiring", false);
    i.qualifiedCoating = f.flag("qualifiedCoating", false);
    i.narrowSlots = f.flag("narrowSlots", false);
    i.unknown = f.rest();
    return i;
}

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
    if (r.standard != VoltageStandard::Ipc2221) j["voltageStandard"] = nameOf(r.standard);
    if (r.iec != Insulating{}) j["iec60664"] = toJson(r.iec);
    if (r.fab != FabProfile{}) j["fab"] = toJson(r.fab);
    if (r.fewestDrills) j["fewestDrills"] = true;
    if (r.pinPlace > Length()) j["pinPlace"] = r.pinPlace.mm();
    if (r.dropInWanted != Rules{}.dropInWanted) j["dropInWanted"] = r.dropInWanted;
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
    r.standard = f.choice<VoltageStandard>("voltageStandard", r.standard);
    r.iec = insulatingFrom(f.object("iec60664"));
    if (f.json("fab")) r.fab = fabProfileFrom(f.object("fab"));
    r.fewestDrills = f.flag("fewestDrills", false);
    r.pinPlace = f.positiveLength("pinPlace", r.pinPlace);
    r.dropInWanted = f.number("dropInWanted", r.dropInWanted);
    if (!(r.dropInWanted > 0 && r.dropInWanted < 1)) {
        f.fail(f.at("dropInWanted"), "a share between 0 and 1");
        r.dropInWanted = 0.999;
    }
    r.unknown = f.rest();
    return r;
}

Json toJson(const Potential& p) {
    Json j = {
        {"name", p.name}, {"kind", nameOf(p.kind)}, {"volts", p.volts.volts()}, {"source", p.source}, {"pins", p.pins}};
    if (p.phase) j["phase"] = p.phase->degrees();
    return withUnknown(j, p.unknown);
}

Potential potentialFrom(Fields f) {
    Potential p;
    p.name = f.text("name", "");
    p.kind = f.choice<PotentialKind>("kind", p.kind);
    p.volts = Voltage::fromVolts(f.number("volts", 0));
    if (p.kind != PotentialKind::Dc && p.volts < Voltage()) f.fail(f.at("volts"), "volts of a.c. are not negative");
    if (abs(p.volts) > Voltage::fromVolts(100000)) f.fail(f.at("volts"), "more than 100 kV");
    p.source = f.text("source", p.source);
    p.pins = f.texts("pins");
    if (f.json("phase")) p.phase = Angle::fromDegrees(f.number("phase", 0));
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

}  // namespace punch
