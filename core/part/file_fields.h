#pragma once
// A field list to JSON and back. Used by the sections of a part's file alone.

#include "core/part/field_lists.h"
#include "core/part/file_sections.h"

namespace punch {

/// Puts the fields of `from` into `j`; those that are as they would be anyhow only where
/// they are always written.
template <class S>
void writeFields(Json& j, const S& from, const std::vector<Field<S>>& fields) {
    const S usual;
    for (const Field<S>& field : fields)
        std::visit(
            [&](const auto& member) {
                using M = std::decay_t<decltype(member)>;
                if constexpr (std::is_same_v<M, Choice<S>>) {
                    const int at = member.get(from);
                    if (at >= 0 && (field.always || at != member.get(usual)))
                        j[field.key] = std::string(member.words[static_cast<std::size_t>(at)]);
                } else {
                    if constexpr (requires { (from.*member).has_value(); })
                        if (!(from.*member)) return;
                    if (!field.always && from.*member == usual.*member) return;
                    if constexpr (std::is_same_v<M, Length S::*>) j[field.key] = (from.*member).mm();
                    if constexpr (std::is_same_v<M, double S::*> || std::is_same_v<M, bool S::*>)
                        j[field.key] = from.*member;
                    if constexpr (std::is_same_v<M, std::vector<Length> S::*>)
                        j[field.key] = lengthsToJson(from.*member);
                    if constexpr (std::is_same_v<M, std::optional<Length> S::*>) j[field.key] = (from.*member)->mm();
                    if constexpr (std::is_same_v<M, std::optional<Angle> S::*>)
                        j[field.key] = (from.*member)->degrees();
                    if constexpr (std::is_same_v<M, std::optional<bool> S::*>) j[field.key] = *(from.*member);
                }
            },
            field.member);
}

/// A length as its field wants it; none when it is missing or, which is said, wrong.
template <class S>
std::optional<Length> lengthIn(Fields& f, const Field<S>& field) {
    const auto j = f.json(field.key);
    if (!j) return {};
    const Length l = f.lengthOf(*j, f.at(field.key));
    const bool low = field.sign == Sign::Above ? l <= Length() : field.sign == Sign::NotNegative && l < Length();
    if (!low && abs(l) <= Length::fromMm(1000)) return l;
    f.fail(f.at(field.key), field.sign == Sign::Above         ? "a size above 0 and up to 1 m"
                            : field.sign == Sign::NotNegative ? "a length from 0 to 1 m"
                                                              : "at most 1 m");
    return {};
}

template <class S>
void readFields(Fields& f, S& into, const std::vector<Field<S>>& fields) {
    for (const Field<S>& field : fields)
        std::visit(
            [&](const auto& member) {
                using M = std::decay_t<decltype(member)>;
                if constexpr (std::is_same_v<M, Choice<S>>) {
                    const auto j = f.json(field.key);
                    if (!j) return;
                    const std::string word = f.text(field.key, "");
                    std::string known;
                    for (std::size_t i = 0; i < member.words.size(); ++i) {
                        if (member.words[i] == word) return member.set(into, static_cast<int>(i));
                        known += (i == 0 ? "" : ", ") + std::string(member.words[i]);
                    }
                    f.fail(f.at(field.key), "“" + word + "” is none of " + known);
                } else if constexpr (std::is_same_v<M, Length S::*>) {
                    if (const auto l = lengthIn(f, field)) into.*member = *l;
                } else if constexpr (std::is_same_v<M, double S::*>) {
                    const double value = f.number(field.key, into.*member);
                    if (field.inFiles().holds(value))
                        into.*member = value;
                    else
                        f.fail(f.at(field.key), "a number " + field.inFiles().words());
                } else if constexpr (std::is_same_v<M, bool S::*>) {
                    into.*member = f.flag(field.key, into.*member);
                } else if constexpr (std::is_same_v<M, std::vector<Length> S::*>) {
                    if (!f.json(field.key)) return;
                    (into.*member).clear();
                    for (const auto& [path, j] : f.list(field.key)) {
                        (into.*member).push_back(f.lengthOf(j, path));
                        if ((into.*member).back() <= Length()) f.fail(path, "a diameter above 0");
                    }
                } else if constexpr (std::is_same_v<M, std::optional<Length> S::*>) {
                    if (const auto j = f.json(field.key); j && !j->is_null()) into.*member = lengthIn(f, field);
                } else if constexpr (std::is_same_v<M, std::optional<bool> S::*>) {
                    const auto j = f.json(field.key);
                    if (j && !j->is_null()) into.*member = f.flag(field.key, false);
                } else if constexpr (std::is_same_v<M, std::optional<Angle> S::*>) {
                    if (f.json(field.key)) into.*member = Angle::fromDegrees(f.number(field.key, 0));
                }
            },
            field.member);
}

}  // namespace punch
