#pragma once
// The fields of rules, insulation, dress, overrides and fab profiles: one list each, which files, inheriting, the form
// and the schema's test read. A new field is a member of its structure and a row here.

#include <functional>
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

template <class S>
struct Field {
    using Member =
        std::variant<Length S::*, double S::*, bool S::*, std::vector<Length> S::*, std::optional<Length> S::*,
                     std::optional<bool> S::*, std::optional<Angle> S::*, Choice<S>>;
    using Words = std::vector<const char*>;

    Field(const char* keyInFiles, const char* rowName, const char* rowLabel, Member itsMember, bool alwaysWritten,
          double leastTyped, double mostTyped, Sign itsSign, const char* toolTip, Words ownWords = Words(),
          double mostKept = 0)
        : key(keyInFiles),
          name(rowName),
          label(rowLabel),
          member(std::move(itsMember)),
          always(alwaysWritten),
          least(leastTyped),
          most(mostTyped),
          sign(itsSign),
          help(toolTip),
          words(std::move(ownWords)),
          kept(mostKept) {}

    const char* key;    ///< in files
    const char* name;   ///< of its row in the form
    const char* label;  ///< in the form
    Member member;
    bool always;   ///< written although it is what it would be anyhow
    double least;  ///< of a number; of a length as it is typed, mm (files: from 0 to 1 m)
    double most;   ///< the same
    Sign sign;
    const char* help;  ///< its tool tip
    Words words;       ///< of a choice in the form, where the names of files are too short
    double kept;       ///< the most that a file may say, where that is more than can be typed
};

const std::vector<Field<Rules>>& ruleFields();
const std::vector<Field<Insulating>>& insulatingFields();
const std::vector<Field<Dress>>& dressFields();
const std::vector<Field<PadOverride>>& overrideFields();
const std::vector<Field<FabProfile>>& fabFields();

/// The one with this row in the form.
template <class S>
const Field<S>& fieldNamed(const std::vector<Field<S>>& all, std::string_view name) {
    for (const Field<S>& f : all)
        if (name == f.name) return f;
    return all.front();
}

/// Each field that `into` leaves open is that of `from`.
void inherit(PadOverride& into, const PadOverride& from);

}  // namespace punch
