#include "core/dress/stroke_text.h"

#include "core/dress/stroke_font.h"

namespace punch {

Length strokeTextWidth(const std::string& text, Length height) {
    double units = 0;
    for (const char32_t c : codePoints(text)) units += strokeGlyph(c).width;
    return height * (units / kCapitalUnits);
}

std::vector<Shape> strokeText(const std::string& text, Point middle, Length height, Length line,
                              const std::string& what) {
    std::vector<Shape> strokes;
    const Length unit = height / kCapitalUnits;
    Length x = middle.x - strokeTextWidth(text, height) / 2;
    for (const char32_t c : codePoints(text)) {
        const StrokeGlyph& glyph = strokeGlyph(c);
        for (const auto& path : glyph.lines) {
            std::vector<Point> points;
            for (const auto& [px, py] : path)
                points.push_back({x + unit * px, middle.y + unit * (py - kCapitalUnits / 2)});
            strokes.push_back(inkLine(std::move(points), line, what));
        }
        x += unit * glyph.width;
    }
    return strokes;
}

}  // namespace punch
