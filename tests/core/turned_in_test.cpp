// Whether a part could be put in turned or mirrored: against trying every turn and mirror.

#include <gtest/gtest.h>

#include <cmath>
#include <random>

#include "core/fit/turned_in.h"
#include "tests/support/parts.h"

namespace punch::turned_in_test {
namespace {

Length mm(double v) { return Length::fromMm(v); }

LeadAndHole pin(double x, double y, double lead = 1.0, double hole = 1.3) {
    LeadAndHole s;
    s.lead = s.hole = {mm(x), mm(y)};
    s.wide = s.thick = s.across = mm(lead);
    s.holeWidth = s.holeLength = mm(hole);
    return s;
}

/// Every turn that lays the first lead that stands off the middle on some hole, tried one by one with all pairs.
int bruteForce(const std::vector<LeadAndHole>& all) {
    double cx = 0, cy = 0;
    for (const auto& s : all) {
        cx += s.hole.x.mm() / static_cast<double>(all.size());
        cy += s.hole.y.mm() / static_cast<double>(all.size());
    }
    int ways = 0;
    bool first = false;
    for (const bool mirrored : {false, true}) {
        // In steps of a hundredth of a degree; neighbouring steps that fit are one way.
        bool before = true;  // a turn by nothing fits
        for (int step = 0; step < 36000; ++step) {
            const double a = step * 0.01 * M_PI / 180, c = std::cos(a), s = std::sin(a);
            bool fits = true, own = !mirrored;
            for (std::size_t i = 0; i < all.size() && fits; ++i) {
                const double x = all[i].lead.x.mm() - cx, y = (mirrored ? -1 : 1) * (all[i].lead.y.mm() - cy);
                const double px = c * x - s * y + cx, py = s * x + c * y + cy;
                bool met = false;
                for (std::size_t j = 0; j < all.size() && !met; ++j)
                    if (std::hypot(px - all[j].hole.x.mm(), py - all[j].hole.y.mm()) <= 0.0008) {
                        met = all[i].across <= all[j].holeWidth;
                        own = own && i == j;
                    }
                fits = met;
            }
            if (mirrored && step == 0) before = false;
            if (fits && !own && !before) ++ways;
            before = fits;
            // A mirror about the frame's own x that is met at both ends of the circle is one.
            if (mirrored && step == 0) first = fits;
            if (mirrored && step == 35999 && fits && first) --ways;
        }
    }
    return ways;
}

TEST(TurnedIn, EqualsTryingAllOfThemForRandomPads) {
    std::mt19937 random(77);
    std::uniform_real_distribution<double> any(1, 6);
    int symmetric = 0;
    for (int round = 0; round < 60; ++round) {
        // Some orbit of a symmetry, and sometimes one pin that breaks it.
        std::vector<LeadAndHole> all;
        const int turns[] = {1, 2, 3, 4, 6};
        const int n = turns[random() % 5];
        const bool mirror = random() % 2 == 0;
        for (int orbit = 0; orbit < 2; ++orbit) {
            const double r = any(random), a0 = std::round(any(random) * 40), size = random() % 2 == 0 ? 1.0 : 0.8;
            for (int k = 0; k < n; ++k)
                for (const int m : {1, -1}) {
                    if (m < 0 && !mirror) continue;
                    const double a = (m * a0 + 360.0 * k / n) * M_PI / 180;
                    // Tight holes, so that only exact ways count.
                    all.push_back(pin(r * std::cos(a), r * std::sin(a), size, size + 0.002));
                }
        }
        if (random() % 3 == 0) all.push_back(pin(any(random), any(random), 1, 1.002));
        bool apart = true;
        for (std::size_t i = 0; i < all.size(); ++i)
            for (std::size_t j = 0; j < i; ++j) apart = apart && distance(all[i].lead, all[j].lead) > mm(0.5);
        if (!apart || all.size() < 2) continue;
        const auto ways = otherWays(all);
        EXPECT_EQ(static_cast<int>(ways.size()), bruteForce(all)) << round << " of " << all.size();
        symmetric += !ways.empty();
        for (const OtherWay& way : ways)
            for (const auto& s : all) {
                double least = 1e9;
                for (const auto& o : all) least = std::min(least, distance(way.map(s.lead), o.hole).mm());
                EXPECT_LT(least, 0.0015);
            }
    }
    EXPECT_GT(symmetric, 15);
}

TEST(TurnedIn, RoomInTheHolesCounts) {
    // The pitch differs by 0.2 at one end: with 0.3 of room in each hole it still goes in turned.
    std::vector<LeadAndHole> row = {pin(0, 0), pin(5, 0), pin(10.2, 0)};
    EXPECT_FALSE(otherWays(row).empty());
    for (auto& s : row) s.holeWidth = s.holeLength = mm(1.05);
    ASSERT_EQ(otherWays(row).size(), 1U) << "a row is always its own mirror image about itself";
    EXPECT_TRUE(otherWays(row)[0].mirrored);
    // One thicker lead keeps it from turning; thinner ones do not.
    row = {pin(0, 0, 1.4, 1.6), pin(5, 0), pin(10, 0)};
    for (const OtherWay& way : otherWays(row))
        EXPECT_TRUE(way.mirrored && std::abs(std::remainder(way.degrees, 180)) < 1e-6);
    EXPECT_EQ(otherWays(row).size(), 1U) << "mirrored about its own line";
    // A blade in a slot has to lie along it.
    LeadAndHole blade = pin(0, 0), other = pin(6, 0);
    for (LeadAndHole* s : {&blade, &other}) {
        s->wide = mm(2);
        s->thick = mm(0.5);
        s->across = mm(2.06);
        s->holeWidth = mm(0.8);
        s->holeLength = mm(2.3);
    }
    EXPECT_EQ(otherWays({blade, other}).size(), 3U);
    other.slotTurn = 90;
    EXPECT_EQ(otherWays({blade, other}).size(), 1U) << "only mirrored about the line through both";
    EXPECT_TRUE(otherWays({}).empty());
    EXPECT_TRUE(otherWays({pin(1, 1)}).empty());
    EXPECT_TRUE(otherWays({pin(1, 1), pin(1, 1)}).empty());
}

TEST(TurnedIn, TheGaugeSaysSoUnlessSomethingTells) {
    Part part = *newRow(4);
    part = test::with(part, test::reading("p1", "p4", Contact::Outside, Axis::Along, {16.24}));
    part = test::with(part, test::reading("p1", "p2", Contact::Inside, Axis::Along, {4.08}));
    part = test::with(part, test::reading("p1", "", Contact::Size, Axis::Along, {1.0}));
    part = test::with(part, test::reading("p1", "", Contact::Size, Axis::Across, {1.0}));
    part.body.present = false;
    part.dress.mark = PinOneMark::None;
    const auto state = [](const Part& p) { return derive(p).gauge("way-round")->state; };
    ASSERT_EQ(state(part), GaugeState::NoGo);
    EXPECT_NE(derive(part).gauge("way-round")->words.find("unmarked"), std::string::npos);
    Part told = part;
    told.dress.mark = PinOneMark::Inside;
    EXPECT_EQ(state(told), GaugeState::Go);
    // Numbers at the pins tell; a text in the middle does not.
    told = withMark(part, newMark(MarkKind::PinText));
    EXPECT_EQ(state(told), GaugeState::Go);
    Part harmless = part;
    harmless.dress.turnable = true;
    EXPECT_EQ(state(harmless), GaugeState::Go);
    EXPECT_EQ(state(*newRow(4)), GaugeState::Unknown);
}

TEST(TurnedIn, SurfaceLandsAreLandsThatItMayStandOnTurned) {
    // Two rows of equal lands: turned by half they are there again; a quarter turn only where four sides are alike.
    Part part = newPartWithoutPins();
    part.dress.mark = PinOneMark::None;
    Mark lands = newMark(MarkKind::SurfaceLands, part);
    lands.set = {{"package", "gull wing, two sides"},
                 {"overall", "6.2..6.6"},
                 {"terminal", "0.5..0.8"},
                 {"width", "0.3..0.5"},
                 {"pitch", "1.27"},
                 {"count", "4"}};
    part = withMark(part, lands);
    const auto state = [&] { return derive(part).gauge("way-round")->state; };
    EXPECT_EQ(state(), GaugeState::NoGo) << derive(part).gauge("way-round")->words;
    const auto turns = [&] {
        int n = 0;
        for (const OtherWay& way : otherWays(leadsAndHoles(derive(part)))) n += way.mirrored ? 0 : 1;
        return n;
    };
    EXPECT_EQ(turns(), 1);
    part = withMark(part, newMark(MarkKind::FirstPin, part));
    EXPECT_EQ(state(), GaugeState::Go) << derive(part).gauge("way-round")->words;
    part.marks[0].set["package"] = "gull wing, four sides";
    EXPECT_EQ(turns(), 3);
    // A peg goes into no land, and no terminal into its hole: one peg beside the middle tells.
    part.marks.pop_back();
    part.marks[0].set["package"] = "gull wing, two sides";
    part = withSpot(part, SpotKind::Peg);
    part.given[part.spots[0].id + ".diameter"] = {"1", Unit::Mm};
    part.marks[0].points[0].x.off = "3";
    EXPECT_EQ(turns(), 0);
}

TEST(TurnedIn, ATerminalGoesIntoNoHoleAndNoLeadOntoALand) {
    // One of each, as far from the middle and as large: turned they would change places.
    LeadAndHole hole, land;
    hole.lead = hole.hole = {Length::fromMm(-3), Length()};
    hole.wide = hole.thick = hole.across = Length::fromMm(1);
    hole.holeWidth = hole.holeLength = Length::fromMm(1.4);
    land = hole;
    land.lead = land.hole = {Length::fromMm(3), Length()};
    EXPECT_FALSE(otherWays({hole, land}).empty()) << "two holes do";
    land.onSurface = true;
    for (const OtherWay& way : otherWays({hole, land})) EXPECT_TRUE(way.mirrored && way.degrees == 0) << way.degrees;
}

}  // namespace
}  // namespace punch::turned_in_test
