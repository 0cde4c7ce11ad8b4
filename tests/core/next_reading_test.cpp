#include "core/measure/next_reading.h"

#include <gtest/gtest.h>

#include "core/model/contacts.h"
#include "tests/support/parts.h"

namespace punch::next_reading_test {
namespace {

TEST(NextReading, LeadsANewRowToTheEnd) {
    // Whatever is asked for is answered from one true geometry, until it is enough.
    Part part = withSpot(*newRow(6));
    Part truth = part;
    const FeatureId peg = part.spots[0].id;
    truth.taken = {{"pitch", 3.81_mm},          {"lead.width", 0.9_mm},
                   {"lead.thickness", 0.7_mm},  {"lead.length", 3.3_mm},
                   {peg + ".x", 9_mm},          {peg + ".y", Length::fromMm(-5)},
                   {peg + ".diameter", 1.8_mm}, {"body.left", Length::fromMm(-3)},
                   {"body.right", 22.05_mm},    {"body.front", Length::fromMm(-6)},
                   {"body.rear", 4_mm},         {"body.height", 11_mm}};
    const test::Truth known(truth);
    std::vector<std::string> asked;
    for (int i = 0; i < 40; ++i) {
        const Footprint f = derive(part);
        if (!f.next.reading) break;
        Reading r = *f.next.reading;
        asked.push_back(f.next.words);
        const double value = known.shown(r);
        r.raw = test::reading("", "", r.contact, r.axis, {std::round(value * 100) / 100, std::round(value * 100) / 100})
                    .raw;
        part = withReading(part, r);
    }
    ASSERT_GE(asked.size(), 10u);
    EXPECT_EQ(asked[0], "pins 1 and 6, outside");
    EXPECT_EQ(asked[1], "pin 1, width");
    const Footprint f = derive(part);
    EXPECT_FALSE(f.next.reading) << f.next.words;
    EXPECT_TRUE(f.loose.empty());
    EXPECT_LT(asked.size(), 24u) << "no more than a person would take";
    EXPECT_NEAR(f.bareHoles[0].at.x.mm(), 9 - 3.81 * 2.5, 0.02);
    EXPECT_NEAR(f.bareHoles[0].at.y.mm(), -5, 0.02);
}

TEST(NextReading, NeverAsksForWhatIsTaken) {
    Part part = test::bareRow(4);
    part = test::with(part, test::reading("p1", "p4", Contact::Outside, Axis::Along, {16.24}));
    const auto next = derive(part).next;
    ASSERT_TRUE(next.reading);
    EXPECT_FALSE(next.reading->a == "p1" && next.reading->b == "p4" && next.reading->contact == Contact::Outside);
}

TEST(NextReading, GoesOnWhileThePadsAreTooDoubtful) {
    // A vernier gives too much doubt for a tight hole, so more is asked for although all is firm.
    Part part = test::bareRow(2);
    part.rules.level = Level::C;
    Reading outside = test::reading("p1", "p2", Contact::Outside, Axis::Along, {6.0});
    Reading width = test::reading("p1", "", Contact::Size, Axis::Along, {1.0});
    Reading thick = test::reading("p1", "", Contact::Size, Axis::Across, {0.5});
    Reading length = test::reading("p1", "", Contact::Size, Axis::Height, {3.0});
    for (Reading* r : {&outside, &width, &thick, &length}) {
        r->instrument = "vernier-0.05";
        part = withReading(part, *r);
    }
    const auto next = derive(part).next;
    ASSERT_TRUE(next.reading);
    EXPECT_EQ(next.words, "pins 1 and 2, inside");
    EXPECT_EQ(next.reading->instrument, "vernier-0.05");
}

}  // namespace
}  // namespace punch::next_reading_test
