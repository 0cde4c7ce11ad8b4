#include "core/measure/entry.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <cmath>
#include <map>
#include <sstream>

#include "core/measure/entry_words.h"
#include "core/measure/instruments.h"
#include "core/model/contacts.h"
#include "core/part/drawing_value.h"
#include "core/part/edit.h"
#include "core/part/formation_kinds.h"
#include "core/part/numbering.h"
#include "core/part/slots.h"

namespace punch {
namespace {

FeatureId featureByWord(const Part& part, const std::map<FeatureId, std::string>& numbers, std::string_view typed) {
    const std::string word = lower(typed);
    for (const Spot& spot : part.spots)
        if (lower(spot.name) == word || spot.id == word) return spot.id;
    for (const Face& face : part.faces)
        if (lower(face.name) == word || face.id == word) return face.id;
    for (const Formation& f : part.formations)
        for (const FeatureId& id : f.pins)
            if (numbers.at(id) == typed) return id;
    if (part.body.present) {
        for (const auto& [name, id] :
             {std::pair{"left", kLeftFace}, std::pair{"right", kRightFace}, std::pair{"front", kFrontFace},
              std::pair{"rear", kRearFace}, std::pair{"top", kTopFace}, std::pair{"seat", kSeatingPlane},
              std::pair{"body", kBody}})
            if (means(word, name)) return id;
    }
    return {};
}

/// Everything but the values of a typed reading.
class Grammar {
public:
    Grammar(const Part& part, std::string_view typed)
        : part_(part), numbers_(pinNumbers(part)), tokens_(wordsOf(typed)) {
        lastWord_ = tokens_.size();
        for (std::size_t i = 0; i < tokens_.size(); ++i)
            if (isWord(tokens_[i])) lastWord_ = i;
        // A letter's name belongs to the words, whatever it looks like.
        if (named() && remarkWord(lower(tokens_[lastWord_])) == Remark::Letter && lastWord_ + 1 < tokens_.size())
            ++lastWord_;
    }

    bool named() const { return lastWord_ < tokens_.size(); }

    /// What stands behind the last word.
    std::string values(std::string_view typed) const {
        std::string text(typed);
        std::size_t at = 0;
        for (std::size_t i = 0; named() && i <= lastWord_; ++i) at = text.find(tokens_[i], at) + tokens_[i].size();
        text.erase(0, at);
        return text;
    }

    Result<void> read();

    std::vector<FeatureId> features;
    std::optional<Contact> contact;
    std::optional<Axis> axis;
    std::string kind;  ///< the contact's word
    bool coordinate = false, below = false, same = false, drawing = false, end = false;
    std::optional<int> steps;
    int specimen = 0;
    std::string letter;

private:
    /// "pitch": from the first pin to its neighbour; "rows": from row to row. Between centres.
    Result<void> nameSpan(const std::string& word);
    bool isWord(const std::string& word) const {
        if (std::isalpha(static_cast<unsigned char>(word[0])) == 0) return false;
        const std::string low = lower(word);
        // "exact" and "to" belong to a drawing's value.
        if (low == "exact" || low == "to" || low == "and") return false;
        return low == "pitch" || low == "rows" || contactWord(low) != nullptr || axisWord(low) || remarkWord(low) ||
               !featureByWord(part_, numbers_, word).empty() || !namesUnit(low);
    }

