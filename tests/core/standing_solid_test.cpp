// Solids on the demo's boards: gaps of leads against closed forms, what follows the readings, what the gauges say.

#include "core/fit/standing_solid.h"

#include <gtest/gtest.h>

#include <cmath>
#include <stdexcept>

#include "core/derive.h"
#include "core/part/file.h"
#include "tests/support/parts.h"

namespace punch::standing_solid_test {
namespace {

Part demo(const std::string& name) { return *loadPart(test::sourceFolder() + "/demo/fennel-house/" + name + ".punch"); }

const StandingLead* leadOf(const Footprint& f, const std::string& name) {
    for (const StandingLead& l : f.solids.front().leads)
        if (l.name == name) return &l;
    return nullptr;
}

TEST(StandingSolid, GapsAreThoseOfSectionAndHole) {
    const Footprint f = derive(demo("QB-TB4"));
    ASSERT_EQ(f.solids.size(), 1U);
    const StandingSolid& s = f.solids.front();
    EXPECT_TRUE(s.sure);
    EXPECT_TRUE(s.without.empty());
    ASSERT_EQ(s.leads.size(), 5U);
    for (const Pad& p : f.pads) {
        const StandingLead* l = leadOf(f, p.number);
        ASSERT_NE(l, nullptr) << p.number;
        EXPECT_LT(l->off.mm(), 1e-4);
        // A rectangle in the middle of a round hole touches with its corners first.
        EXPECT_NEAR(l->gap->mm(), p.hole.mm() / 2 - std::hypot(p.leadX.mm(), p.leadY.mm()) / 2, 1e-4) << p.number;
        EXPECT_NEAR(l->past.mm(), 3.0 - 1.6, 1e-4);
    }
    const StandingLead* peg = leadOf(f, "peg");
    ASSERT_NE(peg, nullptr);
    EXPECT_TRUE(peg->peg);
    EXPECT_NEAR(peg->gap->mm(), (f.bareHoles.front().size.mm() - f.bareHoles.front().peg.across.mean.mm()) / 2, 1e-4);
    EXPECT_EQ(f.gauge("body-leads")->state, GaugeState::Go);
    EXPECT_NEAR(*f.gauge("body-leads")->value, peg->gap->mm(), 1e-9);
    // The outline is the body's; around it the courtyard's excess.
    EXPECT_NEAR(boundsOf(s.outline).width().mm(), f.body->rect.width().mm(), 1e-3);
    EXPECT_NEAR(*f.gauge("body-room")->value, f.courtyardExcess.mm(), 2e-3);
}

TEST(StandingSolid, ABentLeadIsNamedWithHowFarAndDragsNothing) {
    const Footprint f = derive(demo("PW-RS7"));
    const StandingSolid& s = f.solids.front();
    EXPECT_TRUE(s.sure);
    for (const StandingLead& l : s.leads) {
        EXPECT_EQ(l.counted, l.name != "4") << l.name;
        EXPECT_NEAR(l.off.mm(), l.name == "4" ? 0.4 : 0, 2e-4) << l.name;
    }
    const Pad* p = f.pad(leadOf(f, "4")->of);
    EXPECT_NEAR(leadOf(f, "4")->gap->mm(), p->hole.mm() / 2 - 0.4 - p->leadX.mm() / 2, 2e-4);
    const Gauge* g = f.gauge("body-leads");
    EXPECT_EQ(g->state, GaugeState::NoGo);
    EXPECT_EQ(g->words, "4 does not go in");
    EXPECT_EQ(g->about, std::vector<std::string>{p->id});
}

TEST(StandingSolid, FollowsItsHolesUnlessItStandsByHand) {
    Part part = demo("QB-TB4");
    const Footprint before = derive(part);
    // The same holes seen from another datum: the body goes with them.
    part.datum.kind = DatumKind::PinOne;
    const Footprint moved = derive(part);
    const Point shift = moved.pad("p1")->at - before.pad("p1")->at;
    ASSERT_GT(hypot(shift.x, shift.y).mm(), 1);
    EXPECT_NEAR(moved.solids.front().pose.move.x - before.solids.front().pose.move.x, shift.x.mm(), 1e-6);
    EXPECT_NEAR(leadOf(moved, "1")->gap->mm(), leadOf(before, "1")->gap->mm(), 1e-6);
    // By hand it stays where it was put, and the gauge says so.
    part.solids.front().byLeads = false;
    const Footprint stays = derive(part);
    EXPECT_LT(leadOf(stays, "1")->gap->mm(), -1);
    EXPECT_EQ(stays.gauge("body-leads")->state, GaugeState::NoGo);
}

TEST(StandingSolid, WhatIsWrongWithItIsNoGoInItsOwnWords) {
    Part part = demo("QB-TB4");
    // Of older files only the widest section and the lean are known.
    for (SolidLeadFound& l : part.solids.front().leads) l.slices.clear();
    const auto gauge = [](const Part& p, const char* name) { return *derive(p).gauge(name); };
    Part other = part;
    other.solids.front().leads.erase(other.solids.front().leads.begin());
    const std::string gone = part.solids.front().leads.front().of;
    EXPECT_EQ(gauge(other, "body-leads").words, "no lead at " + derive(part).pad(gone)->number);
    other = part;
    other.solids.front().leads.push_back({3, 3, 0.5, 0.5, 0, true, 3, 0, 0, {}});
    EXPECT_NE(gauge(other, "body-leads").words.find("no hole for the lead at"), std::string::npos);
    other = part;
    other.rules.boardThickness = Length::fromMm(2.6);
    EXPECT_EQ(gauge(other, "body-leads").words, "1, 2, 3, 4 too short");
    other = part;
    other.solids.front().lift = 0.8;  // does not touch the board: its leads reach less far
    EXPECT_NEAR(leadOf(derive(other), "1")->past.mm(), 0.6, 1e-4);
    other.solids.front().lift = -0.2;
    EXPECT_EQ(gauge(other, "body-room").state, GaugeState::NoGo);
    EXPECT_NEAR(*gauge(other, "body-room").value, 0.2, 1e-9);
    // A corner that reaches 0.3 further than the courtyard.
    other = part;
    const double right = derive(part).courtyard.right.mm();
    other.solids.front().byLeads = true;
    const Pose back = inverse(after(derive(part).solids.front().pose, inverse(standingPose(part.solids.front()))));
    const Vec3 corner = back({right + 0.3, 0, 0});
    other.solids.front().outline.push_back({corner.x, corner.y});
    const Gauge over = gauge(other, "body-room");
    EXPECT_EQ(over.state, GaugeState::NoGo);
    EXPECT_NEAR(*over.value, -0.3, 0.01);
    // A lead that leans is judged where it leaves the board.
    other = part;
    for (SolidLeadFound& l : other.solids.front().leads)
        if (l.of == "p1") l.leanX = 0.3;
    // 0.8 below the middle of a board of 1.6, of 3.0 in all.
    const Footprint leaning = derive(other);
    EXPECT_LT(leadOf(leaning, "1")->gap->mm(), leadOf(derive(part), "1")->gap->mm() - 0.04);
    // And where it enters: it ends within the board, and its middle stands off against its lean.
    for (SolidLeadFound& l : other.solids.front().leads)
        if (l.of == "p1") {
            l.length = 1.0;
            l.x -= 0.08;
        }
    other.solids.front().byLeads = false;
    const Footprint entering = derive(other);
    const Pad* p1 = entering.pad("p1");
    const double off = 0.08 + 0.3 / 2;
    EXPECT_NEAR(leadOf(entering, "1")->gap->mm(),
                p1->hole.mm() / 2 - std::hypot(p1->leadX.mm() / 2 + off, p1->leadY.mm() / 2), 2e-3);
}

TEST(StandingSolid, WithoutHolesOrSizesNothingIsGo) {
    Part part = demo("QB-TB4");
    part.readings.clear();
    const Footprint f = derive(part);
    EXPECT_EQ(f.gauge("body-leads")->state, GaugeState::Unknown);
    part = demo("QB-TB4");
    part.solids.front().leads.clear();
    EXPECT_EQ(derive(part).gauge("body-leads")->state, GaugeState::NoGo);
    part.solids.clear();
    for (const Gauge& g : derive(part).gauges) EXPECT_NE(g.name.substr(0, 5), "body-");
}

TEST(StandingSolid, IsKeptWithThePartAndNonsenseIsRefused) {
    for (const char* name : {"QB-TB4", "HT-SEL6", "PW-RS7"}) {
        const Part part = demo(name);
        const auto back = fromText(toText(part), "memory");
        ASSERT_TRUE(back) << back.error().text();
        EXPECT_EQ(*back, part) << name;
    }
    const std::string good = toText(demo("QB-TB4"));
    const auto refused = [&](const std::string& from, const std::string& to) {
        std::string text = good;
        const std::size_t at = text.find(from);
        ASSERT_NE(at, std::string::npos) << from;
        text.replace(at, from.size(), to);
        const auto read = fromText(text, "memory");
        EXPECT_FALSE(read) << to;
    };
    refused("\"seat\": ", "\"seat\": 1e9, \"was\": ");
    refused("\"section\": [", "\"section\": [7, ");
    refused("\"turn\": 0", "\"turn\": \"left\"");
    Part none = demo("QB-TB4");
    none.solids.front().down = {0, 0, 0};
    EXPECT_FALSE(fromText(toText(none), "memory"));
}

TEST(StandingSolid, APegThatHardlyReachesIntoTheBoardIsNamed) {
    Part part = demo("QB-TB4");
    const auto peg = [&]() -> SolidLeadFound& {
        for (SolidLeadFound& l : part.solids.front().leads)
            if (l.of == "peg5") return l;
        throw std::runtime_error("no peg");
    };
    peg().length = 0.9;
    EXPECT_EQ(derive(part).gauge("body-leads")->state, GaugeState::Go);
    peg().length = 0.7;
    EXPECT_EQ(derive(part).gauge("body-leads")->state, GaugeState::NoGo);
    EXPECT_EQ(derive(part).gauge("body-leads")->words, "peg too short");
}

TEST(StandingSolid, NumbersBeyondAllBoundsInAFileAreSaidAndEndNothing) {
    const std::string whole = toText(demo("QB-TB4"));
    const std::size_t solids = whole.find("\"solids\"");
    for (const char* key : {"\"outline\"", "\"at\"", "\"section\"", "\"height\"", "\"length\""}) {
        std::string text = whole;
        std::size_t at = text.find(key, solids);
        ASSERT_NE(at, std::string::npos) << key;
        at = text.find_first_of("-0123456789", at + std::string(key).size());
        text.replace(at, text.find_first_not_of("-0123456789.e+", at) - at, "-1e308");
        const auto read = fromText(text, "a test");
        if (read) derive(*read);
        EXPECT_FALSE(read.has_value()) << key;
    }
}

}  // namespace
}  // namespace punch::standing_solid_test
