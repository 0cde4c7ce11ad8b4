#include "core/part/drawing_value.h"

#include <fmt/format.h>

#include <algorithm>

namespace punch {
namespace {

std::string trimmed(std::string text) {
    const auto first = text.find_first_not_of(" \t");
    if (first == std::string::npos) return {};
    return text.substr(first, text.find_last_not_of(" \t") - first + 1);
}

struct Split {
    std::string before, after;
};

std::optional<Split> splitAt(const std::string& text, std::string_view mark) {
    const auto at = text.find(mark);
    if (at == std::string::npos || at == 0) return {};
    return Split{trimmed(text.substr(0, at)), trimmed(text.substr(at + mark.size()))};
}

}  // namespace

Result<DrawingValue> parseDrawingValue(std::string_view typed, Unit unit) {
    DrawingValue v;
    v.typed = trimmed(std::string(typed));
    v.unit = unit;
    const std::string where = fmt::format("“{}”", typed);
    std::string nominal = v.typed;
    std::string low;
    std::string high;
    if (nominal.ends_with(" exact") || nominal.starts_with("exact ")) {
        v.form = DrawingForm::Exact;
        nominal = nominal.ends_with(" exact") ? nominal.substr(0, nominal.size() - 6) : nominal.substr(6);
    } else {
        for (const char* mark : {"..", " to ", "…"})
            if (const auto s = splitAt(nominal, mark); s && v.form == DrawingForm::Plain) {
                v.form = DrawingForm::Limits;
                low = s->before;
                high = s->after;
            }
        for (const char* mark : {"±", "+-", "+/-"})
            if (const auto s = splitAt(nominal, mark); s && v.form == DrawingForm::Plain) {
                v.form = DrawingForm::Tolerance;
                nominal = s->before;
                low = high = s->after;
            }
        // "20.3 +0.2 -0.1": both signs stand behind a blank and before a digit.
        const auto plus = nominal.find(" +");
        const auto minus = nominal.find(" -");
        if (v.form == DrawingForm::Plain && plus != std::string::npos && minus != std::string::npos &&
            nominal.substr(plus + 2, 1) != " " && nominal.substr(minus + 2, 1) != " ") {
            v.form = DrawingForm::Tolerance;
            high = trimmed(plus < minus ? nominal.substr(plus + 2, minus - plus - 2) : nominal.substr(plus + 2));
            low = trimmed(minus < plus ? nominal.substr(minus + 2, plus - minus - 2) : nominal.substr(minus + 2));
            nominal = trimmed(nominal.substr(0, std::min(plus, minus)));
        }
    }
    const auto length = [&](const std::string& text) { return parseLength(text, unit); };
    if (v.form == DrawingForm::Limits) {
        const auto a = length(low);
        const auto b = length(high);
        if (!a) return tl::make_unexpected(a.error());
        if (!b) return tl::make_unexpected(b.error());
        if (*b < *a) return problem("the lower limit is above the upper one", where, "Type the least value first");
        v.low = *a;
        v.high = *b;
        v.nominal = (*a + *b) / 2;
        return v;
    }
    const auto n = length(nominal);
    if (!n) return tl::make_unexpected(n.error());
    v.nominal = v.low = v.high = *n;
    if (v.form == DrawingForm::Tolerance) {
        const auto a = length(low);
        const auto b = length(high);
        if (!a) return tl::make_unexpected(a.error());
        if (!b) return tl::make_unexpected(b.error());
        if (*a < Length() || *b < Length())
            return problem("a tolerance is not negative", where, "Type it as in “20.3 +0.2 -0.1”");
        v.low = *n - *a;
        v.high = *n + *b;
    }
    return v;
}

std::optional<DrawingValue> letterValue(const LetterTable& table, std::string_view letter) {
    const auto column = std::find(table.variants.begin(), table.variants.end(), table.variant);
    if (column == table.variants.end()) return {};
    const auto at = static_cast<std::size_t>(column - table.variants.begin());
    for (const Letter& l : table.letters)
        if (l.name == letter && at < l.byVariant.size() && !l.byVariant[at].typed.empty()) return l.byVariant[at];
    return {};
}

}  // namespace punch
