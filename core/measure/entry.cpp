#include "core/measure/entry.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <sstream>

#include "core/measure/contacts.h"
#include "core/part/edit.h"

namespace punch {
namespace {

struct ContactWord {
    std::string_view word;
    Contact contact;
    std::optional<Axis> axis;
};

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
        {"near", Contact::FaceNear, {}},
        {"far", Contact::FaceFar, {}},
        {"middle", Contact::FaceCentre, {}},
    };
    return table;
}

const std::vector<std::pair<std::string_view, Axis>>& axisWords() {
    static const std::vector<std::pair<std::string_view, Axis>> table = {
        {"along", Axis::Along}, {"across", Axis::Across}, {"direct", Axis::Direct}};
    return table;
}

std::string lower(std::string_view s) {
    std::string out(s);
    std::transform(out.begin(), out.end(), out.begin(), [](unsigned char c) { return std::tolower(c); });
    return out;
}

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

FeatureId featureByWord(const Part& part, std::string_view typed) {
    const std::string word = lower(typed);
    for (const Peg& peg : part.pegs)
        if (lower(peg.name) == word || peg.id == word) return peg.id;
    if (part.body.present) {
        for (const auto& [name, id] :
             {std::pair{"left", kLeftFace}, std::pair{"right", kRightFace}, std::pair{"front", kFrontFace},
              std::pair{"rear", kRearFace}, std::pair{"body", kBody}})
            if (means(word, name)) return id;
    }
    return pinByNumber(part, std::string(typed));
}

std::vector<std::string> words(std::string_view text) {
    std::istringstream in{std::string(text)};
    std::vector<std::string> out;
    for (std::string w; in >> w;) out.push_back(w);
    return out;
}

/// A word of the grammar rather than a unit behind a number.
bool isGrammarWord(const Part& part, const std::string& word) {
    if (std::isalpha(static_cast<unsigned char>(word[0])) == 0) return false;
    const std::string low = lower(word);
    return contactWord(low) != nullptr || axisWord(low) || !featureByWord(part, low).empty() ||
           (!namesUnit(low) && low != "and");
}

}  // namespace

Result<std::vector<RawValue>> parseRawValues(std::string_view typed, Unit bareUnit) {
    std::vector<RawValue> raw;
    for (const std::string& text : splitValues(typed)) {
        const auto value = parseLength(text, bareUnit);
        if (!value) return tl::make_unexpected(value.error());
        raw.push_back({*value, text, bareUnit, false, {}});
    }
    if (raw.empty()) return problem("no value is typed", {}, "Type what the instrument showed, as in 16.25");
    return raw;
}

Result<Entry> parseEntry(const Part& part, const std::optional<Reading>& asked, std::string_view typed, Unit bareUnit) {
    Entry entry;
    const auto tokens = words(typed);
    std::size_t lastWord = tokens.size();
    for (std::size_t i = 0; i < tokens.size(); ++i)
        if (isGrammarWord(part, tokens[i])) lastWord = i;
    std::string valueText(typed);
    if (lastWord == tokens.size()) {
        if (!asked) return problem("it is not said what was read", {}, "Name it, as in “1 4 outside 16.25”");
        entry.reading = *asked;
        entry.reading.raw.clear();
    } else {
        entry.named = true;
        // Pin numbers may follow a name ("left 1 near"): features end where the first contact or direction stands,
        // or behind the last word.
        std::vector<FeatureId> features;
        std::optional<Contact> contact;
        std::optional<Axis> axis;
        std::string kind;
        for (std::size_t i = 0; i <= lastWord; ++i) {
            const std::string low = lower(tokens[i]);
            if (low == "and" || low == "to" || low == "pin" || low == "pins" || low == "face") continue;
            if (const auto a = axisWord(low)) {
                axis = a;
            } else if (const ContactWord* c = contactWord(low); c != nullptr) {
                contact = c->contact;
                if (c->axis) axis = c->axis;
                kind = c->word;
            } else if (const FeatureId id = featureByWord(part, tokens[i]); !id.empty()) {
                features.push_back(id);
            } else {
                return problem(fmt::format("“{}” is no pin, peg, face or contact of this part", tokens[i]), "entry",
                               "Type as in “1 4 outside 16.25” or “left 1 near 2.23”");
            }
        }
        if (features.empty())
            return problem("no feature is named", "entry", "Begin with a pin, a peg, a face or “body”");
        if (features.size() > 2) return problem("more than two features are named", "entry", "Name one or two");
        Reading& r = entry.reading;
        if (asked) r.instrument = asked->instrument;
        r.a = features[0];
        if (features.size() == 2) r.b = features[1];
        const auto choices = contactChoices(part, r.a, r.b);
        if (choices.empty()) return problem("nothing can be read on these", readingWords(part, r), "Choose others");
        const auto fits = std::find_if(choices.begin(), choices.end(), [&](const ContactChoice& c) {
            return (!contact || c.contact == *contact) && (!axis || c.axis == *axis);
        });
        if (fits == choices.end())
            return problem(fmt::format("“{}” cannot be read on these features", kind.empty() ? "this direction" : kind),
                           "entry", "Press the up or down key to see what can");
        if (!axis && pegOf(part, r.b.empty() ? std::string() : r.a) != nullptr && choices.size() > 3)
            return problem("it is not said in which direction", "entry", "Add along, across or direct");
        if (!axis && !r.b.empty() && pegOf(part, r.b) != nullptr && choices.size() > 3)
            return problem("it is not said in which direction", "entry", "Add along, across or direct");
        r.contact = fits->contact;
        r.axis = fits->axis;
        std::size_t at = 0;
        for (std::size_t i = 0; i <= lastWord; ++i) at = valueText.find(tokens[i], at) + tokens[i].size();
        valueText.erase(0, at);
    }
    auto raw = parseRawValues(valueText, bareUnit);
    if (!raw) return tl::make_unexpected(raw.error());
    for (const RawValue& v : *raw)
        if (const auto ok = plausibleSize(part, entry.reading, v.value); !ok) return tl::make_unexpected(ok.error());
    entry.reading.raw = std::move(*raw);
    return entry;
}

std::vector<std::string> completeEntry(const Part& part, std::string_view typed) {
    const auto tokens = words(typed);
    if (tokens.empty() || typed.back() == ' ') return {};
    const std::string last = lower(tokens.back());
    if (std::isalpha(static_cast<unsigned char>(last[0])) == 0) return {};
    std::vector<std::string> all;
    for (const Peg& peg : part.pegs) all.push_back(peg.name);
    if (part.body.present) all.insert(all.end(), {"left", "right", "front", "rear", "body"});
    for (const ContactWord& c : contactWords()) all.emplace_back(c.word);
    for (const auto& [word, axis] : axisWords()) all.emplace_back(word);
    std::vector<std::string> fits;
    for (const std::string& w : all)
        if (lower(w).starts_with(last) && lower(w) != last) fits.push_back(w);
    return fits;
}

}  // namespace punch
