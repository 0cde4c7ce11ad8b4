#pragma once
// The fields of rules, insulation, dress, overrides and fab profiles: one list each, which files, inheriting, the form
// and the schema's test read. A new field is a member of its structure and a row here.

#include <fmt/format.h>

#include <algorithm>
#include <functional>
#include <stdexcept>
#include <string>
#include <string_view>
#include <variant>
#include <vector>

#include "core/part/names.h"
#include "core/part/rules.h"

namespace punch {

/// A member that is one of an enumeration's names, or a std::optional of it.
template <class S>
struct Choice {
    std::vector<std::string_view> words;
    std::function<int(const S&)> get;  ///< index among the words; -1: not set
    std::function<void(S&, int)> set;  ///< the same
};

/// What a length may be.
enum class Sign { Any, NotNegative, Above };

/// The numbers between two limits; the limits are among them unless it is open.
struct Range {
    double least = 0, most = 0;
    bool open = false;

    bool holds(double value) const { return open ? value > least && value < most : value >= least && value <= most; }
    /// "from 1 to 10", "above 0 and below 1".
    std::string words() const {
        return open ? fmt::format("above {:g} and below {:g}", least, most)
                    : fmt::format("from {:g} to {:g}", least, most);
    }
};

/// One row of a list: what it is, and then, chained, what it is beyond the usual.
template <class S>
struct Field {
    using Member =
        std::variant<Length S::*, double S::*, bool S::*, std::vector<Length> S::*, std::optional<Length> S::*,
                     std::optional<bool> S::*, std::optional<Angle> S::*, Choice<S>>;
    using Words = std::vector<const char*>;

    Field(const char* keyInFiles, const char* rowName, const char* rowLabel, Member itsMember, const char* toolTip)
        : key(keyInFiles), name(rowName), label(rowLabel), member(std::move(itsMember)), help(toolTip) {}
    /// With a row named as in files.
    Field(const char* keyInFiles, const char* rowLabel, Member itsMember, const char* toolTip)
        : Field(keyInFiles, keyInFiles, rowLabel, std::move(itsMember), toolTip) {}

    // clang-format off
    Field from(double low) && { range.least = low; return std::move(*this); }
    Field to(double high) && { range.most = high; return std::move(*this); }
    Field between(double low, double high) && { range = {low, high, true}; return std::move(*this); }
    Field aboveNothing() && { sign = Sign::Above; return std::move(*this); }
    Field anySign() && { sign = Sign::Any; return std::move(*this); }
    Field worded(Words own) && { words = std::move(own); return std::move(*this); }
    Field keptTo(double high) && { kept = high; return std::move(*this); }
    Field whenChanged() && { always = false; return std::move(*this); }
    // clang-format on

    const char* key;    ///< in files
    const char* name;   ///< of its row in the form
    const char* label;  ///< in the form
    Member member;
    const char* help;               ///< its tool tip
    Range range;                    ///< of a number; of a length as it is typed, mm (files: from 0 to 1 m)
    Sign sign = Sign::NotNegative;  ///< of a length
    Words words;                    ///< of a choice in the form, where the names of files are too short
    double kept = 0;                ///< the most that a file may say, where that is more than can be typed
    bool always = true;             ///< written although it is what it would be anyhow; an optional one never is

    Range inFiles() const { return {range.least, std::max(range.most, kept), range.open}; }
};

const std::vector<Field<Rules>>& ruleFields();
const std::vector<Field<Insulating>>& insulatingFields();
const std::vector<Field<Dress>>& dressFields();
const std::vector<Field<PadOverride>>& overrideFields();
const std::vector<Field<FabProfile>>& fabFields();

/// The one with this row in the form, which has to be one of the list.
template <class S>
const Field<S>& fieldNamed(const std::vector<Field<S>>& all, std::string_view name) {
    for (const Field<S>& f : all)
        if (name == f.name) return f;
    throw std::logic_error("no row is named " + std::string(name));
}

/// Each field that `into` leaves open is that of `from`.
void inherit(PadOverride& into, const PadOverride& from);

}  // namespace punch
