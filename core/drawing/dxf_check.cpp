#include "core/drawing/dxf_check.h"

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <cstdint>

namespace punch::dxf {
namespace {

constexpr std::size_t kMostInLine = 1000;  // the reader's buffer holds 1024
constexpr std::int64_t kNoNumber = INT64_MIN;

std::string_view trimmed(std::string_view s) {
    const auto first = s.find_first_not_of(" \t\r");
    if (first == std::string_view::npos) return {};
    return s.substr(first, s.find_last_not_of(" \t\r") - first + 1);
}

std::int64_t whole(std::string_view s) {
    std::int64_t value = kNoNumber;
    const auto [end, error] = std::from_chars(s.data(), s.data() + s.size(), value);
    return error == std::errc() ? value : kNoNumber;
}

/// Group codes that count what follows in an entity (DXF reference, ENTITIES).
bool counts(std::string_view entity, std::int64_t code) {
    if (entity == "LWPOLYLINE") return code == 90;
    if (entity == "SPLINE") return code >= 72 && code <= 74;
    if (entity == "LEADER") return code == 76;
    if (entity == "HATCH") return code == 91 || code == 93 || code == 97 || (code >= 95 && code <= 96);
    return false;
}

}  // namespace

std::string whatBreaksTheReader(std::string_view bytes) {
    const auto lines = std::count(bytes.begin(), bytes.end(), '\n') + 1;
    std::string_view entity;
    std::int64_t code = 0;
    std::int64_t number = 0;
    for (std::size_t at = 0; at < bytes.size();) {
        const std::size_t end = std::min(bytes.find('\n', at), bytes.size());
        const std::string_view line = bytes.substr(at, end - at);
        at = end + 1;
        ++number;
        if (line.size() > kMostInLine) return fmt::format("line {} has {} characters", number, line.size());
        if (line.find('\0') != std::string_view::npos) return fmt::format("line {} is no text", number);
        const std::string_view text = trimmed(line);
        if (number % 2 == 1) {
            code = whole(text);
            continue;
        }
        if (code == 0)
            entity = text;
        else if (counts(entity, code))
            if (const std::int64_t claimed = whole(text); claimed < 0 || claimed > lines)
                return fmt::format("line {} claims {} points", number, text.substr(0, 24));
    }
    return {};
}

}  // namespace punch::dxf
