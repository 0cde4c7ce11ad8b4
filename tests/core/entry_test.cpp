#include "core/measure/entry.h"

#include <gtest/gtest.h>

#include "core/model/contacts.h"
#include "tests/support/parts.h"

namespace punch::entry_test {
namespace {

class EntryLine : public testing::Test {
protected:
    Part part = withSpot(*newRow(4));
    std::string words(const std::string& typed) {
        const auto e = parseEntry(part, {}, typed, Unit::Mm);
        return e ? readingWords(part, e->reading) : "error: " + e.error().text();
    }
};

TEST_F(EntryLine, WholeReadings) {
    EXPECT_EQ(words("1 4 outside 16.25 16.23 16.26"), "pins 1 and 4, outside");
    EXPECT_EQ(words("1 4 out 16.25"), "pins 1 and 4, outside");
    EXPECT_EQ(words("pins 1 and 2 inside 4.07"), "pins 1 and 2, inside");
    EXPECT_EQ(words("1 width 1.00"), "pin 1, width");
    EXPECT_EQ(words("1 thickness 0.77"), "pin 1, thickness");
    EXPECT_EQ(words("1 length 3"), "pin 1, length");
    EXPECT_EQ(words("peg diameter 1.5"), "peg, diameter");
    EXPECT_EQ(words("peg 1 across outside 5.14"), "peg and pin 1, across, outside");
    EXPECT_EQ(words("PEG 4 INSIDE along 13.99"), "peg and pin 4, along, inside");
    EXPECT_EQ(words("left 1 near 2.23"), "left face to pin 1, near edge");
    EXPECT_EQ(words("rear 1 near 4.51"), "rear face to pin 1, near edge");
    EXPECT_EQ(words("body along 20.70"), "body, along the row");
    EXPECT_EQ(words("body across 10.2"), "body, across");
    EXPECT_EQ(words("body height 12.5"), "body, height");
    EXPECT_EQ(words("2 4 centres 10.31"), "pins 2 and 4, centres");
}

TEST_F(EntryLine, KeepsEveryRawValueAsTyped) {
    const auto e = parseEntry(part, {}, "1 4 outside 16.25 0.64in (33-0.5)/2", Unit::Mm);
    ASSERT_TRUE(e);
    ASSERT_EQ(e->reading.raw.size(), 3u);
    EXPECT_EQ(e->reading.raw[1].value, 16.256_mm);
    EXPECT_EQ(e->reading.raw[1].typed, "0.64in");
    EXPECT_EQ(e->reading.raw[2].value, 16.25_mm);
}

TEST_F(EntryLine, ValuesAloneBelongToWhatIsAsked) {
    Reading asked = test::reading("p1", "p4", Contact::Outside, Axis::Along, {});
    const auto e = parseEntry(part, asked, "16.25 16.23", Unit::Mm);
    ASSERT_TRUE(e) << e.error().text();
    EXPECT_FALSE(e->named);
    EXPECT_EQ(e->reading.b, "p4");
    EXPECT_EQ(e->reading.raw.size(), 2u);
    EXPECT_EQ(parseEntry(part, asked, "640", Unit::Mil)->reading.raw[0].value, 16.256_mm);
}

TEST_F(EntryLine, MistakesAreNamed) {
    EXPECT_NE(words("1 9 outside 5").find("“9” is no pin"), std::string::npos);
    EXPECT_NE(words("1 4 sideways 5").find("sideways"), std::string::npos);
    EXPECT_NE(words("1 4 outside").find("no value"), std::string::npos);
    EXPECT_NE(words("1 4 outside 12,5").find("comma"), std::string::npos);
    EXPECT_NE(words("peg 1 outside 5").find("direction"), std::string::npos);
    EXPECT_NE(words("left near 5").find("error"), std::string::npos);
    EXPECT_NE(words("left 1 outside 5").find("cannot be read"), std::string::npos);
    EXPECT_NE(words("1 2 3 outside 5").find("more than two"), std::string::npos);
    EXPECT_NE(words("1 width -1").find("no distance"), std::string::npos);
    EXPECT_NE(words("1 width 0").find("no distance"), std::string::npos);
    EXPECT_NE(words("1 width 4000").find("too large"), std::string::npos);
    EXPECT_NE(words("16.25").find("not said what was read"), std::string::npos);
    EXPECT_NE(words("").find("error"), std::string::npos);
}

TEST_F(EntryLine, Completes) {
    EXPECT_EQ(completeEntry(part, "1 4 outs"), std::vector<std::string>{"outside"});
    EXPECT_EQ(completeEntry(part, "pe"), std::vector<std::string>{"peg"});
    EXPECT_TRUE(completeEntry(part, "1 4 outside 16").empty());
    EXPECT_TRUE(completeEntry(part, "").empty());
}

TEST_F(EntryLine, RandomTextIsAMessageAtWorst) {
    std::mt19937 random(3);
    const char* const pieces[] = {"1",    "4",  "9", "peg", "body", "left", "outside", "in", "along", "across",
                                  "16.2", "mm", "(", ")",   "-",    "and",  "near",    "éß", "\t",    ","};
    for (int i = 0; i < 20000; ++i) {
        std::string text;
        for (unsigned k = 0; k < random() % 8; ++k)
            text += std::string(pieces[random() % std::size(pieces)]) + (random() % 3 ? " " : "");
        const auto e = parseEntry(part, {}, text, Unit::Mm);
        if (!e) {
            EXPECT_FALSE(e.error().what.empty());
        } else {
            EXPECT_FALSE(e->reading.raw.empty());
        }
        completeEntry(part, text);
    }
}

}  // namespace
}  // namespace punch::entry_test
