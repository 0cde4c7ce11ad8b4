#include "core/base/json_text.h"

#include <fmt/format.h>

namespace punch {
namespace {

/// The deepest nesting of brackets outside texts, or as soon as it is too deep.
int depthOf(std::string_view text) {
    int depth = 0;
    int most = 0;
    bool inText = false;
    for (std::size_t i = 0; i < text.size() && most <= kMostJsonDepth; ++i) {
        const char c = text[i];
        if (inText) {
            if (c == '\\') ++i;
            if (c == '"') inText = false;
        } else if (c == '"') {
            inText = true;
        } else if (c == '[' || c == '{') {
            most = std::max(most, ++depth);
        } else if (c == ']' || c == '}') {
            --depth;
        }
    }
    return most;
}

}  // namespace

Result<nlohmann::ordered_json> parseJson(std::string_view text, const std::string& name) {
    if (depthOf(text) > kMostJsonDepth)
        return problem(fmt::format("it is nested deeper than {} levels", kMostJsonDepth), name,
                       "This is no file of Punchbit's; fetch it again");
    try {
        return nlohmann::ordered_json::parse(text);
    } catch (const nlohmann::json::parse_error& e) {
        return problem(fmt::format("the file is not complete JSON (at byte {})", e.byte), name,
                       "It may be cut off: take an older copy from version control");
    } catch (const nlohmann::json::exception&) {
        return problem("a number in the file is beyond all bounds", name, "Mend it in a text editor");
    }
}

}  // namespace punch
