#include "core/part/edit.h"

#include <fmt/format.h>

#include <algorithm>

namespace punch {
namespace {
std::string fresh(Part& part, const char* stem) { return stem + std::to_string(part.nextId++); }

/// Everything that is said of parameters whose names begin with `stem`.
void dropParameters(Part& part, const std::string& stem) {
    const auto begins = [&](const auto& entry) { return entry.first.starts_with(stem); };
    std::erase_if(part.assumed, begins);
    std::erase_if(part.taken, begins);
    std::erase_if(part.given, begins);
    std::erase_if(part.turned, begins);
}
}  // namespace

Part withSpot(Part part, SpotKind kind) {
    static constexpr const char* stems[] = {"peg", "lock", "lug", "hole", "mark"};
    Spot spot;
    spot.kind = kind;
    spot.id = fresh(part, stems[static_cast<int>(kind)]);
    const std::string name = stems[static_cast<int>(kind)];
    spot.name = name;
    const auto taken = [&](const std::string& n) {
        return std::any_of(part.spots.begin(), part.spots.end(), [&](const Spot& s) { return s.name == n; });
    };
    for (int n = 2; taken(spot.name); ++n) spot.name = fmt::format("{}{}", name, n);
    part.spots.push_back(spot);
    return part;
}

Part withSpotTwin(Part part, const FeatureId& of) {
    const Spot* original = spotOf(part, of);
    if (original == nullptr) return part;
    const SpotKind kind = original->kind;
    const bool flat = original->flat;
    part = withSpot(std::move(part), kind);
    Spot& twin = part.spots.back();
    twin.flat = flat;
    twin.twinOf = of;
    if (part.body.present) part.given[twin.id + ".axis"] = {"(body.left + body.right)/2", Unit::Mm};
    return part;
}

Part withFace(Part part, FaceKind kind, Axis axis, bool positive) {
    static constexpr const char* names[] = {"panel", "board edge", "knob face", "plug face"};
    Face face;
    face.id = fresh(part, "face");
    face.kind = kind;
    face.axis = axis;
    face.positive = positive;
    face.name = names[static_cast<int>(kind)];
    const auto taken = [&](const std::string& n) {
        return std::any_of(part.faces.begin(), part.faces.end(), [&](const Face& f) { return f.name == n; });
    };
    for (int n = 2; taken(face.name); ++n) face.name = fmt::format("{} {}", names[static_cast<int>(kind)], n);
    part.faces.push_back(face);
    return part;
}

Part withRejoined(Part part, const FeatureId& from, const FeatureId& to) {
    for (Reading& r : part.readings)
        for (FeatureId* id : {&r.a, &r.b, &r.c})
            if (*id == from) *id = to;
    return part;
}

Part withGiven(Part part, const std::string& parameter, const std::string& typed, Unit unit) {
    part.taken.erase(parameter);
    if (typed.empty())
        part.given.erase(parameter);
    else
        part.given[parameter] = {typed, unit};
    return part;
}

Part withSpotDrawnAt(Part part, const FeatureId& peg, Point place) {
    part.assumed[peg + ".x"] = place.x;
    part.assumed[peg + ".y"] = place.y;
    return part;
}

Part withoutFeature(Part part, const FeatureId& id) {
    std::erase_if(part.spots, [&](const Spot& s) { return s.id == id; });
    std::erase_if(part.faces, [&](const Face& f) { return f.id == id; });
    for (Spot& s : part.spots)
        if (s.twinOf == id) s.twinOf.clear();
    dropParameters(part, id + ".");
    part.overrides.erase(id);
    for (Potential& p : part.potentials) std::erase(p.pins, id);
    std::erase_if(part.potentials, [](const Potential& p) { return p.pins.empty(); });
    if (part.datum.feature == id || part.datum.second == id) part.datum = {};
    return part;
}

Part withReading(Part part, Reading reading, std::optional<std::size_t> at) {
    reading.id = fresh(part, "r");
    const auto where = std::min(at.value_or(part.readings.size()), part.readings.size());
    part.readings.insert(part.readings.begin() + static_cast<std::ptrdiff_t>(where), std::move(reading));
    return part;
}

Part withTaken(Part part, const std::string& parameter, std::optional<Length> value) {
    if (value)
        part.taken[parameter] = *value;
    else
        part.taken.erase(parameter);
    return part;
}

Result<Part> withPotential(Part part, Potential potential) {
    if (potential.name.empty()) return problem("the potential has no name", "potential", "Name it, as in “line”");
    if (potential.pins.empty()) return problem("no pin carries it", potential.name, "Name the pins, as in “1 2”");
    if (abs(potential.volts) > Voltage::fromVolts(100000))
        return problem(fmt::format("{} V is more than the table reaches (100 kV)", potential.volts.volts()),
                       potential.name, "Check the unit");
    for (Potential& p : part.potentials)
        std::erase_if(p.pins, [&](const FeatureId& id) {
            return std::find(potential.pins.begin(), potential.pins.end(), id) != potential.pins.end();
        });
    const auto same = std::find_if(part.potentials.begin(), part.potentials.end(),
                                   [&](const Potential& p) { return p.name == potential.name; });
    if (same != part.potentials.end())
        *same = potential;
    else
        part.potentials.push_back(potential);
    std::erase_if(part.potentials, [](const Potential& p) { return p.pins.empty(); });
    return part;
}

Result<Length> plausibleSize(const Part& part, const Reading& reading, Length value) {
    const std::string where = featureWords(part, reading.a);
    if (!reading.isSigned && value <= Length())
        return problem(fmt::format("{:g} mm is no distance that jaws can show", value.mm()), where,
                       "Type what the instrument showed");
    if (abs(value) > Length::fromMm(1000))
        return problem(fmt::format("{:g} mm is too large for a part (at most 1000 mm)", value.mm()), where,
                       "Check the value and its unit");
    return value;
}

}  // namespace punch