    const Part& part_;
    std::map<FeatureId, std::string> numbers_;
    std::vector<std::string> tokens_;
    std::size_t lastWord_;
};

Result<void> Grammar::nameSpan(const std::string& word) {
    const bool pitch = word == "pitch";
    for (const Formation& f : part_.formations) {
        const auto slots = slotsOf(part_, f);
        if (slots.empty() || slots.front().row < 0) continue;
        for (std::size_t i = 1; i < f.pins.size(); ++i) {
            const bool fits = pitch ? slots[i].row == slots[0].row && slots[i].column == slots[0].column + 1
                                    : slots[i].row == slots[0].row + 1;
            if (!fits) continue;
            features = {f.pins[0], f.pins[i]};
            contact = Contact::Centres;
            axis = traitsOf(f).around ? Axis::Direct : pitch ? Axis::Along : Axis::Across;
            kind = word;
            return {};
        }
    }
    return problem(pitch ? "no row of this part has two pins" : "this part has one row only", "entry",
                   "Type as in “1 4 outside 16.25”");
}

Result<void> Grammar::read() {
    for (std::size_t i = 0; i <= lastWord_; ++i) {
        const std::string low = lower(tokens_[i]);
        if (low == "and" || low == "to" || low == "pin" || low == "pins" || (low == "as" && same)) continue;
        // The longest name first: "knob face", "lock 2".
        FeatureId feature;
        std::size_t length = 0;
        std::string name;
        for (std::size_t n = 1; n <= 3 && i + n - 1 <= lastWord_; ++n) {
            name += (n == 1 ? "" : " ") + tokens_[i + n - 1];
            if (const FeatureId id = featureByWord(part_, numbers_, name); !id.empty()) {
                feature = id;
                length = n;
            }
        }
        const bool stepsFollow = i + 1 <= lastWord_ && remarkWord(lower(tokens_[i + 1])) == Remark::Steps;
        if (length > 0 && !stepsFollow && (length > 1 || (contactWord(low) == nullptr && !axisWord(low)))) {
            features.push_back(feature);
            i += length - 1;
        } else if (low == "pitch" || low == "rows") {
            if (auto named = nameSpan(low); !named) return named;
        } else if (const auto a = axisWord(low)) {
            axis = a;
        } else if (const ContactWord* c = contactWord(low); c != nullptr) {
            contact = c->contact;
            if (c->axis) axis = c->axis;
            kind = c->word;
        } else if (const auto remark = remarkWord(low)) {
            switch (*remark) {
                case Remark::Coordinate: coordinate = true; break;
                case Remark::Below: below = true; break;
                case Remark::Same: same = true; break;
                case Remark::Drawing: drawing = true; break;
                case Remark::End: end = true; break;
                case Remark::Steps: break;  // its count stood before it
                case Remark::Letter:
                    if (i + 1 > lastWord_) return problem("the letter is missing", "entry", "Type as in “letter B”");
                    letter = tokens_[++i];
                    break;
                case Remark::Specimen: {
                    const auto n = i + 1 < tokens_.size() ? parseNumber(tokens_[i + 1]) : parseNumber("");
                    if (!n || *n < 1 || *n > 99 || *n != std::floor(*n))
                        return problem("specimens are counted from 1", "entry", "Type as in “specimen 2”");
                    specimen = static_cast<int>(*n);
                    ++i;
                    lastWord_ = std::max(lastWord_, i);
                    break;
                }
            }
        } else if (stepsFollow) {
            const auto n = parseNumber(tokens_[i]);
            if (!n || *n < 1 || *n > 10000 || *n != std::floor(*n))
                return problem(fmt::format("“{}” is no count of steps", tokens_[i]), "entry",
                               "Type as in “9 steps 0.1in”");
            steps = static_cast<int>(*n);
        } else if (low == "face") {
            continue;
        } else {
            return problem(fmt::format("“{}” is no pin, peg, face or contact of this part", tokens_[i]), "entry",
                           "Type as in “1 4 outside 16.25” or “left 1 near 2.23”");
        }
    }
    return {};
}

/// The contact that the words name, among those that the features have.
Result<void> chooseContact(const Part& part, const Grammar& g, Reading& r) {
    const bool face = isFace(part, r.a) || (!r.b.empty() && isFace(part, r.b));
    if (g.coordinate) {
        if (r.b.empty() || face || g.axis.value_or(Axis::Direct) == Axis::Direct)
            return problem("a coordinate is of two features, along or across", "entry",
                           "Type as in “1 peg along coordinate -3.5”");
        r.contact = Contact::Centres;
        r.axis = *g.axis;
        r.isSigned = true;
        return {};
    }
    const auto choices = contactChoices(part, r.a, r.b);
    if (choices.empty()) return problem("nothing can be read on these", readingWords(part, r), "Choose others");
    const std::optional<Axis> axis = g.axis;
    // "height" and "length" between two levels.
    const bool levels = !r.b.empty() && g.contact.value_or(Contact::Outside) == Contact::Size && axis == Axis::Height;
    const bool anyContact = !g.contact.has_value() || levels;
    const Contact wanted = g.contact.value_or(Contact::Outside);
    const auto fits = std::find_if(choices.begin(), choices.end(), [&](const ContactChoice& c) {
        return (anyContact || c.contact == wanted) && (!axis || c.axis == *axis) && c.atEnd == g.end;
    });
    if (fits == choices.end() && g.end)
        return problem("only a lead whose end is formed is read across its end", "entry",
                       "Say in Place how the lead's end is formed, then type as in “1 end width 1.35”");
    if (fits == choices.end())
        return problem(fmt::format("“{}” cannot be read on these features", g.kind.empty() ? "this direction" : g.kind),
                       "entry", "Press the up or down key to see what can");
    const bool spot = !r.b.empty() && (spotOf(part, r.a) != nullptr || spotOf(part, r.b) != nullptr);
    if (!axis && spot && choices.size() > 3)
        return problem("it is not said in which direction", "entry", "Add along, across or direct");
    // A metal tab has a width; read as a diameter it would get a hole that it does not fit.
    if (const Spot* lug = spotOf(part, r.a);
        lug != nullptr && lug->kind == SpotKind::Lug && !lug->flat && (g.kind == "width" || g.kind == "thickness"))
        return problem(fmt::format("{} is a round one: it has a diameter", lug->name), "entry",
                       "Tick “Flat” in Place first, or type diameter");
    r.contact = fits->contact;
    r.axis = fits->axis;
    r.atEnd = fits->atEnd;
    return {};
}

bool looksDrawn(const std::string& text) {
    for (const char* mark : {"±", "+-", "+/-", "..", "…", " exact", " to "})
        if (text.find(mark) != std::string::npos) return true;
    return false;
}

Result<std::vector<RawValue>> parseAngles(std::string_view typed) {
    std::vector<RawValue> raw;
    for (const std::string& text : splitValues(typed)) {
        const auto value = parseAngle(text);
        if (!value) return tl::make_unexpected(value.error());
        RawValue v;
        v.angle = *value;
        v.typed = text;
        raw.push_back(std::move(v));
    }
    if (raw.empty()) return problem("no value is typed", {}, "Type the angle in degrees, as in 30");
    return raw;
}

/// "A = 20.3 ±0.2": a value of no feature.
Result<Entry> namedValue(std::string_view typed, std::size_t equals, Unit unit) {
    Entry entry;
    entry.named = true;
    Reading& r = entry.reading;
    r.contact = Contact::Quantity;
    const auto name = wordsOf(typed.substr(0, equals));
    const bool plain =
        name.size() == 1 && std::isalpha(static_cast<unsigned char>(name[0][0])) != 0 &&
        std::all_of(name[0].begin(), name[0].end(), [](unsigned char c) { return std::isalnum(c) != 0 || c == '_'; });
    if (!plain || namesUnit(name[0]))
        return problem("the name before = is one word of letters and digits", "entry", "Type as in “A = 20.3 ±0.2”");
    r.name = name[0];
    const auto value = parseDrawingValue(typed.substr(equals + 1), unit);
    if (!value) return tl::make_unexpected(value.error());
    r.drawing = *value;
    return entry;
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

std::string typedValues(const Reading& r, Unit bareUnit) {
    // A value typed in another unit names it.
    const auto withUnit = [&](const std::string& typed, Unit unit) {
        return !namesUnit(typed) && unit != bareUnit ? fmt::format("({}){}", typed, unitName(unit)) : typed;
    };
    if (r.drawing) return r.drawing->typed;
    std::string all;
    for (const RawValue& v : r.raw)
        all += (all.empty() ? "" : " ") + (r.contact == Contact::Angle ? v.typed : withUnit(v.typed, v.unit));
    return all;
}

Result<Entry> parseEntry(const Part& part, const std::optional<Reading>& asked, std::string_view typed, Unit bareUnit,
                         bool drawn) {
    if (const auto equals = typed.find('='); equals != std::string_view::npos)
        return namedValue(typed, equals, bareUnit);
    Entry entry;
    Reading& r = entry.reading;
    Grammar g(part, typed);
    if (!g.named()) {
        if (!asked) return problem("it is not said what was read", {}, "Name it, as in “1 4 outside 16.25”");
        r = *asked;
        r.raw.clear();
        r.drawing.reset();
    } else {
        entry.named = true;
        if (const auto ok = g.read(); !ok) return tl::make_unexpected(ok.error());
        if (g.features.empty())
            return problem("no feature is named", "entry", "Begin with a pin, a peg, a face or “body”");
        const std::size_t most = g.contact == Contact::Angle ? 3 : 2;
        if (g.features.size() > most)
            return problem(fmt::format("more than {} features are named", most == 2 ? "two" : "three"), "entry",
                           "Name one or two");
        if (asked) r.instrument = asked->instrument;
        if (showsAngles(r.instrument)) r.instrument = Reading().instrument;
        r.a = g.features[0];
        if (g.features.size() >= 2) r.b = g.features[1];
        if (g.features.size() == 3) r.c = g.features[2];
        if (const auto ok = chooseContact(part, g, r); !ok) return tl::make_unexpected(ok.error());
        r.fromBelow = g.below;
        r.specimen = g.specimen;
        r.name = g.letter;
        if (r.contact == Contact::Angle) r.instrument = kProtractor;
    }
    const std::string values = g.values(typed);
    if (g.same) {
        const auto n = parseNumber(values);
        if (!n || *n < 1 || *n > static_cast<double>(part.readings.size()) || *n != std::floor(*n))
            return problem("it is not said which reading it equals", "entry", "Type its number, as in “same 3”");
        r.sameAs = part.readings[static_cast<std::size_t>(*n) - 1].id;
        return entry;
    }
    if (!g.letter.empty() && wordsOf(values).empty()) {
        if (!letterValue(part.letters, g.letter))
            return problem(fmt::format("the letter “{}” has no value in the table", g.letter), "entry",
                           "Add it to the letter table, or type its value behind it");
        return entry;
    }
    if (r.contact == Contact::Angle) {
        auto raw = parseAngles(values);
        if (!raw) return tl::make_unexpected(raw.error());
        r.raw = std::move(*raw);
        return entry;
    }
    if (drawn || g.drawing || !g.letter.empty() || looksDrawn(values)) {
        const auto value = parseDrawingValue(values, bareUnit);
        if (!value) return tl::make_unexpected(value.error());
        if (const auto ok = plausibleSize(part, r, value->nominal); !ok) return tl::make_unexpected(ok.error());
        r.drawing = *value;
        return entry;
    }
    if (g.steps) {
        r.instrument = kGridSteps;
        const auto grid = parseLength(values, bareUnit);
        if (!grid) return tl::make_unexpected(grid.error());
        const std::string text = fmt::format(
            "{}*({})", *g.steps, wordsOf(values).empty() ? values : values.substr(values.find_first_not_of(' ')));
        const auto value = parseLength(text, bareUnit);
        if (!value) return tl::make_unexpected(value.error());
        r.raw.push_back({*value, text, bareUnit, false, {}});
    } else {
        auto raw = parseRawValues(values, bareUnit);
        if (!raw) return tl::make_unexpected(raw.error());
        r.raw = std::move(*raw);
    }
    for (const RawValue& v : r.raw)
        if (const auto ok = plausibleSize(part, r, v.value); !ok) return tl::make_unexpected(ok.error());
    return entry;
}

}  // namespace punch
