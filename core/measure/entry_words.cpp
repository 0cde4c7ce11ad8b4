#include "core/measure/entry_words.h"

#include <algorithm>
#include <cctype>
#include <sstream>

#include "core/measure/entry.h"

namespace punch {
namespace {

const std::vector<ContactWord>& contactWords() {
    static const std::vector<ContactWord> table = {
        {"outside", Contact::Outside, {}},
        {"inside", Contact::Inside, {}},
        {"centres", Contact::Centres, {}},
        {"width", Contact::Size, Axis::Along},
        {"thickness", Contact::Size, Axis::Across},
        {"diameter", Contact::Size, Axis::Along},
        {"length", Contact::Size, Axis::Height},
        {"height", Contact::Size, Axis::Height},
        {"depth", Contact::Size, Axis::Height},
        {"near", Contact::FaceNear, {}},
        {"far", Contact::FaceFar, {}},
        {"middle", Contact::FaceCentre, {}},
        {"angle", Contact::Angle, Axis::Direct},
        {"rim", Contact::Rim, Axis::Along},
    };
    return table;
}

const std::vector<std::pair<std::string_view, Axis>>& axisWords() {
    static const std::vector<std::pair<std::string_view, Axis>> table = {
        {"along", Axis::Along}, {"across", Axis::Across}, {"direct", Axis::Direct}};
    return table;
}

}  // namespace

bool means(std::string_view typed, std::string_view word) {
    return typed == word || (typed.size() >= 3 && word.starts_with(typed));
}

const ContactWord* contactWord(std::string_view typed) {
    for (const ContactWord& c : contactWords())
        if (means(typed, c.word)) return &c;
    return nullptr;
}

std::optional<Axis> axisWord(std::string_view typed) {
    for (const auto& [word, axis] : axisWords())
        if (means(typed, word)) return axis;
    return {};
}

std::optional<Remark> remarkWord(std::string_view typed) {
    static constexpr std::pair<std::string_view, Remark> table[] = {
        {"coordinate", Remark::Coordinate}, {"below", Remark::Below}, {"specimen", Remark::Specimen},
        {"steps", Remark::Steps},           {"same", Remark::Same},   {"letter", Remark::Letter},
        {"drawing", Remark::Drawing},       {"end", Remark::End}};
    for (const auto& [word, remark] : table)
        if (means(typed, word)) return remark;
    return {};
}

std::vector<std::string> wordsOf(std::string_view text) {
    std::istringstream in{std::string(text)};
    std::vector<std::string> out;
    for (std::string w; in >> w;) out.push_back(w);
    return out;
}

std::vector<std::string> completeEntry(const Part& part, std::string_view typed) {
    const auto tokens = wordsOf(typed);
    if (tokens.empty() || typed.back() == ' ') return {};
    const std::string last = lower(tokens.back());
    if (std::isalpha(static_cast<unsigned char>(last[0])) == 0) return {};
    std::vector<std::string> all;
    for (const Spot& spot : part.spots) all.push_back(spot.name);
    for (const Face& face : part.faces) all.push_back(face.name);
    if (part.body.present) all.insert(all.end(), {"left", "right", "front", "rear", "top", "seat", "body"});
    all.insert(all.end(), {"coordinate", "below", "specimen", "steps", "same", "letter", "drawing", "end"});
    for (const ContactWord& c : contactWords()) all.emplace_back(c.word);
    for (const auto& [word, axis] : axisWords()) all.emplace_back(word);
    std::vector<std::string> fits;
    for (const std::string& w : all)
        if (lower(w).starts_with(last) && lower(w) != last) fits.push_back(w);
    return fits;
}

}  // namespace punch
