// What a solid takes between two heights, and what gauges make of it.

#include "core/solid/shadows.h"
#include "core/base/angle.h"

#include <gtest/gtest.h>

#include <cmath>

#include "core/advise/stand_solid.h"
#include "core/derive.h"
#include "core/part/edit.h"
#include "core/part/file.h"
#include "core/part/mark_kinds.h"
#include "core/solid/found_solid.h"
#include "core/solid/lead_slices.h"
#include "tests/support/parts.h"
#include "tests/support/solid_parts.h"

namespace punch::shadows_test {
namespace {

using test::boxBody;
using test::madeSolid;

Polygons areaAt(const std::vector<SolidShadow>& all, double z) {
    Polygons area;
    for (const SolidShadow& s : all)
        if (s.low <= z && z < s.high)
            for (const auto& ring : s.rings) {
                auto& to = area.emplace_back();
                for (const auto& p : ring) to.push_back({Length::fromMm(p[0]), Length::fromMm(p[1])});
            }
    return area;
}

double areaOfRings(const std::vector<SolidShadow>& all, double z) { return areaOf(areaAt(all, z)); }

/// A plate on two feet, a dome on it, two leads.
std::vector<MadeBody> module() {
    std::vector<MadeBody> all = {boxBody("plate", -10, -5, 10, 5, 1.3, 3)};
    all.push_back(boxBody("foot", -10, -5, -8, 5, 0, 1.3));
    all.push_back(boxBody("foot", 8, -5, 10, 5, 0, 1.3));
    all.push_back({"dome", kNoColour, Ball{4}, {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {0, 0, 3}}, {}});
    for (const double x : {-5.0, 5.0}) all.push_back(boxBody("lead", x - 0.3, -0.3, x + 0.3, 0.3, -3, 1.3));
    return all;
}

TEST(Shadows, AreTheAreasOfTheirHeights) {
    const Solid solid = madeSolid(module());
    const auto all = shadowsOf(solid, standing(solid, {0, 0, -1}));
    ASSERT_FALSE(all.empty());
    EXPECT_NEAR(all.front().low, 0, 1e-6) << "leads are left out below the board";
    EXPECT_NEAR(all.back().high, 5, 1e-6);
    // Feet and leads; the plate; the ball beyond it. Each is larger by half of what corners are thinned by.
    EXPECT_NEAR(areaOfRings(all, 0.5), 2 * 2 * 10 + 2 * 0.36, 0.6);
    EXPECT_NEAR(areaOfRings(all, 2), 200, 0.6);
    EXPECT_NEAR(areaOfRings(all, 3.5), kPi * 4, 0.3) << "as wide as it is where the slab begins";
    EXPECT_GE(areaOfRings(all, 0.5), 2 * 2 * 10 + 2 * 0.36);
    // Nothing is lost: each corner of the solid above the board lies in the area of its height.
    for (const Vec3& c : solid.corners)
        if (c.z > 0.01 && c.z < 4.9) {
            const Polygons near = grown(areaAt(all, c.z - 1e-4), Length::fromUm(2));
            const Polygons above = grown(areaAt(all, c.z + 1e-4), Length::fromUm(2));
            const Point p{Length::fromMm(c.x), Length::fromMm(c.y)};
            EXPECT_TRUE(contains(near, p) || contains(above, p)) << c.x << " " << c.y << " " << c.z;
        }
}

TEST(Shadows, ATurnOfAnArmIsASector) {
    const Solid solid = madeSolid({boxBody("base", -2, -2, 2, 2, 0, 1), boxBody("arm", 0, -0.5, 10, 0.5, 2, 3)});
    SolidMotion m;
    m.body = 1;
    m.motion = {true, {}, {0, 0, 1}, 0, 90};
    sweep(solid, standing(solid, {0, 0, -1}), m);
    std::vector<SolidShadow> one = {{0, 1, m.swept}};
    const Polygons swept = areaAt(one, 0.5);
    // A quarter of a disc of the arm's farthest corner, and the arm beside it.
    const double r = std::hypot(10, 0.5);
    EXPECT_NEAR(areaOf(swept), kPi * r * r / 4 + 10, 4);
    EXPECT_NEAR(m.low, 2, 1e-9);
    EXPECT_NEAR(m.high, 3, 1e-9);
    for (double a = 0; a <= 90; a += 0.37) {
        const Vec3 tip = turnAbout({0, 0, 1}, a)({10, 0.5, 0});
        EXPECT_TRUE(contains(swept, {Length::fromMm(tip.x * 0.9999), Length::fromMm(tip.y * 0.9999)})) << a;
    }
}

class BodyGauges : public testing::Test {
protected:
    /// The demo's terminal with a body of these solids over its pins, which keep their places.
    void stand(std::vector<MadeBody> bodies) {
        part = test::demoPart();
        part.solids.clear();
        const Footprint f = derive(part);
        for (const Pad& p : f.pads)
            bodies.push_back(
                boxBody("lead", p.at.x.mm() - 0.2, p.at.y.mm() - 0.2, p.at.x.mm() + 0.2, p.at.y.mm() + 0.2, -3, 0.8));
        solid = madeSolid(std::move(bodies));
        const StoodSolid stood = withSolid(part, f, solid, {standing(solid, {0, 0, -1})}, "body", "body.step", "");
        EXPECT_TRUE(stood.met);
        part = stood.part;
    }
    Gauge gauge(const char* name) {
        const Footprint f = derive(part);
        const Gauge* g = f.gauge(name);
        EXPECT_NE(g, nullptr) << name;
        return g == nullptr ? Gauge{} : *g;
    }
    /// A roof on walls beside all pins.
    std::vector<MadeBody> housing(double clear) {
        const Rect r = derive(test::demoPart()).body->rect;
        const double l = r.left.mm(), b = r.bottom.mm(), t = r.top.mm(), e = r.right.mm();
        return {boxBody("roof", l, b, e, t, clear, 8), boxBody("wall", l, b, l + 0.4, t, 0, clear),
                boxBody("wall", e - 0.4, b, e, t, 0, clear)};
    }
    Part part;
    Solid solid;
};

TEST_F(BodyGauges, FlushOnItsOwnLandsIsSaidAndOnAnOpenViaIsNoGo) {
    stand(housing(0.06));
    EXPECT_EQ(gauge("body-leads").state, GaugeState::Go);
    Gauge g = gauge("standoff");
    EXPECT_EQ(g.state, GaugeState::Go);
    EXPECT_EQ(g.words, "flush on 4 lands");
    // Vias that are open under the roof: 0.06 is less than the 0.10 that the rules ask for.
    Mark vias = newMark(MarkKind::ThermalVias);
    vias.points = {{{kDatumFeature, HoldAt::Middle, "-1"}, {kFrontFace, HoldAt::Middle, "1"}},
                   {{kDatumFeature, HoldAt::Middle, "1"}, {kFrontFace, HoldAt::Middle, "2.5"}}};
    const Part with = withMark(part, vias);
    const Footprint f = derive(with);
    ASSERT_EQ(f.laid.back().wrong, "");
    ASSERT_FALSE(f.attached.lands.empty());
    part = with;
    g = gauge("standoff");
    EXPECT_EQ(g.state, GaugeState::NoGo) << g.words;
    EXPECT_NEAR(*g.value, 0.06, 0.011);
    part.rules.bodyClear = Length::fromMm(0.04);
    EXPECT_EQ(gauge("standoff").state, GaugeState::Go);
}

TEST_F(BodyGauges, WhatReachesIntoTheBoardNeedsAHoleThere) {
    stand(housing(0.5));
    EXPECT_EQ(gauge("body-room").state, GaugeState::Go) << gauge("body-room").words;
    // The seating plane set half a millimetre higher: the walls are in the board.
    SolidFile& file = part.solids.front();
    const Footprint f = derive(part);
    std::size_t roof = 0;
    for (std::size_t i = 0; i < solid.faces.size(); ++i)
        if (solid.faces[i].body == 0 && solid.faces[i].kind == SurfaceKind::Plane && solid.faces[i].axis.z < -0.9)
            roof = i;
    const auto seated = seatedOn(file, solid, f, roof);
    ASSERT_TRUE(seated) << seated.error().text();
    EXPECT_NEAR(seated->seat, 0.5, 1e-9);
    EXPECT_TRUE(seated->seatSet);
    file = *seated;
    const Gauge g = gauge("body-room");
    EXPECT_EQ(g.state, GaugeState::NoGo);
    EXPECT_TRUE(g.words.starts_with("in the board at")) << g.words;
    // Its leads are the same ones, half a millimetre longer below it.
    ASSERT_EQ(file.leads.size(), 4U);
    for (const SolidLeadFound& l : file.leads) {
        EXPECT_NEAR(l.length, 3.5, 1e-6);
        EXPECT_FALSE(l.of.empty());
    }
    // Found anew it stays where it was set.
    EXPECT_NEAR(foundAgain(solid, file).seat, 0.5, 1e-9);
    // What is no flat face cannot lie on the board.
    EXPECT_FALSE(seatedOn(file, solid, f, 10000));
}

TEST_F(BodyGauges, WhatIsSunkIntoACutOutIsInTheBoardNowhere) {
    auto bodies = housing(0.5);
    // A keel in the middle of the front, deeper than the board.
    const Rect r = derive(test::demoPart()).body->rect;
    const double y = r.bottom.mm() + 1.5;
    bodies.push_back(boxBody("keel", -2, y - 0.5, 2, y + 0.5, 0, 0.5));
    stand(std::move(bodies));
    std::size_t roof = 0;
    for (std::size_t i = 0; i < solid.faces.size(); ++i)
        if (solid.faces[i].body == 0 && solid.faces[i].kind == SurfaceKind::Plane && solid.faces[i].axis.z < -0.9)
            roof = i;
    part.solids.front() = *seatedOn(part.solids.front(), solid, derive(part), roof);
    EXPECT_EQ(gauge("body-room").state, GaugeState::NoGo);
    // A cut-out as wide as the part takes all of it, one beside it nothing.
    Mark cut = newMark(MarkKind::CutOut);
    cut.set["form"] = "rectangle";
    const auto around = [&](double left, double bottom, double right, double top) {
        const auto at = [](double a, double b) {
            return Anchored{{kDatumFeature, HoldAt::Middle, std::to_string(a)},
                            {kDatumFeature, HoldAt::Middle, std::to_string(b)}};
        };
        cut.points = {at(left, bottom), at(right, top)};
        return withMark(part, cut);
    };
    const Part whole = part;
    part = around(r.left.mm() - 2, r.bottom.mm() - 2, r.right.mm() + 2, r.top.mm() + 2);
    EXPECT_EQ(derive(part).laid.back().wrong, "");
    EXPECT_EQ(gauge("body-room").state, GaugeState::Go) << gauge("body-room").words;
    part = whole;
    part = around(60, 0, 70, 5);
    EXPECT_EQ(gauge("body-room").state, GaugeState::NoGo);
}

TEST(FoundSolid, ALeadCountsAsWideAsItIsWithinTheBoard) {
    // Tapered from 0.4 at its end, 3 below, to 1.0 at the body; and one that keeps its width.
    MadeBody tapered{"lead",
                     kNoColour,
                     Tapered{{{-0.2, -0.2, 0}, {0.2, -0.2, 0}, {0.2, 0.2, 0}, {-0.2, 0.2, 0}},
                             {{-0.5, -0.5, 0}, {0.5, -0.5, 0}, {0.5, 0.5, 0}, {-0.5, 0.5, 0}},
                             -3,
                             0},
                     {},
                     {}};
    // And a round peg whose end is broken within the board.
    const MadeBody peg{"peg",
                       kNoColour,
                       TurnedProfile{{{0, -1.9, 0}, {0.5, -1.9, 0}, {0.75, -1.5, 0}, {0.75, 1, 0}, {0, 1, 0}}},
                       {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {2.5, 1.5, 0}},
                       {}};
    const Solid solid =
        madeSolid({boxBody("body", -3, -3, 8, 3, 0, 4), tapered, boxBody("lead", 4.7, -0.3, 5.3, 0.3, -3, 0.5), peg});
    const SolidFile file = foundIn(solid, standing(solid, {0, 0, -1}));
    ASSERT_EQ(file.leads.size(), 3U);
    for (const SolidLeadFound& l : file.leads) {
        const bool isPeg = l.x > 1 && l.x < 4;
        EXPECT_EQ(l.round, isPeg);
        EXPECT_NEAR(l.along, isPeg ? 1.5 : l.x < 1 ? 0.4 + 0.6 * 2.9 / 3 : 0.6, 1e-3) << "a tenth below the plane";
    }
}

/// The least of a hole's wall from what passes through a board, of walls that a hole of this size has around the
/// origin.
double roundGap(const SolidLeadFound& lead, double board, double hole, double lift = 0) {
    double least = 1e9;
    for (const LeadSlice& s : between(lead.slices, std::max(lift, 0.0), board + lift))
        for (const auto& p : s.corners) least = std::min(least, hole / 2 - std::hypot(p[0], p[1]) - s.radius);
    return least;
}

SolidFile oneLead(const MadeBody& lead) {
    const Solid solid =
        madeSolid({boxBody("body", -3, -3, 8, 3, 0, 4), lead, boxBody("other", 5, -0.3, 5.6, 0.3, -3, 0.5)});
    SolidFile file = foundIn(solid, standing(solid, {0, 0, -1}));
    std::erase_if(file.leads, [](const SolidLeadFound& l) { return std::abs(l.x) > 2; });
    return file;
}

TEST(LeadSlices, GapsAreThoseOfTheSolidAtEveryDepth) {
    const auto tapered = [](double low, double high, double depth, double lean) {
        return MadeBody{
            "lead",
            kNoColour,
            Tapered{{{lean - low, -low, 0}, {lean + low, -low, 0}, {lean + low, low, 0}, {lean - low, low, 0}},
                    {{-high, -high, 0}, {high, -high, 0}, {high, high, 0}, {-high, high, 0}},
                    -depth,
                    0},
            {},
            {}};
    };
    // Tapered: widest where it enters the board, at any lift; its corners touch first.
    SolidFile f = oneLead(tapered(0.2, 0.4, 3, 0));
    ASSERT_EQ(f.leads.size(), 1U);
    for (const double lift : {0.0, 0.3, 1.0})
        EXPECT_NEAR(roundGap(f.leads[0], 1.6, 1.5, lift), 0.75 - std::sqrt(2) * (0.4 - 0.2 * lift / 3), 1e-3 * 0.2)
            << lift;
    // Leaning: worst where it leaves the board, whatever the board is.
    f = oneLead(tapered(0.3, 0.3, 3, 0.3));
    for (const double board : {0.8, 1.6, 2.4})
        EXPECT_NEAR(roundGap(f.leads[0], board, 1.5), 0.75 - std::hypot(0.3 + 0.3 * board / 3, 0.3), 1e-3 * 0.2)
            << board;
    // Round, with a shoulder that a section half a board deep does not see: 1.0 from 0.4 to 0.5 below.
    f = oneLead({"lead",
                 kNoColour,
                 TurnedProfile{{{0, -3, 0},
                                {0.3, -3, 0},
                                {0.3, -0.5, 0},
                                {0.5, -0.5, 0},
                                {0.5, -0.4, 0},
                                {0.3, -0.4, 0},
                                {0.3, 1, 0},
                                {0, 1, 0}}},
                 {{1, 0, 0}, {0, 1, 0}, {0, 0, 1}, {0.05, 0, 0}},
                 {}});
    ASSERT_EQ(f.leads.size(), 1U);
    EXPECT_NEAR(roundGap(f.leads[0], 1.6, 1.5), 0.75 - 0.05 - 0.5, 1e-6);
    EXPECT_NEAR(roundGap(f.leads[0], 0.38, 1.5), 0.75 - 0.05 - 0.3, 1e-6) << "a thin board ends above the shoulder";
    // A flat lead with round ends: no circle and no rectangle. Its arcs count as far out as they go, wherever the hole
    // stands and however few triangles make them.
    f = oneLead({"lead",
                 kNoColour,
                 Prism{{{{-0.4, -0.2, 0}, {0.4, -0.2, 1}, {0.4, 0.2, 0}, {-0.4, 0.2, 1}}, {}}, -3, 0.5},
                 {},
                 {}});
    ASSERT_EQ(f.leads.size(), 1U);
    for (int k = 0; k < 40; ++k) {
        const double x = 0.1 * std::cos(k), y = 0.3 * std::sin(k);
        const double exact = 0.95 - 0.2 - std::max(std::hypot(0.4 - x, y), std::hypot(-0.4 - x, y));
        double least = 1e9;
        for (const LeadSlice& slice : between(f.leads[0].slices, 0, 1.6))
            for (const auto& p : slice.corners)
                least = std::min(least, 0.95 - std::hypot(p[0] - x, p[1] - y) - slice.radius);
        EXPECT_LE(least, exact + 1e-6) << "never more than there is";
        EXPECT_GT(least, exact - 0.01);
    }
}

TEST_F(BodyGauges, HeightAndWhatIsBelowAgainstTheEnclosure) {
    stand(housing(0.5));
    EXPECT_EQ(derive(part).gauge("height"), nullptr) << "nobody asked";
    const double top = std::max(8.0, derive(part).body->height.mm() + part.body.standoff.mm());
    part.rules.roomAbove = Length::fromMm(top + 2);
    Gauge g = gauge("height");
    EXPECT_NEAR(*g.value, top, 1e-6);
    EXPECT_EQ(g.state, GaugeState::Go);
    part.rules.roomAbove = Length::fromMm(top + 0.3);
    EXPECT_EQ(gauge("height").state, GaugeState::Watch);
    part.rules.roomAbove = Length::fromMm(top - 0.01);
    EXPECT_EQ(gauge("height").state, GaugeState::NoGo);
    // Leads of 3 through 1.6: 1.4 below.
    part.rules.roomAbove = {};
    part.rules.roomBelow = Length::fromMm(1.2);
    g = gauge("height");
    EXPECT_EQ(g.state, GaugeState::NoGo);
    EXPECT_GE(*g.value, 1.4 - 1e-6);
    EXPECT_EQ(gauge("lead-past-board").upper, 1.2);
    part.rules.roomBelow = Length::fromMm(5);
    EXPECT_EQ(gauge("height").state, GaugeState::Go);
}

TEST_F(BodyGauges, LandsUnderAPlateCannotBeReached) {
    stand(housing(0.5));
    Gauge g = gauge("solder-access");
    EXPECT_EQ(g.state, GaugeState::Go);
    EXPECT_EQ(g.words, "all 4 reached");
    // A surface land in the middle of the roof, and one that sticks out under its edge.
    Mark lands = newMark(MarkKind::SurfaceLands);
    lands.points = {{{kDatumFeature}, {kFrontFace, HoldAt::Middle, "2"}}};
    part = withMark(part, lands);
    g = gauge("solder-access");
    EXPECT_EQ(g.state, GaugeState::Watch) << g.words;
    EXPECT_EQ(g.about.size(), 2U);
    part.marks.back().points.front().y.off = "-1.6";
    EXPECT_EQ(gauge("solder-access").state, GaugeState::Go) << gauge("solder-access").words;
}

TEST_F(BodyGauges, AMovingBodyOfTheFileMayTouchMeetOrPass) {
    auto bodies = housing(0.5);
    bodies.push_back(boxBody("lever", -1, -1, 3, 1, 8.5, 10));
    bodies.push_back(boxBody("stop", -3.5, 1.5, -2.5, 2.5, 8, 11));
    stand(bodies);
    EXPECT_EQ(derive(part).gauge("moving-parts"), nullptr);
    const auto turning = [&](double to) {
        SolidMotion m;
        m.name = "lever";
        m.body = 3;
        m.motion = {true, {}, {0, 0, 1}, 0, to};
        const auto moving = withMotion(part.solids.front(), solid, m);
        EXPECT_TRUE(moving) << moving.error().text();
        part.solids.front() = *moving;
    };
    turning(100);
    Gauge g = gauge("moving-parts");
    EXPECT_EQ(g.state, GaugeState::Go) << g.words;
    EXPECT_EQ(g.words, "lever moves freely");
    turning(200);
    ASSERT_EQ(part.solids.front().motions.size(), 1U) << "in place of the earlier one";
    ASSERT_TRUE(part.solids.front().motions.front().touches);
    g = gauge("moving-parts");
    EXPECT_EQ(g.state, GaugeState::NoGo);
    EXPECT_TRUE(g.words.starts_with("lever touches at ")) << g.words;
    // It survives the file, and is another part's when it is not the same.
    const auto again = fromText(toText(part), "a test");
    ASSERT_TRUE(again) << again.error().text();
    EXPECT_EQ(again->solids.front().motions.size(), 1U);
    EXPECT_NEAR(*again->solids.front().motions.front().touches, *part.solids.front().motions.front().touches, 1e-9);
    EXPECT_EQ(toText(*again), toText(part));
    // What does not move, is one body alone, or is not there.
    SolidMotion none;
    none.body = 3;
    EXPECT_FALSE(withMotion(part.solids.front(), solid, none));
    none.body = 99;
    none.motion.to = 5;
    EXPECT_FALSE(withMotion(part.solids.front(), solid, none));
}

TEST_F(BodyGauges, CentredOnFeaturesAndTurnedItKeepsItsMiddle) {
    stand(housing(0.5));
    const Footprint f = derive(part);
    const auto centred = centredOn(part.solids.front(), f, {"p1", "p2"});
    ASSERT_TRUE(centred) << centred.error().text();
    Part next = part;
    next.solids.front() = *centred;
    const Footprint g = derive(next);
    const Point middle = boundsOf(g.solids.front().outline).middle();
    EXPECT_NEAR(middle.x.mm(), (f.pad("p1")->at.x + f.pad("p2")->at.x).mm() / 2, 2e-3);
    EXPECT_NEAR(middle.y.mm(), (f.pad("p1")->at.y + f.pad("p2")->at.y).mm() / 2, 2e-3);
    EXPECT_FALSE(centredOn(part.solids.front(), f, {}));
    EXPECT_FALSE(centredOn(part.solids.front(), f, {"nobody"}));
    // On its side and three times more it is where it was.
    SolidFile file = part.solids.front();
    const Vec3 was = boardPose(asNumbers(file, f))(0.5 * (boundsOf(solid).low + boundsOf(solid).high));
    for (int i = 0; i < 4; ++i) {
        Part now = part;
        now.solids.front() = file;
        file = turnedBy(file, solid, derive(now), {1, 0, 0}, 90);
    }
    EXPECT_NEAR(dot(unit(file.down), {0, 0, -1}), 1, 1e-9);
    const Vec3 is = boardPose(file)(0.5 * (boundsOf(solid).low + boundsOf(solid).high));
    EXPECT_NEAR(is.x, was.x, 1e-6);
    EXPECT_NEAR(is.y, was.y, 1e-6);
}

}  // namespace
}  // namespace punch::shadows_test
