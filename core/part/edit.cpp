#include "core/part/edit.h"

#include <fmt/format.h>

#include <algorithm>

namespace punch {
namespace {
std::string fresh(Part& part, const char* stem) { return stem + std::to_string(part.nextId++); }
}  // namespace

Result<Part> newRow(int pins) {
    if (pins < 1) return problem("a row needs at least one pin", "pin count", "Type a number from 1 up");
    if (pins > kMostPins)
        return problem(fmt::format("{} pins are more than Punchbit places ({})", pins, kMostPins), "pin count",
                       "Type a smaller number");
    Part part;
    Formation row;
    row.id = fresh(part, "f");
    for (int i = 1; i <= pins; ++i) row.pins.push_back("p" + std::to_string(i));
    part.nextId = std::max(part.nextId, pins + 1);
    part.formations.push_back(row);
    return part;
}

Result<Part> withPinCount(Part part, std::size_t formation, int pins) {
    if (pins < 1) return problem("a row needs at least one pin", "pin count", "Type a number from 1 up");
    if (pins > kMostPins)
        return problem(fmt::format("{} pins are more than Punchbit places ({})", pins, kMostPins), "pin count",
                       "Type a smaller number");
    auto& ids = part.formations.at(formation).pins;
    const auto removed = [&](const FeatureId& id) { return formationOf(part, id) == nullptr; };
    if (ids.size() > static_cast<std::size_t>(pins)) ids.resize(static_cast<std::size_t>(pins));
    while (ids.size() < static_cast<std::size_t>(pins)) ids.push_back(fresh(part, "p"));
    for (Potential& p : part.potentials)
        p.pins.erase(std::remove_if(p.pins.begin(), p.pins.end(), removed), p.pins.end());
    if (part.datum.kind == DatumKind::Feature && !featureExists(part, part.datum.feature)) part.datum = {};
    return part;
}

Part withPeg(Part part) {
    Peg peg;
    peg.id = fresh(part, "peg");
    const auto taken = [&](const std::string& name) {
        return std::any_of(part.pegs.begin(), part.pegs.end(), [&](const Peg& p) { return p.name == name; });
    };
    for (int n = 2; taken(peg.name); ++n) peg.name = fmt::format("peg{}", n);
    part.pegs.push_back(peg);
    return part;
}

Part withPegDrawnAt(Part part, const FeatureId& peg, Point place) {
    part.assumed[peg + ".x"] = place.x;
    part.assumed[peg + ".y"] = place.y;
    return part;
}

Part withoutFeature(Part part, const FeatureId& id) {
    std::erase_if(part.pegs, [&](const Peg& p) { return p.id == id; });
    for (const char* of : {".x", ".y", ".diameter"}) {
        part.assumed.erase(id + of);
        part.taken.erase(id + of);
    }
    if (part.datum.kind == DatumKind::Feature && part.datum.feature == id) part.datum = {};
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
    if (value < Length() || value == Length())
        return problem(fmt::format("{:g} mm is no distance that jaws can show", value.mm()), where,
                       "Type what the instrument showed");
    const bool pinOrPeg = reading.a != kBody;
    Length most = Length::fromMm(1000);
    if (reading.contact == Contact::Size && pinOrPeg && reading.axis != Axis::Height) most = Length::fromMm(20);
    if (reading.contact == Contact::Size && pinOrPeg && reading.axis == Axis::Height) most = Length::fromMm(60);
    if (value > most)
        return problem(fmt::format("{:g} mm is too large for this (at most {:g} mm)", value.mm(), most.mm()), where,
                       "Check the value and its unit");
    return value;
}

}  // namespace punch
