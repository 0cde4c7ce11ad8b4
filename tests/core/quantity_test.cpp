#include "core/base/quantity.h"

#include <gtest/gtest.h>

#include "tests/support/parts.h"

namespace punch::quantity_test {
namespace {

struct Typed {
    const char* text;
    Unit bare;
    double mm;
};

TEST(Quantity, UnitsAndArithmetic) {
    for (const Typed& t : {Typed{"2.54", Unit::Mm, 2.54},
                           {"0.1in", Unit::Mm, 2.54},
                           {"0.1 inch", Unit::Mm, 2.54},
                           {"254mil", Unit::Mm, 6.4516},
                           {"254 mil", Unit::Mm, 6.4516},
                           {"100", Unit::Mil, 2.54},
                           {"0.1", Unit::Inch, 2.54},
                           {"(33.3-19.4)/2", Unit::Mm, 6.95},
                           {"1.2cm", Unit::Mm, 12},
                           {"850um", Unit::Mm, 0.85},
                           {"850 µm", Unit::Mm, 0.85},
                           {"0.5\"", Unit::Mm, 12.7},
                           {"1in + 1mm", Unit::Mil, 26.4},
                           {"9*0.1in", Unit::Mm, 22.86},
                           {"(50+50)/2", Unit::Mil, 1.27},
                           {"-3", Unit::Mm, -3},
                           {"1e-1", Unit::Mm, 0.1},
                           {"2mm", Unit::Inch, 2}}) {
        const auto l = parseLength(t.text, t.bare);
        ASSERT_TRUE(l) << t.text << ": " << l.error().text();
        EXPECT_EQ(*l, Length::fromMm(t.mm)) << t.text;
    }
}

TEST(Quantity, NonsenseIsAMessage) {
    for (const char* text :
         {"",    "  ", "abc", "1.2.3", "12,5",     "5mm mm", "1/0",      "(1",  "1)",  "0.1in + 5", "2mm*3mm",
          "5 V", "=3", "nan", "1;2",   "\xff\xfe", "1e400",  "20000000", "sin", "a=3", "mm",        "5mmm"}) {
        const auto l = parseLength(text, Unit::Mm);
        EXPECT_FALSE(l) << text << " gave " << (l ? l->mm() : 0);
        if (!l) {
            EXPECT_FALSE(l.error().what.empty());
        }
    }
    EXPECT_NE(parseLength("12,5", Unit::Mm).error().todo.find("point"), std::string::npos);
}

TEST(Quantity, ANumberWithAUnitIsNoNumber) {
    EXPECT_FALSE(parseNumber("5mm"));
    EXPECT_EQ(*parseNumber("2*3"), 6);
}

TEST(Quantity, SplitsListsOfValues) {
    using List = std::vector<std::string>;
    EXPECT_EQ(splitValues("5.14 5.13 5.14"), (List{"5.14", "5.13", "5.14"}));
    EXPECT_EQ(splitValues("254 mil 255 mil"), (List{"254 mil", "255 mil"}));
    EXPECT_EQ(splitValues("(33.3 - 19.4)/2 6.9"), (List{"(33.3 - 19.4)/2", "6.9"}));
    EXPECT_EQ(splitValues("33.3 - 19.4 6"), (List{"33.3 - 19.4", "6"}));
    EXPECT_EQ(splitValues("  1.00   1.00 "), (List{"1.00", "1.00"}));
    EXPECT_TRUE(splitValues("   ").empty());
}

TEST(Quantity, ShownInEachUnit) {
    EXPECT_EQ(formatLength(2.54_mm, Unit::Mm), "2.540 mm");
    EXPECT_EQ(formatLength(2.54_mm, Unit::Mil), "100.0 mil");
    EXPECT_EQ(formatLength(2.54_mm, Unit::Inch), "0.1000 in");
    EXPECT_EQ(formatValue(Length::fromNm(-1), Unit::Mm), "0.000");
}

TEST(Quantity, RandomTextNeverEndsTheProgram) {
    std::mt19937 random(7);
    const std::string letters = "0123456789.+-*/()^ mminchul\"e,_xyz?:";
    for (int i = 0; i < 20000; ++i) {
        std::string text;
        const auto n = random() % 14;
        for (unsigned k = 0; k < n; ++k) text += letters[random() % letters.size()];
        const auto l = parseLength(text, Unit::Mm);
        if (l) {
            EXPECT_TRUE(l->isFinite()) << text;
        }
        splitValues(text);
    }
}

}  // namespace
}  // namespace punch::quantity_test
