#include "core/part/edit_several.h"

#include <algorithm>
#include <map>
#include <set>

#include "core/part/edit.h"
#include "core/part/field_lists.h"
#include "core/part/formation_kinds.h"
#include "core/part/numbering.h"
#include "core/part/slots.h"

namespace punch {
namespace {

using Pins = std::set<FeatureId>;

/// The formation without these of its pins.
Result<Part> withoutPins(const Part& part, const Formation& formation, const Pins& gone) {
    if (gone.size() == formation.pins.size()) return withoutFormation(part, formation.id);
    FormationPlan plan = planOf(part, formation);
    if (traitsOf(formation).grid) {
        const auto slots = slotsOf(part, formation);
        for (std::size_t i = 0; i < formation.pins.size(); ++i)
            if (gone.contains(formation.pins[i]))
                plan.leftOut.push_back(slots[i].row * plan.rows.front() + slots[i].column);
        return withShape(part, formation.id, plan);
    }
    const bool oneRow = traitsOf(formation).count == PinCount::One;
    const bool atTheEnd = std::all_of(formation.pins.end() - static_cast<std::ptrdiff_t>(gone.size()),
                                      formation.pins.end(), [&](const FeatureId& id) { return gone.contains(id); });
    if (oneRow && atTheEnd && !plan.middle) {
        plan.rows.front() -= static_cast<int>(gone.size());
        return withShape(part, formation.id, plan);
    }
    return problem(featureWords(part, *gone.begin()) + " stands inside its pattern", "removal",
                   "Change the number of pins in Place");
}

}  // namespace

Result<Part> withoutFeatures(Part part, const std::vector<FeatureId>& features) {
    std::map<std::string, Pins> byFormation;
    for (const FeatureId& id : features) {
        if (const Formation* f = formationOf(part, id)) {
            byFormation[f->id].insert(id);
        } else if (spotOf(part, id) != nullptr || faceOf(part, id) != nullptr) {
            part = withoutFeature(std::move(part), id);
        } else {
            return problem(featureWords(part, id) + " cannot be removed", "removal", "Leave it out of what is chosen");
        }
    }
    for (const auto& [id, pins] : byFormation) {
        auto next = withoutPins(part, *formationById(part, id), pins);
        if (!next) return next;
        part = std::move(*next);
    }
    return part;
}

PadOverride commonOverride(const Part& part, const std::vector<std::string>& targets) {
    const auto at = [&](const std::string& target) {
        const auto it = part.overrides.find(target);
        return it == part.overrides.end() ? PadOverride{} : it->second;
    };
    if (targets.empty()) return {};
    PadOverride common = at(targets.front());
    for (const std::string& target : targets) {
        const PadOverride other = at(target);
        for (const Field<PadOverride>& field : overrideFields())
            std::visit(
                [&](const auto& member) {
                    using M = std::decay_t<decltype(member)>;
                    if constexpr (std::is_same_v<M, Choice<PadOverride>>) {
                        if (member.get(common) != member.get(other)) member.set(common, -1);
                    } else if constexpr (requires { (common.*member).has_value(); }) {
                        if (common.*member != other.*member) (common.*member).reset();
                    }
                },
                field.member);
        if (common.reason != other.reason) common.reason.clear();
    }
    return common;
}

}  // namespace punch
