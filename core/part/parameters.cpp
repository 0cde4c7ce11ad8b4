#include "core/part/parameters.h"

#include "core/part/slots.h"

namespace punch {

const std::vector<ParameterTraits>& parameterKinds() {
    using K = ParameterKind;
    static const std::vector<ParameterTraits> all = {
        {K::Pitch, "pitch", true, true, true},
        {K::RearPitch, "rearPitch", true, true, true},
        {K::RowGap, "rowGap", true, true, true},
        {K::RowShift, "rowShift"},
        {K::Circle, "circle", true, true, true},
        {K::Start, "start"},
        {K::Step, "step"},
        {K::Turn, "turn"},
        {K::LeadWidth, "lead.width", true, true},
        {K::LeadThickness, "lead.thickness", true, true},
        {K::LeadLength, "lead.length", false, true},
        {K::EndWidth, "lead.end.width", true, true},
        {K::EndThickness, "lead.end.thickness", true, true},
        {K::BodyHeight, "body.height", false, true},
        {K::Diameter, "diameter", true, true},
        {K::Width, "width", true, true},
        {K::Thickness, "thickness", true, true},
        {K::Scale, "scaleX", true},
        {K::Scale, "scaleY", true},
    };
    return all;
}

ParameterKind parameterKind(std::string_view name) {
    // The longest ending counts: "lead.width" before "width".
    const ParameterTraits* best = nullptr;
    for (const ParameterTraits& traits : parameterKinds()) {
        const std::string_view ending = traits.ending;
        const bool whole = name == ending || (name.size() > ending.size() && name.ends_with(ending) &&
                                              name[name.size() - ending.size() - 1] == '.');
        if (whole && (best == nullptr || ending.size() > std::string_view(best->ending).size())) best = &traits;
    }
    return best == nullptr ? ParameterKind::Other : best->kind;
}

const ParameterTraits& traitsOf(ParameterKind kind) {
    static const ParameterTraits other{ParameterKind::Other, ""};
    for (const ParameterTraits& traits : parameterKinds())
        if (traits.kind == kind) return traits;
    return other;
}

std::string parameterPrefix(const Part& part, const Formation& formation) {
    return part.formations.empty() || part.formations.front().id == formation.id ? "" : formation.id + ".";
}

std::string leadPrefix(const Part& part, const Formation& formation) {
    return parameterPrefix(part, shapeOf(part, formation));
}

}  // namespace punch
