#include "core/size/lead_section.h"

#include <algorithm>

#include "core/measure/adjust.h"
#include "core/measure/drawn_range.h"
#include "core/part/drawing_value.h"
#include "core/part/slots.h"

namespace punch {
namespace {

/// A size that a drawing may state: of these features, along this axis of theirs.
struct Stated {
    std::vector<FeatureId> of;
    Axis axis = Axis::Along;
    bool atEnd = false;
    bool round = false;
    std::string parameter;  ///< "lead.width"
};

bool states(const Reading& r, const Stated& s) {
    if ((r.contact != Contact::Size && r.contact != Contact::Rim) || r.atEnd != s.atEnd) return false;
    if (r.axis == Axis::Height || (!s.round && r.axis != s.axis)) return false;
    return std::find(s.of.begin(), s.of.end(), r.a) != s.of.end();
}

/// Over which a drawing lets the size be. None when no drawing says so, or what it says is set aside.
std::optional<std::pair<Length, Length>> drawnLimits(const Part& part, const Adjustment& adjustment, const Stated& s) {
    std::optional<std::pair<Length, Length>> all;
    const auto add = [&](const DrawingValue& v) {
        const DrawnRange range = drawnRange(v);
        const auto [low, high] = std::pair{Length::fromMm(range.low), Length::fromMm(range.high)};
        all = all ? std::pair{min(all->first, low), max(all->second, high)} : std::pair{low, high};
    };
    for (std::size_t i = 0; i < part.readings.size(); ++i) {
        const Reading& r = part.readings[i];
        if (!states(r, s)) continue;
        const ReadingState state = adjustment.readings()[i].state;
        if (state == ReadingState::InDoubt || state == ReadingState::Orphan || state == ReadingState::Unused) continue;
        if (r.drawing)
            add(*r.drawing);
        else if (r.raw.empty() && r.sameAs.empty() && !r.pick && !r.name.empty())
            if (const auto value = letterValue(part.letters, r.name)) add(*value);
    }
    // A parameter that is given as a letter of the table.
    if (const auto given = part.given.find(s.parameter); given != part.given.end()) {
        std::string name = given->second.typed;
        std::erase(name, ' ');
        if (const auto value = letterValue(part.letters, name)) add(*value);
    }
    return all;
}

/// As it was measured, within its doubt.
Extent measured(const Adjustment& adjustment, const Expr& size) {
    Extent e;
    e.mean = Length::fromMm(size.value());
    e.firm = adjustment.firm(size);
    if (e.firm) {
        e.doubt = Length::fromMm(adjustment.doubt(size));
        e.span = Length::fromMm(adjustment.span(size));
    }
    e.least = max(e.mean - e.doubt, Length());
    e.most = e.mean + e.doubt;
    return e;
}

Extent extentOf(const Part& part, const Adjustment& adjustment, const Expr& size, const Stated& stated) {
    Extent e = measured(adjustment, size);
    const auto limits = drawnLimits(part, adjustment, stated);
    // A nanometre outside is rounding.
    const Length hair = Length::fromNm(1);
    // Nor do they hold while it is not settled whether the drawing is right.
    if (limits && e.firm && e.span == Length() && e.mean >= limits->first - hair && e.mean <= limits->second + hair) {
        e.least = limits->first;
        e.most = limits->second;
        e.drawn = true;
    }
    return e;
}

/// The larger of two at each end.
Extent larger(const Extent& a, const Extent& b) {
    Extent e = a.mean >= b.mean ? a : b;
    e.least = max(a.least, b.least);
    e.most = max(a.most, b.most);
    e.firm = a.firm && b.firm;
    return e;
}

/// Over the corners of a rectangle; `diagonal` knows how the doubts of its sides go together.
Extent overCorners(const Adjustment& adjustment, const Extent& a, const Extent& b, const Expr& diagonal) {
    Extent e = measured(adjustment, diagonal);
    if (!a.drawn && !b.drawn) return e;
    e.drawn = true;
    e.least = hypot(a.least, b.least);
    e.most = hypot(a.most, b.most);
    return e;
}

void sortSides(LeadSection& s, const Extent& width, const Extent& thickness) {
    s.widthIsWide = width.mean >= thickness.mean;
    s.wide = s.widthIsWide ? width : thickness;
    s.thick = s.widthIsWide ? thickness : width;
}

}  // namespace

LeadSection leadSection(const Part& part, const Formation& formation, const Adjustment& adjustment) {
    const Formation& shape = shapeOf(part, formation);
    const std::string prefix = leadPrefix(part, formation) + "lead.";
    const Feature& f = adjustment.features().at(formation.pins.front());
    const bool round = shape.lead == LeadShape::Round;
    Stated stated{shape.pins, Axis::Along, false, round, prefix + "width"};
    stated.of.insert(stated.of.end(), formation.pins.begin(), formation.pins.end());
    const Expr width = f.halfX * Expr(2.0);
    const Expr thickness = f.halfY * Expr(2.0);
    Extent x = extentOf(part, adjustment, width, stated);
    Extent y = x;
    if (shape.lead == LeadShape::Rectangular || shape.lead == LeadShape::Oval) {
        stated.axis = Axis::Across;
        stated.parameter = prefix + "thickness";
        y = extentOf(part, adjustment, thickness, stated);
    }
    LeadSection s;
    if (round)
        s.across = x;
    else if (shape.lead == LeadShape::Oval)
        s.across = larger(x, y);
    else
        s.across = overCorners(adjustment, x, y, hypot(width, shape.lead == LeadShape::Square ? width : thickness));
    if (f.endX) {
        stated.atEnd = true;
        stated.round = false;
        stated.axis = Axis::Along;
        stated.parameter = prefix + "end.width";
        const Extent endX = extentOf(part, adjustment, *f.endX * Expr(2.0), stated);
        stated.axis = Axis::Across;
        stated.parameter = prefix + "end.thickness";
        const Extent endY = extentOf(part, adjustment, *f.endY * Expr(2.0), stated);
        s.end = larger(endX, endY);
        if (shape.end == LeadEnd::Formed) {
            const Extent corners = overCorners(adjustment, endX, endY, 2.0 * hypot(*f.endX, *f.endY));
            s.byEnd = corners.mean > s.across.mean;
            s.across = larger(s.across, corners);
            x = larger(x, endX);
            y = larger(y, endY);
        }
    }
    sortSides(s, x, y);
    return s;
}

LeadSection spotSection(const Part& part, const Spot& spot, const Adjustment& adjustment) {
    const Feature& f = adjustment.features().at(spot.id);
    // A twin has the size of what it mirrors.
    const FeatureId& sizedAs = spot.twinOf.empty() ? spot.id : spot.twinOf;
    Stated stated{{spot.id}, Axis::Along, false, f.round, sizedAs + (f.round ? ".diameter" : ".width")};
    if (!spot.twinOf.empty()) stated.of.push_back(spot.twinOf);
    for (const Spot& other : part.spots)
        if (other.twinOf == spot.id) stated.of.push_back(other.id);
    LeadSection s;
    const Extent x = extentOf(part, adjustment, f.halfX * Expr(2.0), stated);
    if (f.round) {
        s.wide = s.thick = s.across = x;
        return s;
    }
    stated.axis = Axis::Across;
    stated.parameter = sizedAs + ".thickness";
    const Extent y = extentOf(part, adjustment, f.halfY * Expr(2.0), stated);
    s.across = overCorners(adjustment, x, y, 2.0 * hypot(f.halfX, f.halfY));
    sortSides(s, x, y);
    return s;
}

}  // namespace punch
