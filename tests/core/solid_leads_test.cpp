// Leads in solids: where they are, what section they have, and that nothing else is taken for one.

#include "core/solid/leads.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/solid/solid_worker.h"
#include "tests/support/solid_parts.h"

namespace punch::solid_leads_test {
namespace {

using test::BodyKind;

/// Which of them lies there; none when none does.
const SolidLead* leadNear(const Standing& s, Flat at, double within) {
    for (const SolidLead& l : s.leads)
        if (std::hypot(l.at.x - at.x, l.at.y - at.y) < within) return &l;
    return nullptr;
}

TEST(SolidLeads, OfEveryKindAreWhereTheyAre) {
    test::Dice dice(16);
    SolidWorker worker;
    for (int kind = 0; kind < test::kBodyKinds; ++kind)
        for (const int pins : {2, 5, 12}) {
            test::SolidPart part = test::solidPart(static_cast<BodyKind>(kind), pins, dice);
            const Pose pose = test::anyPose(dice);
            part.make.pose = pose;
            const auto solid = worker.make(part.make);
            ASSERT_TRUE(solid) << solid.error().text();
            const Standing s = standing(*solid, pose.turned({0, 0, -1}));
            ASSERT_EQ(s.leads.size(), part.leads.size() + part.pegs.size()) << kind << " with " << pins;
            // Back into the frame in which it was made.
            const Pose back = after(inverse(pose), inverse(s.pose));
            EXPECT_NEAR(back.move.z, 0, 1e-6) << kind;
            for (const auto* places : {&part.leads, &part.pegs})
                for (const Flat& at : *places) {
                    const auto found = std::find_if(s.leads.begin(), s.leads.end(), [&](const SolidLead& l) {
                        const Vec3 p = back({l.at.x, l.at.y, 0});
                        return std::hypot(p.x - at.x, p.y - at.y) < 0.001;
                    });
                    ASSERT_NE(found, s.leads.end()) << kind << " with " << pins << " at " << at.x << ", " << at.y;
                    EXPECT_LT(std::hypot(found->lean.x, found->lean.y), 0.001) << kind;
                }
        }
}

TEST(SolidLeads, AreFoundWhicheverWayTheSolidLies) {
    test::Dice dice(17);
    SolidWorker worker;
    for (int kind = 0; kind < test::kBodyKinds; ++kind) {
        test::SolidPart part = test::solidPart(static_cast<BodyKind>(kind), 6, dice);
        part.make.pose = test::anyPose(dice);
        const auto solid = worker.make(part.make);
        ASSERT_TRUE(solid);
        const auto all = standings(*solid);
        const Vec3 down = part.make.pose.turned({0, 0, -1});
        const bool found = std::any_of(all.begin(), all.end(), [&](const Standing& s) {
            return dot(inverse(s.pose).turned({0, 0, -1}), down) > 1 - 1e-9 && s.leads.size() >= part.leads.size();
        });
        EXPECT_TRUE(found) << kind;
    }
}

TEST(SolidLeads, HaveTheirSectionLengthAndLean) {
    SolidWorker worker;
    SolidsToMake all;
    all.bodies.push_back({"body", kNoColour, Prism{flatRectangle(-5, -5, 25, 5), 0.4, 8}, {}, {}});
    // Feet that are no leads: the seating plane touches them.
    all.bodies.push_back({"foot", kNoColour, Prism{flatCircle(-3, 0, 1.5), 0, 1}, {}, {}});
    all.bodies.push_back({"foot", kNoColour, Prism{flatCircle(23, 0, 1.5), 0, 1}, {}, {}});
    all.bodies.push_back({"round", kNoColour, Prism{flatCircle(0, 0, 0.8), -3, 1}, {}, {}});
    all.bodies.push_back(
        {"blade", kNoColour, Prism{flatRectangle(9, -0.25, 11, 0.25), -4, 1}, turnAbout({0, 0, 1}, 0), {}});
    all.bodies.push_back({"leaning", kNoColour, Swept{{{20, 0, 1}, {20.6, 0, -3.4}}, 0, 0.6, 0.6, true}, {}, {}});
    FlatArea tube = flatCircle(15, 2, 2);
    tube.holes.push_back(flatCircle(15, 2, 1).outer);
    all.bodies.push_back({"tube", kNoColour, Prism{tube, -2.5, 1}, {}, {}});
    const auto solid = worker.make(all);
    ASSERT_TRUE(solid) << solid.error().text();
    Standing s = standing(*solid, {0, 0, -1});
    ASSERT_EQ(s.leads.size(), 4U);
    EXPECT_NEAR(s.height, 8, 1e-6);
    const Pose back = inverse(s.pose);
    for (SolidLead& l : s.leads) {
        const Vec3 p = back({l.at.x, l.at.y, 0}), lean = back.turned({l.lean.x, l.lean.y, 0});
        l.at = {p.x, p.y};
        l.lean = {lean.x, lean.y};
    }
    const SolidLead* round = leadNear(s, {0, 0}, 0.001);
    ASSERT_NE(round, nullptr);
    EXPECT_TRUE(round->section.round);
    EXPECT_NEAR(round->section.along, 0.8, 0.001);
    EXPECT_NEAR(round->length, 3, 1e-6);
    const SolidLead* blade = leadNear(s, {10, 0}, 0.001);
    ASSERT_NE(blade, nullptr);
    EXPECT_TRUE(blade->section.rectangle);
    EXPECT_NEAR(blade->section.along, 2, 0.001);
    EXPECT_NEAR(blade->section.across, 0.5, 0.001);
    EXPECT_NEAR(blade->length, 4, 1e-6);
    const SolidLead* tubed = leadNear(s, {15, 2}, 0.001);
    ASSERT_NE(tubed, nullptr);
    EXPECT_NEAR(tubed->bore, M_PI / 4, 0.03);
    const SolidLead* leaning = leadNear(s, {20.25, 0}, 0.05);
    ASSERT_NE(leaning, nullptr);
    EXPECT_NEAR(leaning->lean.x, 0.6 / 4.4 * 3.1, 0.03);
    EXPECT_NEAR(leaning->lean.y, 0, 0.001);
}

TEST(SolidLeads, AreNotInventedOnSolidsWithoutLeads) {
    SolidWorker worker;
    const auto none = [&](const char* what, std::vector<MadeBody> bodies) {
        SolidsToMake all;
        all.bodies = std::move(bodies);
        const auto solid = worker.make(all);
        ASSERT_TRUE(solid) << what << solid.error().text();
        for (const Standing& s : standings(*solid)) EXPECT_EQ(s.leads.size(), 0U) << what;
    };
    none("block", {{"b", kNoColour, Prism{flatRectangle(0, 0, 10, 6), 0, 4}, {}, {}}});
    none("ball", {{"b", kNoColour, Ball{12}, {}, {}}});
    none("lying cylinder", {{"b",
                             kNoColour,
                             TurnedProfile{{{0, 0, 0}, {5, 0, 0}, {5, 20, 0}, {0, 20, 0}}},
                             turnAbout({0, 1, 0}, 90),
                             {}}});
    none("plate on feet", {{"b", kNoColour, Prism{flatRectangle(0, 0, 30, 20), 0.3, 2}, {}, {}},
                           {"f", kNoColour, Prism{flatRectangle(1, 1, 3, 3), 0, 0.3}, {}, {}},
                           {"f", kNoColour, Prism{flatRectangle(26, 16, 28, 18), 0, 0.3}, {}, {}}});
    FlatArea frame = flatRectangle(0, 0, 20, 20);
    frame.holes.push_back(flatRectangle(1, 1, 19, 19).outer);
    none("frame", {{"b", kNoColour, Prism{frame, 0, 5}, {}, {}}});
}

}  // namespace
}  // namespace punch::solid_leads_test
