#include "core/size/pad_rules.h"

#include <algorithm>
#include <cmath>

#include "core/geometry/shapes.h"
#include "core/part/field_lists.h"
#include "core/size/hole_fit.h"

namespace punch {
bool mayBeLonger(LandShape shape) {
    return shape == LandShape::Rectangle || shape == LandShape::Oval || shape == LandShape::RoundedRectangle;
}

PadOverride overrideFor(const Part& part, const FeatureId& pin, const std::string& formation) {
    PadOverride o;
    for (const std::string& key : {pin, formation, std::string(kWholePart)})
        if (const auto it = part.overrides.find(key); it != part.overrides.end()) inherit(o, it->second);
    return o;
}

PadOverride overrideForSpot(const Part& part, const FeatureId& spot) {
    auto it = part.overrides.find(spot);
    // A mirror image has what its original has, until it gets something of its own.
    if (const Spot* own = spotOf(part, spot); it == part.overrides.end() && own != nullptr && !own->twinOf.empty())
        it = part.overrides.find(own->twinOf);
    return it != part.overrides.end() ? it->second : PadOverride{};
}

bool isOverridden(const Part& part, const FeatureId& pin, const std::string& formation) {
    return part.overrides.contains(pin) || part.overrides.contains(formation) || part.overrides.contains(kWholePart);
}

void sizePad(const Part& part, const std::string& formation, const LeadFit& lead, Pad& pad) {
    sizePad(part.rules, overrideFor(part, pad.id, formation), lead, pad);
    pad.overridden = isOverridden(part, pad.id, formation);
}

void sizePad(const Rules& rules, const PadOverride& o, const LeadFit& lead, Pad& pad) {
    pad.sized = lead.sized;
    pad.layers = o.layers.value_or(PadLayers::Through);
    const bool through = pad.layers == PadLayers::Through;
    if (through) {
        pad.hole = o.hole.value_or(lead.hole);
        pad.holeLargest = pad.hole + rules.platedTolerance;
        pad.slotLength = lead.slotLength;
        if (o.holeLength) pad.slotLength = *o.holeLength > pad.hole ? *o.holeLength : Length();
        // The slot lies along the lead's longer side.
        pad.slotTurn = pad.leadTurn + Angle::fromDegrees(pad.leadY > pad.leadX ? 90 : 0);
    } else {
        pad.hole = pad.holeLargest = pad.slotLength = Length();
    }
    const bool slot = pad.slotLength > Length();
    Land land;
    land.shape = o.shape.value_or(slot ? (pad.first ? LandShape::Rectangle : LandShape::Oval)
                                       : (pad.first ? LandShape::Square : LandShape::Round));
    // The rule's land follows the hole, also one that the user made larger.
    const Length ruled = lead.land + (pad.hole - lead.hole) * (through ? 1.0 : 0.0);
    // Along its own x; a slot's land lies with the slot.
    land.width = o.land.value_or(slot ? ruled + pad.slotLength - pad.hole : ruled);
    land.length = land.width;
    if (mayBeLonger(land.shape)) land.length = o.landLength.value_or(slot ? ruled : land.width);
    land.corner = min(o.corner.value_or(min(land.width, land.length) / 4), min(land.width, land.length) / 2);
    land.turn = o.turn.value_or(slot ? pad.slotTurn : Angle());
    land.at = pad.at + Point{o.offsetX.value_or(Length()), o.offsetY.value_or(Length())};
    const auto onLayer = [&](const std::optional<Length>& width) {
        Land other = land;
        if (!width) return other;
        other.length = mayBeLonger(land.shape) ? max(land.length + (*width - land.width), Length()) : *width;
        other.width = *width;
        return other;
    };
    pad.top = pad.layers != PadLayers::Bottom ? land : Land{};
    pad.bottom = pad.layers == PadLayers::Bottom ? land : through ? onLayer(o.bottom) : Land{};
    pad.inner = through ? onLayer(o.inner) : Land{};
    pad.maskMargin = o.maskMargin.value_or(rules.fab.maskMargin);
    pad.tented = o.tented.value_or(false);
    pad.paste = o.paste.value_or(!through);
}

namespace {

/// Least way from a hole's wall to the edge of the copper around it; negative where it breaks out.
Length wallToEdge(const RoundedPolygon& hole, const RoundedPolygon& copper) {
    // Of a convex land the least way lies at one of the corners of the hole's core: how deep is that corner inside?
    Length least = Length::fromMm(1e6);
    const std::size_t n = copper.corners.size();
    for (const Point& c : hole.corners) {
        Length depth = copper.radius - distance(c, copper.corners.front());
        if (n >= 2) {
            // Inside the core: as far as to its nearest side. Outside: the radius less the distance from the core.
            double inside = 1e300;
            for (std::size_t i = 0; i < n && n > 2; ++i) {
                const Point a = copper.corners[i];
                const Point b = copper.corners[(i + 1) % n];
                const double dx = (b.x - a.x).nm();
                const double dy = (b.y - a.y).nm();
                inside = std::min(inside, (dx * (c.y - a.y).nm() - dy * (c.x - a.x).nm()) / std::hypot(dx, dy));
            }
            const Length out = gap(RoundedPolygon::disc(c, Length()), {copper.corners, Length()});
            depth = copper.radius + (n > 2 && inside > 0 ? Length::fromNm(inside) : -out);
        }
        least = min(least, depth);
    }
    return least - hole.radius;
}

}  // namespace

Length ringOf(const Rules& rules, const Conductor& pad) {
    const RoundedPolygon hole = holeShape(pad);
    Length least = Length::fromMm(1e6);
    for (const Land* land : {&pad.top, &pad.inner, &pad.bottom})
        if (land->there()) least = min(least, wallToEdge(hole, copperShape(*land)));
    return least - fabricationAllowance(rules.level) / 2;
}

PlaneAdvice planeAdvice(const Rules& rules, const Conductor& pad) {
    PlaneAdvice a;
    const Land& land = pad.inner.there() ? pad.inner : shownLand(pad);
    a.clearance = max(land.width, land.length) + 2.0 * rules.fab.copperToEdge;
    a.spokeWidth = 0.6 * min(land.width, land.length) / a.spokes;
    return a;
}

Length leastRingOf(const Rules& rules) { return max(leastRing(), rules.fab.leastRing); }

Conductor withLand(Conductor pad, Length size, bool across) {
    const Land before = shownLand(pad);
    for (Land* land : {&pad.top, &pad.inner, &pad.bottom}) {
        if (!land->there() || *land != before) continue;
        if (!mayBeLonger(land->shape)) land->width = land->length = size;
        (across ? land->length : land->width) = size;
    }
    return pad;
}

}  // namespace punch
