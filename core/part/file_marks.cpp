// Marks in a part's file, and the keepouts of files of version 1, which became marks.

#include <fmt/format.h>

#include "core/part/file_sections.h"
#include "core/part/mark_kinds.h"

namespace punch {
namespace {

Json toJson(const Hold& h) {
    Json j = {{"at", h.of}};
    if (h.at != HoldAt::Middle) j["edge"] = nameOf(h.at);
    putText(j, "and", h.with);
    putText(j, "off", h.off);
    return j;
}

/// A length as text: numbers are mm.
std::string typedAt(Fields& f, const char* key) {
    const auto j = f.json(key);
    if (!j) return {};
    if (j->is_number()) return fmt::format("{}", f.finite(*j, f.at(key)));
    return f.text(key, "");
}

Hold holdFrom(Fields f) {
    Hold h;
    h.of = f.text("at", kDatumFeature);
    h.at = f.choice<HoldAt>("edge", h.at);
    h.with = f.text("and", "");
    h.off = typedAt(f, "off");
    return h;
}

}  // namespace

Json toJson(const Mark& m) {
    Json j = {{"id", m.id}, {"name", m.name}, {"kind", nameOf(m.kind)}};
    if (!m.points.empty()) {
        Json points = Json::array();
        for (const Anchored& p : m.points) {
            Json point = {{"x", toJson(p.x)}, {"y", toJson(p.y)}};
            if (p.corner != CornerForm::Sharp) point["corner"] = nameOf(p.corner);
            putText(point, "size", p.size);
            putText(point, "arc", p.arc);
            points.push_back(point);
        }
        j["points"] = points;
    }
    for (const MarkField& field : markKind(m.kind).fields)
        if (const auto it = m.set.find(field.key); it != m.set.end()) j[field.key] = it->second;
    return withUnknown(j, m.unknown);
}

Mark markFrom(Fields f) {
    Mark m;
    m.id = f.text("id", "");
    m.name = f.text("name", "");
    m.kind = f.choice<MarkKind>("kind", m.kind);
    for (const auto& [path, j] : f.list("points")) {
        Fields at = f.sub(j, path);
        Anchored p;
        p.x = holdFrom(at.object("x"));
        p.y = holdFrom(at.object("y"));
        p.corner = at.choice<CornerForm>("corner", p.corner);
        p.size = typedAt(at, "size");
        p.arc = typedAt(at, "arc");
        m.points.push_back(p);
    }
    const MarkKindInfo& kind = markKind(m.kind);
    if (static_cast<int>(m.points.size()) > std::max(kind.points.most, 0))
        f.fail(f.at("points"), fmt::format("at most {} places", kind.points.most));
    for (const MarkField& field : kind.fields) {
        if (!f.json(field.key)) continue;
        const auto value = checkedMarkValue(field, typedAt(f, field.key));
        if (value)
            m.set[field.key] = *value;
        else
            f.fail(f.at(field.key), value.error().what);
    }
    m.unknown = f.rest();
    return m;
}

Mark keepoutFromVersion1(Fields f) {
    Mark m;
    m.kind = MarkKind::Keepout;
    m.id = f.text("id", "");
    m.name = f.text("name", "");
    const Side side = f.choice<Side>("side", Side::Front);
    const Length depth = f.positiveLength("depth", Length());
    m.set["height"] = fmt::format("{}", f.positiveLength("maxHeight", Length()).mm());
    m.points = pointsBeyond(side, fmt::format("{}", depth.mm()));
    m.unknown = f.rest();
    return m;
}

}  // namespace punch
