#pragma once
// The letters of texts as strokes: Latin-1, Greek, and the signs that electronics uses.
//
// Letters and Greek are the single-stroke Hershey faces of the hershey-fonts package; accents, fractions and signs are
// put together here. Units: capitals stand on 0 and are 21 tall, y up.

#include <string_view>
#include <utility>
#include <vector>

namespace punch {

struct StrokeGlyph {
    std::vector<std::vector<std::pair<double, double>>> lines;
    double width = 0;  ///< to the next letter
};

inline constexpr double kCapitalUnits = 21;

/// The glyph of a code point; of one that the font does not have a box, so that nobody overlooks it.
const StrokeGlyph& strokeGlyph(char32_t letter);
bool hasStrokeGlyph(char32_t letter);

/// The code points of UTF-8; what is none becomes U+FFFD, once for each wrong byte.
std::vector<char32_t> codePoints(std::string_view utf8);

}  // namespace punch
