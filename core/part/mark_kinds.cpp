#include "core/part/mark_kinds.h"

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <stdexcept>

#include "core/base/quantity.h"
#include "core/part/drawing_value.h"
#include "core/part/figure.h"

namespace punch {
#define PUNCH_MARK_DEFINED(kind, word) \
    template <>                        \
    MarkKindInfo kindInfo<MarkKind::kind>();
PUNCH_MARK_KINDS(PUNCH_MARK_DEFINED)
#undef PUNCH_MARK_DEFINED

using V = MarkValue;

const std::vector<MarkKindInfo>& markKinds() {
#define PUNCH_MARK_INFO(kind, word) kindInfo<MarkKind::kind>(),
    static const std::vector<MarkKindInfo> all = {PUNCH_MARK_KINDS(PUNCH_MARK_INFO)};
#undef PUNCH_MARK_INFO
    return all;
}

const MarkKindInfo& markKind(MarkKind kind) {
    // In the order of the identifiers: one list makes both.
    return markKinds()[static_cast<std::size_t>(kind)];
}

const MarkField* markField(MarkKind kind, std::string_view key) {
    const auto& fields = markKind(kind).fields;
    const auto it = std::find_if(fields.begin(), fields.end(), [&](const MarkField& f) { return key == f.key; });
    return it == fields.end() ? nullptr : &*it;
}

const char* groupWords(MarkGroup group) {
    switch (group) {
        case MarkGroup::WayRound: return "Which way round";
        case MarkGroup::Room: return "Room";
        case MarkGroup::Board: return "Board";
        case MarkGroup::Copper: return "Copper";
        case MarkGroup::Print: break;
    }
    return "Print";
}

std::string valueOf(const Mark& mark, std::string_view key) {
    if (const auto it = mark.set.find(std::string(key)); it != mark.set.end()) return it->second;
    const MarkField* field = markField(mark.kind, key);
    if (field == nullptr) throw std::logic_error("no field of the mark is named " + std::string(key));
    return field->usual;
}

bool flagOf(const Mark& mark, std::string_view key) { return valueOf(mark, key) == "yes"; }

bool applies(const Mark& mark, const MarkField& field) {
    if (field.onlyWhen == nullptr) return true;
    const std::string_view when = field.onlyWhen;
    const std::size_t at = when.find('=');
    const bool otherwise = at > 0 && when[at - 1] == '!';
    const std::string_view key = when.substr(0, otherwise ? at - 1 : at);
    // What hangs on a field that means nothing means nothing.
    if (const MarkField* of = markField(mark.kind, key); of != nullptr && !applies(mark, *of)) return false;
    const std::string value = valueOf(mark, key);
    bool one = false;
    for (std::string_view rest = when.substr(at + 1); !rest.empty();) {
        const std::size_t end = std::min(rest.find('|'), rest.size());
        one = one || value == rest.substr(0, end);
        rest.remove_prefix(std::min(end + 1, rest.size()));
    }
    return one != otherwise;
}

Result<std::string> checkedMarkValue(const MarkField& field, const std::string& typed) {
    const std::string what = field.label;
    switch (field.value) {
        case V::Length:
        case V::Angle: {
            const auto wanted = field.value == V::Length ? Formula::Kind::Length : Formula::Kind::Angle;
            const auto formula = Formula::parse(typed, Unit::Mm, wanted, [&](const std::string&) { return wanted; });
            if (!formula) return problem(formula.error().what, what, formula.error().todo);
            return typed;
        }
        case V::Choice: {
            std::string known;
            for (const char* c : field.choices) {
                if (typed == c) return typed;
                known += (known.empty() ? "" : ", ") + std::string(c);
            }
            return problem("“" + typed + "” is none of " + known, what);
        }
        case V::Flag:
            if (typed == "yes" || typed == "no") return typed;
            return problem("“" + typed + "” is neither yes nor no", what);
        case V::Text:
            if (typed.size() > 200) return problem("more than 200 letters", what, "Use several texts");
            return typed;
        case V::Count: {
            const auto number = parseNumber(typed);
            if (!number || *number < 0 || *number > 1e6 || *number != std::floor(*number))
                return problem("“" + typed + "” is no whole number", what, "Type one from 0");
            return fmt::format("{:g}", *number);
        }
        case V::Figure: {
            const auto rings = figureFromText(typed);
            if (!rings) return problem(rings.error().what, what, rings.error().todo);
            return typed;
        }
        case V::Drawn: {
            if (typed.empty()) return typed;
            const auto value = parseDrawingValue(typed, Unit::Mm);
            if (!value) return problem(value.error().what, what, value.error().todo);
            return typed;
        }
        case V::Pins:
        case V::Feature: break;
    }
    return typed;
}

}  // namespace punch
