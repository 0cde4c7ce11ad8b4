#include "core/drawing/dimension_text.h"

#include <fmt/format.h>

#include <algorithm>
#include <array>
#include <cctype>
#include <cmath>
#include <optional>

namespace punch {

namespace {

constexpr char kDiameter = '\x01', kPlusMinus = '\x02', kDegree = '\x03';

/// Signs that come in several spellings become one character each.
std::string plain(std::string_view text) {
    static constexpr std::array<std::pair<std::string_view, char>, 19> table = {{{"Ø", kDiameter},
                                                                                 {"ø", kDiameter},
                                                                                 {"⌀", kDiameter},
                                                                                 {"∅", kDiameter},
                                                                                 {"φ", kDiameter},
                                                                                 {"Φ", kDiameter},
                                                                                 {"±", kPlusMinus},
                                                                                 {"+/-", kPlusMinus},
                                                                                 {"+-", kPlusMinus},
                                                                                 {"°", kDegree},
                                                                                 {"º", kDegree},
                                                                                 {"×", 'x'},
                                                                                 {"−", '-'},
                                                                                 {"–", '-'},
                                                                                 {"—", '-'},
                                                                                 {"″", '"'},
                                                                                 {"”", '"'},
                                                                                 {"\u00A0", ' '},
                                                                                 {"\u2009", ' '}}};
    std::string out;
    while (!text.empty()) {
        const auto known =
            std::find_if(table.begin(), table.end(), [&](const auto& t) { return text.starts_with(t.first); });
        if (known != table.end()) {
            out += known->second;
            text.remove_prefix(known->first.size());
        } else {
            out += text.front();
            text.remove_prefix(1);
        }
    }
    return out;
}

bool isDigit(char c) { return c >= '0' && c <= '9'; }
bool isLetter(char c) { return std::isalpha(static_cast<unsigned char>(c)) != 0; }
std::string lower(std::string s) {
    for (char& c : s) c = static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return s;
}

struct Cursor {
    std::string_view text;
    std::size_t at = 0;

