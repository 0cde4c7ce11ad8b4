// Rules, potentials and dress in a part's file.

#include "core/part/file_fields.h"

namespace punch {

Json toJson(const Insulating& i) {
    Json j = Json::object();
    writeFields(j, i, insulatingFields());
    return withUnknown(j, i.unknown);
}

Insulating insulatingFrom(Fields f) {
    Insulating i;
    readFields(f, i, insulatingFields());
    i.unknown = f.rest();
    return i;
}

Json toJson(const Rules& r) {
    Json j = Json::object();
    writeFields(j, r, ruleFields());
    if (r.iec != Insulating{}) j["iec60664"] = toJson(r.iec);
    if (r.fab != FabProfile{}) j["fab"] = toJson(r.fab);
    return withUnknown(j, r.unknown);
}

Rules rulesFrom(Fields f) {
    Rules r;
    readFields(f, r, ruleFields());
    r.iec = insulatingFrom(f.object("iec60664"));
    if (f.json("fab")) r.fab = fabProfileFrom(f.object("fab"));
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

Json toJson(const Dress& d) {
    Json j = Json::object();
    writeFields(j, d, dressFields());
    return withUnknown(j, d.unknown);
}

Dress dressFrom(Fields f) {
    Dress d;
    readFields(f, d, dressFields());
    if (d.line < Length::fromMm(0.01)) f.fail(f.at("line"), "a line is at least 0.01 mm wide");
    f.skip("keepouts");  // of version 1: they are marks (file_marks.cpp)
    d.unknown = f.rest();
    return d;
}

}  // namespace punch
