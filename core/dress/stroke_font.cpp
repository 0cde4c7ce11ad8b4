#include "core/dress/stroke_font.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <memory>
#include <numbers>
#include <optional>
#include <string>

extern "C" {
#include <hersheyfont.h>
}

namespace punch {
namespace {

using Line = std::vector<std::pair<double, double>>;

constexpr double kSmallLetter = 14;  // height of a small letter without ascender

/// A face, loaded once and shared; only read from then on. Nothing where the package is not there.
const hershey_font* face(const char* name) {
    using Held = std::unique_ptr<hershey_font, void (*)(hershey_font*)>;
    static const Held latin(hershey_font_load("futural"), hershey_font_free);
    static const Held greek(hershey_font_load("greeks"), hershey_font_free);
    return std::string_view(name) == "greeks" ? greek.get() : latin.get();
}

StrokeGlyph fromFace(const char* name, char32_t c) {
    StrokeGlyph out;
    const hershey_font* font = face(name);
    const hershey_glyph* g =
        font == nullptr ? nullptr : hershey_font_glyph(const_cast<hershey_font*>(font), static_cast<unsigned char>(c));
    if (g == nullptr) return out;
    out.width = g->width;
    for (const hershey_path* path = g->paths; path != nullptr; path = path->next) {
        Line line;
        for (unsigned i = 0; i < path->nverts; ++i) line.emplace_back(path->verts[i].x, path->verts[i].y);
        if (!line.empty()) out.lines.push_back(std::move(line));
    }
    return out;
}

StrokeGlyph latin(char c) { return fromFace("futural", static_cast<unsigned char>(c)); }
StrokeGlyph greek(char c) { return fromFace("greeks", static_cast<unsigned char>(c)); }

StrokeGlyph moved(StrokeGlyph g, double x, double y, double size = 1) {
    for (Line& line : g.lines)
        for (auto& [px, py] : line) {
            px = x + size * px;
            py = y + size * py;
        }
    g.width *= size;
    return g;
}

/// Both, each where it stands; as wide as the first.
StrokeGlyph with(StrokeGlyph a, const StrokeGlyph& b) {
    a.lines.insert(a.lines.end(), b.lines.begin(), b.lines.end());
    return a;
}

StrokeGlyph drawn(std::vector<Line> lines, double width) { return {std::move(lines), width}; }

Line circleLine(double x, double y, double r) {
    Line line;
    for (int i = 0; i <= 16; ++i) {
        const double a = 2 * std::numbers::pi * i / 16;
        line.emplace_back(x + r * std::cos(a), y + r * std::sin(a));
    }
    return line;
}
Line dot(double x, double y) { return circleLine(x, y, 0.6); }

StrokeGlyph upsideDown(StrokeGlyph g) {
    for (Line& line : g.lines)
        for (auto& [x, y] : line) {
            x = g.width - x;
            y = kSmallLetter - y;
        }
    return g;
}

/// The accents, centred on 0, standing on 0.
enum class Accent { Grave, Acute, Circumflex, Tilde, Diaeresis, Ring, Cedilla };
std::vector<Line> accentLines(Accent accent) {
    switch (accent) {
        case Accent::Grave: return {{{-2.5, 4}, {1.5, 0}}};
        case Accent::Acute: return {{{2.5, 4}, {-1.5, 0}}};
        case Accent::Circumflex: return {{{-3, 0}, {0, 4}, {3, 0}}};
        case Accent::Tilde: return {{{-4, 0.5}, {-2.5, 2.5}, {-1, 2.5}, {1, 0.8}, {2.5, 0.8}, {4, 2.8}}};
        case Accent::Diaeresis: return {dot(-3, 1.2), dot(3, 1.2)};
        case Accent::Ring: return {circleLine(0, 2, 2)};
        case Accent::Cedilla: break;
    }
    return {{{0, 0}, {0, -1.5}, {1.8, -2.6}, {1.8, -4.2}, {0, -5.2}, {-1.8, -4.8}}};
}

StrokeGlyph accented(char base, Accent accent) {
    StrokeGlyph g = latin(base);
    // Without its own dot an i has room for another.
    if (base == 'i') g = drawn({{{g.width / 2, 0}, {g.width / 2, kSmallLetter}}}, g.width);
    const bool small = base >= 'a';
    const double y = accent == Accent::Cedilla ? 0 : (small ? kSmallLetter : kCapitalUnits) + 2.2;
    return with(g, moved(drawn(accentLines(accent), 0), g.width / 2, y));
}

StrokeGlyph raised(char c) { return moved(latin(c), 0, 10, 0.55); }

StrokeGlyph fraction(char above, char below) {
    const StrokeGlyph a = moved(latin(above), 0, 11, 0.5), b = moved(latin(below), 14, 0, 0.5);
    StrokeGlyph g = with(a, b);
    g.lines.push_back({{5, -1}, {17, 22}});
    g.width = 14 + b.width;
    return g;
}

StrokeGlyph inRing(char c) {
    StrokeGlyph inner = moved(latin(c), 0, 5.5, 0.48);
    inner = moved(inner, 12 - inner.width / 2, 0);
    inner.lines.push_back(circleLine(12, 10.5, 10));
    inner.width = 24;
    return inner;
}

/// The letters that Latin-1 adds to ASCII, by its order from U+00C0 on: a base and an accent, or nothing.
std::optional<StrokeGlyph> latinOne(char32_t c) {
    using A = Accent;
    const bool small = c >= 0xE0;
    const auto base = [&](char capital) { return static_cast<char>(small ? capital + 32 : capital); };
    const char32_t at = c & 0x1F;
    constexpr A order[] = {A::Grave, A::Acute, A::Circumflex, A::Tilde, A::Diaeresis, A::Ring};
    if (at <= 0x05) return accented(base('A'), order[at]);
    constexpr A four[] = {A::Grave, A::Acute, A::Circumflex, A::Diaeresis};
    if (at >= 0x08 && at <= 0x0B) return accented(base('E'), four[at - 0x08]);
    if (at >= 0x0C && at <= 0x0F) return accented(base('I'), four[at - 0x0C]);
    if (at >= 0x12 && at <= 0x16) return accented(base('O'), order[at - 0x12]);
    if (at >= 0x19 && at <= 0x1C) return accented(base('U'), four[at - 0x19]);
    if (at == 0x07) return accented(base('C'), A::Cedilla);
    if (at == 0x11) return accented(base('N'), A::Tilde);
    if (at == 0x1D) return accented(base('Y'), A::Acute);
    if (c == 0xFF) return accented('y', A::Diaeresis);
    return {};
}

using Glyphs = std::map<char32_t, StrokeGlyph>;

void addLetters(Glyphs& all) {
    for (char32_t c = 32; c < 127; ++c) all[c] = latin(static_cast<char>(c));
    // The face draws a capital I and a small l alike; with a tail they are told apart.
    all[U'l'] = drawn({{{4, 21}, {4, 2.5}, {5, 0.5}, {7, 0}}}, 9);
    for (char32_t c = 0xC0; c <= 0xFF; ++c)
        if (auto g = latinOne(c)) all[c] = std::move(*g);
    // Two letters that share an upright, and strokes through others.
    const auto ligature = [&](char a, char b, double lap) {
        StrokeGlyph first = latin(a);
        const StrokeGlyph second = moved(latin(b), first.width - lap, 0);
        StrokeGlyph g = with(first, second);
        g.width = first.width - lap + second.width;
        return g;
    };
    all[0xC6] = ligature('A', 'E', 6);
    all[0xE6] = ligature('a', 'e', 5);
    const auto struck = [&](char c, double y, double half, double rise) {
        StrokeGlyph g = latin(c);
        g.lines.push_back({{g.width / 2 - half, y - rise}, {g.width / 2 + half, y + rise}});
        return g;
    };
    all[0xD8] = struck('O', 10.5, 8, 11);
    all[0xF8] = struck('o', 7, 6, 8);
    StrokeGlyph eth = latin('D');
    eth.lines.push_back({{1, 10.5}, {9, 10.5}});
    all[0xD0] = eth;
    StrokeGlyph smallEth = latin('o');
    smallEth.lines.push_back({{6, 21}, {smallEth.width - 4, 10}, {smallEth.width - 4, 6}});
    smallEth.lines.push_back({{5, 15.5}, {smallEth.width - 4, 20}});
    all[0xF0] = smallEth;
    all[0xDE] = drawn({{{4, 0}, {4, 21}}, {{4, 16}, {12, 16}, {15, 14}, {16, 11}, {15, 8}, {12, 6}, {4, 6}}}, 20);
    all[0xFE] = drawn({{{4, -7}, {4, 21}},
                       {{4, 11},
                        {6, 13},
                        {8, 14},
                        {11, 14},
                        {13, 13},
                        {15, 11},
                        {16, 8},
                        {16, 6},
                        {15, 3},
                        {13, 1},
                        {11, 0},
                        {8, 0},
                        {6, 1},
                        {4, 3}}},
                      19);
    all[0xDF] = drawn({{{3, 0},
                        {3, 16},
                        {5, 20},
                        {8, 21},
                        {11, 20},
                        {13, 17},
                        {12, 14},
                        {8, 12},
                        {12, 10},
                        {14, 6},
                        {13, 2},
                        {10, 0},
                        {7, 0}}},
                      18);
    // Greek by its order; the final sigma is a sigma.
    for (int i = 0; i < 24; ++i) {
        const char32_t skip = i >= 17 ? 1 : 0;
        all[0x0391 + static_cast<char32_t>(i) + skip] = greek(static_cast<char>('A' + i));
        all[0x03B1 + static_cast<char32_t>(i) + skip] = greek(static_cast<char>('a' + i));
    }
    all[0x03C2] = greek('r');
    all[0x00B5] = greek('l');
    all[0x2126] = greek('X');
    all[0x2206] = greek('D');
}

void addSigns(Glyphs& all) {
    const StrokeGlyph degree = greek(127);
    all[0xA0] = latin(' ');
    all[0xA1] = upsideDown(latin('!'));
    all[0xBF] = upsideDown(latin('?'));
    StrokeGlyph cent = latin('c');
    cent.lines.push_back({{cent.width / 2, -3}, {cent.width / 2, 17}});
    all[0xA2] = cent;
    all[0xA3] =
        drawn({{{16, 17}, {14, 20}, {11, 21}, {8, 20}, {7, 17}, {7, 5}, {4, 0}, {17, 0}}, {{3, 10}, {13, 10}}}, 20);
    all[0xA4] = drawn({circleLine(10, 10, 5),
                       {{3, 3}, {6.5, 6.5}},
                       {{17, 3}, {13.5, 6.5}},
                       {{3, 17}, {6.5, 13.5}},
                       {{17, 17}, {13.5, 13.5}}},
                      20);
    StrokeGlyph yen = latin('Y');
    yen.lines.push_back({{yen.width / 2 - 6, 9}, {yen.width / 2 + 6, 9}});
    yen.lines.push_back({{yen.width / 2 - 6, 5}, {yen.width / 2 + 6, 5}});
    all[0xA5] = yen;
    all[0xA6] = drawn({{{4, -5}, {4, 6}}, {{4, 12}, {4, 23}}}, 8);
    all[0xA7] = drawn({{{14, 17}, {12, 20}, {9, 21}, {6, 20}, {5, 17}, {7, 14}, {13, 11}, {15, 8}, {14, 5}, {12, 4}},
                       {{8, 15}, {5, 12}, {5, 9}, {7, 6}, {13, 3}, {14, 0}, {13, -3}, {10, -5}, {7, -4}, {5, -1}}},
                      19);
    all[0xA8] = moved(drawn(accentLines(Accent::Diaeresis), 10), 5, 17);
    all[0xA9] = inRing('C');
    all[0xAE] = inRing('R');
    all[0xAA] = raised('a');
    all[0xBA] = raised('o');
    all[0xAB] = drawn({{{9, 14}, {3, 9}, {9, 4}}, {{16, 14}, {10, 9}, {16, 4}}}, 19);
    all[0xBB] = drawn({{{3, 14}, {9, 9}, {3, 4}}, {{10, 14}, {16, 9}, {10, 4}}}, 19);
    all[0xAC] = drawn({{{3, 11}, {18, 11}, {18, 6}}}, 22);
    all[0xAD] = latin('-');
    all[0xAF] = drawn({{{2, 22}, {14, 22}}}, 16);
    all[0xB0] = degree;
    all[0xB1] = drawn({{{11, 19}, {11, 5}}, {{4, 12}, {18, 12}}, {{4, 1}, {18, 1}}}, 22);
    all[0xB2] = raised('2');
    all[0xB3] = raised('3');
    all[0xB9] = raised('1');
    all[0xB4] = moved(drawn(accentLines(Accent::Acute), 8), 4, 17);
    all[0xB6] = drawn(
        {{{14, -4}, {14, 21}, {8, 21}, {5, 20}, {3, 17}, {3, 14}, {5, 11}, {8, 10}, {10, 10}}, {{10, -4}, {10, 21}}},
        18);
    all[0xB7] = drawn({dot(4, 9)}, 8);
    all[0xB8] = moved(drawn(accentLines(Accent::Cedilla), 8), 4, 0);
    all[0xBC] = fraction('1', '4');
    all[0xBD] = fraction('1', '2');
    all[0xBE] = fraction('3', '4');
    all[0xD7] = drawn({{{5, 3}, {17, 15}}, {{5, 15}, {17, 3}}}, 22);
    all[0xF7] = drawn({{{4, 9}, {18, 9}}, dot(11, 15), dot(11, 3)}, 22);
    // Signs beyond Latin-1.
    all[0x2212] = all[0x2013] = drawn({{{3, 9}, {17, 9}}}, 20);
    all[0x2014] = drawn({{{1, 9}, {25, 9}}}, 26);
    all[0x2018] = all[0x2019] = latin('\'');
    all[0x201C] = all[0x201D] = latin('"');
    all[0x2022] = drawn({circleLine(5, 9, 2.5), circleLine(5, 9, 1.2)}, 10);
    all[0x2026] = drawn({dot(4, 0.6), dot(11, 0.6), dot(18, 0.6)}, 22);
    all[0x20AC] = drawn({{{17, 18}, {14, 21}, {10, 21}, {7, 18}, {5, 13}, {5, 8}, {7, 3}, {10, 0}, {14, 0}, {17, 3}},
                         {{2, 13}, {13, 13}},
                         {{2, 8}, {12, 8}}},
                        20);
    all[0x2190] = drawn({{{23, 9}, {3, 9}}, {{8, 14}, {3, 9}, {8, 4}}}, 26);
    all[0x2192] = drawn({{{3, 9}, {23, 9}}, {{18, 14}, {23, 9}, {18, 4}}}, 26);
    all[0x2191] = drawn({{{8, 0}, {8, 21}}, {{3, 16}, {8, 21}, {13, 16}}}, 16);
    all[0x2193] = drawn({{{8, 21}, {8, 0}}, {{3, 5}, {8, 0}, {13, 5}}}, 16);
    all[0x221A] = drawn({{{2, 9}, {5, 10}, {9, 0}, {14, 21}, {20, 21}}}, 20);
    all[0x221E] = drawn({circleLine(7.5, 8, 4.5), circleLine(16.5, 8, 4.5)}, 24);
    all[0x2248] = drawn({{{3, 11}, {6, 13.5}, {9, 13.5}, {13, 11.5}, {16, 11.5}, {19, 14}},
                         {{3, 5}, {6, 7.5}, {9, 7.5}, {13, 5.5}, {16, 5.5}, {19, 8}}},
                        22);
    all[0x2260] = drawn({{{4, 12}, {18, 12}}, {{4, 6}, {18, 6}}, {{6, 1}, {16, 17}}}, 22);
    all[0x2264] = drawn({{{18, 19}, {4, 12}, {18, 5}}, {{4, 1}, {18, 1}}}, 22);
    all[0x2265] = drawn({{{4, 19}, {18, 12}, {4, 5}}, {{4, 1}, {18, 1}}}, 22);
    all[0x2300] = drawn({circleLine(11, 10.5, 8), {{3, 1}, {19, 20}}}, 22);
    // Signs of electronics: earth, direct and alternating current.
    all[0x23DA] = drawn({{{11, 21}, {11, 12}}, {{3, 12}, {19, 12}}, {{6, 7}, {16, 7}}, {{9, 2}, {13, 2}}}, 22);
    all[0x2393] = drawn({{{3, 13}, {19, 13}}, {{3, 7}, {7, 7}}, {{9, 7}, {13, 7}}, {{15, 7}, {19, 7}}}, 22);
    all[0x223F] = all[0x223C] = latin('~');
}

const Glyphs& glyphs() {
    static const Glyphs all = [] {
        Glyphs g;
        addLetters(g);
        addSigns(g);
        return g;
    }();
    return all;
}

}  // namespace

bool hasStrokeGlyph(char32_t letter) { return glyphs().contains(letter); }

const StrokeGlyph& strokeGlyph(char32_t letter) {
    static const StrokeGlyph box = drawn({{{3, 0}, {13, 0}, {13, 21}, {3, 21}, {3, 0}}}, 16);
    const auto it = glyphs().find(letter);
    return it == glyphs().end() ? box : it->second;
}

std::vector<char32_t> codePoints(std::string_view utf8) {
    std::vector<char32_t> out;
    for (std::size_t i = 0; i < utf8.size();) {
        const auto byte = [&](std::size_t k) { return static_cast<unsigned char>(utf8[k]); };
        const unsigned char first = byte(i);
        const std::size_t length = first < 0x80                    ? 1
                                   : first >= 0xF0 && first < 0xF5 ? 4
                                   : first >= 0xE0 && first < 0xF0 ? 3
                                   : first >= 0xC2 && first < 0xE0 ? 2
                                                                   : 0;
        bool good = length > 0 && i + length <= utf8.size();
        for (std::size_t k = 1; good && k < length; ++k) good = (byte(i + k) & 0xC0) == 0x80;
        if (!good) {
            out.push_back(0xFFFD);
            ++i;
            continue;
        }
        char32_t c = length == 1 ? first : first & (0x7F >> length);
        for (std::size_t k = 1; k < length; ++k) c = (c << 6) | (byte(i + k) & 0x3F);
        out.push_back(c);
        i += length;
    }
    return out;
}

}  // namespace punch
