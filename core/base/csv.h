#pragma once
// Cells of a table as text (CSV, RFC 4180).

#include <fmt/format.h>

#include <string>

#include "core/base/length.h"

namespace punch {

/// Quoted where it holds what separates cells.
inline std::string csvCell(const std::string& text) {
    if (text.find_first_of(",\"\r\n") == std::string::npos) return text;
    std::string out = "\"";
    for (const char c : text) out += c == '"' ? "\"\"" : std::string(1, c);
    return out + "\"";
}

/// mm to a tenth of a micrometre, never "-0.0000".
inline std::string csvMm(Length l) {
    const std::string s = fmt::format("{:.4f}", l.mm());
    return s == "-0.0000" ? "0.0000" : s;
}

}  // namespace punch
