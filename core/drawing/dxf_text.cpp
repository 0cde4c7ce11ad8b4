// The codes in the texts of a DXF, and its characters.

#include <algorithm>

#include "core/drawing/dxf_entities.h"

namespace punch::dxf {
namespace {

bool isUtf8(const std::string& s) {
    for (std::size_t i = 0; i < s.size();) {
        const auto c = static_cast<unsigned char>(s[i]);
        const std::size_t n = c < 0x80 ? 1 : c >= 0xC2 && c < 0xE0 ? 2 : c >= 0xE0 && c < 0xF0 ? 3 : c >= 0xF0 ? 4 : 0;
        if (n == 0 || i + n > s.size()) return false;
        for (std::size_t k = 1; k < n; ++k)
            if ((static_cast<unsigned char>(s[i + k]) & 0xC0) != 0x80) return false;
        i += n;
    }
    return true;
}

void addUtf8(std::string& out, unsigned code) {
    if (code < 0x80) {
        out += static_cast<char>(code);
    } else if (code < 0x800) {
        out += static_cast<char>(0xC0 | (code >> 6));
        out += static_cast<char>(0x80 | (code & 0x3F));
    } else if (code < 0x10000) {
        out += static_cast<char>(0xE0 | (code >> 12));
        out += static_cast<char>(0x80 | ((code >> 6) & 0x3F));
        out += static_cast<char>(0x80 | (code & 0x3F));
    }
}

}  // namespace

std::string cleanText(const std::string& raw) {
    std::string in;
    if (isUtf8(raw)) {
        in = raw;
    } else {
        for (const char c : raw) addUtf8(in, static_cast<unsigned char>(c));
    }
    std::string out;
    for (std::size_t i = 0; i < in.size(); ++i) {
        const char c = in[i];
        if (c == '%' && i + 2 < in.size() && in[i + 1] == '%') {
            const char code = in[i + 2];
            const bool known = code == 'c' || code == 'C' || code == 'p' || code == 'P' || code == 'd' || code == 'D' ||
                               code == 'u' || code == 'U' || code == 'o' || code == 'O';
            if (known) {
                if (code == 'c' || code == 'C') out += "Ø";
                if (code == 'p' || code == 'P') out += "±";
                if (code == 'd' || code == 'D') out += "°";
                i += 2;
                continue;
            }
        }
        if (c == '\\' && i + 1 < in.size()) {
            const char code = in[++i];
            if (code == 'P' || code == '~') {
                out += ' ';
            } else if (code == 'U' && i + 5 < in.size() && in[i + 1] == '+') {
                const std::string hex = in.substr(i + 2, 4);
                if (hex.find_first_not_of("0123456789abcdefABCDEF") == std::string::npos)
                    addUtf8(out, static_cast<unsigned>(std::stoul(hex, nullptr, 16)));
                i += 5;
            } else if (code == 'S') {
                // A stack of two lines: upper and lower deviation, or a fraction.
                const auto end = in.find(';', i);
                std::string stack = in.substr(i + 1, end == std::string::npos ? std::string::npos : end - i - 1);
                std::replace(stack.begin(), stack.end(), '^', ' ');
                out += ' ' + stack;
                i = end == std::string::npos ? in.size() : end;
            } else if (std::string("fFHhWwQqTtCcAap").find(code) != std::string::npos) {
                const auto end = in.find(';', i);
                i = end == std::string::npos ? in.size() : end;
            } else if (code == '\\' || code == '{' || code == '}') {
                out += code;
            }
            continue;
        }
        if (c == '{' || c == '}') continue;
        out += static_cast<unsigned char>(c) < 32 ? ' ' : c;
    }
    const auto first = out.find_first_not_of(' ');
    if (first == std::string::npos) return {};
    return out.substr(first, out.find_last_not_of(' ') - first + 1);
}

}  // namespace punch::dxf
