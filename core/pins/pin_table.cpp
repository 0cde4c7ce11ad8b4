#include "core/pins/pin_table.h"

#include <fmt/format.h>

#include <algorithm>
#include <cctype>
#include <charconv>
#include <map>
#include <set>

#include "core/base/text_table.h"
#include "core/part/names.h"

namespace punch {
namespace {

using Cells = TextRow;

constexpr std::size_t kMostSeries = 1000;

enum class Column { LeftOut, Number, Name, Kind, Side, Group, Element, Pads, Note };

constexpr std::pair<Column, const char*> kColumns[] = {
    {Column::LeftOut, "left out"}, {Column::Number, "number"},   {Column::Name, "name"},
    {Column::Kind, "kind"},        {Column::Side, "side"},       {Column::Group, "group"},
    {Column::Pads, "pads"},        {Column::Element, "element"}, {Column::Note, "note"}};

std::string wordOf(Column column) {
    for (const auto& [c, word] : kColumns)
        if (c == column) return word;
    return {};
}

std::optional<Column> headingOf(const std::string& cell) {
    static const std::map<std::string, Column> words = {
        {"number", Column::Number},     {"no", Column::Number},        {"no.", Column::Number},
        {"nr", Column::Number},         {"nr.", Column::Number},       {"#", Column::Number},
        {"pin", Column::Number},        {"pin no", Column::Number},    {"pin no.", Column::Number},
        {"pin number", Column::Number}, {"pin #", Column::Number},     {"terminal", Column::Number},
        {"name", Column::Name},         {"names", Column::Name},       {"pin name", Column::Name},
        {"signal", Column::Name},       {"symbol", Column::Name},      {"designation", Column::Name},
        {"kind", Column::Kind},         {"type", Column::Kind},        {"i/o", Column::Kind},
        {"io", Column::Kind},           {"direction", Column::Kind},   {"side", Column::Side},
        {"group", Column::Group},       {"element", Column::Element},  {"unit", Column::Element},
        {"pads", Column::Pads},         {"pad", Column::Pads},         {"note", Column::Note},
        {"notes", Column::Note},        {"description", Column::Note}, {"function", Column::Note},
        {"remark", Column::Note},       {"comment", Column::Note}};
    const auto it = words.find(lower(cell));
    return it == words.end() ? std::nullopt : std::optional(it->second);
}

/// "7", "A7", "7a", "PE": short, and no word that names a signal as far as can be told.
bool likeNumber(const std::string& s) {
    if (s.empty() || s.size() > 5) return false;
    bool digit = false;
    for (const char c : s) {
        if (std::isalnum(static_cast<unsigned char>(c)) == 0) return false;
        digit = digit || std::isdigit(static_cast<unsigned char>(c)) != 0;
    }
    return digit;
}

/// "7", "1..4", "5, 6".
bool likeNumbers(const std::string& cell) {
    const auto all = namesFromText(cell);
    return !all.empty() && std::all_of(all.begin(), all.end(), [](const std::string& one) {
        const auto each = series(one);
        return std::all_of(each.begin(), each.end(), likeNumber);
    });
}

std::vector<Column> columnsOf(std::vector<Cells>& rows, const std::set<std::string>& pads) {
    std::size_t width = 0;
    for (const Cells& row : rows) width = std::max(width, row.size());
    std::vector<Column> columns(width, Column::LeftOut);
    // A line of headings.
    std::size_t known = 0;
    for (std::size_t i = 0; i < rows.front().size(); ++i)
        if (const auto heading = headingOf(rows.front()[i])) {
            if (std::find(columns.begin(), columns.end(), *heading) == columns.end()) columns[i] = *heading;
            ++known;
        }
    if (known >= 2 || (known == 1 && rows.front().size() == 1)) {
        // "Pin" beside "Name" is a number; beside "Number" it is the name.
        rows.erase(rows.begin());
        return columns;
    }
    columns.assign(width, Column::LeftOut);
    // By what stands there.
    const auto share = [&](std::size_t i, const auto& holds) {
        int yes = 0, all = 0;
        for (const Cells& row : rows)
            if (i < row.size() && !row[i].empty()) {
                ++all;
                yes += holds(row[i]) ? 1 : 0;
            }
        return all > 0 ? static_cast<double>(yes) / all * all / static_cast<double>(rows.size()) : 0.0;
    };
    const auto take = [&](Column column, double least, const auto& holds) {
        std::size_t best = width;
        double most = least;
        for (std::size_t i = 0; i < width; ++i)
            if (columns[i] == Column::LeftOut)
                if (const double s = share(i, holds); s > most + 1e-9) {
                    most = s;
                    best = i;
                }
        if (best < width) columns[best] = column;
        return best < width;
    };
    // Numbers are those of the pads, each once; else whatever looks like one.
    const auto distinct = [&](std::size_t i) {
        std::set<std::string> all;
        for (const Cells& row : rows)
            if (i < row.size()) all.insert(row[i]);
        return all.size();
    };
    std::size_t number = width;
    double most = 0.3;
    for (std::size_t i = 0; i < width; ++i) {
        const double s = share(i, [&](const std::string& c) { return pads.contains(c); }) +
                         0.5 * share(i, likeNumbers) +
                         0.2 * static_cast<double>(distinct(i)) / static_cast<double>(rows.size());
        if (s > most + 1e-9) {
            most = s;
            number = i;
        }
    }
    if (number < width) columns[number] = Column::Number;
    take(Column::Kind, 0.6, [](const std::string& c) { return pinKindFromText(c).has_value(); });
    // A name is short and no bare number; what is long is a note.
    take(Column::Name, 0.3, [](const std::string& c) {
        return c.size() <= 24 && c.find(' ') == std::string::npos &&
               std::any_of(c.begin(), c.end(), [](char l) { return std::isalpha(static_cast<unsigned char>(l)) != 0; });
    });
    if (std::find(columns.begin(), columns.end(), Column::Name) == columns.end())
        take(Column::Name, 0.2, [](const std::string& c) { return c.size() <= 40; });
    take(Column::Note, 0.2, [](const std::string& c) { return c.size() > 3; });
    return columns;
}

template <class T>
std::optional<T> wordAs(std::string_view typed) {
    for (const auto& [value, word] : Names<T>::table)
        if (lower(typed) == word) return value;
    return {};
}

std::vector<std::string> splitList(std::string_view typed) {
    std::vector<std::string> all;
    std::string now;
    for (const char c : typed) {
        if (c != ',' && c != ';' && c != '\n') {
            now += c;
            continue;
        }
        if (const std::string t = trimmed(now); !t.empty()) all.push_back(t);
        now.clear();
    }
    if (const std::string t = trimmed(now); !t.empty()) all.push_back(t);
    return all;
}

std::string csvCell(const std::string& s) {
    if (s.find_first_of(",\"\r\n") == std::string::npos && s == trimmed(s)) return s;
    std::string out = "\"";
    for (const char c : s) out += c == '"' ? std::string("\"\"") : std::string(1, c);
    return out + "\"";
}

}  // namespace

std::optional<PinKind> pinKindFromText(std::string_view typed) {
    static const std::map<std::string, PinKind> words = {{"in", PinKind::Input},
                                                         {"i", PinKind::Input},
                                                         {"di", PinKind::Input},
                                                         {"ai", PinKind::Input},
                                                         {"out", PinKind::Output},
                                                         {"o", PinKind::Output},
                                                         {"do", PinKind::Output},
                                                         {"ao", PinKind::Output},
                                                         {"i/o", PinKind::Bidirectional},
                                                         {"io", PinKind::Bidirectional},
                                                         {"inout", PinKind::Bidirectional},
                                                         {"bidir", PinKind::Bidirectional},
                                                         {"tristate", PinKind::ThreeState},
                                                         {"tri-state", PinKind::ThreeState},
                                                         {"3-state", PinKind::ThreeState},
                                                         {"three state", PinKind::ThreeState},
                                                         {"z", PinKind::ThreeState},
                                                         {"oc", PinKind::OpenCollector},
                                                         {"od", PinKind::OpenCollector},
                                                         {"open drain", PinKind::OpenCollector},
                                                         {"open-drain", PinKind::OpenCollector},
                                                         {"open collector", PinKind::OpenCollector},
                                                         {"oe", PinKind::OpenEmitter},
                                                         {"open source", PinKind::OpenEmitter},
                                                         {"p", PinKind::Supply},
                                                         {"pwr", PinKind::Supply},
                                                         {"power", PinKind::Supply},
                                                         {"vcc", PinKind::Supply},
                                                         {"vdd", PinKind::Supply},
                                                         {"s", PinKind::Supply},
                                                         {"gnd", PinKind::Return},
                                                         {"ground", PinKind::Return},
                                                         {"0 v", PinKind::Return},
                                                         {"0v", PinKind::Return},
                                                         {"g", PinKind::Return},
                                                         {"nc", PinKind::NotConnected},
                                                         {"n.c.", PinKind::NotConnected},
                                                         {"n/c", PinKind::NotConnected},
                                                         {"not connected", PinKind::NotConnected},
                                                         {"no connection", PinKind::NotConnected},
                                                         {"pas", PinKind::Passive}};
    const std::string t = lower(trimmed(typed));
    if (const auto it = words.find(t); it != words.end()) return it->second;
    const auto kind = wordAs<PinKind>(t);
    return kind == PinKind::NotSaid ? std::nullopt : kind;
}

std::vector<std::string> series(std::string_view typed) {
    const std::string t = trimmed(typed);
    const std::size_t dots = t.find("..");
    if (dots == std::string::npos || dots == 0) return {t};
    std::string from = t.substr(0, dots),
                to = t.substr(t.find_first_not_of('.', dots) == std::string::npos ? t.size()
                                                                                  : t.find_first_not_of('.', dots));
    const auto split = [](const std::string& s) {
        std::size_t i = s.size();
        while (i > 0 && std::isdigit(static_cast<unsigned char>(s[i - 1])) != 0) --i;
        return std::pair(s.substr(0, i), s.substr(i));
    };
    const auto [stem, first] = split(from);
    const auto [other, last] = split(to);
    if (first.empty() || last.empty() || first.size() > 6 || last.size() > 6 || (!other.empty() && other != stem))
        return {t};
    const int a = std::stoi(first), b = std::stoi(last);
    if (static_cast<std::size_t>(std::abs(b - a)) >= kMostSeries) return {t};
    std::vector<std::string> all;
    for (int i = a;; i += a <= b ? 1 : -1) {
        std::string n = std::to_string(i);
        // 00..15 keeps its zeros.
        if (first[0] == '0' && n.size() < first.size()) n.insert(0, first.size() - n.size(), '0');
        all.push_back(stem + n);
        if (i == b) break;
    }
    return all;
}

std::vector<std::string> namesFromText(std::string_view typed) { return splitList(typed); }

Result<ReadPins> pinsFromText(std::string_view raw, const std::vector<std::string>& numbers) {
    const std::string text = asUtf8(raw);
    const char separator = separatorOf(text);
    std::vector<Cells> rows = rowsOf(text, separator);
    if (rows.empty()) return problem("there is no text", "pins", "Copy number and name of each pin, a line each");
    const std::set<std::string> pads(numbers.begin(), numbers.end());
    const std::vector<Column> columns = columnsOf(rows, pads);
    ReadPins out;
    for (const Column c : columns) out.columns.push_back(wordOf(c));
    if (std::find(columns.begin(), columns.end(), Column::Number) == columns.end())
        return problem("no column holds pin numbers", "pins", "Copy number and name of each pin, a line each");
    for (const Cells& row : rows) {
        Pin pin;
        std::string number, name;
        for (std::size_t i = 0; i < row.size(); ++i) {
            const std::string& cell = row[i];
            switch (columns[i]) {
                case Column::Number: number = cell; break;
                case Column::Name: name = cell; break;
                case Column::Kind:
                    // A word that is no kind here is not lost.
                    if (const auto kind = pinKindFromText(cell))
                        pin.kind = *kind;
                    else if (!cell.empty())
                        pin.note += (pin.note.empty() ? "" : "; ") + cell;
                    break;
                case Column::Side: pin.side = wordAs<PinSide>(cell).value_or(PinSide::ByKind); break;
                case Column::Group: pin.group = cell; break;
                case Column::Element: pin.element = cell; break;
                case Column::Pads: pin.pads = splitList(cell); break;
                case Column::Note: pin.note += (pin.note.empty() || cell.empty() ? "" : "; ") + cell; break;
                case Column::LeftOut: break;
            }
        }
        // Words of a text without columns are the rest of the note.
        std::vector<std::string> all;
        for (const std::string& n : splitList(number))
            for (const std::string& one : series(n)) all.push_back(one);
        const bool like = std::all_of(all.begin(), all.end(),
                                      [&](const std::string& n) { return likeNumber(n) || pads.contains(n); });
        if (all.empty() || !like) {
            std::string line;
            for (const std::string& cell : row) line += (line.empty() ? "" : " ") + cell;
            out.leftLines.push_back(line);
            continue;
        }
        const std::vector<std::string> names = series(name);
        for (std::size_t i = 0; i < all.size(); ++i) {
            Pin one = pin;
            one.number = all[i];
            one.names = namesFromText(names.size() == all.size() ? names[i] : name);
            if (one.kind == PinKind::NotSaid && !one.names.empty() && lower(one.names.front()) == "nc")
                one.kind = PinKind::NotConnected;
            out.pins.push_back(std::move(one));
        }
    }
    if (out.pins.empty())
        return problem("no line has a pin number", "pins", "Copy number and name of each pin, a line each");
    return out;
}

std::string pinsCsv(const std::vector<Pin>& pins) {
    std::string out = "number,name,kind,side,group,element,pads,note\r\n";
    for (const Pin& p : pins)
        out += csvCell(p.number) + "," + csvCell(fmt::format("{}", fmt::join(p.names, ", "))) + "," +
               csvCell(p.kind == PinKind::NotSaid ? "" : std::string(nameOf(p.kind))) + "," +
               csvCell(p.side == PinSide::ByKind ? "" : std::string(nameOf(p.side))) + "," + csvCell(p.group) + "," +
               csvCell(p.element) + "," + csvCell(fmt::format("{}", fmt::join(p.pads, ", "))) + "," + csvCell(p.note) +
               "\r\n";
    return out;
}

}  // namespace punch
