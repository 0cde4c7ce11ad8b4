#include "core/library/search.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <set>
#include <sstream>

#include "core/verdicts/gauges.h"

namespace punch {

std::string searchWords(std::string_view text) {
    std::string out;
    for (const char c : text) out += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return out;
}

std::string searchWords(const Part& part, const Footprint& f) {
    std::string all = part.name + " " + part.description + " " + part.value + " " + part.notes;
    const auto add = [&](const std::string& words) {
        if (!words.empty()) all += "\n" + words;
    };
    std::set<std::string> numbers;
    const auto size = [&](Length l) {
        if (l > Length()) numbers.insert(fmt::format("{:.2f}", l.mm()));
    };
    for (const ParameterValue& p : f.parameters)
        if (!p.angle) size(abs(p.value));
    for (const Pad& p : f.pads) size(p.hole);
    for (const BareHole& h : f.bareHoles) size(h.size);
    if (!f.pads.empty()) add(fmt::format("{0} way\n{0} pins", f.pads.size()));
    for (const std::string& n : numbers) add(n);
    for (const Pin& p : part.pins) {
        std::string line = p.number;
        for (const std::string& n : p.names) line += " " + n;
        add(line + " " + p.note);
    }
    for (const Variant& v : part.variants) add(part.name + "-" + v.name + " " + v.description);
    for (const Source& s : part.sources) add(s.title + " " + s.link + " " + s.note);
    for (const BoardNote& n : part.history) add(n.board + " " + n.words);
    for (const Mark& m : part.marks) add(m.name);
    for (const Gauge& g : f.gauges)
        if (g.state != GaugeState::Go) add(stateName(g.state) + " " + g.title);
    return searchWords(all);
}

namespace {

bool numeral(char c) { return (c >= '0' && c <= '9') || c == '.'; }

/// A number does not begin within another: 5.08 is not in 15.08, 4 way not in 24 way.
bool holds(const std::string& words, const std::string& wanted) {
    for (std::size_t at = words.find(wanted); at != std::string::npos; at = words.find(wanted, at + 1))
        if (!numeral(wanted.front()) || at == 0 || !numeral(words[at - 1])) return true;
    return false;
}

/// "4 way" and "4 pins" are one word.
std::vector<std::string> wantedWords(std::string_view typed) {
    std::vector<std::string> words;
    std::istringstream in{searchWords(typed)};
    for (std::string word; in >> word;) {
        const bool counted = word == "way" || word == "ways" || word == "pin" || word == "pins";
        if (counted && !words.empty() && std::all_of(words.back().begin(), words.back().end(), numeral))
            words.back() += word.starts_with("way") ? " way" : " pin";
        else
            words.push_back(word);
    }
    return words;
}

}  // namespace

bool hasWords(const std::string& words, std::string_view typed) {
    const auto wanted = wantedWords(typed);
    return std::all_of(wanted.begin(), wanted.end(), [&](const std::string& w) { return holds(words, w); });
}

std::vector<const LibraryPart*> searched(const std::vector<LibraryPart>& library, std::string_view typed) {
    const std::vector<std::string> words = wantedWords(typed);
    std::vector<std::pair<int, const LibraryPart*>> found;
    for (const LibraryPart& p : library) {
        const bool all =
            std::all_of(words.begin(), words.end(), [&](const std::string& w) { return holds(p.words, w); });
        if (!all) continue;
        const std::string name = searchWords(p.name);
        const auto inName = std::count_if(words.begin(), words.end(),
                                          [&](const std::string& w) { return name.find(w) != std::string::npos; });
        found.emplace_back(-static_cast<int>(inName), &p);
    }
    std::sort(found.begin(), found.end(), [](const auto& a, const auto& b) {
        if (a.first != b.first) return a.first < b.first;
        return a.second->name != b.second->name ? a.second->name < b.second->name : a.second->file < b.second->file;
    });
    std::vector<const LibraryPart*> out;
    for (const auto& [rank, part] : found) out.push_back(part);
    return out;
}

}  // namespace punch
