#include "core/drawing/stated_scale.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <charconv>
#include <optional>
#include <string_view>

namespace punch {
namespace {

constexpr std::size_t kLongestText = 400;  // what is longer is prose
constexpr std::size_t kLongestAlone = 12;  // a ratio without the word for scale
constexpr double kLargestRatio = 200;

/// The word for scale in the languages that drawings come in, as UTF-8 in small letters.
constexpr std::array<std::string_view, 8> kWords{"scale",  "maßstab", "massstab", "masstab",
                                                 "chelle", "escala",  "scala",    "schaal"};

bool isFigure(char c) { return c >= '0' && c <= '9'; }

bool namesScale(std::string_view text) {
    std::string small(text);
    for (char& c : small)
        if (c >= 'A' && c <= 'Z') c = static_cast<char>(c - 'A' + 'a');
    const auto holds = [&](std::string_view word) { return small.find(word) != std::string::npos; };
    return std::any_of(kWords.begin(), kWords.end(), holds);
}

/// A number with a point or a comma at `at`, which moves behind it; empty where there is none.
std::optional<double> numberAt(std::string_view text, std::size_t& at) {
    std::string number;
    std::size_t i = at;
    while (i < text.size() && isFigure(text[i])) number += text[i++];
    if (number.empty()) return {};
    if (i + 1 < text.size() && (text[i] == '.' || text[i] == ',') && isFigure(text[i + 1])) {
        number += '.';
        for (++i; i < text.size() && isFigure(text[i]); ++i) number += text[i];
    }
    at = i;
    double value = 0;
    const auto [end, error] = std::from_chars(number.data(), number.data() + number.size(), value);
    if (error != std::errc{}) return {};
    return value;
}

struct Ratio {
    double drawn = 0, real = 0;
};

/// Every "a : b" in the text that is not part of a longer row of numbers (a time, a version).
std::vector<Ratio> ratiosIn(std::string_view text) {
    const auto isPart = [](char c) { return isFigure(c) || c == '.' || c == ':' || c == ','; };
    const auto skipBlanks = [&](std::size_t& at) {
        while (at < text.size() && (text[at] == ' ' || text[at] == '\t')) ++at;
    };
    std::vector<Ratio> out;
    for (std::size_t at = 0; at < text.size();) {
        if (!isFigure(text[at]) || (at > 0 && isPart(text[at - 1]))) {
            ++at;
            continue;
        }
        const auto drawn = numberAt(text, at);
        std::size_t next = at;
        skipBlanks(next);
        if (!drawn || next >= text.size() || text[next] != ':') continue;
        skipBlanks(++next);
        const auto real = numberAt(text, next);
        if (!real) continue;
        at = next;
        // A point or comma that ends the sentence is none of the number's.
        const bool more = at + 1 < text.size() && isPart(text[at]) && isPart(text[at + 1]);
        if (more || (at < text.size() && text[at] == ':')) continue;
        out.push_back({*drawn, *real});
    }
    return out;
}

}  // namespace

std::vector<StatedScale> scalesStated(const Drawing& texts) {
    std::vector<StatedScale> out;
    for (const DrawnText& t : texts.texts) {
        if (t.text.size() > kLongestText) continue;
        if (t.text.size() > kLongestAlone && !namesScale(t.text)) continue;
        for (const auto& [a, b] : ratiosIn(t.text)) {
            // A ratio by itself is a scale only where it looks like one.
            if (!(a > 0 && b > 0 && (a == 1 || b == 1)) || a / b > kLargestRatio || b / a > kLargestRatio) continue;
            const StatedScale stated{a / b, fmt::format("{:g}:{:g}", a, b)};
            if (std::none_of(out.begin(), out.end(), [&](const StatedScale& o) { return o.ratio == stated.ratio; }))
                out.push_back(stated);
        }
    }
    return out;
}

}  // namespace punch
