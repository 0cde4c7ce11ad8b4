#include "core/picture/take.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <numbers>

#include "core/part/edit.h"

namespace punch {

namespace {

Source* sourceById(Part& part, const std::string& id) {
    for (Source& s : part.sources)
        if (s.id == id) return &s;
    return nullptr;
}

bool isRead(const Part& part, const Formation& f) {
    return std::any_of(part.readings.begin(), part.readings.end(), [&](const Reading& r) {
        for (const FeatureId* id : {&r.a, &r.b, &r.c})
            if (std::find(f.pins.begin(), f.pins.end(), *id) != f.pins.end()) return true;
        return false;
    });
}

/// Rows or rings with empty positions that the part describes in another way: a row as a grid of one row.
FormationPlan planFrom(const RecognisedFormation& f) {
    FormationPlan plan;
    plan.kind = f.kind;
    plan.rows = f.rows;
    plan.middle = f.middle;
    plan.arc = f.arc;
    const bool straight = f.kind == FormationKind::Row || f.kind == FormationKind::TwoRows;
    if (straight && !f.leftOut.empty()) {
        plan.kind = FormationKind::Grid;
        const int columns = *std::max_element(f.rows.begin(), f.rows.end());
        plan.rows.assign(f.rows.size(), columns);
        for (std::size_t row = 0; row < f.rows.size(); ++row)
            for (int c = 0; c < columns; ++c)
                if (std::none_of(f.positions.begin(), f.positions.end(),
                                 [&](const PatternSlot& s) { return s.row == static_cast<int>(row) && s.column == c; }))
                    plan.leftOut.push_back(static_cast<int>(row) * columns + c);
    } else if (f.kind == FormationKind::Grid) {
        plan.leftOut = f.leftOut;
    } else if (f.kind == FormationKind::Ring) {
        plan.rows = {static_cast<int>(f.positions.size()) - (f.middle ? 1 : 0)};
    }
    return plan;
}

LeadShape leadOf(const Found& found) {
    const FoundFeature& f = found.features.front();
    if (f.seen.rim.shape == RimShape::Round) return LeadShape::Round;
    return f.height > 0.9 * f.width ? LeadShape::Square : LeadShape::Rectangular;
}

/// Where the formation's numbers are drawn before the adjustment has spoken.
void draw(Part& part, const std::string& prefix, const RecognisedFormation& f) {
    const auto put = [&](const char* name, const std::optional<FittedValue>& v) {
        if (v) part.assumed[prefix + name] = Length::fromMm(v->value);
    };
    put("pitch", f.pitch);
    put("rearPitch", f.rearPitch);
    put("rowGap", f.rowGap);
    put("rowShift", f.rowShift);
    put("circle", f.circle);
    if (f.start) part.turned[prefix + "start"] = Angle::fromDegrees(f.start->value);
    if (f.step) part.turned[prefix + "step"] = Angle::fromDegrees(f.step->value);
}

/// A formation's ring that gives the direction stands by its own symmetry; what a row says needs nothing.
void levelRing(Part& part, const std::string& prefix, const RecognisedFormation& f, bool clockwise) {
    if (f.kind != FormationKind::Ring || !prefix.empty() || !f.start || part.given.contains("start")) return;
    if (f.arc) {
        const double steps = (f.rows.front() - 1) / 2.0;
        const double middle = f.start->value + (clockwise ? -1 : 1) * steps * f.step->value;
        const double axis = 90 * std::round(middle / 90);
        part.given["start"] = {fmt::format("{} {} {}*step", axis, clockwise ? '+' : '-', steps), Unit::Mm};
    } else {
        part.given["start"] = {fmt::format("{:.2f}", f.start->value), Unit::Mm};
    }
}

/// The picture's parameters, so that the formation's origin and rows come to lie where they were seen.
void drawPicture(Part& part, const Source& s, const Found& found, PixelPoint origin, double turn) {
    const double n = s.nominalMmPerPixel();
    part.assumed[s.id + ".scaleX"] = Length::fromMm(found.scale.x / n);
    part.assumed[s.id + ".scaleY"] = Length::fromMm(found.scale.y / n);
    part.turned[s.id + ".angle"] = Angle::fromDegrees(turn);
    part.assumed[s.id + ".x"] = Length::fromMm((s.fromBelow() ? -1 : 1) * origin.x * n);
    part.assumed[s.id + ".y"] = Length::fromMm(-origin.y * n);
}

void addReading(Part& part, const std::string& source, const FeatureId& feature, Contact contact, Axis axis,
                Pick pick) {
    Reading r;
    r.a = feature;
    r.contact = contact;
    r.axis = axis;
    r.source = source;
    r.pick = std::move(pick);
    for (Reading& old : part.readings)
        if (old.pick && old.source == source && old.a == feature && old.contact == contact && old.axis == axis) {
            old.pick = r.pick;
            return;
        }
    part = withReading(std::move(part), std::move(r));
}

void readFeature(Part& part, const std::string& source, const FeatureId& id, const FoundFeature& f, bool flat,
                 bool widthAcross) {
    const Rim& rim = f.seen.rim;
    const double offset = f.seen.bright ? rim.offset : -rim.offset;
    for (const Axis axis : {Axis::Along, Axis::Across})
        addReading(part, source, id, Contact::Picture, axis, {rim.centre, {}, rim.u, 0, 0, {}});
    addReading(part, source, id, Contact::Size, widthAcross ? Axis::Across : Axis::Along,
               {rim.centre, {}, rim.uSize, rim.width, offset, {}});
    if (flat)
        addReading(part, source, id, Contact::Size, widthAcross ? Axis::Along : Axis::Across,
                   {rim.centre, {}, rim.uSize, rim.height, offset, {}});
}

/// Places of the positions in the order in which the formation has its pins, from the one that pin 1 is.
void numberFrom(Formation& f, const RecognisedFormation& r, const PatternSlot& first) {
    if (f.kind == FormationKind::Ring) return;
    const int columns = first.row >= 0 && first.row < static_cast<int>(r.rows.size()) ? r.rows[first.row] : 1;
    f.numbers.fromLeft = 2 * first.column <= columns - 1;
    f.numbers.fromFront = 2 * first.row <= static_cast<int>(r.rows.size()) - 1;
}

bool isFlat(const Part& part, const FeatureId& id) {
    if (const Spot* spot = spotOf(part, id)) return spot->flat;
    const Formation* f = formationOf(part, id);
    return f != nullptr && f->lead == LeadShape::Rectangular;
}

/// A lead's width runs along its row: is the longer side of what was found across it?
bool standsAcross(const Found& found, const FoundFeature& f) {
    return std::abs(std::remainder(f.rotation - found.direction, 180.0)) > 45;
}

SpotKind spotKindOf(FoundKind kind) {
    return kind == FoundKind::Hole ? SpotKind::MountingHole : kind == FoundKind::Lug ? SpotKind::Lug : SpotKind::Peg;
}

FeatureId addSpot(Part& part, const FoundFeature& seen) {
    part = withSpot(std::move(part), spotKindOf(seen.kind));
    part.spots.back().flat = seen.seen.rim.shape != RimShape::Round;
    return part.spots.back().id;
}

/// Every pin by itself: a part that is one loose pin or row nobody has read gives way, else formations are added.
Result<Part> withSingles(Part part, const std::string& source, const Found& found, const TakeOptions& options) {
    const std::size_t pins = found.formation ? found.formation->positions.size() : 0;
    bool fresh = part.formations.size() == 1 && !isRead(part, part.formations.front());
    bool first = fresh;
    for (std::size_t i = 0; i < found.features.size(); ++i) {
        const FoundFeature& seen = found.features[i];
        const bool isPin = i < pins || seen.kind == FoundKind::Pin || seen.kind == FoundKind::Pad;
        if (!isPin && !options.spots) continue;
        FeatureId id = featureReadAt(part, source, seen.seen.rim, !isPin);
        if (id.empty() && !isPin) {
            id = addSpot(part, seen);
        } else if (id.empty()) {
            FormationPlan plan;
            plan.kind = FormationKind::Single;
            plan.rows = {1};
            auto next = fresh ? withShape(part, part.formations.front().id, plan) : withFormation(part, plan);
            if (!next) return next;
            part = std::move(*next);
            Formation& f = fresh ? part.formations.front() : part.formations.back();
            f.lead = seen.seen.rim.shape == RimShape::Round ? LeadShape::Round
                     : seen.height > 0.9 * seen.width       ? LeadShape::Square
                                                            : LeadShape::Rectangular;
            id = f.pins.front();
            fresh = false;
        }
        if (first && isPin) {
            const Source& s = *sourceById(part, source);
            drawPicture(part, s, found, seen.seen.rim.centre, (s.fromBelow() ? -1 : 1) * found.angle);
            first = false;
        }
        readFeature(part, source, id, seen, isFlat(part, id), standsAcross(found, seen));
    }
    return part;
}

}  // namespace

FeatureId featureReadAt(const Part& part, const std::string& source, const Rim& rim, bool bySize) {
    const double reach = std::max(0.5 * rim.height, 4.0);
    for (const Reading& r : part.readings)
        if (r.pick && r.source == source && (r.contact == Contact::Picture || (bySize && r.contact == Contact::Size)) &&
            featureExists(part, r.a) && std::hypot(r.pick->a.x - rim.centre.x, r.pick->a.y - rim.centre.y) < reach)
            return r.a;
    return {};
}

std::pair<Part, std::string> withSource(Part part, Source source) {
    source.id = "s" + std::to_string(part.nextId++);
    const std::string id = source.id;
    part.sources.push_back(std::move(source));
    return {std::move(part), id};
}

std::pair<Part, std::string> withPicture(Part part, const std::string& title, const std::string& file,
                                         const Picture& picture) {
    Source s;
    s.title = title;
    s.picture = file;
    s.width = picture.width;
    s.height = picture.height;
    s.dpi = picture.dpi ? (picture.dpi->x + picture.dpi->y) / 2 : 0;
    s.dpiStated = picture.dpi.has_value();
    return withSource(std::move(part), std::move(s));
}

Result<Part> withKnownLength(Part part, const std::string& source, PixelPoint a, PixelPoint b, const std::string& typed,
                             Unit unit, double u) {
    if (sourceById(part, source) == nullptr) return problem("this picture is not there any more", source);
    const auto length = parseLength(typed, unit);
    if (!length) return tl::make_unexpected(length.error());
    if (length->mm() <= 0) return problem("a length must be above zero", "known length", "Type what the ruler says");
    if (std::hypot(b.x - a.x, b.y - a.y) < kLeastPairPixels)
        return problem("both ends are the same place", "known length", "Choose two places far apart");
    const bool first = std::none_of(part.readings.begin(), part.readings.end(), [&](const Reading& r) {
        return r.pick && r.contact == Contact::PictureLength && r.source == source;
    });
    if (first) {
        // The first known length says where the scales are drawn; a stated dpi is near enough already.
        const double scale =
            length->mm() / std::hypot(b.x - a.x, b.y - a.y) / sourceById(part, source)->nominalMmPerPixel();
        part.assumed[source + ".scaleX"] = part.assumed[source + ".scaleY"] = Length::fromMm(scale);
    }
    Reading r;
    r.contact = Contact::PictureLength;
    r.source = source;
    r.pick = Pick{a, b, u, 0, 0, {}};
    RawValue raw;
    raw.value = *length;
    raw.typed = typed;
    raw.unit = unit;
    r.raw = {raw};
    return withReading(std::move(part), std::move(r));
}

Result<Part> withLevel(Part part, const std::string& source, PixelPoint a, PixelPoint b, double u) {
    if (sourceById(part, source) == nullptr) return problem("this picture is not there any more", source);
    if (std::hypot(b.x - a.x, b.y - a.y) < 10 * kLeastPairPixels)
        return problem("both places lie close together", "level", "Choose two places far apart on what is level");
    Reading r;
    r.contact = Contact::PictureLevel;
    r.axis = Axis::Direct;
    r.source = source;
    r.pick = Pick{a, b, u, 0, 0, {}};
    return withReading(std::move(part), std::move(r));
}

Part withPick(Part part, const std::string& source, const FeatureId& feature, PixelPoint at, double u,
              std::optional<double> size, double uSize, double offset) {
    for (const Axis axis : {Axis::Along, Axis::Across})
        if (!isFace(part, feature) || faceAxis(part, feature) == axis)
            addReading(part, source, feature, Contact::Picture, axis, {at, {}, u, 0, 0, {}});
    if (size) addReading(part, source, feature, Contact::Size, Axis::Along, {at, {}, uSize, *size, offset, {}});
    return part;
}

namespace {

/// A picture that was taken before is read anew, and nothing comes twice; what is new beside the pins is added.
void readAgain(Part& part, const std::string& source, const Found& found, const TakeOptions& options,
               const std::vector<FeatureId>& pins) {
    // What stands beside the pins is read anew as well, and what is new there is added.
    for (const FoundFeature& seen : found.features) {
        if (!options.spots || seen.slot >= 0) continue;
        FeatureId id = featureReadAt(part, source, seen.seen.rim, true);
        if (!id.empty() && spotOf(part, id) == nullptr) continue;
        if (id.empty()) id = addSpot(part, seen);
        readFeature(part, source, id, seen, isFlat(part, id), standsAcross(found, seen));
    }
    for (std::size_t k = 0; k < pins.size(); ++k) {
        const FoundFeature& seen = found.features[static_cast<std::size_t>(found.formation->positions[k].place)];
        const bool flat = isFlat(part, pins[k]);
        readFeature(part, source, pins[k], seen, flat, flat && standsAcross(found, seen));
    }
}

/// The formation that what was found belongs to: one like it, one that nobody read yet, else a new one.
struct Target {
    Formation* formation = nullptr;
    bool fresh = false;  ///< nothing of it is read yet
};
Result<Target> targetFor(Part& part, const RecognisedFormation& f) {
    const FormationPlan plan = planFrom(f);
    Formation* target = nullptr;
    for (Formation& old : part.formations)
        if (old.kind == plan.kind && old.pins.size() == f.positions.size() && (isRead(part, old) || target == nullptr))
            target = &old;
    bool fresh = false;
    if (target == nullptr && !part.formations.empty() && !isRead(part, part.formations.front())) {
        auto shaped = withShape(part, part.formations.front().id, plan);
        if (!shaped) return tl::make_unexpected(shaped.error());
        part = std::move(*shaped);
        target = &part.formations.front();
        fresh = true;
    } else if (target == nullptr) {
        auto added = withFormation(part, plan);
        if (!added) return tl::make_unexpected(added.error());
        part = std::move(*added);
        target = &part.formations.back();
        fresh = true;
    } else {
        fresh = !isRead(part, *target);
    }
    return Target{target, fresh};
}

/// The places in the order of their pins. A ring begins at pin 1; an arc at that of its ends, and runs clockwise from
/// the far one.
struct Order {
    std::vector<PatternSlot> positions;
    double start = 0;  ///< degrees
    bool clockwise = false;
};
Order orderOf(const RecognisedFormation& f, std::size_t pinOne, const Target& at) {
    Order o{f.positions, f.start ? f.start->value : 0, false};
    const auto around = static_cast<std::size_t>(f.positions.size() - (f.middle ? 1 : 0));
    const auto aroundEnd = o.positions.begin() + static_cast<std::ptrdiff_t>(around);
    if (f.kind == FormationKind::Ring && f.arc) {
        // Pins that are read already keep their way round.
        o.clockwise = at.fresh ? 2 * pinOne >= around : at.formation->clockwise;
        if (o.clockwise) {
            o.start += (f.rows.front() - 1) * f.step->value;
            std::reverse(o.positions.begin(), aroundEnd);
        }
    } else if (f.kind == FormationKind::Ring) {
        std::rotate(o.positions.begin(), o.positions.begin() + static_cast<std::ptrdiff_t>(pinOne % around), aroundEnd);
        o.start += f.positions[pinOne % around].column * f.step->value;
    }
    return o;
}

/// Pegs, lugs and marks beside the pins. `first`: the formation whose origin is the part's.
void takeBeside(Part& part, const std::string& source, const Found& found, bool first) {
    const RecognisedFormation& f = *found.formation;
    const double c = std::cos(f.turn * std::numbers::pi / 180);
    const double sn = std::sin(f.turn * std::numbers::pi / 180);
    for (const FoundFeature& seen : found.features) {
        if (seen.slot >= 0) continue;
        if (const FeatureId known = featureReadAt(part, source, seen.seen.rim, true); spotOf(part, known) != nullptr) {
            readFeature(part, source, known, seen, isFlat(part, known), standsAcross(found, seen));
            continue;
        }
        const FeatureId id = addSpot(part, seen);
        const Source* s = sourceById(part, source);
        // Where it stands from the formation's origin, along its rows.
        const double dx = (s->fromBelow() ? -1 : 1) * seen.seen.rim.centre.x * found.scale.x - f.origin.x;
        const double dy = -seen.seen.rim.centre.y * found.scale.y - f.origin.y;
        const double x = c * dx + sn * dy;
        const double y = -sn * dx + c * dy;
        if (first) {
            part.assumed[id + ".x"] = Length::fromMm(x);
            part.assumed[id + ".y"] = Length::fromMm(y);
        }
        readFeature(part, source, id, seen, isFlat(part, id), standsAcross(found, seen));
    }
}

}  // namespace

Result<Part> withFound(Part part, const std::string& source, const Found& found, const TakeOptions& options) {
    const Source* s = sourceById(part, source);
    if (s == nullptr) return problem("this picture is not there any more", source, "Bring it in again");
    if (s->face == PictureFace::NotSaid)
        return problem("it has not been said which face the picture shows", s->title,
                       "Say first whether you look at the part side or at the solder side");
    if (!options.asFormation) {
        if (found.features.empty()) return problem("nothing was found", s->title, "Find the pins first");
        return withSingles(std::move(part), source, found, options);
    }
    if (!found.formation)
        return problem("no formation was recognised", s->title,
                       "Drop what does not belong to it, or take the pins as singles");
    const RecognisedFormation& f = *found.formation;
    if (options.pinOne >= f.positions.size()) return problem("pin 1 is not one of the formation", s->title);

    std::vector<FeatureId> before;
    for (const PatternSlot& slot : f.positions)
        before.push_back(featureReadAt(part, source, found.features[static_cast<std::size_t>(slot.place)].seen.rim));
    if (std::none_of(before.begin(), before.end(), [](const FeatureId& id) { return id.empty(); })) {
        readAgain(part, source, found, options, before);
        return part;
    }

    const auto at = targetFor(part, f);
    if (!at) return tl::make_unexpected(at.error());
    Formation* target = at->formation;
    s = sourceById(part, source);
    const bool isFirst = target == &part.formations.front();
    const std::string prefix = isFirst ? "" : target->id + ".";
    const Order order = orderOf(f, options.pinOne, *at);
    if (at->fresh) {
        target->lead = leadOf(found);
        target->ownPitch = f.rearPitch.has_value();
        numberFrom(*target, f, f.positions[options.pinOne]);
        if (f.rowShift) part.given.erase(prefix + "rowShift");  // two rows start aligned
        RecognisedFormation drawn = f;
        if (drawn.start) drawn.start->value = order.start;
        target->clockwise = order.clockwise;
        draw(part, prefix, drawn);
        levelRing(part, prefix, drawn, order.clockwise);
    }
    const std::vector<FeatureId> pins = target->pins;
    const bool flatLead = target->lead == LeadShape::Rectangular;

    // The first formation's origin is the part's; a later one's is where the first one's says.
    if (isFirst) {
        PixelPoint origin{(s->fromBelow() ? -1 : 1) * f.origin.x / found.scale.x, -f.origin.y / found.scale.y};
        drawPicture(part, *s, found, origin, f.turn);
    }
    for (std::size_t k = 0; k < order.positions.size(); ++k) {
        const FoundFeature& seen = found.features[static_cast<std::size_t>(order.positions[k].place)];
        readFeature(part, source, pins[k], seen, flatLead, flatLead && standsAcross(found, seen));
    }
    if (options.spots) takeBeside(part, source, found, isFirst);
    return part;
}

Part withoutPicture(Part part, const std::string& source) {
    std::erase_if(part.sources, [&](const Source& s) { return s.id == source; });
    std::erase_if(part.readings, [&](const Reading& r) { return r.pick && r.source == source; });
    // A drawing's values stay, without their places; an outline that was traced in it goes.
    for (Reading& r : part.readings)
        if (r.source == source) {
            r.place.reset();
            r.source.clear();
        }
    if (part.body.trace && part.body.trace->source == source) part.body.trace.reset();
    for (const char* name : {".scaleX", ".scaleY", ".x", ".y"}) part.assumed.erase(source + name);
    part.turned.erase(source + ".angle");
    return part;
}

}  // namespace punch
