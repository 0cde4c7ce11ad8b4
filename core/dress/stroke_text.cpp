#include "core/dress/stroke_text.h"

#include <memory>

extern "C" {
#include <hersheyfont.h>
}

namespace punch {
namespace {

// Capitals of the face stand on 0 and are 21 units tall.
constexpr double kCapital = 21.0;

hershey_font* face() {
    // Loaded once and shared; only read from then on.
    static const std::unique_ptr<hershey_font, void (*)(hershey_font*)> font(hershey_font_load("futural"),
                                                                             hershey_font_free);
    return font.get();
}

const hershey_glyph* glyph(unsigned char c) {
    return face() == nullptr ? nullptr : hershey_font_glyph(face(), c < 32 || c > 126 ? '?' : c);
}

/// One letter for each code point: what is not ASCII becomes a question mark, once.
std::string ascii(const std::string& text) {
    std::string out;
    for (const char c : text) {
        const auto u = static_cast<unsigned char>(c);
        if (u < 128)
            out += c;
        else if (u >= 192)
            out += '?';
    }
    return out;
}

}  // namespace

Length strokeTextWidth(const std::string& text, Length height) {
    double units = 0;
    for (const char c : ascii(text))
        if (const hershey_glyph* g = glyph(static_cast<unsigned char>(c))) units += g->width;
    return height * (units / kCapital);
}

std::vector<Stroke> strokeText(const std::string& text, Point middle, Length height, Length line,
                               const std::string& what) {
    std::vector<Stroke> strokes;
    const Length unit = height / kCapital;
    Length x = middle.x - strokeTextWidth(text, height) / 2;
    for (const char c : ascii(text)) {
        const hershey_glyph* g = glyph(static_cast<unsigned char>(c));
        if (g == nullptr) continue;
        for (const hershey_path* path = g->paths; path != nullptr; path = path->next) {
            Stroke stroke;
            stroke.width = line;
            stroke.what = what;
            for (unsigned i = 0; i < path->nverts; ++i)
                stroke.points.push_back({x + unit * static_cast<double>(path->verts[i].x),
                                         middle.y + unit * (static_cast<double>(path->verts[i].y) - kCapital / 2)});
            if (!stroke.points.empty()) strokes.push_back(stroke);
        }
        x += unit * static_cast<double>(g->width);
    }
    return strokes;
}

}  // namespace punch
