#include "core/part/carriers.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <charconv>

#include "core/part/numbering.h"

namespace punch {
namespace {

std::string lower(std::string text) {
    std::transform(text.begin(), text.end(), text.begin(), [](unsigned char c) { return std::tolower(c); });
    return text;
}

std::vector<std::string> wordsOf(std::string_view typed) {
    std::vector<std::string> words(1);
    for (const char c : typed) {
        if (c == ',' || c == ';' || std::isspace(static_cast<unsigned char>(c)) != 0) {
            if (!words.back().empty()) words.emplace_back();
        } else {
            words.back() += c;
        }
    }
    if (words.back().empty()) words.pop_back();
    return words;
}

/// Everything with a name that can carry a potential.
std::vector<std::pair<std::string, FeatureId>> namedCarriers(const Part& part) {
    std::vector<std::pair<std::string, FeatureId>> all;
    const auto add = [&](const std::string& name, const std::string& id) {
        if (!name.empty() && carriesVoltage(part, id)) all.emplace_back(lower(name), id);
    };
    for (const Spot& s : part.spots) add(s.name, s.id);
    for (const Face& f : part.faces) add(f.name, f.id);
    for (const Mark& m : part.marks) add(m.name, m.id);
    return all;
}

std::optional<int> whole(std::string_view text) {
    int n = 0;
    const auto [end, error] = std::from_chars(text.data(), text.data() + text.size(), n);
    if (error != std::errc() || end != text.data() + text.size()) return {};
    return n;
}

}  // namespace

Result<std::vector<FeatureId>> carriersByWords(const Part& part, std::string_view typed) {
    std::vector<FeatureId> ids;
    const auto add = [&](const FeatureId& id) {
        if (std::count(ids.begin(), ids.end(), id) == 0) ids.push_back(id);
    };
    const auto words = wordsOf(typed);
    const auto named = namedCarriers(part);
    for (std::size_t i = 0; i < words.size(); ++i) {
        if (const FeatureId pin = pinByNumber(part, words[i]); !pin.empty()) {
            add(pin);
            continue;
        }
        // The longest name first: "plug travel" before "plug".
        FeatureId found;
        std::size_t taken = 0;
        std::string name;
        for (std::size_t n = 0; n < 5 && i + n < words.size(); ++n) {
            name += (n == 0 ? "" : " ") + lower(words[i + n]);
            for (const auto& [other, id] : named)
                if (other == name) {
                    found = id;
                    taken = n;
                }
        }
        if (!found.empty()) {
            add(found);
            i += taken;
            continue;
        }
        const auto dash = words[i].find('-', 1);
        const auto from = whole(words[i].substr(0, dash));
        const auto to = dash == std::string::npos ? std::nullopt : whole(std::string_view(words[i]).substr(dash + 1));
        if (!from || !to || *to < *from)
            return problem(fmt::format("there is no pin “{}”, and nothing is called so", words[i]), "potential",
                           "Type pin numbers as in “1 2” or “1-4”, or a name as in “board edge”");
        for (int n = *from; n <= *to; ++n) {
            const FeatureId pin = pinByNumber(part, std::to_string(n));
            if (pin.empty())
                return problem(fmt::format("there is no pin “{}”", n), "potential", "Type the numbers that pins have");
            add(pin);
        }
    }
    return ids;
}

}  // namespace punch
