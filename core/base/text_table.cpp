#include "core/base/text_table.h"

#include <algorithm>
#include <cctype>
#include <map>

namespace punch {
namespace {

constexpr std::size_t kMostLines = 20000;

}  // namespace

std::string trimmed(std::string_view s) {
    const auto blank = [](char c) { return std::isspace(static_cast<unsigned char>(c)) != 0; };
    while (!s.empty() && blank(s.front())) s.remove_prefix(1);
    while (!s.empty() && blank(s.back())) s.remove_suffix(1);
    return std::string(s);
}

std::string lower(std::string_view s) {
    std::string out;
    for (const char c : s) out += static_cast<char>(std::tolower(static_cast<unsigned char>(c)));
    return out;
}

std::string asUtf8(std::string_view text) {
    const auto put = [](std::string& out, unsigned c) {
        if (c < 0x80)
            out += static_cast<char>(c);
        else if (c < 0x800) {
            out += static_cast<char>(0xC0 | c >> 6);
            out += static_cast<char>(0x80 | (c & 63));
        } else {
            out += static_cast<char>(0xE0 | c >> 12);
            out += static_cast<char>(0x80 | (c >> 6 & 63));
            out += static_cast<char>(0x80 | (c & 63));
        }
    };
    const auto byte = [&](std::size_t i) { return static_cast<unsigned>(static_cast<unsigned char>(text[i])); };
    std::string out;
    if (text.starts_with("\xEF\xBB\xBF")) return std::string(text.substr(3));
    if (text.size() >= 2 && ((byte(0) == 0xFF && byte(1) == 0xFE) || (byte(0) == 0xFE && byte(1) == 0xFF))) {
        const bool little = byte(0) == 0xFF;
        for (std::size_t i = 2; i + 1 < text.size(); i += 2)
            put(out, little ? byte(i) | byte(i + 1) << 8 : byte(i) << 8 | byte(i + 1));
        return out;
    }
    bool utf8 = true;
    for (std::size_t i = 0; i < text.size() && utf8;) {
        const unsigned c = byte(i);
        const std::size_t more = c < 0x80 ? 0 : c >> 5 == 6 ? 1 : c >> 4 == 14 ? 2 : c >> 3 == 30 ? 3 : 9;
        utf8 = more < 9 && i + more < text.size();
        for (std::size_t k = 1; k <= more && utf8; ++k) utf8 = byte(i + k) >> 6 == 2;
        i += more + 1;
    }
    if (utf8) return std::string(text);
    for (std::size_t i = 0; i < text.size(); ++i) put(out, byte(i));
    return out;
}

std::vector<TextRow> rowsOf(const std::string& text, char separator) {
    std::vector<TextRow> rows;
    TextRow row;
    std::string cell;
    bool quoted = false, wasQuoted = false;
    const auto end = [&] {
        row.push_back(wasQuoted ? cell : trimmed(cell));
        cell.clear();
        wasQuoted = false;
    };
    for (std::size_t i = 0; i < text.size() && rows.size() < kMostLines; ++i) {
        const char c = text[i];
        if (quoted) {
            if (c != '"')
                cell += c;
            else if (i + 1 < text.size() && text[i + 1] == '"')
                cell += text[++i];
            else
                quoted = false;
        } else if (c == '"' && separator != ' ' && trimmed(cell).empty()) {
            quoted = wasQuoted = true;
            cell.clear();
        } else if (c == '\n' || c == '\r') {
            if (c == '\r' && i + 1 < text.size() && text[i + 1] == '\n') ++i;
            if (separator != ' ' || !trimmed(cell).empty()) end();
            rows.push_back(std::move(row));
            row.clear();
        } else if (c == separator || (separator == ' ' && c == '\t')) {
            if (separator != ' ' || !trimmed(cell).empty()) end();
        } else
            cell += c;
    }
    if (!trimmed(cell).empty() || wasQuoted || !row.empty()) {
        end();
        rows.push_back(std::move(row));
    }
    std::erase_if(rows, [](const TextRow& r) {
        return std::all_of(r.begin(), r.end(), [](const std::string& s) { return s.empty(); });
    });
    return rows;
}

char separatorOf(const std::string& text) {
    char best = ' ';
    double score = 0;
    for (const char c : {'\t', ';', '|', ','}) {
        std::map<std::size_t, int> widths;
        int lines = 0;
        for (const TextRow& row : rowsOf(text, c)) {
            ++lines;
            if (row.size() > 1) ++widths[row.size()];
        }
        int most = 0;
        for (const auto& [width, count] : widths) most = std::max(most, count);
        const double now = lines > 0 ? static_cast<double>(most) / lines : 0;
        if (now > score + 1e-9 && now >= 0.5) {
            score = now;
            best = c;
        }
    }
    return best;
}

}  // namespace punch
