#include "core/size/mark_copper.h"

#include <charconv>

#include "core/base/find_in.h"
#include "core/part/drawing_value.h"

namespace punch {

int MarkCopper::count(const char* key) const {
    const std::string typed = valueOf(mark, key);
    int n = 0;
    std::from_chars(typed.data(), typed.data() + typed.size(), n);
    return n;
}

FeatureId MarkCopper::joinedTo() const {
    const std::string pad = markField(mark.kind, "pad") == nullptr ? std::string() : valueOf(mark, "pad");
    return pad.empty() ? mark.id : pad;
}

Conductor MarkCopper::joined(Point at) const {
    Conductor c;
    const FeatureId pad = joinedTo();
    const Conductor* of = findIn(metal.copper, [&](const Conductor& p) { return p.id == pad; });
    c.id = of != nullptr ? of->id : mark.id;
    c.number = of != nullptr ? of->number : mark.name;
    if (of != nullptr) c.formation = of->formation;
    c.at = at;
    c.firm = laid.firm && (of == nullptr || of->firm);
    c.sized = true;
    return c;
}

MarkCopper::Sides MarkCopper::sides() const {
    const std::string side = valueOf(mark, "side");
    return {side != "solder side", side != "part side"};
}

std::optional<Limits> MarkCopper::limits(const char* key) {
    const std::string label = markField(mark.kind, key)->label;
    const auto value = parseDrawingValue(valueOf(mark, key), Unit::Mm);
    if (!value) {
        refuse(label + ": " + value.error().what);
        return {};
    }
    if (value->low < Length()) {
        refuse(label + " reaches below nothing");
        return {};
    }
    return Limits{value->low, value->high};
}

void MarkCopper::open(bool top, Polygons area) {
    std::vector<RoundedPolygon> pieces = convexPieces(area, kPieceSlack);
    out.openings.push_back({mark.id, top, laid.firm, std::move(area), std::move(pieces)});
}

void MarkCopper::piece(const RoundedPolygon& shape, bool top) {
    Conductor c = joined(boundsOf(shape).middle());
    c.layers = top ? PadLayers::Top : PadLayers::Bottom;
    (top ? c.top : c.bottom) = polygonLand(shape);
    c.tented = true;
    out.lands.push_back(c);
}

}  // namespace punch