    char now(std::size_t ahead = 0) const { return at + ahead < text.size() ? text[at + ahead] : '\0'; }
    void blanks() {
        while (now() == ' ' || now() == '\t') ++at;
    }
    bool eat(char c) {
        blanks();
        if (now() != c) return false;
        ++at;
        return true;
    }
    bool eat(std::string_view word) {
        blanks();
        if (lower(std::string(text.substr(at, word.size()))) != word || isLetter(now(word.size()))) return false;
        at += word.size();
        return true;
    }
    /// Digits with a point or a comma; the comma becomes a point.
    std::optional<std::string> number() {
        blanks();
        std::string out;
        std::size_t i = at;
        bool point = false;
        while (i < text.size()) {
            const char c = text[i];
            const bool mark = (c == '.' || c == ',') && !point && i + 1 < text.size() && isDigit(text[i + 1]);
            if (!isDigit(c) && !mark) break;
            if (mark) {
                if (out.empty()) out = "0";
                point = true;
            }
            out += mark ? '.' : c;
            ++i;
        }
        if (out.empty() || out.size() > 12) return {};
        at = i;
        return out;
    }
    std::string unit() {
        if (eat("mm")) return "mm";
        if (eat("inch") || eat("in") || eat('"')) return "in";
        if (eat("mil") || eat("mils")) return "mil";
        return {};
    }
};

/// Words that stand beside values; any other one makes it a text and no dimension.
bool onlyKnownWords(std::string_view text) {
    static constexpr std::array<std::string_view, 22> known = {
        "mm",    "in",     "inch", "mil", "mils", "typ", "ref", "max", "min", "dia", "pitch",
        "place", "places", "plcs", "sq",  "thru", "x",   "r",   "to",  "nom", "pin", "pins"};
    std::string word;
    for (std::size_t i = 0; i <= text.size(); ++i) {
        if (i < text.size() && isLetter(text[i])) {
            word += text[i];
        } else if (!word.empty()) {
            if (std::find(known.begin(), known.end(), lower(word)) == known.end()) return false;
            word.clear();
        }
    }
    return true;
}

std::optional<OfferedDimension> oneValue(Cursor& c, Unit pageUnit) {
    OfferedDimension d;
    d.unit = pageUnit;
    const std::size_t start = c.at;
    if (c.eat("pitch") || c.eat("dia")) c.blanks();
    bool bracket = c.eat('(');
    // "4x", "4-Ø".
    const std::size_t before = c.at;
    if (const auto n = c.number(); n && n->find('.') == std::string::npos && n->size() < 4) {
        const bool times = c.eat('x') || c.eat('X') || c.eat("places") || c.eat("plcs");
        const bool dash = !times && c.now() == '-' && (c.now(1) == kDiameter || c.now(1) == 'R');
        if (times || dash) {
            d.count = std::max(std::stoi(*n), 1);
            if (dash) ++c.at;
            if (bracket && c.eat(')')) bracket = false;
        } else {
            c.at = before;
        }
    } else {
        c.at = before;
    }
    if (!bracket) bracket = c.eat('(');
    c.blanks();
    if (c.eat(kDiameter) || c.eat("dia")) {
        d.diameter = true;
    } else if ((c.now() == 'R' || c.now() == 'r') && (isDigit(c.now(1)) || c.now(1) == '.' || c.now(1) == ' ')) {
        ++c.at;
        d.radius = true;
    }
    const auto value = c.number();
    if (!value) {
        c.at = start;
        return {};
    }
    std::string unit = c.unit();
    if (c.eat(kDegree)) d.angle = true;
    d.typed = *value;
    std::string tolerance;
    const auto deviation = [&](char sign) -> std::optional<std::string> {
        const std::size_t from = c.at;
        if (c.eat(sign))
            if (auto n = c.number()) return n;
        c.at = from;
        return {};
    };
    if (const auto t = deviation(kPlusMinus)) {
        tolerance = " ±" + *t;
    } else if (const auto up = deviation('+')) {
        c.eat('/');
        const auto down = deviation('-');
        // "+0.1 0": the lower deviation is nought without a sign.
        if (!down && c.eat('0')) (void)0;
        tolerance = fmt::format(" +{} -{}", *up, down.value_or("0"));
    } else if (const auto less = deviation('-')) {
        c.eat('/');
        const auto more = deviation('+');
        const double a = std::stod(*value), b = std::stod(*less);
        if (!more && b > a && b < 2.5 * a)
            tolerance = ".." + *less;  // "1.9-2.1": least and most
        else
            tolerance = fmt::format(" +{} -{}", more.value_or("0"), *less);
    } else if (const std::size_t from = c.at; c.eat("to") || (c.now() == '.' && c.now(1) == '.' && (c.at += 2) > 0)) {
        if (const auto most = c.number())
            tolerance = ".." + *most;
        else
            c.at = from;
    }
    if (const std::string after = c.unit(); unit.empty()) unit = after;
    if (c.eat(kDegree)) d.angle = true;
    if (d.angle) tolerance.clear();
    if (unit == "in") d.unit = Unit::Inch;
    if (unit == "mm") d.unit = Unit::Mm;
    if (unit == "mil") d.unit = Unit::Mil;
    d.typed += tolerance;
    if (c.eat("dia")) d.diameter = true;
    for (const char* word : {"typ", "nom", "sq", "max", "min", "thru", "places", "plcs"}) {
        c.eat(word);
        c.eat('.');
    }
    if (bracket) {
        if (!c.eat(')')) bracket = false;
    }
    d.reference = bracket || c.eat("ref");
    c.eat('.');
    return d;
}

/// Length of the value alone, in its bare number.
double bare(const OfferedDimension& d) { return std::stod(d.typed); }

}  // namespace

std::string asDiameter(const OfferedDimension& offered) {
    if (!offered.radius) return offered.typed;
    std::string out;
    bool inNumber = false;
    for (std::size_t i = 0; i < offered.typed.size(); ++i) {
        const char c = offered.typed[i];
        // ".." stands between two numbers, a single point within one.
        const bool range = c == '.' && (offered.typed.substr(i, 2) == ".." || (i > 0 && offered.typed[i - 1] == '.'));
        const bool part = isDigit(c) || (c == '.' && !range);
        if (part && !inNumber) out += "2*";
        inNumber = part;
        out += c;
    }
    return out;
}

std::vector<OfferedDimension> dimensionsIn(std::string_view text, Unit pageUnit) {
    const std::string all = plain(text);
    std::vector<OfferedDimension> found;
    if (all.size() > 60) return found;
    // A letter of the drawing's table: "B", "L1".
    std::string word;
    for (const char ch : all)
        if (ch != ' ') word += ch;
    if (!word.empty() && word.size() <= 2 && std::isupper(static_cast<unsigned char>(word[0])) != 0 &&
        (word.size() == 1 || isDigit(word[1])) && !(word.size() == 2 && word[0] == 'R')) {
        OfferedDimension d;
        d.letter = word;
        d.unit = pageUnit;
        return {d};
    }
    if (!onlyKnownWords(all) || all.find(':') != std::string::npos) return found;
    Cursor c{all};
    while (true) {
        c.blanks();
        const bool other = c.eat('[') || (!found.empty() && c.eat('/'));
        auto d = oneValue(c, pageUnit);
        if (!d) break;
        if (other) c.eat(']');
        found.push_back(*d);
    }
    c.blanks();
    if (c.at < all.size()) return {};  // something is left that was not understood
    if (found.size() == 2 && !found[0].angle && !found[1].angle && found[0].unit == found[1].unit) {
        // The same in inches and in mm.
        const double a = bare(found[0]), b = bare(found[1]);
        const double ratio = a > 0 && b > 0 ? std::max(a, b) / std::min(a, b) : 0;
        if (std::abs(ratio / 25.4 - 1) < 0.02) {
            for (OfferedDimension& d : found) {
                d.unit = bare(d) == std::max(a, b) ? Unit::Mm : Unit::Inch;
                d.reference = false;
                d.diameter = found[0].diameter || found[1].diameter;
                d.radius = found[0].radius || found[1].radius;
                d.count = std::max(found[0].count, found[1].count);
            }
            const Unit first = pageUnit == Unit::Mm ? Unit::Mm : Unit::Inch;
            if (found[0].unit != first) std::swap(found[0], found[1]);
        }
    }
    return found;
}

}  // namespace punch
