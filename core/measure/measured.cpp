#include "core/measure/measured.h"

#include <fmt/format.h>

#include "core/measure/adjust.h"
#include "core/part/numbering.h"

namespace punch {

PUNCH_VALUE_IS_HERE(ParameterValue)
PUNCH_VALUE_IS_HERE(Measured)
PUNCH_VALUE_IS_HERE(ReadingResult)
namespace {

std::vector<Spread> spreadsOf(const Part& part, const Adjustment& adjustment) {
    std::vector<Spread> all;
    for (std::size_t i = 0; i < part.readings.size(); ++i) {
        const ReadingStats& s = adjustment.readings()[i].stats;
        if (s.usable && s.spread > 0) all.push_back({part.readings[i].id, Length::fromMm(s.spread), s.specimens});
    }
    return all;
}

std::vector<Complaint> complaintsOf(const Part& part, const Adjustment& adjustment) {
    std::vector<Complaint> all = adjustment.model().complaints();
    for (const auto& [key, o] : part.overrides)
        if (o.plated && spotOf(part, key) == nullptr)
            all.push_back(
                {key,
                 "plated or bare is said of pegs and lugs; a pin's hole is plated, or it has none on a surface land"});
    for (const std::string& number : doubledNumbers(part))
        all.push_back({"numbers", fmt::format("the number {} stands at more than one pin", number)});
    return all;
}

std::vector<Explanation> explanationsOf(const Part& part, const Adjustment& adjustment) {
    std::vector<Explanation> all;
    for (const Way& way : adjustment.ways()) {
        all.push_back({{}, way.chi2});
        for (const std::size_t i : way.readings) all.back().readings.push_back(part.readings[i].id);
    }
    return all;
}

}  // namespace

Measured measured(const Part& part, const Adjustment& adjustment) {
    Measured m;
    m.readings = adjustment.readings();
    m.ways = explanationsOf(part, adjustment);
    m.openSides = openSides(part, adjustment);
    m.sizes = sizeAdvice(part, adjustment);
    m.spreads = spreadsOf(part, adjustment);
    m.complaints = complaintsOf(part, adjustment);
    m.loose = looseMovements(part, adjustment);
    return m;
}

std::vector<ParameterValue> parametersOf(const Adjustment& adjustment) {
    std::vector<ParameterValue> all;
    for (const Parameter& p : adjustment.model().parameters()) {
        const Expr& e = adjustment.parameter(p.name);
        ParameterValue value;
        value.name = p.name;
        value.words = p.words;
        value.state = p.state;
        value.typed = p.typed;
        value.taken = p.state == Parameter::State::Taken;
        const bool firm = adjustment.firm(e);
        if (p.isAngle) {
            value.angle = Angle::fromDegrees(e.value());
            if (firm) value.angleDoubt = Angle::fromDegrees(adjustment.doubt(e));
        } else {
            value.value = Length::fromMm(e.value());
            if (firm) value.doubt = Length::fromMm(adjustment.doubt(e));
            if (firm) value.span = Length::fromMm(adjustment.span(e));
        }
        all.push_back(std::move(value));
    }
    return all;
}

}  // namespace punch
