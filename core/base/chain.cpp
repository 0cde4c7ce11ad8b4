#include "core/base/chain.h"

namespace punch {

std::string fill(const std::string& text, const std::vector<Length>& of, Unit unit, int digits) {
    std::string out;
    std::size_t next = 0;
    for (std::size_t i = 0; i < text.size(); ++i) {
        if (text.compare(i, 2, "{}") == 0 && next < of.size()) {
            out += formatValue(of[next++], unit, digits);
            ++i;
        } else if (text.compare(i, 3, "{u}") == 0) {
            out += unitName(unit);
            i += 2;
        } else {
            out += text[i];
        }
    }
    return out;
}

}  // namespace punch
