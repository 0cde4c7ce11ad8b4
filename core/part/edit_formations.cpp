// Edits of formations: making, reshaping, removing.

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <set>
#include <sstream>
#include <string_view>

#include "core/part/edit.h"
#include "core/part/formation_kinds.h"
#include "core/part/parameters.h"
#include "core/part/slots.h"

namespace punch {
namespace {

/// How many pins a plan asks for, or what is wrong with it.
Result<int> pinsOf(const Part& part, const FormationPlan& plan) {
    const FormationTraits& traits = traitsOf(plan.kind);
    if (traits.mirrors) {
        const Formation* of = formationById(part, plan.twinOf);
        if (of == nullptr) return problem("there is no formation to mirror", "twin", "Choose one");
        return static_cast<int>(of->pins.size());
    }
    if (traits.count == PinCount::None) return 1;
    if (plan.rows.empty()) return problem("no row is named", "pin count", "Type how many pins each row has");
    long total = 0;
    for (const int n : plan.rows) {
        if (n < 1) return problem("a row needs at least one pin", "pin count", "Type a number from 1 up");
        total += n;
        if (total > kMostPins)
            return problem(fmt::format("{} pins are more than Punchbit places ({})", total, kMostPins), "pin count",
                           "Type a smaller number");
    }
    if (traits.count == PinCount::One && plan.rows.size() != 1)
        return problem("it has one row only", "pin count", "Type one number");
    if (traits.count == PinCount::TwoRows && plan.rows.size() != 2)
        return problem("two rows need two numbers of pins", "pin count", "Type them as in “8 3”");
    if (traits.grid) {
        if (std::any_of(plan.rows.begin(), plan.rows.end(), [&](int n) { return n != plan.rows.front(); }))
            return problem("all rows of a grid have the same columns", "pin count",
                           "Leave positions out by clicking them");
        const std::set<int> out(plan.leftOut.begin(), plan.leftOut.end());
        if (!out.empty() && *out.rbegin() >= total)
            return problem("a left-out position lies outside the grid", "grid", "Take it from the list");
        total -= static_cast<long>(out.size());
        if (total < 1) return problem("no pin is left in the grid", "grid", "Keep at least one");
    }
    if (traits.around && plan.middle && ++total > kMostPins)
        return problem("too many pins", "pin count", "Type a smaller number");
    return static_cast<int>(total);
}

void shape(Formation& f, const FormationPlan& plan) {
    f.kind = plan.kind;
    const FormationTraits& traits = traitsOf(plan.kind);
    f.rows = traits.rows ? plan.rows : std::vector<int>();
    f.leftOut.clear();
    if (traits.grid) {
        const std::set<int> out(plan.leftOut.begin(), plan.leftOut.end());
        f.leftOut.assign(out.begin(), out.end());
    }
    f.middle = traits.around && plan.middle;
    f.arc = traits.around && plan.arc;
    f.twinOf = traits.mirrors ? plan.twinOf : "";
    f.mirror = plan.mirror;
}

void dropPins(Part& part) {
    std::set<FeatureId> there;
    for (const FeatureId& id : allPins(part)) there.insert(id);
    const auto removed = [&](const FeatureId& id) { return !there.contains(id); };
    for (Potential& p : part.potentials)
        std::erase_if(p.pins, [&](const FeatureId& id) { return !carriesVoltage(part, id); });
    for (Formation& f : part.formations) {
        std::erase_if(f.moved, removed);
        std::erase_if(f.numbers.clicked, removed);
        std::erase_if(f.numbers.own, [&](const auto& entry) { return removed(entry.first); });
    }
    if (part.datum.kind == DatumKind::Feature && !featureExists(part, part.datum.feature)) part.datum = {};
    if (part.datum.kind == DatumKind::Between &&
        (!featureExists(part, part.datum.feature) || !featureExists(part, part.datum.second)))
        part.datum = {};
}

void giveDefaults(Part& part, const Formation& f) {
    const std::string prefix = parameterPrefix(part, f);
    const auto give = [&](const std::string& name, const char* typed) {
        part.given.emplace(prefix + name, Given{typed, Unit::Mm});
    };
    const FormationTraits& traits = traitsOf(f);
    if (traits.rowShift) give("rowShift", "0");
    if (!prefix.empty() && traits.straight) give("turn", "0");
    if (traits.mirrors && part.body.present)
        give("axis", f.mirror == Axis::Along ? "(body.left + body.right)/2" : "(body.front + body.rear)/2");
}

std::string freshId(Part& part, const char* stem) { return stem + std::to_string(part.nextId++); }

}  // namespace

Result<std::vector<int>> rowsFromText(FormationKind kind, const std::string& typed) {
    std::string text = typed;
    for (const std::string_view mark : {"×", "x", ",", "+"})
        for (std::size_t at = 0; (at = text.find(mark, at)) != std::string::npos;) text.replace(at, mark.size(), " ");
    std::istringstream in(text);
    std::vector<int> numbers;
    for (std::string word; in >> word;) {
        const auto number = parseNumber(word);
        if (!number || *number != std::floor(*number) || std::abs(*number) > 1e6)
            return problem(fmt::format("“{}” is no number of pins", word), "pin count", "Type a whole number");
        numbers.push_back(static_cast<int>(*number));
    }
    if (numbers.empty()) return problem("no number of pins is typed", "pin count", "Type how many there are");
    const PinCount count = traitsOf(kind).count;
    if (count == PinCount::TwoRows && numbers.size() == 1) numbers.push_back(numbers[0]);
    if (count == PinCount::ColumnsByRows) {
        if (numbers.size() != 2 || numbers[1] < 1 || numbers[1] > kMostPins)
            return problem("a grid has columns and rows", "pin count", "Type them as in “4 x 3”");
        return std::vector<int>(static_cast<std::size_t>(numbers[1]), numbers[0]);
    }
    return numbers;
}

Result<Part> newPart(const FormationPlan& plan) {
    Part part;
    return withFormation(std::move(part), plan);
}

Part newPartWithoutPins() {
    Part part;
    part.body.present = false;
    part.kind = PartKind::Printed;
    part.dress.referenceText = part.dress.outline = part.dress.valueText = false;
    return part;
}

Result<Part> newRow(int pins) { return newPart({FormationKind::Row, {pins}, {}, false, false, {}, Axis::Along}); }

Result<Part> withFormation(Part part, const FormationPlan& plan) {
    const auto pins = pinsOf(part, plan);
    if (!pins) return tl::make_unexpected(pins.error());
    Formation f;
    const bool first = part.formations.empty();
    f.id = freshId(part, "f");
    shape(f, plan);
    f.numbers.order = traitsOf(f).order;
    f.numbers.rowLetters = traitsOf(f).grid;
    if (!first) {
        f.numbers.start = static_cast<int>(allPins(part).size()) + 1;
        f.lead = part.formations.front().lead;
    }
    for (int i = 1; i <= *pins; ++i) f.pins.push_back(first ? "p" + std::to_string(i) : freshId(part, "p"));
    if (first) part.nextId = std::max(part.nextId, *pins + 1);
    part.formations.push_back(f);
    giveDefaults(part, f);
    return part;
}

FormationPlan planOf(const Part& part, const Formation& f) {
    FormationPlan plan;
    plan.kind = f.kind;
    plan.rows = f.rows;
    if (plan.rows.empty()) plan.rows = {static_cast<int>(f.pins.size()) - (f.middle ? 1 : 0)};
    plan.leftOut = f.leftOut;
    plan.middle = f.middle;
    plan.arc = f.arc;
    plan.twinOf = f.twinOf;
    plan.mirror = f.mirror;
    (void)part;
    return plan;
}

Result<Part> withShape(Part part, const std::string& formation, const FormationPlan& plan) {
    const auto at = std::find_if(part.formations.begin(), part.formations.end(),
                                 [&](const Formation& f) { return f.id == formation; });
    if (at == part.formations.end()) return problem("there is no such formation", formation, "Choose another");
    if (traitsOf(plan.kind).mirrors && plan.twinOf == formation)
        return problem("a formation cannot mirror itself", "twin", "Choose another");
    const auto pins = pinsOf(part, plan);
    if (!pins) return tl::make_unexpected(pins.error());
    const Formation old = *at;
    Formation& f = *at;
    shape(f, plan);
    if (f.kind != old.kind) f.numbers.rowLetters = traitsOf(f).grid;
    // Pins that keep their place keep their identifier: row and column within rows and grids, else the order.
    std::vector<FeatureId> kept(static_cast<std::size_t>(*pins));
    f.pins.assign(static_cast<std::size_t>(*pins), {});
    const auto before = slotsOf(part, old);
    const auto now = slotsOf(part, f);
    std::map<std::pair<int, int>, FeatureId> byPlace;
    for (std::size_t i = 0; i < old.pins.size(); ++i) byPlace[{before[i].row, before[i].column}] = old.pins[i];
    for (std::size_t i = 0; i < now.size(); ++i)
        if (const auto it = byPlace.find({now[i].row, now[i].column}); it != byPlace.end()) kept[i] = it->second;
    for (FeatureId& id : kept)
        if (id.empty()) id = freshId(part, "p");
    std::find_if(part.formations.begin(), part.formations.end(), [&](const Formation& v) {
        return v.id == formation;
    })->pins = kept;
    // Twins have as many pins as what they mirror.
    for (Formation& twin : part.formations)
        if (traitsOf(twin).mirrors && twin.twinOf == formation) {
            twin.pins.resize(std::min(twin.pins.size(), kept.size()));
            while (twin.pins.size() < kept.size()) twin.pins.push_back(freshId(part, "p"));
        }
    dropPins(part);
    giveDefaults(part, *formationById(part, formation));
    return part;
}

Result<Part> withPinCount(Part part, std::size_t formation, int pins) {
    const Formation& f = part.formations.at(formation);
    FormationPlan plan = planOf(part, f);
    plan.rows = {pins};
    const std::string id = f.id;
    return withShape(std::move(part), id, plan);
}

Result<Part> withoutFormation(Part part, const std::string& formation) {
    if (formationById(part, formation) == nullptr)
        return problem("there is no such formation", formation, "Choose another");
    const bool first = part.formations.front().id == formation;
    for (Formation& f : part.formations)
        if (f.twinOf == formation) {
            f.kind = FormationKind::Row;
            f.twinOf.clear();
        }
    const auto moveNames = [&](auto& values) {
        auto renamed = values;
        renamed.clear();
        const std::string next = first && part.formations.size() > 1 ? part.formations[1].id + "." : formation + ".";
        for (const auto& [name, value] : values) {
            // The first formation's parameters have no prefix; those of the next one lose theirs.
            if (first && name.starts_with(next))
                renamed[name.substr(next.size())] = value;
            else if (!name.starts_with(formation + "."))
                renamed.emplace(name, value);
        }
        values = renamed;
    };
    const auto dropOwn = [&](auto& values) {
        if (!first) return;
        for (const ParameterTraits& traits : parameterKinds())
            if (isOfFormation(traits.kind)) values.erase(traits.ending);
    };
    dropOwn(part.assumed);
    dropOwn(part.taken);
    dropOwn(part.given);
    dropOwn(part.turned);
    moveNames(part.assumed);
    moveNames(part.taken);
    moveNames(part.given);
    moveNames(part.turned);
    std::erase_if(part.formations, [&](const Formation& f) { return f.id == formation; });
    dropPins(part);
    return part;
}

Part withFormationDrawnAt(Part part, const std::string& formation, Point origin) {
    part.assumed[formation + ".x"] = origin.x;
    part.assumed[formation + ".y"] = origin.y;
    return part;
}

Part withMovedPin(Part part, const FeatureId& pin, bool moved) {
    for (Formation& f : part.formations) {
        if (std::find(f.pins.begin(), f.pins.end(), pin) == f.pins.end()) continue;
        std::erase(f.moved, pin);
        if (moved) f.moved.push_back(pin);
    }
    return part;
}

}  // namespace punch
