// The geometry of every contact, on a part whose places are all given.

#include "core/model/contacts.h"

#include <gtest/gtest.h>

#include <cmath>

#include "tests/support/parts.h"

namespace punch::contacts_test {
namespace {

/// Five pins of 1.0 x 0.6 at a pitch of 4, a peg of 1.5 at (10, -3), a body from -2 to 18 and from -5 to 6, 9 high.
class Contacts : public testing::Test {
protected:
    Part part = withSpot(*newRow(5));
    FeatureId peg = part.spots[0].id;

    void SetUp() override {
        part.taken = {{"pitch", 4_mm},
                      {"lead.width", 1_mm},
                      {"lead.thickness", 0.6_mm},
                      {"lead.length", 3.2_mm},
                      {peg + ".x", 10_mm},
                      {peg + ".y", Length::fromMm(-3)},
                      {peg + ".diameter", 1.5_mm},
                      {"body.left", Length::fromMm(-2)},
                      {"body.right", 18_mm},
                      {"body.front", Length::fromMm(-5)},
                      {"body.rear", 6_mm},
                      {"body.height", 9_mm}};
    }

    /// What the jaws would show; NaN when the contact makes no sense there.
    double shown(const FeatureId& a, const FeatureId& b, Contact contact, Axis axis) {
        return test::Truth(part).shown(test::reading(a, b, contact, axis, {}));
    }
};

TEST_F(Contacts, OverTwoPins) {
    EXPECT_NEAR(shown("p1", "p5", Contact::Outside, Axis::Along), 16 + 1, 1e-12);
    EXPECT_NEAR(shown("p1", "p5", Contact::Inside, Axis::Along), 16 - 1, 1e-12);
    EXPECT_NEAR(shown("p1", "p5", Contact::Centres, Axis::Along), 16, 1e-12);
    EXPECT_NEAR(shown("p5", "p1", Contact::Outside, Axis::Along), 17, 1e-12) << "from either end";
    EXPECT_NEAR(shown("p2", "p3", Contact::Inside, Axis::Along), 3, 1e-12);
}

TEST_F(Contacts, AcrossOneFeature) {
    EXPECT_NEAR(shown("p2", "", Contact::Size, Axis::Along), 1.0, 1e-12);
    EXPECT_NEAR(shown("p2", "", Contact::Size, Axis::Across), 0.6, 1e-12);
    EXPECT_NEAR(shown("p2", "", Contact::Size, Axis::Height), 3.2, 1e-12);
    EXPECT_NEAR(shown(peg, "", Contact::Size, Axis::Along), 1.5, 1e-12);
    EXPECT_NEAR(shown(peg, "", Contact::Size, Axis::Across), 1.5, 1e-12);
    EXPECT_NEAR(shown(kBody, "", Contact::Size, Axis::Along), 20, 1e-12);
    EXPECT_NEAR(shown(kBody, "", Contact::Size, Axis::Across), 11, 1e-12);
    EXPECT_NEAR(shown(kBody, "", Contact::Size, Axis::Height), 9, 1e-12);
}

TEST_F(Contacts, PegAndPin) {
    // Peg at 10, -3; pin 2 at 4, 0; pin 5 at 16, 0.
    EXPECT_NEAR(shown(peg, "p2", Contact::Outside, Axis::Along), 6 + 0.5 + 0.75, 1e-12);
    EXPECT_NEAR(shown("p5", peg, Contact::Inside, Axis::Along), 6 - 0.5 - 0.75, 1e-12);
    EXPECT_NEAR(shown(peg, "p2", Contact::Outside, Axis::Across), 3 + 0.3 + 0.75, 1e-12);
    EXPECT_NEAR(shown(peg, "p2", Contact::Inside, Axis::Across), 3 - 0.3 - 0.75, 1e-12);
    EXPECT_NEAR(shown(peg, "p2", Contact::Centres, Axis::Across), 3, 1e-12);
}

TEST_F(Contacts, DirectDistances) {
    EXPECT_NEAR(shown("p2", peg, Contact::Centres, Axis::Direct), std::hypot(6, 3), 1e-12);
    // Flat jaws across the line touch a corner of the rectangle: 0.5 cos + 0.3 sin from its middle.
    const double len = std::hypot(6, 3);
    const double half = 0.5 * (6 / len) + 0.3 * (3 / len);
    EXPECT_NEAR(shown("p2", peg, Contact::Outside, Axis::Direct), len + half + 0.75, 1e-12);
    EXPECT_NEAR(shown("p2", peg, Contact::Inside, Axis::Direct), len - half - 0.75, 1e-12);
}

TEST_F(Contacts, FromEveryFace) {
    // Pin 2: centre 4, 0; edges 3.5, 4.5 and -0.3, 0.3.
    EXPECT_NEAR(shown(kLeftFace, "p2", Contact::FaceNear, Axis::Along), 5.5, 1e-12);
    EXPECT_NEAR(shown(kLeftFace, "p2", Contact::FaceFar, Axis::Along), 6.5, 1e-12);
    EXPECT_NEAR(shown(kLeftFace, "p2", Contact::FaceCentre, Axis::Along), 6.0, 1e-12);
    EXPECT_NEAR(shown(kRightFace, "p2", Contact::FaceNear, Axis::Along), 13.5, 1e-12);
    EXPECT_NEAR(shown(kRightFace, "p2", Contact::FaceFar, Axis::Along), 14.5, 1e-12);
    EXPECT_NEAR(shown(kRearFace, "p2", Contact::FaceNear, Axis::Across), 5.7, 1e-12);
    EXPECT_NEAR(shown(kFrontFace, "p2", Contact::FaceNear, Axis::Across), 4.7, 1e-12);
    EXPECT_NEAR(shown(kFrontFace, peg, Contact::FaceNear, Axis::Across), 1.25, 1e-12);
    EXPECT_NEAR(shown("p2", kFrontFace, Contact::FaceCentre, Axis::Across), 5, 1e-12) << "the face may stand second";
}

TEST_F(Contacts, BetweenOppositeFaces) {
    EXPECT_NEAR(shown(kLeftFace, kRightFace, Contact::Outside, Axis::Along), 20, 1e-12);
    EXPECT_NEAR(shown(kRearFace, kFrontFace, Contact::Outside, Axis::Across), 11, 1e-12);
    EXPECT_TRUE(std::isnan(shown(kLeftFace, kRearFace, Contact::Outside, Axis::Along)));
}

TEST_F(Contacts, WhatMakesNoSenseIsRefused) {
    EXPECT_TRUE(std::isnan(shown("p1", "p1", Contact::Outside, Axis::Along)));
    EXPECT_TRUE(std::isnan(shown("p1", "nowhere", Contact::Outside, Axis::Along)));
    EXPECT_TRUE(std::isnan(shown("nowhere", "", Contact::Size, Axis::Along)));
    EXPECT_TRUE(std::isnan(shown(kLeftFace, "", Contact::Size, Axis::Along)));
    EXPECT_TRUE(std::isnan(shown("p1", "p2", Contact::FaceNear, Axis::Along)));
    EXPECT_TRUE(std::isnan(shown(kLeftFace, kRightFace, Contact::FaceNear, Axis::Along)));
    EXPECT_TRUE(std::isnan(shown(kBody, "p1", Contact::Outside, Axis::Along)));
    EXPECT_TRUE(std::isnan(shown("p1", "p2", Contact::Outside, Axis::Height)));
    EXPECT_TRUE(std::isnan(shown("p1", "", Contact::Size, Axis::Direct)));
    EXPECT_TRUE(std::isnan(shown(peg, "", Contact::Size, Axis::Height)));
}

TEST_F(Contacts, EveryOfferedChoiceCanBeRead) {
    std::vector<FeatureId> all = allPins(part);
    all.insert(all.end(), {peg, kBody, kLeftFace, kRightFace, kFrontFace, kRearFace});
    int offered = 0;
    for (const FeatureId& a : all) {
        for (const ContactChoice& c : contactChoices(part, a, {})) {
            EXPECT_FALSE(std::isnan(shown(a, {}, c.contact, c.axis))) << a;
            ++offered;
        }
        for (const FeatureId& b : all)
            for (const ContactChoice& c : contactChoices(part, a, b)) {
                EXPECT_FALSE(std::isnan(shown(a, b, c.contact, c.axis))) << a << " " << b;
                ++offered;
            }
    }
    EXPECT_GT(offered, 150);
    EXPECT_TRUE(contactChoices(part, "p1", "p1").empty());
}

TEST_F(Contacts, GradientsAgreeWithDifferences) {
    // Every contact's exact derivatives against central differences of the same formula.
    part.taken.clear();
    const test::Truth drawn(part);
    const std::size_t count = drawn.model().start().size();
    const struct {
        FeatureId a, b;
        Contact contact;
        Axis axis;
    } cases[] = {{"p1", "p5", Contact::Outside, Axis::Along},      {"p2", peg, Contact::Outside, Axis::Direct},
                 {"p4", peg, Contact::Inside, Axis::Direct},       {peg, "p3", Contact::Outside, Axis::Across},
                 {kLeftFace, "p2", Contact::FaceFar, Axis::Along}, {kBody, "", Contact::Size, Axis::Across}};
    for (const auto& c : cases) {
        const Reading r = test::reading(c.a, c.b, c.contact, c.axis, {});
        const Expr e = *drawn.equation(r);
        std::vector<double> exact(count);
        for (const auto& [index, d] : e.gradient()) exact[static_cast<std::size_t>(index)] = d;
        for (std::size_t k = 0; k < count; ++k) {
            const auto value = [&](double step) { return drawn.shownMoved(r, k, step); };
            EXPECT_NEAR(exact[k], (value(1e-6) - value(-1e-6)) / 2e-6, 1e-6)
                << readingWords(part, r) << " by unknown " << k;
        }
    }
}

TEST_F(Contacts, WordsLongAndShort) {
    EXPECT_EQ(readingWords(part, test::reading(peg, "p4", Contact::Inside, Axis::Along, {})),
              "peg and pin 4, along, inside");
    EXPECT_EQ(readingShortWords(part, test::reading(peg, "p4", Contact::Inside, Axis::Along, {})),
              "peg ↔ 4, along, inside");
    EXPECT_EQ(readingShortWords(part, test::reading("p1", "p4", Contact::Outside, Axis::Along, {})), "1 ↔ 4, outside");
    EXPECT_EQ(readingShortWords(part, test::reading(kLeftFace, "p1", Contact::FaceNear, Axis::Along, {})),
              "left face → 1, near edge");
    EXPECT_EQ(readingShortWords(part, test::reading("p1", "", Contact::Size, Axis::Along, {})), "pin 1, width");
    EXPECT_EQ(readingWords(part, test::reading("gone", "", Contact::Size, Axis::Along, {})),
              "removed feature gone, width");
}

}  // namespace
}  // namespace punch::contacts_test
