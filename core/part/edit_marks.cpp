// Edits of marks.

#include <fmt/format.h>

#include <algorithm>

#include "core/part/edit.h"
#include "core/part/mark_kinds.h"
#include "core/part/names.h"

namespace punch {

std::vector<Anchored> pointsBeyond(Side side, const std::string& depth) {
    const bool low = side == Side::Front || side == Side::Left;
    const std::string out = (low ? "-(" : "") + depth + (low ? ")" : "");
    const auto hold = [](const char* face, std::string off = {}) { return Hold{face, HoldAt::Middle, std::move(off)}; };
    const std::string typed = low && depth.find_first_not_of("0123456789.") == std::string::npos ? "-" + depth : out;
    switch (side) {
        case Side::Front: return {{hold(kLeftFace), hold(kFrontFace, typed)}, {hold(kRightFace), hold(kFrontFace)}};
        case Side::Rear: return {{hold(kLeftFace), hold(kRearFace)}, {hold(kRightFace), hold(kRearFace, typed)}};
        case Side::Left: return {{hold(kLeftFace, typed), hold(kFrontFace)}, {hold(kLeftFace), hold(kRearFace)}};
        case Side::Right: break;
    }
    return {{hold(kRightFace), hold(kFrontFace)}, {hold(kRightFace, typed), hold(kRearFace)}};
}

Part withMark(Part part, Mark mark) {
    mark.id = "m" + std::to_string(part.nextId++);
    part.marks.push_back(std::move(mark));
    return part;
}

Part withoutMark(Part part, const std::string& id) {
    std::erase_if(part.marks, [&](const Mark& m) { return m.id == id; });
    for (Potential& p : part.potentials) std::erase(p.pins, id);
    std::erase_if(part.potentials, [](const Potential& p) { return p.pins.empty(); });
    return part;
}

Result<Part> withMarkValue(Part part, const std::string& id, const std::string& key, const std::string& typed) {
    for (Mark& m : part.marks) {
        if (m.id != id) continue;
        const MarkField* field = markField(m.kind, key);
        if (field == nullptr) return problem("it has no “" + key + "”", m.name);
        if (typed.empty() && field->value != MarkValue::Text) {
            m.set.erase(key);
            return part;
        }
        const auto value = checkedMarkValue(*field, typed);
        if (!value) return tl::make_unexpected(value.error());
        m.set[key] = *value;
        return part;
    }
    return problem("there is no such mark", id);
}

Mark newMark(MarkKind kind) {
    Mark m;
    m.kind = kind;
    m.name = nameOf(kind);
    m.points = markKind(kind).begin;
    return m;
}

Mark newMark(MarkKind kind, const Part& part) {
    Mark m = newMark(kind);
    if (const auto begin = markKind(kind).acts.begin; begin != nullptr) begin(m, part);
    if (part.body.present) return m;
    for (Anchored& place : m.points)
        for (Hold* h : {&place.x, &place.y}) {
            // Two millimetres around it, in place of the body's edges. What lay beyond a face has no size without it.
            const bool low = h->at == HoldAt::Low || h->of == kLeftFace || h->of == kFrontFace;
            const bool high = h->at == HoldAt::High || h->of == kRightFace || h->of == kRearFace;
            const bool beyond = !h->off.empty();
            *h = {kDatumFeature, HoldAt::Middle, beyond ? "-5" : low ? "-2" : high ? "2" : ""};
        }
    return m;
}

}  // namespace punch
