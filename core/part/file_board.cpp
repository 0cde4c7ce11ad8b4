// Overrides of pads, cut-outs and the fab profile in a part's file.

#include "core/part/file_fields.h"

namespace punch {
namespace {

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
    writeFields(j, o, overrideFields());
    putText(j, "reason", o.reason);
    return withUnknown(j, o.unknown);
}

PadOverride padOverrideFrom(Fields f) {
    PadOverride o;
    readFields(f, o, overrideFields());
    o.reason = f.text("reason", "");
    o.unknown = f.rest();
    return o;
}

Mark cutOutBeforeMarks(Fields f) {
    CutOut c;
    c.id = f.text("id", "");
    c.name = f.text("name", c.name);
    c.kind = f.choice<CutOutKind>("kind", c.kind);
    c.from = pointAt(f, "from");
    c.to = pointAt(f, "to");
    c.width = f.positiveLength("width", Length());
    if (c.width <= Length()) f.fail(f.at("width"), "a width above 0");
    Mark mark = markOf(c);
    mark.unknown = f.rest();
    return mark;
}

Json toJson(const FabProfile& p) {
    Json j = {{"name", p.name}};
    writeFields(j, p, fabFields());
    return withUnknown(j, p.unknown);
}

FabProfile fabProfileFrom(Fields f) {
    FabProfile p;
    p.name = f.text("name", p.name);
    readFields(f, p, fabFields());
    p.unknown = f.rest();
    return p;
}

}  // namespace punch
