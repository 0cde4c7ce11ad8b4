#include "core/part/cut_out.h"

#include <fmt/format.h>

#include "core/base/quantity.h"
#include "core/part/edit.h"

namespace punch {
namespace {

/// To a nanometre, without noughts behind it; nothing for 0.
std::string typedLength(Length l) {
    std::string text = fmt::format("{:.6f}", l.mm());
    text.erase(text.find_last_not_of('0') + 1);
    if (text.back() == '.') text.pop_back();
    return text == "0" || text == "-0" ? std::string() : text;
}

Anchored placeOf(const CutOut& cut, Point at) {
    Anchored place;
    place.x.of = place.y.of = cut.of.empty() ? kOriginFeature : cut.of;
    place.x.with = place.y.with = cut.with;
    place.x.off = typedLength(at.x - cut.base.x);
    place.y.off = typedLength(at.y - cut.base.y);
    return place;
}

}  // namespace

std::string movedBy(const std::string& typed, Length by) {
    if (by == Length()) return typed;
    if (typed.empty()) return typedLength(by);
    if (const auto number = parseNumber(typed)) return typedLength(Length::fromMm(*number) + by);
    return fmt::format("{} {} {}mm", typed, by < Length() ? '-' : '+', typedLength(abs(by)));
}

Mark markOf(const CutOut& cut) {
    Mark m;
    m.id = cut.id;
    m.name = cut.name;
    m.kind = MarkKind::CutOut;
    m.points = {placeOf(cut, cut.from), placeOf(cut, cut.to)};
    if (cut.kind == CutOutKind::Slot) {
        m.set["form"] = "slot";
        m.set["width"] = typedLength(cut.width);
    } else {
        // No bit is wider than the window.
        const Point d = cut.to - cut.from;
        if (cut.width > Length()) m.set["bit"] = typedLength(min(cut.width, min(abs(d.x), abs(d.y))));
    }
    return m;
}

Part withCutOut(Part part, const CutOut& cut) { return withMark(std::move(part), markOf(cut)); }

Part withCutOutMoved(Part part, const std::string& id, Point from, Point to) {
    for (Mark& m : part.marks) {
        if (m.id != id || m.points.size() < 2) continue;
        const Point by[] = {from, to};
        for (std::size_t i = 0; i < 2; ++i) {
            m.points[i].x.off = movedBy(m.points[i].x.off, by[i].x);
            m.points[i].y.off = movedBy(m.points[i].y.off, by[i].y);
        }
    }
    return part;
}

}  // namespace punch
