// The stroke font: which letters it has, that they are told apart, and texts in any bytes.

#include "core/dress/stroke_font.h"

#include <gtest/gtest.h>

#include <cmath>
#include <random>
#include <set>
#include <string_view>

#include "core/dress/stroke_text.h"

namespace punch::stroke_font_test {
namespace {

TEST(StrokeFont, HasLatinOneGreekAndTheSignsOfElectronics) {
    for (char32_t c = 0x20; c <= 0xFF; ++c) EXPECT_EQ(hasStrokeGlyph(c), c < 0x7F || c > 0x9F) << static_cast<int>(c);
    for (char32_t c = 0x391; c <= 0x3C9; ++c)
        EXPECT_EQ(hasStrokeGlyph(c), c != 0x3A2 && (c <= 0x3A9 || c >= 0x3B1)) << static_cast<int>(c);
    for (const char32_t c : std::u32string_view(U"µΩ∆≤≥≠≈∞√−×÷±→←↑↓⌀€•…–—⏚"))
        EXPECT_TRUE(hasStrokeGlyph(c)) << static_cast<int>(c);
    EXPECT_FALSE(hasStrokeGlyph(U'中'));
    EXPECT_FALSE(strokeGlyph(U'中').lines.empty()) << "a box, that nobody overlooks";
}

TEST(StrokeFont, LettersAreToldApartAndStayInTheirRoom) {
    std::set<std::vector<std::vector<std::pair<double, double>>>> seen;
    for (char32_t c = 0x21; c <= 0xFF; ++c) {
        if ((c >= 0x7F && c <= 0xA0) || c == 0xAD) continue;  // a soft hyphen is a hyphen
        const StrokeGlyph& g = strokeGlyph(c);
        EXPECT_FALSE(g.lines.empty()) << static_cast<int>(c);
        EXPECT_TRUE(seen.insert(g.lines).second) << static_cast<int>(c) << " looks like another";
        EXPECT_GT(g.width, 3);
        for (const auto& line : g.lines) {
            EXPECT_GE(line.size(), 2U) << static_cast<int>(c) << ": a stroke of one point prints nothing";
            for (const auto& [x, y] : line) {
                EXPECT_GT(x, -4) << static_cast<int>(c);
                EXPECT_LT(x, g.width + 5) << static_cast<int>(c);
                EXPECT_GT(y, -8);
                EXPECT_LT(y, 29);
            }
        }
    }
    // Accented letters are as wide as their base.
    EXPECT_EQ(strokeGlyph(U'é').width, strokeGlyph(U'e').width);
    EXPECT_EQ(strokeGlyph(U'Ü').width, strokeGlyph(U'U').width);
}

TEST(StrokeFont, AnyBytesGiveAText) {
    EXPECT_EQ(codePoints("aµΩ€"), (std::vector<char32_t>{U'a', U'µ', U'Ω', U'€'}));
    EXPECT_EQ(codePoints("\xC3"), (std::vector<char32_t>{0xFFFD}));
    EXPECT_EQ(codePoints("\xE2\x82"), (std::vector<char32_t>{0xFFFD, 0xFFFD}));
    EXPECT_EQ(codePoints("\xC0\x80z"), (std::vector<char32_t>{0xFFFD, 0xFFFD, U'z'}));
    EXPECT_EQ(codePoints("\xF0\x9F\x98\x80").size(), 1U);
    std::mt19937 random(4);
    for (int round = 0; round < 300; ++round) {
        std::string text;
        for (int i = 0; i < 30; ++i) text += static_cast<char>(random() % 256);
        EXPECT_LE(codePoints(text).size(), text.size());
        EXPECT_FALSE(strokeText(text, {}, Length::fromMm(1), Length::fromMm(0.15), "t").empty());
    }
    const Length one = Length::fromMm(1);
    EXPECT_NEAR(strokeTextWidth("4.7 kΩ", one).mm(), (strokeTextWidth("4.7 k", one) + strokeTextWidth("Ω", one)).mm(),
                1e-9);
}

}  // namespace
}  // namespace punch::stroke_font_test
